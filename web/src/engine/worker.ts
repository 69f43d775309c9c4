/** The engine's worker: the only place that talks to the WebAssembly module. */

import { expose, transfer } from "comlink";
import { Pad } from "./pad";
import { Papers } from "./papers";
import { imagesFor } from "./images";
import { Proof } from "./proof";
import { Sheets } from "./sheets";
import { told } from "./told";
import { strokeOfRow, type Column, type EngineApi, type Strip } from "./types";
import type { Declarations } from "../generated/core";
import init, {
  type Surface,
  Page,
  Recording,
  Studio,
  advise,
  checkTool,
  compareDabs,
  curveSamples,
  declarations,
  forcesFor,
  observe,
  pngOf,
  proposeCalibration,
  readDrawing,
  readGestures,
  readStylus,
  relevance,
  swatches,
  tipShape,
  turnedTo,
  usableLevels,
  writeGestures,
  writeStylus,
} from "./wasm/saltmarsh_browser";

let studio: Studio;
let papers: Papers;
let proof: Proof;
let pad: Pad;
let sheets: Sheets;

/** Pieces that a ground is begun with: what its statistics are taken on. */
const REFERENCE_PIECES = 4;

const flat = (points: [number, number][]) => Float64Array.from(points.flat());

/** The surface that a stroke lies on: of a column's strip, or of the free row, which is the draft's. */
const laidFor = async (column: Column, id: string): Promise<Surface | null> => {
  const stroke = strokeOfRow(id);
  if (stroke === null) return (await proof.get(column, id)) ?? null;
  return column === "draft" ? pad.tellOf(stroke) : null;
};
const tell = <T>(surface: Surface | null, what: (surface: Surface) => T): T | null => surface && what(surface);

/** Bytes that go to the page without a copy. */
function moved(bytes: Uint8Array | null): Uint8Array<ArrayBuffer> | null {
  const own = bytes as Uint8Array<ArrayBuffer> | null;
  return own && transfer(own, [own.buffer]);
}

const api: EngineApi = {
  async start(module, index, program) {
    await init({ module_or_path: module });
    studio = new Studio();
    papers = new Papers(studio, index, program);
    proof = new Proof(studio, papers);
    pad = new Pad(studio, papers, () => proof.idle());
    const declared = JSON.parse(declarations()) as Declarations;
    sheets = new Sheets(studio, papers, () => proof.idle(), new Set(declared.media.filter((m) => m.moves).map((m) => m.medium)));
    return declared;
  },
  async holdLock(name) {
    await new Promise<void>((held) => {
      void navigator.locks.request(name, () => {
        held();
        return new Promise<never>(() => undefined);
      });
    });
  },
  async readyGround(ground) {
    const recipe = JSON.stringify(ground);
    await imagesFor(studio, recipe);
    await papers.bring(recipe);
    studio.readyGround(recipe);
    return studio.storedGround(recipe, REFERENCE_PIECES);
  },
  async bringGround(ground) {
    const recipe = JSON.stringify(ground);
    await imagesFor(studio, recipe);
    await papers.bring(recipe);
    const there = studio.hasGround(recipe);
    if (!there) papers.expect(recipe);
    return there;
  },
  prepareGround: (tool) => proof.prepare(tool, async (current) => !tool || pad.prepare(tool, current)),
  giveGround: (ground, begun) => papers.give(JSON.stringify(ground), begun),
  alive: async () => true,
  checkTool: (document) => checkTool(document),
  relevance: (tool) => JSON.parse(relevance(JSON.stringify(tool))),
  swatches: (parts, medium) => JSON.parse(swatches(JSON.stringify(parts), medium)),
  curve: (points, count) => curveSamples(flat(points), count),
  levels: (calibration, [low, high], points, levels) => JSON.parse(usableLevels(flat(calibration), low, high, flat(points), levels)),
  async ground(tool) {
    const document = JSON.stringify(tool);
    await imagesFor(studio, document);
    await papers.bring(JSON.stringify(tool.ground));
    return JSON.parse(studio.groundFigures(document));
  },
  async rakingLight(picture) {
    return moved(await sheets.rakingLight(picture)) as Uint8Array<ArrayBuffer>;
  },
  async sheet(job) {
    return moved(await sheets.sheet(job));
  },
  dropSheets: (prefix) => sheets.drop(prefix),
  bringInto: async (surroundings) => studio.bringInto(JSON.stringify(surroundings)),
  readGesture: (id, inkml) => proof.readGesture(id, inkml),
  runProof: (job, onStrip) => proof.run(job, (strip: Strip) => onStrip(transfer(strip, [strip.pixels.buffer]))),
  lookProof: (column, view, onStrip) => proof.look(column, view, (strip: Strip) => onStrip(transfer(strip, [strip.pixels.buffer]))),
  trace: async (column, id) => tell(await laidFor(column, id), told.trace),
  explain: async (column, id, atMm) => tell(await laidFor(column, id), (surface) => told.explain(surface, atMm)),
  nearest: async (column, id, xMm, yMm) => tell(await laidFor(column, id), (surface) => told.nearest(surface, xMm, yMm)),
  traceCsv: async (column, id) => tell(await laidFor(column, id), told.traceCsv),
  section: async (column, id, atMm, lengthMm) => tell(await laidFor(column, id), (surface) => told.section(surface, atMm, lengthMm)),
  exercised: async (column, id) => tell(await laidFor(column, id), told.exercised),
  part: async (column, id, part) => moved(await proof.part(column, id, part)),
  padPart: async (tool, hand, strokes, between, part) => moved(await pad.part(tool, hand, strokes, between, part)),
  padNearest: (xMm, yMm) => pad.nearest(xMm, yMm),
  pdfOf({ title, widthMm, heightMm, pixelMm, pictures, captions }) {
    const page = new Page(widthMm, heightMm);
    for (const p of pictures) page.picture(p.rgba, p.width, p.height, p.leftMm, p.topMm, pixelMm);
    for (const c of captions) page.text(c.text, c.leftMm, c.baseMm, c.sizePt, c.grey);
    return moved(page.finish(title)) as Uint8Array<ArrayBuffer>;
  },
  pngOf: (rgba, width, height, pixelMm) => moved(pngOf(rgba, width, height, pixelMm)) as Uint8Array<ArrayBuffer>,
  advise: (tool, hand, asked) => JSON.parse(advise(JSON.stringify(tool), JSON.stringify(hand), JSON.stringify(asked))),
  compare: (medium, a, b) => JSON.parse(compareDabs(medium, JSON.stringify(a), JSON.stringify(b))),
  padCanvas: (canvas) => pad.attach(canvas),
  padRun: (tool, hand, size, strokes, between) => pad.run(tool, hand, size, strokes, between),
  padBegin: (tool, hand, between, by) => pad.begin(tool, hand, between, by),
  padDrop: () => pad.drop(),
  padBetween: (tool, what) => pad.between(tool, what),
  turnedTo: (tool, medium) => JSON.parse(turnedTo(JSON.stringify(tool), medium)),
  tipShape: (tool, hand, signals) => JSON.parse(tipShape(JSON.stringify(tool), JSON.stringify(hand), JSON.stringify(signals))),
  padHeld: (tool) => pad.held(tool),
  padLook: (view) => pad.look(view),
  padExtend: (samples, madeAt) => pad.extend(samples, madeAt),
  padPace: (pace) => pad.setPace(pace),
  padStep: (seconds) => pad.step(seconds),
  padKeepsUp: () => pad.pace,
  padClock: () => pad.strokeClock,
  padLift: () => pad.lift(),
  padPicture: () => pad.picture(),
  padCapture: (frame) => pad.capture(frame) as Uint8Array<ArrayBuffer>,
  async tipView(tool, dab, side, pixelMm) {
    const document = JSON.stringify(tool);
    await imagesFor(studio, document);
    return studio.tipView(document, JSON.stringify(dab), side, pixelMm) as Uint8Array<ArrayBuffer>;
  },
  async hardRim(tool) {
    const document = JSON.stringify(tool);
    await imagesFor(studio, document);
    return studio.hardRim(document);
  },
  inkmlOf(samples) {
    const recording = Recording.record(samples);
    const text = recording.write();
    recording.free();
    return text;
  },
  passesOf(inkml) {
    const recording = Recording.read(inkml);
    const passes = Array.from({ length: recording.passCount }, (_, i) => recording.pass(i));
    recording.free();
    return passes;
  },
  generated(movement, outline, recorder) {
    const recording = Recording.generate(JSON.stringify(movement), outline ? JSON.stringify(outline) : undefined, JSON.stringify(recorder));
    const text = recording.write();
    recording.free();
    return text;
  },
  drawing: (svg) => JSON.parse(readDrawing(svg)),
  gesturesOf: (inkml) => JSON.parse(readGestures(inkml)),
  together: (gestures) => writeGestures(JSON.stringify(gestures)),
  turned(inkml, turn) {
    const recording = Recording.read(inkml);
    const changed =
      turn.kind === "reverse" ? recording.reversed() : turn.kind === "scale" ? recording.scaled(turn.by) : recording.trimmed(turn.from, turn.to);
    const text = changed.write();
    recording.free();
    changed.free();
    return text;
  },
  observe: (samples, ends, pen) => JSON.parse(observe(samples, ends, pen)),
  propose: (marks, profile) => JSON.parse(proposeCalibration(JSON.stringify(marks), JSON.stringify(profile))),
  forcesFor: (hand, outputs) => forcesFor(JSON.stringify(hand), Float64Array.from(outputs)),
  readStylus: (text) => JSON.parse(readStylus(text)),
  writeStylus: (hand) => writeStylus(JSON.stringify(hand)),
  through(inkml, stylus, recorder, seed) {
    const recording = Recording.read(inkml);
    const heard = recording.through(JSON.stringify(stylus), JSON.stringify(recorder), seed);
    const passes = Array.from({ length: heard.passCount }, (_, i) => heard.pass(i));
    recording.free();
    heard.free();
    return passes;
  },
};

expose(api);

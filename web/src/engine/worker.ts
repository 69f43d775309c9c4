/** The engine's worker: the only place that talks to the WebAssembly module. */

import { expose, transfer } from "comlink";
import { Pad } from "./pad";
import { Proof } from "./proof";
import type { EngineApi, Strip } from "./types";
import init, {
  Recording,
  Studio,
  checkTool,
  curveSamples,
  declarations,
  relevance,
  usableLevels,
} from "./wasm/saltmarsh_browser";
import moduleUrl from "./wasm/saltmarsh_browser_bg.wasm?url";

let studio: Studio;
let proof: Proof;
let pad: Pad;

const flat = (points: [number, number][]) => Float64Array.from(points.flat());

const api: EngineApi = {
  async start() {
    await init({ module_or_path: moduleUrl });
    studio = new Studio();
    proof = new Proof(studio);
    pad = new Pad(studio, () => proof.idle());
    return JSON.parse(declarations());
  },
  checkTool: (document) => checkTool(document),
  relevance: (tool) => JSON.parse(relevance(JSON.stringify(tool))),
  curve: (points, count) => curveSamples(flat(points), count),
  levels: (points, levels) => JSON.parse(usableLevels(flat(points), levels)),
  ground: (tool) => JSON.parse(studio.groundFigures(JSON.stringify(tool))),
  readGesture: (id, inkml) => proof.readGesture(id, inkml),
  runProof: (job, onStrip) => proof.run(job, (strip: Strip) => onStrip(transfer(strip, [strip.pixels.buffer]))),
  trace: (column, id) => proof.trace(column, id),
  explain: (column, id, atMm) => proof.explain(column, id, atMm),
  nearest: (column, id, xMm, yMm) => proof.nearest(column, id, xMm, yMm),
  padCanvas: (canvas) => pad.attach(canvas),
  padRun: (tool, hand, size, strokes) => pad.run(tool, hand, size, strokes),
  padBegin: (tool, hand) => pad.begin(tool, hand),
  padExtend: (samples, madeAt) => pad.extend(samples, madeAt),
  padLift: () => pad.lift(),
  inkmlOf(samples) {
    const recording = Recording.record(samples);
    const text = recording.write();
    recording.free();
    return text;
  },
};

expose(api);

/** The row that is free to draw on: a surface on a canvas of the worker's own. */

import type { Hand } from "../model/hand";
import type { ToolDocument } from "../model/tool";
import { imagesFor } from "./images";
import type { Papers } from "./papers";
import { Preparing } from "./preparing";
import { Shown } from "./shown";
import { beginWith, did, layRow, restInTurns, restedAfter } from "./row";
import { RowTime } from "./rowTime";
import { PIECE_PIXELS, Slices, turn } from "./turns";
import type { Held, View } from "../generated/core";
import type { Between, PadSize, PadStroke, Part, StrokeClock } from "./types";
import { standsAlone, type Studio, type Surface } from "./wasm/saltmarsh_browser";

/** How long the engine may work for one frame, ms: the rest of a large dab is laid in the next. */
const FRAME_WORK_MS = 9;
/** How long after a frame the picture of what no stroke waits for may be made, ms; and after one of a stroke. */
const LATER_MS = 12;
const LATER_UNDER_MS = 8;

/** Name of the measure from a pen's report to the frame that shows it. */
const PEN_TO_PIXEL = "pen to pixel";
const MOST_MEASURES = 4000;
/** Mark of all the paper under the sheet being made: strokes wait for none of it any more. */
const PAPER_MADE = "paper made";

/** Most pixels of a sheet that a part is cut out of. */
const MOST_PART = 16_000_000;

const groundOf = (tool: ToolDocument) => JSON.stringify(tool.ground);
const keyOf = (tool: ToolDocument, size: PadSize) => [groundOf(tool), size.width, size.height, size.pixelMm, size.originY].join();

export class Pad {
  private shown = new Shown(() => this.ask());
  private surface: Surface | null = null;
  private key = "";
  private size: PadSize | null = null;
  /** The size last asked for. */
  private wanted: PadSize | null = null;
  private frameAsked = false;
  private onceDrawn: (() => void)[] = [];
  private newest = 0;
  private parts = 0;
  private tool: ToolDocument | null = null;
  /** How it is looked at, JSON. */
  private view = "";
  /** When the newest reports that wait for a frame were made, ms since the time origin. */
  private waiting: number[] = [];
  /** A stroke is under way: begun and not all laid. */
  private under = false;
  private time = new RowTime((rects) => this.shown.take(rects, false));
  /** Of the stroke that lifted last. */
  private lastClock: StrokeClock | null = null;
  /** The pen lifted, and the end of its stroke is not laid yet. */
  private lifted = false;
  /** How long the engine has worked for the next frame, ms. */
  private worked = 0;
  /** The picture of what no stroke waits for is being made. */
  private making = false;
  private preparing = new Preparing(
    () => this.idle(),
    () => (this.frameAsked ? new Promise(requestAnimationFrame) : Promise.resolve()),
  );

  /** `idle`: resolves when nothing more urgent is under way. */
  constructor(
    private studio: Studio,
    private papers: Papers,
    private idle: () => Promise<void>,
  ) {}

  attach(canvas: OffscreenCanvas) {
    this.shown.attach(canvas);
  }

  /**
   * Lays everything anew in turns and shows it; false if a newer run or a stroke took its place. Laid on a sheet of its own:
   * until it is whole, the one before stays in sight and can be drawn on.
   */
  async run(tool: ToolDocument, hand: Hand, size: PadSize, strokes: PadStroke[], between: Between[][]): Promise<boolean> {
    const run = ++this.newest;
    this.wanted = size;
    for (const used of [tool, ...strokes.flatMap((s) => s.by ?? [])]) await imagesFor(this.studio, JSON.stringify(used));
    await this.papers.bring(groundOf(tool));
    await this.idle();
    await turn();
    if (run !== this.newest) return false;
    const surface = this.sheet(tool, size);
    if (!(await layRow(surface, [JSON.stringify(tool), JSON.stringify(hand)], strokes, between, () => run === this.newest))) {
      surface.free();
      return false;
    }
    this.put(surface, tool, size);
    this.time.laid(restedAfter(between[strokes.length]));
    this.whole();
    await this.shown.whole();
    void this.prepareGround(tool);
    return true;
  }

  /** Makes the paper that nobody has drawn on yet. */
  private async prepareGround(tool: ToolDocument) {
    const run = this.newest;
    const document = JSON.stringify(tool);
    performance.clearMarks(PAPER_MADE);
    const pieces = this.preparing.begin(() => (run === this.newest ? this.surface : null));
    if (!(await pieces((surface, piece) => surface.prepareGround(document, piece)))) return;
    this.papers.keep(groundOf(tool));
    if (await pieces((surface, piece) => surface.prepareTime(document, piece))) performance.mark(PAPER_MADE);
  }

  /** Makes the paper that a tool on another ground will meet here, piece by piece, while that is wanted; whether it is all there. */
  async prepare(tool: ToolDocument, wanted: () => boolean): Promise<boolean> {
    if (!this.wanted) return true;
    const surface = this.sheet(tool, this.wanted);
    const document = JSON.stringify(tool);
    try {
      for (let piece = 0; surface.prepareGround(document, piece); piece++) {
        await turn();
        if (!wanted()) return false;
      }
    } finally {
      surface.free();
    }
    return true;
  }

  private sheet(tool: ToolDocument, size: PadSize): Surface {
    const surface = this.studio.surface(groundOf(tool), size.width, size.height, size.pixelMm, 0, size.originY);
    if (this.view) surface.lookAt(this.view);
    return surface;
  }

  private whole() {
    if (this.size) this.shown.takeLater({ left: 0, top: 0, right: this.size.width, bottom: this.size.height });
  }

  look(view: View) {
    this.view = JSON.stringify(view);
    this.surface?.lookAt(this.view);
    this.whole();
  }

  /** Gives how many steps of time went since it was asked last, or since the last stroke. */
  between(tool: ToolDocument, what: Between): number {
    this.finish();
    if (!this.surface) return 0;
    if (did(this.surface, JSON.stringify(tool), what)) this.whole();
    return this.time.tell();
  }

  held(tool: ToolDocument): Held[] {
    this.finish();
    return this.surface ? JSON.parse(this.surface.held(JSON.stringify(tool))) : [];
  }

  /** Puts a sheet in place of the one before. */
  private put(surface: Surface, tool: ToolDocument, size: PadSize) {
    this.surface?.free();
    [this.lifted, this.under] = [false, false];
    this.surface = surface;
    // Time went on while it was laid anew: it is caught up with frame by frame.
    this.time.laid(0);
    if (surface.busy) this.ask();
    this.key = keyOf(tool, size);
    this.size = size;
    this.shown.resize(surface, size.width, size.height);
  }

  /** `between`: what was done since the stroke before, where it was not done at once. */
  begin(tool: ToolDocument, hand: Hand, between: Between[], by: ToolDocument | null) {
    this.newest++;
    this.finish();
    this.tool = tool;
    const size = this.wanted;
    // A stroke must not wait for those before it: where the sheet is not there yet, it begins on an empty one.
    if (size && (!this.surface || this.key !== keyOf(tool, size))) {
      this.put(this.sheet(tool, size), tool, size);
      this.whole();
    }
    const { surface } = this;
    if (!surface) return;
    between.forEach((what) => did(surface, JSON.stringify(tool), what));
    beginWith(surface, [JSON.stringify(tool), JSON.stringify(hand)], by);
    this.under = true;
    this.time.begin();
  }

  drop() {
    if (!this.surface) return;
    this.surface.dropStroke();
    this.under = false;
    this.time.drop();
    this.waiting = [];
    this.whole();
    if (this.tool) void this.prepareGround(this.tool);
  }

  /** `madeAt`: when the newest of the samples was reported, ms since the epoch of the time origin. */
  extend(samples: Float64Array, madeAt: number) {
    if (!this.surface) return;
    this.time.touch(this.surface, samples);
    this.surface.hear(samples);
    this.waiting.push(madeAt - performance.timeOrigin);
    this.work();
    // A report that lays nothing has nothing to show.
    if (this.shown.prompt && !this.surface.waits) this.waiting = [];
  }

  /** Resolves when all of the stroke is laid and shown. */
  async lift(): Promise<void> {
    if (!this.surface) return;
    this.surface.hearLift();
    this.lifted = true;
    this.lastClock = this.time.of(this.surface);
    this.work();
    this.ask();
    await new Promise<void>((drawn) => this.onceDrawn.push(drawn));
  }

  /** How time went with the stroke that lifted last; null where it went as the stroke says. */
  get strokeClock(): StrokeClock | null {
    return this.lastClock;
  }

  /** So much of the time that is due goes over the row, 0..1. */
  get pace(): number {
    return this.time.paceOfLate;
  }

  /** Works for the next frame: what is left over is for the frames after it. */
  private work() {
    if (!this.surface) return;
    const start = performance.now();
    while (this.surface.waits && this.worked + performance.now() - start < FRAME_WORK_MS) this.shown.take(this.surface.work(PIECE_PIXELS), true);
    this.worked += performance.now() - start;
    if (this.surface.waits) this.ask();
    else if (this.lifted) this.end();
  }

  /** Lays at once what is left of the stroke. */
  private finish() {
    if (!this.surface) return;
    while (this.surface.waits) this.shown.take(this.surface.work(PIECE_PIXELS), true);
    if (this.lifted) this.end();
  }

  private end() {
    if (!this.surface) return;
    [this.lifted, this.under] = [false, false];
    this.surface.end();
    this.time.rests();
    if (this.surface.busy) this.ask();
    if (this.tool) void this.prepareGround(this.tool);
  }

  picture(): { width: number; height: number; rgba: Uint8Array<ArrayBuffer> } | null {
    this.finish();
    if (!this.surface || !this.size) return null;
    const { width, height } = this.size;
    return { width, height, rgba: this.surface.pixels(0, 0, width, height) as Uint8Array<ArrayBuffer> };
  }

  capture([left, top, right, bottom]: [number, number, number, number]): Uint8Array {
    if (!this.surface) throw new Error("the free row is not laid");
    this.finish();
    return this.surface.capture(left, top, right, bottom);
  }

  /** The sheet, telling of the stroke of this number; null where its trace is gone, or while another is drawn: that is not held up. */
  tellOf(stroke: number): Surface | null {
    if (!this.surface || this.surface.waits || this.under) return null;
    return this.surface.tellOf(stroke) ? this.surface : null;
  }

  /** Number of the stroke nearest to a place, and how far along it; null where none lies there. */
  nearest(xMm: number, yMm: number): [number, number] | null {
    if (!this.surface || this.surface.waits || this.under) return null;
    const [stroke, travel] = this.surface.nearestStroke(xMm, yMm);
    return stroke === undefined || travel === undefined ? null : [stroke, travel];
  }

  /** RGBA of a part of the row, its strokes laid anew in pixels of another size; null where a newer part took its place, or a stroke. */
  async part(tool: ToolDocument, hand: Hand, strokes: PadStroke[], between: Between[][], part: Part): Promise<Uint8Array | null> {
    await this.idle();
    const { size } = this;
    if (!size) return null;
    const asked = ++this.parts;
    const current = () => asked === this.parts && !this.under;
    const document = JSON.stringify(tool);
    const alone = standsAlone(document, undefined) && strokes.every((s) => !s.by) && between.flat().every((what) => what === "clean");
    const whole: Part = { pixelMm: part.pixelMm, leftMm: 0, topMm: 0, width: Math.round((size.width * size.pixelMm) / part.pixelMm), height: Math.round((size.height * size.pixelMm) / part.pixelMm) };
    const made = alone ? part : whole;
    if (made.width * made.height > MOST_PART) throw new Error("so large a picture of the free row is beyond this program: choose coarser pixels");
    const surface = this.studio.surface(groundOf(tool), made.width, made.height, part.pixelMm, made.leftMm, size.originY + made.topMm);
    if (this.view) surface.lookAt(this.view);
    try {
      if (!(await layRow(surface, [document, JSON.stringify(hand)], strokes, between, current))) return null;
      // As long as the row has rested by now.
      const more = this.time.steps - restedAfter(between[strokes.length]);
      if (!(await restInTurns(surface, Math.max(0, more), new Slices(), current))) return null;
      const [left, top] = [Math.round((part.leftMm - made.leftMm) / part.pixelMm), Math.round((part.topMm - made.topMm) / part.pixelMm)];
      return surface.pixels(left, top, left + part.width, top + part.height);
    } finally {
      surface.free();
    }
  }

  setPace(pace: number) {
    this.time.setPace(pace);
    this.ask();
  }

  step(seconds: number) {
    this.time.step(seconds);
    this.ask();
  }

  private ask() {
    if (this.frameAsked) return;
    this.frameAsked = true;
    requestAnimationFrame(() => this.frame());
  }

  private frame() {
    this.frameAsked = false;
    const { surface } = this;
    if (surface && !this.under && !surface.waits && this.time.rest(surface)) this.ask();
    if (!this.shown.there || !surface) {
      this.shown.forget();
      this.onceDrawn.splice(0).forEach((drawn) => drawn());
      return;
    }
    this.work();
    this.worked = 0;
    this.shown.draw(surface);
    if (surface.waits || !this.shown.prompt) {
      this.ask();
      return;
    }
    this.onceDrawn.splice(0).forEach((drawn) => drawn());
    // For the browser's own timeline, and the benchmark that reads it.
    for (const start of this.waiting.splice(0)) performance.measure(PEN_TO_PIXEL, { start, end: performance.now() });
    if (performance.getEntriesByName(PEN_TO_PIXEL).length > MOST_MEASURES) performance.clearMeasures(PEN_TO_PIXEL);
    if (this.under && !this.lifted) {
      this.time.spare(surface);
      if (surface.timeWaits > 0) this.ask();
    }
    if (!this.making) void this.makeLater();
  }

  /** Makes the picture of what no stroke waits for once a frame is shown, in turns: a report that comes meanwhile is heard at once. */
  private async makeLater() {
    this.making = true;
    const end = performance.now() + (this.under ? LATER_UNDER_MS : LATER_MS);
    while (!this.shown.done && performance.now() < end) {
      await turn();
      if (!this.surface || this.surface.waits) break;
      this.shown.make(this.surface);
    }
    this.making = false;
    if (!this.shown.done) this.ask();
  }
}

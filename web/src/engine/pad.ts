/** The row that is free to draw on: a surface on a canvas of the worker's own. */

import type { Hand } from "../model/hand";
import type { ToolDocument } from "../model/tool";
import { imagesFor } from "./images";
import { PIECE_PIXELS, Slices, turn, workOff } from "./turns";
import type { Held, View } from "../generated/core";
import type { Between, PadSize, Wait } from "./types";
import type { Studio, Surface } from "./wasm/saltmarsh_browser";

/** Most pixels that one frame converts: the rest waits for the next (measured best near 200²). */
const MOST_FRAME_PIXELS = 240 * 240;
/** How long the engine may work for one frame, ms: the rest of a large dab is laid in the next. */
const FRAME_WORK_MS = 9;

/** Name of the measure from a pen's report to the frame that shows it. */
const PEN_TO_PIXEL = "pen to pixel";
const MOST_MEASURES = 4000;

interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** A sheet at rest is kept so far behind the clock, ms: reports come later than they were made. */
const REST_BEHIND_MS = 120;

/** Steps of time that a stroke waited for: its first report says how long. */
const waited = (surface: Surface, stroke: Float64Array) => Math.floor((stroke[0] ?? 0) / surface.stepS);

const WAIT = "wait ";
const isWait = (what: Between): what is Wait => what.startsWith(WAIT);

function did(surface: Surface, tool: string, what: Between) {
  if (what === "dry" || what === "wet") surface.turn(what === "dry");
  else if (isWait(what)) surface.wait(Number(what.slice(WAIT.length)));
  else surface.care(tool, what);
}

const groundOf = (tool: ToolDocument) => JSON.stringify(tool.ground);
const keyOf = (tool: ToolDocument, size: PadSize) => [groundOf(tool), size.width, size.height, size.pixelMm, size.originY].join();

export class Pad {
  private context: OffscreenCanvasRenderingContext2D | null = null;
  private surface: Surface | null = null;
  private key = "";
  private size: PadSize | null = null;
  /** The size last asked for. */
  private wanted: PadSize | null = null;
  private dirty: Rect[] = [];
  private frameAsked = false;
  private onceDrawn: (() => void)[] = [];
  private newest = 0;
  private tool: ToolDocument | null = null;
  /** How it is looked at, JSON. */
  private view = "";
  /** When the newest reports that wait for a frame were made, ms since the time origin. */
  private waiting: number[] = [];
  /** The stroke that is begun has heard no report yet: what it waited for is still to go over the sheet. */
  private begun = false;
  /** When the last stroke ended, ms, and the steps of time that went over the sheet since. */
  private restsSince = 0;
  private rested = 0;
  /** The pen lifted, and the end of its stroke is not laid yet. */
  private lifted = false;
  /** How long the engine has worked for the next frame, ms. */
  private worked = 0;

  /** `idle`: resolves when nothing more urgent is under way. */
  constructor(
    private studio: Studio,
    private idle: () => Promise<void>,
  ) {}

  attach(canvas: OffscreenCanvas) {
    this.context = canvas.getContext("2d", { alpha: false, desynchronized: true });
  }

  /**
   * Lays everything anew in turns and shows it; false if a newer run or a stroke took its place. Laid on a sheet of its own:
   * until it is whole, the one before stays in sight and can be drawn on.
   */
  async run(tool: ToolDocument, hand: Hand, size: PadSize, strokes: Float64Array[], between: Between[][]): Promise<boolean> {
    const run = ++this.newest;
    this.wanted = size;
    await imagesFor(this.studio, JSON.stringify(tool));
    await this.idle();
    await turn();
    if (run !== this.newest) return false;
    const surface = this.sheet(tool, size);
    if (!(await this.lay(surface, [JSON.stringify(tool), JSON.stringify(hand)], strokes, between, () => run === this.newest))) {
      surface.free();
      return false;
    }
    this.put(surface, tool, size);
    this.mark({ left: 0, top: 0, right: size.width, bottom: size.height });
    await new Promise<void>((drawn) => this.onceDrawn.push(drawn));
    void this.prepareGround(tool);
    return true;
  }

  /** Lays strokes in turns while they are `current`. `between`: what was done before each, and after the last. */
  private async lay(surface: Surface, [tool, hand]: [string, string], strokes: Float64Array[], between: Between[][], current: () => boolean): Promise<boolean> {
    surface.makeReady(tool, undefined);
    const slices = new Slices();
    for (const [i, stroke] of strokes.entries()) {
      between[i]?.forEach((what) => did(surface, tool, what));
      surface.advance(waited(surface, stroke));
      surface.begin(tool, hand, false);
      surface.hear(stroke);
      surface.hearLift();
      if (!(await workOff(surface, slices, current))) return false;
      surface.end();
    }
    between[strokes.length]?.forEach((what) => did(surface, tool, what));
    return true;
  }

  /** Makes the paper that nobody has drawn on yet, piece by piece, so that a stroke need not wait for it. */
  private async prepareGround(tool: ToolDocument) {
    const run = this.newest;
    const document = JSON.stringify(tool);
    for (let piece = 0; ; piece++) {
      await this.idle();
      await turn();
      if (run !== this.newest || !this.surface?.prepareGround(document, piece)) return;
    }
  }

  private sheet(tool: ToolDocument, size: PadSize): Surface {
    const surface = this.studio.surface(groundOf(tool), size.width, size.height, size.pixelMm, 0, size.originY);
    if (this.view) surface.lookAt(this.view);
    return surface;
  }

  private whole() {
    if (this.size) this.mark({ left: 0, top: 0, right: this.size.width, bottom: this.size.height });
  }

  look(view: View) {
    this.view = JSON.stringify(view);
    this.surface?.lookAt(this.view);
    this.whole();
  }

  between(tool: ToolDocument, what: Between) {
    this.finish();
    if (!this.surface) return;
    did(this.surface, JSON.stringify(tool), what);
    this.whole();
  }

  held(tool: ToolDocument): Held[] {
    this.finish();
    return this.surface ? JSON.parse(this.surface.held(JSON.stringify(tool))) : [];
  }

  /** Puts a sheet in place of the one before. */
  private put(surface: Surface, tool: ToolDocument, size: PadSize) {
    this.surface?.free();
    this.lifted = false;
    this.surface = surface;
    this.rests();
    this.key = keyOf(tool, size);
    this.size = size;
    if (this.context && (this.context.canvas.width !== size.width || this.context.canvas.height !== size.height)) {
      this.context.canvas.width = size.width;
      this.context.canvas.height = size.height;
      // Until its paper is made and shown, it has the paper's colour, not black.
      const [red = 0, green = 0, blue = 0] = surface.bare();
      this.context.fillStyle = `rgb(${red} ${green} ${blue})`;
      this.context.fillRect(0, 0, size.width, size.height);
    }
  }

  /** `between`: what was done since the stroke before, where it was not done at once. */
  begin(tool: ToolDocument, hand: Hand, between: Between[]) {
    this.newest++;
    this.finish();
    this.tool = tool;
    const size = this.wanted;
    // A stroke must not wait for those before it: where the sheet is not there yet, it begins on an empty one.
    if (size && (!this.surface || this.key !== keyOf(tool, size))) {
      this.put(this.sheet(tool, size), tool, size);
      this.mark({ left: 0, top: 0, right: size.width, bottom: size.height });
    }
    const { surface } = this;
    if (!surface) return;
    between.forEach((what) => did(surface, JSON.stringify(tool), what));
    surface.begin(JSON.stringify(tool), JSON.stringify(hand), false);
    this.begun = true;
  }

  /** `madeAt`: when the newest of the samples was reported, ms since the epoch of the time origin. */
  extend(samples: Float64Array, madeAt: number) {
    if (!this.surface) return;
    if (this.begun) {
      this.begun = false;
      this.take(this.surface.advance(Math.max(0, waited(this.surface, samples) - this.rested)));
    }
    this.surface.hear(samples);
    this.waiting.push(madeAt - performance.timeOrigin);
    this.work();
  }

  /** Resolves when all of the stroke is laid and shown. */
  async lift(): Promise<void> {
    if (!this.surface) return;
    this.surface.hearLift();
    this.lifted = true;
    this.work();
    this.ask();
    await new Promise<void>((drawn) => this.onceDrawn.push(drawn));
  }

  /** Works for the next frame: what is left over is for the frames after it. */
  private work() {
    if (!this.surface) return;
    const start = performance.now();
    while (this.surface.waits && this.worked + performance.now() - start < FRAME_WORK_MS) this.take(this.surface.work(PIECE_PIXELS));
    this.worked += performance.now() - start;
    if (this.surface.waits) this.ask();
    else if (this.lifted) this.end();
  }

  /** Lays at once what is left of the stroke. */
  private finish() {
    if (!this.surface) return;
    while (this.surface.waits) this.take(this.surface.work(PIECE_PIXELS));
    if (this.lifted) this.end();
  }

  private end() {
    if (!this.surface) return;
    this.lifted = false;
    this.surface.end();
    this.rests();
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

  /** From now on the hand rests. */
  private rests() {
    this.restsSince = performance.now();
    this.rested = 0;
    if (this.surface?.busy) this.ask();
  }

  /** Lets the time that the hand has rested go over the sheet: a little less, so that a stroke's own wait is never overtaken. */
  private rest() {
    if (!this.surface?.busy || this.surface.waits || this.begun) return;
    const due = Math.floor((performance.now() - this.restsSince - REST_BEHIND_MS) / 1000 / this.surface.stepS);
    if (due > this.rested) {
      this.take(this.surface.advance(due - this.rested));
      this.rested = due;
    }
    this.ask();
  }

  /** Takes note of what changed: left, top, right, bottom of each part. */
  private take(rects: Uint32Array) {
    for (let i = 0; i + 3 < rects.length; i += 4) {
      const [left = 0, top = 0, right = 0, bottom = 0] = rects.subarray(i, i + 4);
      this.mark({ left, top, right, bottom });
    }
  }

  private mark(rect: Rect) {
    // What lies within a part that is to be drawn is drawn with it.
    if (!this.dirty.some((r) => r.left <= rect.left && r.top <= rect.top && r.right >= rect.right && r.bottom >= rect.bottom)) this.dirty.push(rect);
    this.ask();
  }

  private ask() {
    if (this.frameAsked) return;
    this.frameAsked = true;
    requestAnimationFrame(() => this.frame());
  }

  private frame() {
    this.frameAsked = false;
    this.rest();
    if (!this.context || !this.surface || !this.size) {
      this.onceDrawn.splice(0).forEach((drawn) => drawn());
      return;
    }
    this.work();
    this.worked = 0;
    let room = MOST_FRAME_PIXELS;
    while (this.dirty.length > 0 && room > 0) {
      const rect = this.dirty.shift();
      if (!rect) break;
      const width = rect.right - rect.left;
      // A rectangle too large for one frame is cut into bands.
      const rows = Math.max(16, Math.floor(room / Math.max(1, width)));
      const bottom = Math.min(rect.bottom, rect.top + rows);
      if (bottom < rect.bottom) this.dirty.unshift({ ...rect, top: bottom });
      const height = bottom - rect.top;
      if (width <= 0 || height <= 0) continue;
      const pixels = new Uint8ClampedArray(this.surface.pixels(rect.left, rect.top, rect.right, bottom));
      if (pixels.length !== width * height * 4) continue;
      this.context.putImageData(new ImageData(pixels, width, height), rect.left, rect.top);
      room -= width * height;
    }
    if (this.dirty.length > 0 || this.surface.waits) {
      this.ask();
      return;
    }
    this.onceDrawn.splice(0).forEach((drawn) => drawn());
    // For the browser's own timeline, and the benchmark that reads it.
    for (const start of this.waiting.splice(0)) performance.measure(PEN_TO_PIXEL, { start, end: performance.now() });
    if (performance.getEntriesByName(PEN_TO_PIXEL).length > MOST_MEASURES) performance.clearMeasures(PEN_TO_PIXEL);
  }
}

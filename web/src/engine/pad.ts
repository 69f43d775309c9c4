/** The row that is free to draw on: a surface on a canvas of the worker's own. */

import type { ToolDocument } from "../model/tool";
import { SLICE_MS, turn } from "./turns";
import { PACKED, type Hand, type PadSize } from "./types";
import type { Studio, Surface } from "./wasm/saltmarsh_browser";

const BATCH = 48;
/** Most pixels that one frame converts: the rest waits for the next (measured best near 200²). */
const MOST_FRAME_PIXELS = 240 * 240;

/** Name of the measure from a pen's report to the frame that shows it. */
const PEN_TO_PIXEL = "pen to pixel";
const MOST_MEASURES = 4000;

interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export class Pad {
  private context: OffscreenCanvasRenderingContext2D | null = null;
  private surface: Surface | null = null;
  private key = "";
  private size: PadSize | null = null;
  private dirty: Rect[] = [];
  private frameAsked = false;
  private onceDrawn: (() => void)[] = [];
  private newest = 0;
  private strokes = 0;
  private tool: ToolDocument | null = null;
  /** When the newest reports that wait for a frame were made, ms since the time origin. */
  private waiting: number[] = [];

  /** `idle`: resolves when nothing more urgent is under way. */
  constructor(
    private studio: Studio,
    private idle: () => Promise<void>,
  ) {}

  attach(canvas: OffscreenCanvas) {
    this.context = canvas.getContext("2d", { alpha: false, desynchronized: true });
  }

  /** Lays everything anew in turns and shows it; false if a newer run or a stroke took its place. */
  async run(tool: ToolDocument, hand: Hand, size: PadSize, strokes: Float64Array[]): Promise<boolean> {
    const run = ++this.newest;
    await turn();
    if (run !== this.newest) return false;
    const surface = this.prepare(tool, size);
    surface.wipe();
    this.strokes = 0;
    let sliceEnd = performance.now() + SLICE_MS;
    for (const stroke of strokes) {
      surface.begin(JSON.stringify(tool), JSON.stringify(hand), this.strokes);
      for (let i = 0; i < stroke.length; i += BATCH * PACKED) {
        surface.extend(stroke.subarray(i, i + BATCH * PACKED));
        if (performance.now() > sliceEnd) {
          await turn();
          if (run !== this.newest) return false;
          sliceEnd = performance.now() + SLICE_MS;
        }
      }
      surface.lift();
      this.strokes += surface.end();
    }
    this.mark({ left: 0, top: 0, right: size.width, bottom: size.height });
    await new Promise<void>((drawn) => this.onceDrawn.push(drawn));
    void this.prepareGround(tool);
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

  private prepare(tool: ToolDocument, size: PadSize): Surface {
    const paper = String(tool.parameters["ground.paper"]);
    const key = [paper, size.width, size.height, size.pixelMm, size.originY].join();
    if (!this.surface || key !== this.key) {
      this.surface?.free();
      this.surface = this.studio.surface(paper, size.width, size.height, size.pixelMm, 0, size.originY);
      this.key = key;
      if (this.context) {
        this.context.canvas.width = size.width;
        this.context.canvas.height = size.height;
      }
    }
    this.size = size;
    return this.surface;
  }

  begin(tool: ToolDocument, hand: Hand) {
    this.newest++;
    this.tool = tool;
    this.surface?.begin(JSON.stringify(tool), JSON.stringify(hand), this.strokes);
  }

  /** `madeAt`: when the newest of the samples was reported, ms since the epoch of the time origin. */
  extend(samples: Float64Array, madeAt: number) {
    if (!this.surface) return;
    this.take(this.surface.extend(samples));
    this.waiting.push(madeAt - performance.timeOrigin);
  }

  lift() {
    if (!this.surface) return;
    this.take(this.surface.lift());
    this.strokes += this.surface.end();
    if (this.tool) void this.prepareGround(this.tool);
  }

  private take(rect: Uint32Array) {
    const [left, top, right, bottom] = rect;
    if (left === undefined || top === undefined || right === undefined || bottom === undefined) return;
    this.mark({ left, top, right, bottom });
  }

  private mark(rect: Rect) {
    this.dirty.push(rect);
    if (this.frameAsked) return;
    this.frameAsked = true;
    requestAnimationFrame(() => this.frame());
  }

  private frame() {
    this.frameAsked = false;
    if (!this.context || !this.surface || !this.size) {
      this.onceDrawn.splice(0).forEach((drawn) => drawn());
      return;
    }
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
    if (this.dirty.length > 0) {
      this.frameAsked = true;
      requestAnimationFrame(() => this.frame());
      return;
    }
    this.onceDrawn.splice(0).forEach((drawn) => drawn());
    // For the browser's own timeline, and the benchmark that reads it.
    for (const start of this.waiting.splice(0)) performance.measure(PEN_TO_PIXEL, { start, end: performance.now() });
    if (performance.getEntriesByName(PEN_TO_PIXEL).length > MOST_MEASURES) performance.clearMeasures(PEN_TO_PIXEL);
  }
}

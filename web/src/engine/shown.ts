/** What a canvas of the worker's own shows of a surface: parts that changed, so many pixels a frame. */

import type { Surface } from "./wasm/saltmarsh_browser";

/** Most pixels that one frame converts: the rest waits for the next (measured best near 200²). */
const MOST_FRAME_PIXELS = 240 * 240;

interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export class Shown {
  private context: OffscreenCanvasRenderingContext2D | null = null;
  private dirty: Rect[] = [];

  /** `ask`: asks for a frame. */
  constructor(private ask: () => void) {}

  attach(canvas: OffscreenCanvas) {
    this.context = canvas.getContext("2d", { alpha: false, desynchronized: true });
  }

  get there(): boolean {
    return this.context !== null;
  }

  /** Takes a surface's size; until its paper is made and shown, it has the paper's colour, not black. */
  resize(surface: Surface, width: number, height: number) {
    const { context } = this;
    if (!context || (context.canvas.width === width && context.canvas.height === height)) return;
    context.canvas.width = width;
    context.canvas.height = height;
    const [red = 0, green = 0, blue = 0] = surface.bare();
    context.fillStyle = `rgb(${red} ${green} ${blue})`;
    context.fillRect(0, 0, width, height);
  }

  /** Takes note of what changed: left, top, right, bottom of each part. */
  take(rects: Uint32Array) {
    for (let i = 0; i + 3 < rects.length; i += 4) {
      const [left = 0, top = 0, right = 0, bottom = 0] = rects.subarray(i, i + 4);
      this.mark({ left, top, right, bottom });
    }
  }

  mark(rect: Rect) {
    // What lies within a part that is to be drawn is drawn with it.
    if (!this.dirty.some((r) => r.left <= rect.left && r.top <= rect.top && r.right >= rect.right && r.bottom >= rect.bottom)) this.dirty.push(rect);
    this.ask();
  }

  /** Draws for a frame; true if something is left over. */
  draw(surface: Surface): boolean {
    let room = MOST_FRAME_PIXELS;
    while (this.context && this.dirty.length > 0 && room > 0) {
      const rect = this.dirty.shift();
      if (!rect) break;
      const width = rect.right - rect.left;
      // A rectangle too large for one frame is cut into bands.
      const rows = Math.max(16, Math.floor(room / Math.max(1, width)));
      const bottom = Math.min(rect.bottom, rect.top + rows);
      if (bottom < rect.bottom) this.dirty.unshift({ ...rect, top: bottom });
      const height = bottom - rect.top;
      if (width <= 0 || height <= 0) continue;
      const pixels = new Uint8ClampedArray(surface.pixels(rect.left, rect.top, rect.right, bottom));
      if (pixels.length !== width * height * 4) continue;
      this.context.putImageData(new ImageData(pixels, width, height), rect.left, rect.top);
      room -= width * height;
    }
    return this.dirty.length > 0;
  }
}

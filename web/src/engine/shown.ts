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

/** While a stroke is drawn, what only time has changed is drawn for so long a frame, ms. */
const SPARE_MS = 3;

export class Shown {
  private context: OffscreenCanvasRenderingContext2D | null = null;
  /** What a painter waits for, and what follows it; and who waits until all before them is drawn. */
  private first: Rect[] = [];
  private later: (Rect | (() => void))[] = [];

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

  /** Takes note of what a stroke changed, which comes `first`, or time: left, top, right, bottom of each part. */
  take(rects: Uint32Array, first: boolean) {
    for (let i = 0; i + 3 < rects.length; i += 4) {
      const [left = 0, top = 0, right = 0, bottom = 0] = rects.subarray(i, i + 4);
      this.mark({ left, top, right, bottom }, first);
    }
  }

  mark(rect: Rect, first: boolean) {
    const held = (r: Rect | (() => void)) => typeof r !== "function" && r.left <= rect.left && r.top <= rect.top && r.right >= rect.right && r.bottom >= rect.bottom;
    // What lies within a part that is to be drawn is drawn with it.
    const list: (Rect | (() => void))[] = first ? this.first : this.later;
    if (!list.some(held)) list.push(rect);
    this.ask();
  }

  /** Resolves when all that is marked by now is drawn. */
  whole(): Promise<void> {
    return new Promise((drawn) => {
      this.later.push(drawn);
      this.ask();
    });
  }

  /** All that painters wait for is drawn. */
  get prompt(): boolean {
    return this.first.length === 0;
  }

  /** Draws for a frame; true if something is left over. `hurry`: a stroke is under way. */
  draw(surface: Surface, hurry: boolean): boolean {
    let room = MOST_FRAME_PIXELS;
    const start = performance.now();
    while (room > 0) {
      const next = this.first[0] ?? this.later[0];
      if (!next) break;
      const list = this.first.length > 0 ? this.first : this.later;
      if (typeof next === "function") {
        list.shift();
        next();
        continue;
      }
      if (list === this.later && hurry && performance.now() - start > SPARE_MS) break;
      const width = next.right - next.left;
      // A rectangle too large for one frame is cut into bands.
      const rows = Math.max(16, Math.floor(room / Math.max(1, width)));
      const bottom = Math.min(next.bottom, next.top + rows);
      if (bottom < next.bottom) list[0] = { ...next, top: bottom };
      else list.shift();
      this.put(surface, { ...next, bottom });
      room -= Math.max(0, width * (bottom - next.top));
    }
    return this.first.length + this.later.length > 0;
  }

  private put(surface: Surface, { left, top, right, bottom }: Rect) {
    const [width, height] = [right - left, bottom - top];
    if (width <= 0 || height <= 0) return;
    const pixels = new Uint8ClampedArray(surface.pixels(left, top, right, bottom));
    if (pixels.length === width * height * 4) this.context?.putImageData(new ImageData(pixels, width, height), left, top);
  }

  /** Nothing is drawn where there is no canvas: nobody waits for it. */
  forget() {
    for (const next of this.later.splice(0)) if (typeof next === "function") next();
    this.first = [];
  }
}

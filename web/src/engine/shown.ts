/** What a canvas of the worker's own shows of a surface: what a stroke changed with each frame, all else piece by piece. */

import type { Surface } from "./wasm/saltmarsh_browser";

/** Most pixels that one frame converts: the rest waits for the next (measured best near 200²). */
const MOST_FRAME_PIXELS = 240 * 240;
/** What no stroke waits for is cut into pieces of this size, about a millisecond each. */
const PIECE = { width: 128, height: 64 };

interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export class Shown {
  private context: OffscreenCanvasRenderingContext2D | null = null;
  /** What a painter waits for, and what follows it; and who waits until all before them is drawn. */
  private first: Rect[] = [];
  private later: (Rect | (() => void))[] = [];
  /** What is made, and waits for the next frame: a canvas that is painted between its frames gets fewer of them. */
  private made: (() => void)[] = [];

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
    // What was made of the surface before this one is not put over it.
    for (const show of this.made.splice(0)) show();
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
      if (first) this.mark({ left, top, right, bottom }, this.first);
      else this.takeLater({ left, top, right, bottom });
    }
  }

  /** Takes note that all of a part is to be drawn, when there is time for it. */
  takeLater({ left, top, right, bottom }: Rect) {
    for (let y = top; y < bottom; y += PIECE.height)
      for (let x = left; x < right; x += PIECE.width) this.mark({ left: x, top: y, right: Math.min(x + PIECE.width, right), bottom: Math.min(y + PIECE.height, bottom) }, this.later);
  }

  private mark(rect: Rect, list: (Rect | (() => void))[]) {
    const held = (r: Rect | (() => void)) => typeof r !== "function" && r.left <= rect.left && r.top <= rect.top && r.right >= rect.right && r.bottom >= rect.bottom;
    // What lies within a part that is to be drawn is drawn with it.
    if (!list.some(held)) list.push(rect);
    this.ask();
  }

  /** Resolves when all that is marked by now is seen. */
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

  /** All is made, and is seen with the next frame. */
  get done(): boolean {
    return this.first.length + this.later.length === 0;
  }

  /** Draws for a frame what a stroke changed, and all that was made since the last one. */
  draw(surface: Surface) {
    // What a stroke changed since then is drawn over it.
    for (const show of this.made.splice(0)) show();
    for (let room = MOST_FRAME_PIXELS; room > 0; ) {
      const next = this.first.shift();
      if (!next) break;
      this.pictureOf(surface, next)();
      room -= (next.right - next.left) * (next.bottom - next.top);
    }
  }

  /** Makes a piece of all else. */
  make(surface: Surface) {
    const next = this.later.shift();
    if (!next) return;
    this.made.push(typeof next === "function" ? next : this.pictureOf(surface, next));
    this.ask();
  }

  /** Makes the picture of a part; what it gives puts it on the canvas. */
  private pictureOf(surface: Surface, { left, top, right, bottom }: Rect): () => void {
    const [width, height] = [right - left, bottom - top];
    const pixels = new Uint8ClampedArray(width > 0 && height > 0 ? surface.pixels(left, top, right, bottom) : []);
    if (pixels.length !== width * height * 4 || pixels.length === 0) return () => undefined;
    return () => this.context?.putImageData(new ImageData(pixels, width, height), left, top);
  }

  /** Nothing is drawn where there is no canvas: nobody waits for it. */
  forget() {
    for (const next of [...this.made.splice(0), ...this.later.splice(0)]) if (typeof next === "function") next();
    this.first = [];
  }
}

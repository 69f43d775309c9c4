import { beforeAll, expect, test, vi } from "vitest";
import { Shown } from "./shown";
import type { Surface } from "./wasm/saltmarsh_browser";

beforeAll(() => {
  vi.stubGlobal(
    "ImageData",
    class {
      constructor(
        public data: Uint8ClampedArray,
        public width: number,
        public height: number,
      ) {}
    },
  );
});

const [WIDTH, HEIGHT] = [300, 200];

/** A canvas that keeps what is put on it, and a surface whose every pixel is the newest `colour`. */
function row() {
  const seen = new Uint8Array(WIDTH * HEIGHT);
  const puts: number[] = [];
  const context = {
    canvas: { width: 0, height: 0 },
    // A canvas of another size is bare.
    fillRect: () => seen.fill(9),
    putImageData: ({ data, width, height }: ImageData, left: number, top: number) => {
      puts.push(width * height);
      for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) seen[(top + y) * WIDTH + left + x] = data[4 * (y * width + x)] ?? 0;
    },
  };
  const paint = { colour: 1 };
  const surface = { bare: () => [], pixels: (left: number, top: number, right: number, bottom: number) => new Uint8Array(4 * (right - left) * (bottom - top)).fill(paint.colour) } as unknown as Surface;
  const shown = new Shown(() => undefined);
  shown.attach({ getContext: () => context } as unknown as OffscreenCanvas);
  return { shown, surface, canvas: context.canvas, paint, puts, at: (x: number, y: number) => seen[y * WIDTH + x] };
}

test("what no stroke waits for is made in small pieces, and seen whole with a frame, not between two", async () => {
  const { shown, surface, puts, at } = row();
  shown.takeLater({ left: 0, top: 0, right: WIDTH, bottom: HEIGHT });
  // Time goes over a tile of it again, and over more before it was drawn.
  shown.take(new Uint32Array([0, 0, 64, 64]), false);
  let drawn = false;
  const whole = shown.whole().then(() => (drawn = true));
  let pieces = 0;
  for (; !shown.done; pieces++) shown.make(surface);
  await Promise.resolve();
  expect([puts, drawn]).toEqual([[], false]);
  shown.draw(surface);
  // 300 × 200 pixels in pieces of 128 × 64: three by four, nothing twice; and one turn for those who wait.
  expect(puts.length).toBe(12);
  expect(pieces).toBe(13);
  expect(Math.max(...puts)).toBeLessThanOrEqual(128 * 64);
  expect(puts.reduce((a, b) => a + b)).toBe(WIDTH * HEIGHT);
  expect([at(0, 0), at(299, 199)]).toEqual([1, 1]);
  await whole;
  expect(drawn).toBe(true);
});

test("what a stroke changed is seen with the next frame, over what was made before it", () => {
  const { shown, surface, paint, at } = row();
  shown.takeLater({ left: 0, top: 0, right: WIDTH, bottom: HEIGHT });
  shown.make(surface);
  paint.colour = 2;
  shown.take(new Uint32Array([10, 10, 20, 20]), true);
  expect(shown.prompt).toBe(false);
  shown.draw(surface);
  expect(shown.prompt).toBe(true);
  expect([at(9, 9), at(10, 10), at(19, 19), at(20, 20), at(200, 100)]).toEqual([1, 2, 2, 1, 0]);
});

test("a picture made of the sheet before is not put over another", async () => {
  const { shown, surface, canvas, puts, at } = row();
  shown.takeLater({ left: 0, top: 0, right: 100, bottom: 50 });
  shown.make(surface);
  const whole = shown.whole();
  shown.make(surface);
  shown.resize(surface, WIDTH, HEIGHT);
  // Who waited for it waits no longer.
  await whole;
  shown.draw(surface);
  expect([canvas.width, canvas.height, puts.length, at(0, 0)]).toEqual([WIDTH, HEIGHT, 1, 9]);
});

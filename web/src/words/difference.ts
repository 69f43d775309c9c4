/** What is seen to differ between two pictures of the same strokes, in words. */

export interface Seen {
  /** Mean light of all pixels, 0..1. */
  light: number;
  /** Share of the pixels that are not the bare ground. */
  covered: number;
  /** How much neighbours differ, mean: rough or smooth. */
  grain: number;
}

/** Light may differ so much from the bare ground's and still be bare. */
const BARE = 0.04;

/** RGBA, `width` pixels a row; the first pixel is bare ground. */
export function seen(rgba: Uint8Array, width: number): Seen {
  const lightAt = (i: number) => (0.2126 * (rgba[i] ?? 0) + 0.7152 * (rgba[i + 1] ?? 0) + 0.0722 * (rgba[i + 2] ?? 0)) / 255;
  const bare = lightAt(0);
  let [light, covered, grain] = [0, 0, 0];
  const count = rgba.length / 4;
  for (let i = 0; i < count; i++) {
    const here = lightAt(4 * i);
    light += here;
    if (Math.abs(here - bare) > BARE) covered++;
    if (i % width > 0) grain += Math.abs(here - lightAt(4 * (i - 1)));
  }
  return { light: light / count, covered: covered / count, grain: grain / count };
}

/** Less than this is not seen. */
const LIGHT = 0.012;
const COVERED = 0.02;
const GRAIN = 1.12;

/** "darker, over more of the sheet", going from one to the other; empty where no difference is seen. */
export function told(from: Seen, to: Seen): string {
  const parts: string[] = [];
  if (Math.abs(to.light - from.light) > LIGHT) parts.push(to.light < from.light ? "darker" : "lighter");
  if (Math.abs(to.covered - from.covered) > COVERED) parts.push(to.covered > from.covered ? "over more of the sheet" : "over less of the sheet");
  const [a, b] = [from.grain / Math.max(1e-6, from.covered), to.grain / Math.max(1e-6, to.covered)];
  if (b > GRAIN * a) parts.push("rougher");
  else if (a > GRAIN * b) parts.push("smoother");
  return parts.join(", ");
}

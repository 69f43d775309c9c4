/** A drawn stroke becomes a gesture: it moves to where strips begin, and begins when the hand landed. */

import { STRIP_MM } from "../session/sheetSize";
import { PACKED } from "../engine/types";

/** Moves a stroke into a strip: centred up and down, and within it from left to right where it fits. How long the hand had rested before is no part of it. */
export function intoStrip(stroke: number[]): Float64Array {
  const out = Float64Array.from(stroke);
  const axis = (offset: number) => out.filter((_, i) => i % PACKED === offset);
  const [xs, ys] = [axis(1), axis(2)];
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const middle = (Math.min(...ys) + Math.max(...ys)) / 2;
  const wanted = Math.min(Math.max(left, 4), Math.max(4, STRIP_MM.width - 4 - (right - left)));
  const shiftY = STRIP_MM.height / 2 - middle;
  const landed = out[0] ?? 0;
  for (let i = 0; i < out.length; i += PACKED) {
    out[i] = (out[i] ?? 0) - landed;
    out[i + 1] = (out[i + 1] ?? 0) + wanted - left;
    out[i + 2] = (out[i + 2] ?? 0) + shiftY;
  }
  return out;
}

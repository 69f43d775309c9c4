/** How much of the sheet a row shows: a gesture that would leave its strip is shown smaller, whole. */

import { PACKED } from "./types";

export interface Fit {
  /** So many times as much as a strip shows. */
  times: number;
  /** Its corner from where the strip would begin, mm. */
  corner: [number, number];
}

const WHOLE: Fit = { times: 1, corner: [0, 0] };
/** Room about a way that is shown smaller, mm: a tip is as wide. */
const ROOM_MM = 3;

/** `size`: what a strip shows, mm. */
export function fitOf(passes: Float64Array[], size: { width: number; height: number }): Fit {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const pass of passes) {
    for (let i = 0; i + 2 < pass.length; i += PACKED) {
      const [x, y] = [pass[i + 1] ?? 0, pass[i + 2] ?? 0];
      [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), Math.max(bottom, y)];
    }
  }
  if (!(left < 0 || top < 0 || right > size.width || bottom > size.height)) return WHOLE;
  const times = Math.max(1, (right - left + 2 * ROOM_MM) / size.width, (bottom - top + 2 * ROOM_MM) / size.height);
  return { times, corner: [(left + right - times * size.width) / 2, (top + bottom - times * size.height) / 2] };
}

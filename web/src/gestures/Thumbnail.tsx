/** The way of a gesture, thicker where the hand pressed. */

import { PACKED } from "../engine/types";
import { usePasses, type Way } from "./usePasses";

/** Pieces of one thickness. */
const STEPS = 5;
const MARGIN_MM = 2;

export function Thumbnail({ gesture, className }: { gesture: Way; className: string }) {
  const passes = usePasses(gesture);
  const all = passes ?? [];
  const at = (pass: Float64Array, i: number) => [pass[i + 1] ?? 0, pass[i + 2] ?? 0, pass[i + 3] ?? 0] as const;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const pass of all) {
    for (let i = 0; i < pass.length; i += PACKED) {
      const [x, y] = at(pass, i);
      [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), Math.max(bottom, y)];
    }
  }
  const paths = Array.from({ length: STEPS }, () => "");
  for (const pass of all) {
    // Every few samples are enough for so small a picture.
    const stride = PACKED * Math.max(1, Math.floor(pass.length / PACKED / 120));
    for (let i = stride; i < pass.length; i += stride) {
      const [x0, y0] = at(pass, i - stride);
      const [x1, y1, p] = at(pass, i);
      const step = Math.min(STEPS - 1, Math.floor(p * STEPS));
      paths[step] += `M${x0.toFixed(2)} ${y0.toFixed(2)}L${x1.toFixed(2)} ${y1.toFixed(2)}`;
    }
  }
  const empty = !Number.isFinite(left);
  const box = empty ? "0 0 1 1" : `${left - MARGIN_MM} ${top - MARGIN_MM} ${right - left + 2 * MARGIN_MM} ${bottom - top + 2 * MARGIN_MM}`;
  return (
    <svg aria-hidden viewBox={box} className={`bg-[#f3f1ec] ${className}`}>
      {paths.map((d, i) => (
        <path key={i} d={d} stroke="#1c1c1c" strokeWidth={0.6 + i * 0.75} strokeLinecap="round" fill="none" vectorEffect="non-scaling-stroke" />
      ))}
    </svg>
  );
}

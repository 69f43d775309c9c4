/** A round control that a pointer turns. */

import type { PointerEvent } from "react";

/** Where the pointer is from the middle of a square of `size`: degrees from the right, clockwise, and how far out. */
export function aroundMiddle(e: PointerEvent<SVGSVGElement>, size: number): { degrees: number; out: number } {
  const box = e.currentTarget.getBoundingClientRect();
  const [x, y] = [e.clientX - box.left - size / 2, e.clientY - box.top - size / 2];
  return { degrees: Math.round((Math.atan2(y, x) / Math.PI) * 180 + 360) % 360, out: Math.hypot(x, y) };
}

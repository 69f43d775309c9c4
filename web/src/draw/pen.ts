/** From pointer events to samples: the pen's own channels, and stand-ins for what a mouse or finger does not have. */

import { within, type Live, type StandIn } from "../session/store";

const DEGREE = Math.PI / 180;

/** Tilts in degrees of a pen that leans `tilt` from upright towards `lean` (W3C Pointer Events 3, upright excepted). */
export function tilts(tilt: number, lean: number): [number, number] {
  if (tilt <= 0) return [0, 0];
  const t = Math.tan(within(tilt, 0, 89) * DEGREE);
  return [Math.atan(Math.cos(lean * DEGREE) * t) / DEGREE, Math.atan(Math.sin(lean * DEGREE) * t) / DEGREE];
}

/** Whether an event carries a pen's pressure. */
export const isPen = (e: PointerEvent) => e.pointerType === "pen";

/** Signals of one event. */
export function liveOf(e: PointerEvent, standIn: StandIn, down: boolean): Omit<Live, "speed"> {
  if (isPen(e)) {
    return { pressure: within(e.pressure, 0, 1), tiltX: e.tiltX, tiltY: e.tiltY, twist: e.twist, kind: "pen" };
  }
  const [tiltX, tiltY] = tilts(standIn.tilt, standIn.lean);
  return { pressure: down ? standIn.pressure : 0, tiltX, tiltY, twist: standIn.barrel, kind: "stand-in" };
}

/** Tilt from upright and lean, degrees, of a pair of tilts. */
export function leaning(tiltX: number, tiltY: number): { tilt: number; lean: number } {
  const x = Math.tan(within(tiltX, -89, 89) * DEGREE);
  const y = Math.tan(within(tiltY, -89, 89) * DEGREE);
  return { tilt: Math.atan(Math.hypot(x, y)) / DEGREE, lean: (Math.atan2(y, x) / DEGREE + 360) % 360 };
}

/** Events that were folded into one, oldest first. */
export function unfolded(e: PointerEvent): PointerEvent[] {
  const all = e.getCoalescedEvents?.() ?? [];
  return all.length > 0 ? all : [e];
}

/** From pointer events to samples: the pen's own channels, and stand-ins for what a mouse or finger does not have. */

import { tilts } from "../model/tilt";
import { within, type Live, type StandIn } from "../session/store";

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

/** Events that were folded into one, oldest first. */
export function unfolded(e: PointerEvent): PointerEvent[] {
  const all = e.getCoalescedEvents?.() ?? [];
  return all.length > 0 ? all : [e];
}

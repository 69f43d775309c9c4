/** What is told of each report of a pointer over a sheet. */

import { LONGEST_PAUSE_S, PACKED } from "../engine/types";
import { clock } from "../session/clock";
import { useBench, type Live } from "../session/store";
import { liveOf } from "./pen";

/** The sheet lies on a piece of paper of its own, mm below the proof rows. */
export const ORIGIN_Y = 280;
/** After a pause there is no speed to tell, s. */
const PAUSE_S = 0.2;

/** A report as it came: packed sample and how fast the pen was. */
export interface Report {
  sample: number[];
  speed: number;
  down: boolean;
  from: Live["kind"] | "played";
}

/** Where and when a pointer was reported last. */
export type Moved = { t: number; x: number; y: number } | null;

/** The report of an event, and what the next is told by; the page shows it as the pen's state. `perPx`: mm of a CSS pixel. */
export function reportOf(event: PointerEvent, sheet: HTMLElement | null, perPx: number, before: Moved, down: boolean): [Report, Moved] {
  const box = sheet?.getBoundingClientRect();
  const live = liveOf(event, useBench.getState().standIn, down);
  const [x, y] = [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
  const t = event.timeStamp / 1000;
  const seconds = before ? t - before.t : 0;
  const speed = before && seconds > 0 && seconds < PAUSE_S ? (Math.hypot(x - before.x, y - before.y) * perPx) / seconds : 0;
  useBench.setState({ live: { ...live, speed } });
  const sample = [t, x * perPx, ORIGIN_Y + y * perPx, live.pressure, live.tiltX, live.tiltY, live.twist];
  return [{ sample, speed, down, from: live.kind }, { t, x, y }];
}

/** The report of a played sample; `before`: those of its stroke so far; `offset`: from the stroke's time to the page's, s. */
export function played(sample: number[], before: number[], offset: number): Report {
  const [t = 0, x = 0, y = 0, pressure = 0, tiltX = 0, tiltY = 0, twist = 0] = sample;
  const [x0 = x, y0 = y] = before.slice(-PACKED + 1);
  const seconds = before.length > 0 ? t - (before.at(-PACKED) ?? 0) : 0;
  const speed = seconds > 0 ? Math.hypot(x - x0, y - y0) / seconds : 0;
  useBench.setState({ live: { pressure, tiltX, tiltY, twist, speed, kind: "pen" } });
  return { sample: [t + offset, x, y, pressure, tiltX, tiltY, twist], speed, down: true, from: "played" };
}

/** How long the hand has rested by the sheet's clock, s, from `ended` to `now`, s of the page; `ended` by that clock, null: not here. `lies`: strokes of an earlier visit lie there. */
export const pause = (now: number, ended: number | null, lies: boolean) => (ended !== null ? Math.min(LONGEST_PAUSE_S, Math.max(0, clock.at(now) - ended)) : lies ? LONGEST_PAUSE_S : 0);

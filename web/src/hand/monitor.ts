/** What the pen reports, for the last seconds and for all strokes since the last wipe. Outside React: it comes too fast. */

import { PACKED } from "../engine/types";
import type { Report } from "../draw/report";

/** Charts show this long, s. */
export const WINDOW_S = 6;
/** What is remembered of strokes at most, samples. */
const MOST = 60_000;

let recent: Report[] = [];
let strokes: number[][] = [];
let down = false;
let source: Report["from"] = "stand-in";
let coalesced = { events: 0, reports: 0 };
/** Goes up with every report. */
let count = 0;

export function seen(report: Report) {
  count++;
  recent.push(report);
  const oldest = (report.sample[0] ?? 0) - WINDOW_S - 1;
  if ((recent[0]?.sample[0] ?? 0) < oldest - 2) recent = recent.filter((r) => (r.sample[0] ?? 0) >= oldest);
  if (report.down) {
    // What one device reports says nothing of another.
    if (report.from !== source) strokes = [];
    source = report.from;
    if (!down || strokes.length === 0) strokes.push([]);
    if (strokes.reduce((n, s) => n + s.length, 0) > MOST * PACKED) strokes.shift();
    strokes.at(-1)?.push(...report.sample);
  }
  down = report.down;
}

/** The pen lifts: the next report of a pen that is down begins another stroke. */
export function lifted() {
  down = false;
}

/** An event that brought so many reports. */
export function unfoldedInto(reports: number) {
  coalesced = { events: coalesced.events + 1, reports: coalesced.reports + reports };
}

export function forget() {
  recent = [];
  strokes = [];
  coalesced = { events: 0, reports: 0 };
  count++;
}

export const reports = () => recent;
export const heard = () => count;
/** What reported the strokes that are remembered. */
export const reportedBy = () => source;
/** Reports an event brings on average. */
export const perEvent = () => (coalesced.events > 0 ? coalesced.reports / coalesced.events : 0);

/** All strokes, packed one after another, and where each ends (in samples). */
export function packedStrokes(): { samples: Float64Array; ends: Uint32Array } {
  const ends: number[] = [];
  let total = 0;
  for (const s of strokes) {
    total += s.length / PACKED;
    ends.push(total);
  }
  return { samples: Float64Array.from(strokes.flat()), ends: Uint32Array.from(ends) };
}

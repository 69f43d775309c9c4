/** The strokes of the free row, and what is done between them. */

import type { ToolDocument } from "../model/tool";
import { Slices, workOff } from "./turns";
import type { Between, PadStroke, Wait } from "./types";
import type { Surface } from "./wasm/saltmarsh_browser";

/** Steps of time that a stroke waited for: its first report says how long. */
export const waited = (surface: Surface, stroke: Float64Array) => Math.floor((stroke[0] ?? 0) / surface.stepS);

const WAIT = "wait ";
const isWait = (what: Between): what is Wait => what.startsWith(WAIT);

/** Does what is done between strokes. `tool`: as JSON. */
export function did(surface: Surface, tool: string, what: Between) {
  if (what === "dry" || what === "wet") surface.turn(what === "dry");
  else if (isWait(what)) surface.wait(Number(what.slice(WAIT.length)));
  else surface.care(tool, what);
}

/** Begins a stroke of the sheet's tool, or of another. Tool and hand as JSON. */
export function beginWith(surface: Surface, [tool, hand]: [string, string], by: ToolDocument | null) {
  if (by) surface.beginAside(JSON.stringify(by), hand);
  else surface.begin(tool, hand, false);
}

/** Lays strokes in turns while they are `current`. `between`: what was done before each, and after the last. */
export async function layRow(surface: Surface, [tool, hand]: [string, string], strokes: PadStroke[], between: Between[][], current: () => boolean): Promise<boolean> {
  surface.makeReady(tool, undefined);
  const slices = new Slices();
  for (const [i, stroke] of strokes.entries()) {
    between[i]?.forEach((what) => did(surface, tool, what));
    surface.advance(waited(surface, stroke.samples));
    beginWith(surface, [tool, hand], stroke.by);
    surface.hear(stroke.samples);
    surface.hearLift();
    if (!(await workOff(surface, slices, current))) return false;
    surface.end();
  }
  between[strokes.length]?.forEach((what) => did(surface, tool, what));
  return true;
}

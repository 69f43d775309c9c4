/** The strokes of the free row, and what is done between them. */

import type { ToolDocument } from "../model/tool";
import { Slices, workOff } from "./turns";
import type { Between, PadStroke, Rest, Wait } from "./types";
import type { Surface } from "./wasm/saltmarsh_browser";

/** Steps of time that a stroke waited for: its first report says how long. */
export const waited = (surface: Surface, stroke: Float64Array) => Math.floor((stroke[0] ?? 0) / surface.stepS);

const WAIT = "wait ";
const isWait = (what: Between): what is Wait => what.startsWith(WAIT);

const REST = "rest ";
const isRest = (what: Between): what is Rest => what.startsWith(REST);
const stepsOf = (rest: Rest) => Number(rest.slice(REST.length));

/** Steps that went over the sheet with what was done last on it. */
export const restedAfter = (done: Between[] | undefined) => (done ?? []).filter(isRest).reduce((sum, rest) => sum + stepsOf(rest), 0);

/** Steps that go over a sheet between two turns. */
const REST_STEPS = 4;

/** Does what is done between strokes; whether to the sheet, or only to the tool. `tool`: as JSON. */
export function did(surface: Surface, tool: string, what: Between): boolean {
  if (what === "dry" || what === "wet") surface.turn(what === "dry");
  else if (isRest(what)) surface.advance(stepsOf(what));
  else if (isWait(what)) surface.wait(Number(what.slice(WAIT.length)));
  else {
    surface.care(tool, what);
    return false;
  }
  return true;
}

/** Begins a stroke of the sheet's tool, or of another. Tool and hand as JSON. */
export function beginWith(surface: Surface, [tool, hand]: [string, string], by: ToolDocument | null) {
  if (by) surface.beginAside(JSON.stringify(by), hand);
  else surface.begin(tool, hand, false);
}

/** Lets so many steps go over the sheet, in turns. */
export async function restInTurns(surface: Surface, steps: number, slices: Slices, current: () => boolean): Promise<boolean> {
  let left = steps;
  for (; surface.busy && left > 0; left -= Math.min(left, REST_STEPS)) {
    surface.advance(Math.min(left, REST_STEPS));
    await slices.pause();
    if (!current()) return false;
  }
  surface.advance(left);
  return true;
}

/** Lays strokes in turns while they are `current`. `between`: what was done before each, and after the last. */
export async function layRow(surface: Surface, [tool, hand]: [string, string], strokes: PadStroke[], between: Between[][], current: () => boolean): Promise<boolean> {
  surface.makeReady(tool, undefined);
  const slices = new Slices();
  const doBetween = async (list: Between[] | undefined) => {
    for (const what of list ?? []) {
      if (!isRest(what)) did(surface, tool, what);
      else if (!(await restInTurns(surface, stepsOf(what), slices, current))) return false;
    }
    return true;
  };
  for (const [i, stroke] of strokes.entries()) {
    if (!(await doBetween(between[i]))) return false;
    if (!(await restInTurns(surface, stroke.clock?.waited ?? waited(surface, stroke.samples), slices, current))) return false;
    beginWith(surface, [tool, hand], stroke.by);
    if (stroke.clock?.went) surface.timeAs(Uint32Array.from(stroke.clock.went));
    surface.hear(stroke.samples);
    surface.hearLift();
    if (!(await workOff(surface, slices, current))) return false;
    surface.end();
  }
  return doBetween(between[strokes.length]);
}

/** Strokes for looking at a ground: a flat, even stick pulled side by side. */

import type { SheetJob } from "../engine/types";
import { PLAIN_HAND } from "../model/hand";
import type { Recipe } from "../model/ground";
import { defaultsOf, mediumOf, type Declarations, type ToolDocument } from "../model/tool";

const WIDTH_MM = 6;
const AREA_MM2 = (Math.PI * WIDTH_MM * WIDTH_MM) / 4;
const HARDNESS = 16;
export const GIVE_UM = 18;

/** A stick without grain or streaks that presses evenly to its rim: it touches what lies over its depth, and nothing else. */
export function flatStick(declarations: Declarations, ground: Recipe, stick: string, swap: boolean, load: number): ToolDocument {
  const defaults = defaultsOf(mediumOf(declarations, "dry"));
  return {
    format: "saltmarsh.tool",
    version: 2,
    name: "Flat stick",
    intent: "",
    medium: "dry",
    action: "lay",
    seed: 1,
    ground,
    parameters: {
      ...defaults,
      "touch.force_gf": Math.min(1500, load * HARDNESS * AREA_MM2),
      "touch.build": "even",
      "tip.width_mm": WIDTH_MM,
      "tip.hardness": 1,
      "load.stick": stick,
      "load.hardness_gf_mm2": HARDNESS,
      "load.give_um": GIVE_UM,
      "load.deposit_um_mm": 60,
      "load.grit_um": 0,
      "load.grain": 0,
      "load.face_um": 0,
      "ground.swap": swap,
    },
    responses: [],
    combine: {},
  };
}

const RATE_HZ = 100;
const SPEED_MM_S = 80;

/** Packed samples of level strokes from `left` to `right` mm, one under the other down to `bottom`, and where each ends. */
export function level(left: number, right: number, bottom: number): Float64Array<ArrayBuffer>[] {
  const strokes: Float64Array<ArrayBuffer>[] = [];
  const count = Math.max(2, Math.ceil(((right - left) / SPEED_MM_S) * RATE_HZ));
  for (let y = WIDTH_MM / 2 + 1; y < bottom - WIDTH_MM / 2; y += WIDTH_MM * 0.8) {
    const samples = new Float64Array(7 * (count + 1));
    for (let i = 0; i <= count; i++) samples.set([i / RATE_HZ, left + ((right - left) * i) / count, y, 1, 0, 0, 0], 7 * i);
    strokes.push(samples);
  }
  return strokes;
}

/** The load at which a stick's plane stands at `level` µm: the table falls from the highest peak. */
export function loadAt(plane: [number, number][], levelUm: number): number {
  const i = plane.findIndex((p) => p[1] <= levelUm);
  const [a, b] = [plane[i - 1], plane[i]];
  if (!b) return 1;
  if (!a) return b[0];
  return a[0] + ((b[0] - a[0]) * (a[1] - levelUm)) / (a[1] - b[1]);
}

export const strokesOf = (tool: ToolDocument, inkmls: string[]): SheetJob["strokes"] =>
  inkmls.map((inkml) => ({ tool, hand: PLAIN_HAND, way: { inkml }, shiftMm: [0, 0] }));

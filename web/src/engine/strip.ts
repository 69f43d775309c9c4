/** One strip: what it lies on, and the gesture over it. */

import { PACKED } from "./types";
import { workOff, type Slices } from "./turns";
import type { DeviceProfile as Profile } from "../generated/core";
import type { Hand } from "../model/hand";
import type { Surface } from "./wasm/saltmarsh_browser";

/** A tool that goes along passes. Tool as JSON. */
interface Stroke {
  tool: string;
  passes: Float64Array[];
  /** The pen that recorded them, where it is known: its forces are told by it. */
  recorder: Profile | null;
}

export interface StripWork extends Stroke {
  hand: Hand;
  /** Place of the strip's corner on the ground, mm. */
  originY: number;
  /** What it lies on: strokes of another tool, under a name that says all of how they were laid; or what the medium declares. */
  under: (Stroke & { name: string }) | string | null;
}

/** Lays a strip in slices while it is `current`; false where it no longer was. */
export async function layStrip(surface: Surface, strip: StripWork, slices: Slices, current: () => boolean): Promise<boolean> {
  const stroke = async ({ tool, passes, recorder }: Stroke) => {
    surface.begin(tool, JSON.stringify({ ...strip.hand, profile: recorder ?? strip.hand.profile }), true);
    for (const pass of passes) {
      surface.hear(shifted(pass, strip.originY));
      surface.hearLift();
      if (!(await workOff(surface, slices, current))) {
        surface.wipe();
        return false;
      }
    }
    surface.end();
    return true;
  };
  const { under } = strip;
  if (typeof under === "object" && under) {
    if (!surface.lieOn(under.name)) {
      if (!(await stroke(under))) return false;
      surface.keepUnder(under.name);
    }
  } else surface.makeReady(strip.tool, under ?? undefined);
  return stroke(strip);
}

/** Length of a pass, mm. */
export function way(pass: Float64Array): number {
  const at = (i: number) => [pass[i + 1] ?? 0, pass[i + 2] ?? 0] as const;
  let length = 0;
  for (let i = PACKED; i < pass.length; i += PACKED) {
    const [[x0, y0], [x1, y1]] = [at(i - PACKED), at(i)];
    length += Math.hypot(x1 - x0, y1 - y0);
  }
  return length;
}

/** Gestures start at the top of the sheet; each row lies lower on the paper, so that no two show the same tooth. */
function shifted(samples: Float64Array, originY: number): Float64Array {
  if (originY === 0) return samples;
  const out = samples.slice();
  for (let i = 2; i < out.length; i += PACKED) out[i] = (out[i] ?? 0) + originY;
  return out;
}

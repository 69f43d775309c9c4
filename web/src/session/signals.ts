/** What a pen over a sheet signals to the core. */

import type { Signals } from "../engine/types";
import { leaning } from "../model/tilt";
import type { Live } from "./store";

/** Of a stroke that has not begun. */
export const AT_REST: Signals = {
  raw_pressure: 0,
  pressure: 0,
  hardest_press: 0,
  tilt_deg: 0,
  lean_deg: 0,
  barrel_deg: 0,
  speed_mm_s: 0,
  heading_deg: 0,
  distance_mm: 0,
  time_s: 0,
  paint_left: 1,
  chance_dab: 0.5,
  chance_stroke: 0.5,
};

/** Those of a pen as it is, the rest as they are `at` a place of a stroke. */
export function signalsOf(live: Live, at: Signals): Signals {
  const { tilt, lean } = leaning(live.tiltX, live.tiltY);
  return { ...at, raw_pressure: live.pressure, tilt_deg: tilt, lean_deg: lean, barrel_deg: (live.twist + 360) % 360, speed_mm_s: live.speed };
}

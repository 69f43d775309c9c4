/** The hand in front of every tool, as the core defines it. */

import type { DeviceProfile as Profile, Field, Hand } from "../generated/core";

export type { DeviceProfile as Profile, Hand } from "../generated/core";

/** A number of the profile as the core declares it. */
export type ProfileField = Field & { key: Exclude<keyof Profile, "name" | "barrel"> };

export const STRAIGHT: Hand["calibration"] = { curve: [[0, 0], [1, 1]] };

/** The pen of who has not told us of theirs; the core's own default. */
export const PLAIN_HAND: Hand = {
  calibration: STRAIGHT,
  profile: {
    name: "Plain pen",
    levels: 8192,
    first_gf: 4,
    full_gf: 400,
    exponent: 1,
    rate_hz: 200,
    tilt_range_deg: 90,
    tilt_step_deg: 0,
    barrel: true,
    noise: 0,
  },
};

/** Force in gf behind a reported pressure: the profile's law, for labels. */
export function forceOf(pressure: number, { first_gf, full_gf, exponent }: Profile): number {
  return pressure <= 0 ? 0 : first_gf + (full_gf - first_gf) * pressure ** (1 / exponent);
}

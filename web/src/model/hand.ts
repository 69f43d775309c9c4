/** The hand in front of every tool, as the core defines it. */

/** What a stylus and its driver do to a hand; forces in gf. */
export interface Profile {
  name: string;
  levels: number;
  first_gf: number;
  full_gf: number;
  exponent: number;
  rate_hz: number;
  tilt_range_deg: number;
  tilt_step_deg: number;
  barrel: boolean;
  noise: number;
}

export interface Hand {
  calibration: { curve: [number, number][] };
  profile: Profile;
}

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

/** A number of the profile: its name on the screen, unit and limits, which are the core's. */
export interface ProfileField {
  key: Exclude<keyof Profile, "name" | "barrel">;
  label: string;
  unit: string;
  low: number;
  high: number;
  step: number;
}

export const PROFILE_FIELDS: ProfileField[] = [
  { key: "levels", label: "Levels", unit: "", low: 2, high: 65536, step: 1 },
  { key: "first_gf", label: "Force at first contact", unit: "gf", low: 0, high: 200, step: 0.5 },
  { key: "full_gf", label: "Force at full scale", unit: "gf", low: 1, high: 2000, step: 1 },
  { key: "exponent", label: "Force law, exponent", unit: "", low: 0.2, high: 5, step: 0.01 },
  { key: "rate_hz", label: "Reports", unit: "Hz", low: 10, high: 2000, step: 1 },
  { key: "tilt_range_deg", label: "Tilt up to", unit: "°", low: 0, high: 90, step: 1 },
  { key: "tilt_step_deg", label: "Tilt in steps of", unit: "°", low: 0, high: 30, step: 0.5 },
  { key: "noise", label: "Noise of the force", unit: "×", low: 0, high: 0.2, step: 0.001 },
];

/** Which pointer draws: one at a time, a pen before all else, and no resting palm once a pen was seen. */

export interface Claim {
  id: number;
  kind: "pen" | "touch" | "mouse" | "played";
}

export interface Pressed extends Claim {
  /** Of the event: 0 a tip or the first button, 5 a pen's other end. */
  button: number;
}

/** A pointer that is pressed on the sheet draws, or draws instead of one whose stroke is dropped, or does not. */
export type Verdict = "draws" | "instead" | "no";

export const TIP = 0;
export const OTHER_END = 5;

/** `holder`: who draws now; `penNear`: a pen hovers or draws, or did a moment ago. */
export function claim(holder: Claim | null, pressed: Pressed, fingersDraw: boolean, penNear: boolean): Verdict {
  const { kind, button } = pressed;
  if (kind === "pen") {
    if (button !== TIP && button !== OTHER_END) return "no";
    if (!holder) return "draws";
    return holder.kind === "pen" ? "no" : "instead";
  }
  if (holder || button !== TIP) return "no";
  return kind === "touch" && (!fingersDraw || penNear) ? "no" : "draws";
}

/** A pen counts as near for so long after it was last heard of, ms: a palm comes down before and after it. */
export const NEAR_MS = 700;

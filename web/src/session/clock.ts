/** The clock over sheets that go on by themselves: how fast it goes over the free row, and when strips are looked at, which is kept in this browser. */

import { create } from "zustand";
import { engine, onReplaced } from "../engine/client";
import { FASTEST, RestClock } from "../model/restClock";

const STORED = "saltmarsh.clock";

/** Paces that can be chosen. */
export const PACES = [0, 1, 4, FASTEST] as const;
export type Pace = (typeof PACES)[number];

/** A step of a clock that stands still, s. */
export const STEP_S = 0.25;
/** Strips are looked at so long after the hand at most, s: later they are dry. */
export const LATEST_S = 600;

interface ClockState {
  pace: Pace;
  /** Seconds after the hand at which strips are shown; null: once they are dry. */
  seenS: number | null;
}

export const useClock = create<ClockState>(() => ({ pace: 1, seenS: null }));

/** The page's own: what a stroke has waited is told by it. The worker that draws has another, which is told of every change. */
export const clock = new RestClock();

const now = () => performance.now() / 1000;

/** Begins as the painter left it. A clock that stood still goes again: nobody would know why nothing dries. */
export function beginClock() {
  try {
    const kept = JSON.parse(localStorage.getItem(STORED) ?? "null") as Partial<ClockState> | null;
    if (typeof kept?.seenS === "number" && kept.seenS >= 0 && kept.seenS <= LATEST_S) useClock.setState({ seenS: kept.seenS });
  } catch {
    // What cannot be read is as if it were not there.
  }
  onReplaced((drew) => {
    if (drew) void engine.padPace(useClock.getState().pace);
  });
}

export function seeAfter(seenS: number | null) {
  useClock.setState({ seenS });
  localStorage.setItem(STORED, JSON.stringify({ seenS }));
}

export function setPace(pace: Pace) {
  useClock.setState({ pace });
  clock.setPace(pace, now());
  void engine.padPace(pace);
}

/** Lets a moment go by over a row whose clock stands still. */
export function stepClock() {
  clock.step(STEP_S);
  void engine.padStep(STEP_S);
}

/** The stylus being tuned, with its steps back and forth. The hand in use is the Bench's own; `handSaving.ts` brings it to the server. */

import { create } from "zustand";
import { useBench } from "./store";
import type { Proposal } from "../engine/types";
import type { Hand } from "../model/hand";
import { moved, stepped } from "../model/history";
import type { Quality } from "../generated/core";

export type Kind = "light" | "normal" | "firm";
export const KINDS: Kind[] = ["light", "normal", "firm"];

export interface Mark {
  samples: number[];
  kind: Kind | null;
}

interface HandState {
  /** The kept stylus in use; null for the plain pen. */
  stylus: { id: string; version: number; device: string } | null;
  past: Hand[];
  future: Hand[];
  /** Before a control was dragged. */
  before: Hand | null;
  saving: { state: "saved" | "saving" | "away" | "conflict" | "refused"; message: string };
  /** What the browser reports of the device at hand. */
  device: string;
  marks: Mark[];
  marking: Kind | null;
  /** Quality that pressure drives on the test pad. */
  quality: Quality;
  proposal: Proposal | null;
  /** The hand before a proposal that is on trial: nothing of it is saved until it is accepted or adjusted. */
  trial: Hand | null;
}

/** What is not a pen. */
export const NO_PEN = "mouse or finger";
export const DEVICE = "saltmarsh.device";
const MOST_STEPS = 200;

export const useHand = create<HandState>(() => ({
  stylus: null,
  past: [],
  future: [],
  before: null,
  saving: { state: "saved", message: "" },
  device: localStorage.getItem(DEVICE) ?? NO_PEN,
  marks: [],
  marking: null,
  quality: "width",
  proposal: null,
  trial: null,
}));

const set = useHand.setState;
const get = useHand.getState;
export const hand = () => useBench.getState().hand;
export const take = (next: Hand) => useBench.setState({ hand: next });

let onStep: () => void = () => undefined;
/** Whoever keeps the stylus safe is told of every step. */
export const onEveryStep = (listener: () => void) => {
  onStep = listener;
};

/** Shows a proposal on the marks. */
export function tryOut(proposal: Proposal) {
  set({ trial: hand(), proposal, marking: null });
  take({ ...hand(), calibration: proposal.calibration });
}

/** Ends the trial: the proposal is taken, or what was before comes back. */
export function decide(accept: boolean) {
  const { trial } = get();
  if (!trial) return;
  set({ trial: null, proposal: null });
  if (accept) step(trial);
  else take(trial);
}

/** What a change starts from. Changing anything while a proposal is on trial takes it, adjusted, as one step. */
function start(): Hand {
  const { before, trial } = get();
  if (trial) set({ trial: null, proposal: null });
  return before ?? trial ?? hand();
}

/** Shows a change while a control is dragged. */
export function drag(next: Hand) {
  set({ before: start() });
  take(next);
}

/** Ends a drag where it is. */
export function letGo() {
  const { before } = get();
  if (before && before !== hand()) step(before);
  set({ before: null });
}

/** Makes a change a step that can be taken back. */
export function change(next: Hand) {
  const from = start();
  take(next);
  set({ before: null });
  step(from);
}

/** A step from what was to what is now in hand. */
function step(from: Hand) {
  const { past, future } = get();
  const made = stepped({ past, now: from, future }, hand(), MOST_STEPS);
  set({ past: made.past, future: made.future });
  onStep();
}

function go(by: number) {
  const { past, future } = get();
  const there = moved({ past, now: hand(), future }, by);
  if (!there) return;
  set({ past: there.past, future: there.future });
  take(there.now);
  onStep();
}

export const undo = () => (get().trial ? decide(false) : go(-1));
export const redo = () => (get().trial ? decide(true) : go(1));

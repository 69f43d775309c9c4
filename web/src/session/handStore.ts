/** The stylus being tuned: its steps back and forth, and its way to the server. The hand in use is the Bench's own. */

import { create } from "zustand";
import { activateStylus, addStylus, listStyluses, removeStylus, saveStylus, type Stylus } from "../api/client";
import { queue } from "../api/queue";
import { say, tellDone } from "./notices";
import { useBench } from "./store";
import { engine } from "../engine/client";
import type { Proposal } from "../engine/types";
import { PLAIN_HAND, type Hand } from "../model/hand";
import { Refused } from "../model/refused";
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
const SOON_MS = 450;
const RETRY_MS = 2500;
const JOURNAL = "saltmarsh.hand";
const DEVICE = "saltmarsh.device";

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
const hand = () => useBench.getState().hand;
const take = (next: Hand) => useBench.setState({ hand: next });

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

function step(from: Hand) {
  set((s) => ({ past: [...s.past.slice(-200), from], future: [] }));
  changed();
}

export function undo() {
  if (get().trial) return decide(false);
  const { past, future } = get();
  const last = past.at(-1);
  if (!last) return;
  set({ past: past.slice(0, -1), future: [hand(), ...future] });
  take(last);
  changed();
}

export function redo() {
  if (get().trial) return decide(true);
  const { past, future } = get();
  const [next, ...rest] = future;
  if (!next) return;
  set({ past: [...past, hand()], future: rest });
  take(next);
  changed();
}

// ---- to the server -----------------------------------------------------------------------------------------------------

let timer: ReturnType<typeof setTimeout> | undefined;
const inTurn = queue();

function changed() {
  write(true);
  set({ saving: { state: "saving", message: "" } });
  later(SOON_MS);
}

function later(ms: number) {
  clearTimeout(timer);
  timer = setTimeout(() => void inTurn(save), ms);
}

/** Saves what is not saved yet, before another stylus is taken up. */
async function flush() {
  clearTimeout(timer);
  decide(false);
  if (get().saving.state === "saving" || get().saving.state === "away") await save();
  clearTimeout(timer);
}

function write(unsaved: boolean) {
  localStorage.setItem(JOURNAL, JSON.stringify({ hand: hand(), stylus: get().stylus, unsaved }));
}

async function save() {
  const now = hand();
  try {
    const { stylus, device } = get();
    const kept = stylus
      ? await saveStylus(stylus.id, stylus.version, await engine.writeStylus(now))
      : await addNamed(now, device);
    set({ stylus: { id: kept.id, version: kept.version, device: kept.device } });
    // What was changed while this was on its way is saved next.
    const current = now === hand();
    if (kept.document.profile.name !== now.profile.name) called(now.profile.name, kept.document.profile.name);
    write(!current);
    if (current) set({ saving: { state: "saved", message: "" } });
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    const state = error.away ? "away" : error.code === "conflict" ? "conflict" : "refused";
    const message = {
      away: `Not saved: ${error.message}. The stylus is kept in this browser.`,
      conflict: "This stylus was changed in another window.",
      refused: error.message,
    }[state];
    set({ saving: { state, message } });
    if (state === "away") later(RETRY_MS);
  }
}

/** The stylus got its name when it was first kept: what it is now, and every step of it, is called so. */
function called(from: string, to: string) {
  const renamed = (h: Hand): Hand => (h.profile.name === from ? { ...h, profile: { ...h.profile, name: to } } : h);
  set((s) => ({ past: s.past.map(renamed), future: s.future.map(renamed), before: s.before && renamed(s.before), trial: s.trial && renamed(s.trial) }));
  take(renamed(hand()));
}

/** Keeps a stylus under a name that is free. */
async function addNamed(now: Hand, device: string): Promise<Stylus> {
  const wanted = now.profile.name === PLAIN_HAND.profile.name ? "My pen" : now.profile.name;
  const taken = new Set((await listStyluses()).map((s) => s.document.profile.name));
  let name = wanted;
  for (let n = 2; taken.has(name); n++) name = `${wanted}, ${n}`;
  return addStylus(device, await engine.writeStylus({ ...now, profile: { ...now.profile, name } }));
}

const handOf = (stylus: Stylus): Hand => ({ calibration: stylus.document.calibration, profile: stylus.document.profile });

function hold(stylus: Stylus) {
  set({ stylus: { id: stylus.id, version: stylus.version, device: stylus.device }, past: [], future: [], before: null, saving: { state: "saved", message: "" } });
  take(handOf(stylus));
  write(false);
}

function readJournal(): { hand: Hand; stylus: HandState["stylus"]; unsaved: boolean } | null {
  try {
    return JSON.parse(localStorage.getItem(JOURNAL) ?? "null");
  } catch {
    // Not written by us: the server's is taken.
    return null;
  }
}

/** Takes up the stylus that was in use: what this browser holds unsaved, else the active one of the device. */
export function takeUp(styluses: Stylus[]) {
  const journal = readJournal();
  if (journal?.unsaved) {
    set({ stylus: journal.stylus });
    take(journal.hand);
    changed();
    return;
  }
  const active = styluses.filter((s) => s.active);
  const mine = active.find((s) => s.device === get().device) ?? active[0];
  if (mine) hold(mine);
}

/** Takes a kept stylus in hand; it becomes the active one of its device. */
export const choose = (stylus: Stylus) =>
  inTurn(async () => {
    await flush();
    try {
      hold(await activateStylus(stylus.id));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      say(`${stylus.document.profile.name} could not be taken up: ${error.message}.`);
    }
  });

/** Keeps a stylus that came from a file, or a copy of the one in hand, and takes it up. */
export const keepNew = (next: Hand) =>
  inTurn(async () => {
    await flush();
    hold(await addNamed(next, get().device));
  });

/** Takes a stylus away; gives what brings it back. */
export async function takeAway(stylus: Stylus): Promise<() => Promise<unknown>> {
  await removeStylus(stylus.id);
  if (get().stylus?.id === stylus.id) {
    set({ stylus: null, past: [], future: [] });
    take(PLAIN_HAND);
    localStorage.removeItem(JOURNAL);
  }
  return async () => addStylus(stylus.device, await engine.writeStylus(handOf(stylus)));
}

/** Takes what the server has, after a conflict. */
export async function takeTheirs() {
  const there = (await listStyluses()).find((s) => s.id === get().stylus?.id);
  if (there) hold(there);
}

/** The browser reports this device: its stylus is taken up where one is known. */
export function recognise(device: string, styluses: Stylus[]) {
  if (device === get().device) return;
  localStorage.setItem(DEVICE, device);
  set({ device });
  const known = styluses.find((s) => s.active && s.device === device);
  if (!known || known.id === get().stylus?.id) return;
  void inTurn(async () => {
    await flush();
    hold(known);
    tellDone(`Recognised: ${known.document.profile.name}.`);
  });
}

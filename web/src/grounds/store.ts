/** The ground that is being changed, and the way back. */

import { create } from "zustand";
import type { Ground } from "../api/client";
import { moved, stepped } from "../model/history";
import { sameGround, type Recipe } from "../model/ground";

/** What of a ground can be changed. */
export interface Edited {
  name: string;
  note: string;
  recipe: Recipe;
}

interface GroundsState {
  /** The ground as it is kept. */
  kept: Ground | null;
  now: Edited | null;
  past: Edited[];
  future: Edited[];
  /** Recipe while a control is dragged; becomes a step when let go. */
  dragged: Recipe | null;
}

const MOST_STEPS = 200;
const set = (change: Partial<GroundsState>) => useGrounds.setState(change);

export const useGrounds = create<GroundsState>(() => ({ kept: null, now: null, past: [], future: [], dragged: null }));

const editedOf = ({ name, note, recipe }: Ground): Edited => ({ name, note, recipe });

const DRAFTS = "saltmarsh.ground-drafts";

/** What of each ground was changed and not kept, of the version that it was changed from. */
type Drafts = Record<string, { version: number; now: Edited }>;

function drafts(): Drafts {
  try {
    return JSON.parse(localStorage.getItem(DRAFTS) ?? "{}") as Drafts;
  } catch {
    // What is no list of drafts is none.
    return {};
  }
}

/** Writes down what is not kept of the ground in hand, beside all others: choosing another drops nothing, nor does a reload. */
useGrounds.subscribe((state, before) => {
  const { kept, now } = state;
  if (now === before.now || !kept || !now) return;
  const others = Object.entries(drafts()).filter(([id]) => id !== kept.id);
  const mine = isChanged(state) ? [[kept.id, { version: kept.version, now }] as const] : [];
  localStorage.setItem(DRAFTS, JSON.stringify(Object.fromEntries([...others, ...mine])));
});

/** Whether a ground has changes that are not kept. */
export const anyDrafted = () => Object.keys(drafts()).length > 0;
export const isDrafted = (ground: Ground) => drafts()[ground.id]?.version === ground.version;

/** Takes a ground up to look at and change, with what was changed of it before. */
export function choose(ground: Ground) {
  const draft = drafts()[ground.id];
  const mine = draft?.version === ground.version ? draft.now : null;
  set({ kept: ground, now: mine ?? editedOf(ground), past: mine ? [editedOf(ground)] : [], future: [], dragged: null });
}

/** The ground was kept as it is now: the way back stays. */
export const keptAs = (ground: Ground) => set({ kept: ground, now: editedOf(ground) });

export const drag = (recipe: Recipe) => set({ dragged: recipe });

export function commit(change: Partial<Edited>) {
  const { now, past, future } = useGrounds.getState();
  if (now) set({ ...stepped({ past, now, future }, { ...now, ...change }, MOST_STEPS), dragged: null });
}

export function letGo() {
  const { dragged } = useGrounds.getState();
  if (dragged) commit({ recipe: dragged });
}

function go(by: number) {
  const { past, now, future } = useGrounds.getState();
  const there = now && moved({ past, now, future }, by);
  if (there) set({ ...there, dragged: null });
}

export const undo = () => go(-1);
export const redo = () => go(1);

/** Whether something is not kept yet. */
export const isChanged = ({ kept, now }: Pick<GroundsState, "kept" | "now">) =>
  kept !== null && now !== null && (kept.name !== now.name || kept.note !== now.note || !sameGround(kept.recipe, now.recipe));

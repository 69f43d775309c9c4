/** Steps of the work on gestures. The server is told each at once; Undo and Redo tell it the other way round. */

import { create } from "zustand";
import { addGesture, changeOf, orderGestures, removeGesture, type Gesture } from "../api/client";
import { wayOf } from "../api/ways";
import { moved, stepped, type History } from "../model/history";
import { t } from "../model/said";
import { changeGesture, forgetGesture, type GestureChange } from "../session/changing";

export interface Step {
  /** What was done, for who is to take it back. */
  text: string;
  again: () => Promise<unknown>;
  back: () => Promise<unknown>;
}

/** Does a step; gives whether it was done. `told`: the painter is told of it, and how it is taken back. */
export type Change = (make: () => Promise<Step>, told?: "told" | "with a way back") => Promise<boolean>;

/** `now`: the step done last; null before the first. */
export const useSteps = create<History<Step | null>>(() => ({ past: [], now: null, future: [] }));

const MOST_STEPS = 200;

export const did = (step: Step) => useSteps.setState((s) => stepped(s, step, MOST_STEPS));
/** Before the oldest that is kept there is none. */
export const wentBack = () => useSteps.setState((s) => moved(s, -1) ?? { past: [], now: null, future: s.now ? [s.now, ...s.future] : s.future });
export const wentOn = () => useSteps.setState((s) => moved(s, 1) ?? s);

/** The gestures as they are here now: a step may be taken back long after it was done. */
type Known = () => Gesture[];

function known(all: Known, id: string): Gesture {
  const gesture = all().find((g) => g.id === id);
  if (!gesture) throw new Error(t("that gesture is not here any more"));
  return gesture;
}

/** What was changed elsewhere since a step is not taken back unseen. */
const stays = (gesture: Gesture) => new Error(t("“{{name}}” was changed elsewhere since: it stays as it is", { name: gesture.name }));

/** Names, notes, tags, and whether it is on the proof sheet. */
export function changed(all: Known, gesture: Gesture, to: GestureChange, text: string): Step {
  const fields = Object.keys(to) as (keyof Gesture & keyof GestureChange)[];
  const before = Object.fromEntries(fields.map((key) => [key, gesture[key]])) as GestureChange;
  const put = async (from: GestureChange, next: GestureChange) => {
    const now = known(all, gesture.id);
    if (fields.some((key) => JSON.stringify(now[key]) !== JSON.stringify(from[key]))) throw stays(now);
    return changeGesture(now, next);
  };
  return { text, again: () => put(before, to), back: () => put(to, before) };
}

/** Another way for the same gesture, made of the one it has. */
export function turned(all: Known, gesture: Gesture, inkml: string, turn: (inkml: string) => Promise<string>, text: string): Step {
  let left = gesture.content_hash;
  const put = async (way: string) => {
    const now = known(all, gesture.id);
    if (now.content_hash !== left) throw stays(now);
    left = (await changeGesture(now, { inkml: way })).content_hash;
  };
  return { text, again: async () => put(await turn(inkml)), back: () => put(inkml) };
}

/** Gestures in another order. */
export const ordered = (before: string[], after: string[], text: string): Step => ({ text, again: () => orderGestures(after), back: () => orderGestures(before) });

export interface NewGesture extends Pick<Gesture, "name" | "note" | "stylus"> {
  inkml: string;
}

/** New gestures; taken back and done again they are the same ones, so that later steps still know them. */
export function added(gestures: NewGesture[], text: string): Step {
  const named = gestures.map((g) => ({ ...g, id: crypto.randomUUID() }));
  return {
    text,
    again: async () => {
      for (const g of named) await addGesture(g.name, g.note, g.inkml, g.stylus, g.id);
    },
    back: async () => {
      for (const g of named) await takenAway(g.id);
    },
  };
}

/** A gesture is taken away, which comes back as it was and where it was. */
export async function removed(all: Known, gesture: Gesture, text: string): Promise<Step> {
  const way = await wayOf(gesture);
  const places = all().map((g) => g.id);
  return {
    text,
    again: () => takenAway(gesture.id),
    back: async () => {
      const again = await addGesture(gesture.name, gesture.note, way, gesture.stylus, gesture.id);
      await changeGesture(again, changeOf(gesture));
      const others = all().map((g) => g.id).filter((id) => id !== gesture.id);
      others.splice(places.indexOf(gesture.id), 0, gesture.id);
      await orderGestures(others);
    },
  };
}

async function takenAway(id: string) {
  await removeGesture(id);
  forgetGesture(id);
}

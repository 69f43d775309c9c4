/** The steps of the work on a tool: kept in this browser beyond a reload and a change of tool, and told in words. */

import { del, entries, get as read, set as write } from "idb-keyval";
import { changedParameters, changedResponses, type Parameter } from "../model/tool";
import { sameGround } from "../model/ground";
import { useBench, type PadStroke, type Snapshot } from "./store";

/** What is kept of a tool's work. */
export interface Work {
  now: Snapshot;
  past: Snapshot[];
  future: Snapshot[];
  /** When it was written, ms. */
  at: number;
}

const NAME = "saltmarsh.steps.";
const SOON_MS = 250;
/** Steps that outlive a reload, and tools whose work is kept. */
const MOST_STEPS = 100;
const MOST_TOOLS = 60;

let timer: ReturnType<typeof setTimeout> | undefined;
let failed: (() => void) | null = null;

/** What was kept of a tool; null where nothing was. */
export async function workOf(id: string): Promise<Work | null> {
  try {
    return (await read<Work>(NAME + id)) ?? null;
  } catch {
    // A browser that keeps nothing.
    return null;
  }
}

/** Keeps the work on a tool. Strokes that steps have in common are stored once (structured clones keep what is the same). */
async function keepNow() {
  const { tool, now, past, future } = useBench.getState();
  if (!tool || !now) return;
  const work: Work = { now, past: past.slice(-MOST_STEPS), future: future.slice(0, MOST_STEPS), at: Date.now() };
  try {
    await write(NAME + tool.id, work);
  } catch {
    failed?.();
  }
}

/** Keeps the work whenever it changes; call once. `onFailed`: this browser keeps nothing. */
export function watchSteps(onFailed: () => void) {
  failed = onFailed;
  void prune();
  return useBench.subscribe((state, before) => {
    if (state.tool?.id !== before.tool?.id || (state.now === before.now && state.past === before.past)) return;
    clearTimeout(timer);
    timer = setTimeout(() => void keepNow(), SOON_MS);
  });
}

/** Writes what waits to be written, before another tool is opened. */
export async function keepSteps() {
  clearTimeout(timer);
  await keepNow();
}

/** Forgets the work on tools that nobody opened for longest. */
async function prune() {
  try {
    const all = (await entries<string, Work>()).filter(([key]) => String(key).startsWith(NAME));
    const old = all.sort((a, b) => b[1].at - a[1].at).slice(MOST_TOOLS);
    await Promise.all(old.map(([key]) => del(key)));
  } catch {
    // Nothing is kept here: nothing is to be forgotten.
  }
}

const several = (words: string[]) => (words.length <= 2 ? words.join(", ") : `${words.slice(0, 2).join(", ")} and ${words.length - 2} more`);

/** What a step changed, in words. */
export function toldStep(before: Snapshot, after: Snapshot, parameters: Pick<Parameter, "id" | "label">[]): string {
  const [a, b] = [before.document, after.document];
  const words: string[] = [];
  if (a.medium !== b.medium) words.push("medium");
  if (a.action !== b.action) words.push("action");
  if (a.name !== b.name) words.push("name");
  if (a.intent !== b.intent) words.push("what it is for");
  if (!sameGround(a.ground, b.ground)) words.push("ground");
  words.push(...changedParameters(a, b).map((id) => parameters.find((p) => p.id === id)?.label ?? id));
  const responses = changedResponses(a, b).map((id) => (b.responses.find((r) => r.id === id) ?? a.responses.find((r) => r.id === id))?.quality ?? id);
  words.push(...responses.map((quality) => `response on ${quality}`));
  if (words.length > 0) return several([...new Set(words)]);
  if (before.pad.length > 0 && after.pad.length === 0) return "free row wiped";
  if (after.pad.length !== before.pad.length) return `stroke ${after.pad.length} on the free row`;
  const done = after.between.at(-1);
  if (after.between.length !== before.between.length) return done ? `free row: ${done.what}` : "free row";
  return "how responses combine";
}

/** Strokes alone, of work that was kept before they had a tool of their own. */
export const strokesOf = (pad: (PadStroke | number[])[]): PadStroke[] => pad.map((stroke) => (Array.isArray(stroke) ? { samples: stroke } : stroke));

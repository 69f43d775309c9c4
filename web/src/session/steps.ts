/** The steps of the work on a tool: kept in this browser beyond a reload and a change of tool. */

import { createStore, del, entries, get as read, promisifyRequest } from "idb-keyval";
import type { ToolDocument } from "../model/tool";
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
/** A control that is dragged changes the document at every move; what of it was not written is found again by the draft. */
const SOON_MS = 250;
/** Steps that outlive a reload, and tools whose work is kept. */
const MOST_STEPS = 100;
const MOST_TOOLS = 60;

/** Where idb-keyval keeps all by itself. */
const kept = createStore("keyval-store", "keyval");

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
    await kept("readwrite", (store) => {
      store.put(work, NAME + tool.id);
      // Not once it is heard that it was put: a page that goes hears nothing any more, and nothing would be kept.
      store.transaction.commit();
      return promisifyRequest(store.transaction);
    });
  } catch {
    failed?.();
  }
}

/**
 * The steps with which a document is opened whose work was kept. Where that stood elsewhere, the way from there is one step more: a page
 * closed within an instant of its last step had not written it, or another window went on.
 */
export function stepsTo(document: ToolDocument, work: Work | null): Pick<Work, "past" | "future"> {
  if (!work) return { past: [], future: [] };
  if (JSON.stringify(work.now.document) === JSON.stringify(document)) return { past: work.past, future: work.future };
  return { past: [...work.past, work.now], future: [] };
}

/** Keeps the work whenever it changes; call once. `onFailed`: this browser keeps nothing. */
export function watchSteps(onFailed: () => void) {
  failed = onFailed;
  void prune();
  // Who goes may go for good.
  const leave = () => timer !== undefined && void keepSteps();
  window.addEventListener("pagehide", leave);
  const stop = useBench.subscribe((state, before) => {
    if (state.tool?.id !== before.tool?.id || (state.now === before.now && state.past === before.past)) return;
    // What lies on the free row is kept nowhere else.
    if (state.now?.pad !== before.now?.pad || state.now?.between !== before.now?.between) return void keepSteps();
    clearTimeout(timer);
    timer = setTimeout(() => void keepSteps(), SOON_MS);
  });
  return () => {
    window.removeEventListener("pagehide", leave);
    stop();
  };
}

/** Writes what waits to be written, before another tool is opened. */
export async function keepSteps() {
  clearTimeout(timer);
  timer = undefined;
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

/** Strokes alone, of work that was kept before they had a tool of their own. */
export const strokesOf = (pad: (PadStroke | number[])[]): PadStroke[] => pad.map((stroke) => (Array.isArray(stroke) ? { samples: stroke } : stroke));

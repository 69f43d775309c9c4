/** Which parameters act in the tool on the bench, and why the others do not: asked once for all rows that tell of it. */

import { create } from "zustand";
import { engine, quiet } from "../engine/client";
import type { ToolDocument } from "../model/tool";
import { worded } from "../model/said";
import { documentOf, useBench } from "./store";

interface Relevance {
  /** By parameter; empty where it acts. Null until it is known. */
  reasons: Record<string, string> | null;
}

const useRelevance = create<Relevance>(() => ({ reasons: null }));

let wanted: ToolDocument | null = null;
let asking = false;

/** Of all documents that came while one was looked at, the newest. */
async function ask() {
  if (asking) return;
  asking = true;
  while (wanted) {
    const document = wanted;
    wanted = null;
    await quiet();
    // A document on the way between two states may be refused; the next one is asked at once.
    const all = await engine.relevance(document).catch(() => null);
    if (!all) continue;
    const next = Object.fromEntries(all.map((r) => [r.id, r.acts ? "" : worded(r.reason)]));
    const { reasons } = useRelevance.getState();
    if (!reasons || all.some((r) => reasons[r.id] !== next[r.id]) || Object.keys(reasons).length !== all.length) useRelevance.setState({ reasons: next });
  }
  asking = false;
}

/** Watches the tool; call once. */
export function watchRelevance() {
  let last: ToolDocument | null = null;
  const look = () => {
    const document = documentOf(useBench.getState());
    if (!document || document === last) return;
    last = document;
    wanted = document;
    void ask();
  };
  look();
  return useBench.subscribe(look);
}

/** Why a parameter does not act; empty where it does, or where that is not known yet. */
export const useIdle = (id: string): string => useRelevance((s) => s.reasons?.[id] ?? "");

/** Whether one of these parameters acts. */
export const useAnyActs = (ids: string[]): boolean => useRelevance((s) => ids.some((id) => s.reasons?.[id] === ""));

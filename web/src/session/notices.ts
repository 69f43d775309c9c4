/** What the painter is told: a problem stays until it is closed or over, what was done leaves by itself. */

import { create } from "zustand";

export interface Done {
  id: number;
  text: string;
  /** Takes back what it tells of. */
  bringBack: (() => unknown) | null;
}

/** What a change tells once it is done. */
export type Told = Pick<Done, "text"> & Partial<Pick<Done, "bringBack">>;

interface Notices {
  problem: string | null;
  done: Done[];
}

export const useNotices = create<Notices>(() => ({ problem: null, done: [] }));

/** Most that is told at once of what was done. */
const MOST = 3;
let count = 0;

/** Tells of a problem. */
export const say = (problem: string) => useNotices.setState({ problem });

/** The problem is over, or was read. */
export const hush = () => useNotices.setState({ problem: null });

/** Tells of something that was done; `bringBack` takes it back. */
export function tellDone(text: string, bringBack: Done["bringBack"] = null) {
  count++;
  const next: Done = { id: count, text, bringBack };
  useNotices.setState(({ done }) => ({ done: [...done.slice(1 - MOST), next] }));
}

export const leave = (id: number) => useNotices.setState(({ done }) => ({ done: done.filter((d) => d.id !== id) }));

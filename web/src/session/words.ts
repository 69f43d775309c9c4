/** Which word of the program is being explained, and beside what. */

import { create } from "zustand";

/** Names an entry: its kind, and its id among those of its kind. */
export type WordId = `${"parameter" | "signal" | "ground" | "station" | "word"}:${string}`;

interface Words {
  /** Null: nothing is explained; `list`: all words. */
  open: WordId | "list" | null;
  /** What was pointed at: the entry stands beside it. Null: in the middle. */
  at: DOMRect | null;
}

export const useWords = create<Words>(() => ({ open: null, at: null }));

export const explainWord = (open: WordId | "list", at: DOMRect | null = null) => useWords.setState({ open, at });
export const closeWords = () => useWords.setState({ open: null, at: null });

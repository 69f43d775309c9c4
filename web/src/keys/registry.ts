/** Every key of the program: what it does, where it acts, and what the painter has put in its place. */

import { create } from "zustand";

/** Where a key acts: on one screen, or on all. */
export type Where = "everywhere" | "Bench" | "Hand" | "Gestures" | "Grounds";

export interface Keyed {
  label: string;
  where: Where;
  /** As tinykeys writes it; "" where no key does it until the painter gives it one. */
  usual: string;
}

export const KEYED = {
  find: { label: "Find or do", where: "everywhere", usual: "$mod+k" },
  keys: { label: "Show the keys", where: "everywhere", usual: "?" },
  undo: { label: "Undo", where: "Bench", usual: "$mod+z" },
  redo: { label: "Redo", where: "Bench", usual: "$mod+Shift+z" },
  keep: { label: "Keep the draft", where: "Bench", usual: "$mod+Enter" },
  row: { label: "Open or close the free row", where: "Bench", usual: "o" },
  wipe: { label: "Wipe the free row", where: "Bench", usual: "Shift+Delete" },
  loupe: { label: "Loupe: stronger, then away", where: "Bench", usual: "l" },
  "let-go": { label: "Let go of the place that is held", where: "Bench", usual: "Escape" },
  "station-1": { label: "Station Hand", where: "Bench", usual: "1" },
  "station-2": { label: "Station Touch", where: "Bench", usual: "2" },
  "station-3": { label: "Station Tip", where: "Bench", usual: "3" },
  "station-4": { label: "Station Load", where: "Bench", usual: "4" },
  "station-5": { label: "Station Mix", where: "Bench", usual: "5" },
  "station-6": { label: "Station Ground", where: "Bench", usual: "6" },
  "station-7": { label: "Station Relief", where: "Bench", usual: "7" },
  "hand-undo": { label: "Undo", where: "Hand", usual: "$mod+z" },
  "hand-redo": { label: "Redo", where: "Hand", usual: "$mod+Shift+z" },
  "gestures-undo": { label: "Undo", where: "Gestures", usual: "$mod+z" },
  "gestures-redo": { label: "Redo", where: "Gestures", usual: "$mod+Shift+z" },
  "grounds-undo": { label: "Undo", where: "Grounds", usual: "$mod+z" },
  "grounds-redo": { label: "Redo", where: "Grounds", usual: "$mod+Shift+z" },
} satisfies Record<string, Keyed>;

export type KeyId = keyof typeof KEYED;
export const KEY_IDS = Object.keys(KEYED) as KeyId[];

const MINE = "saltmarsh.keys";
const BARE = "saltmarsh.bare-keys";

function read(): Partial<Record<KeyId, string>> {
  try {
    const mine = JSON.parse(localStorage.getItem(MINE) ?? "{}") as Record<string, unknown>;
    return Object.fromEntries(Object.entries(mine).filter(([id, key]) => id in KEYED && typeof key === "string"));
  } catch {
    // What is no list of keys is none.
    return {};
  }
}

interface Keys {
  mine: Partial<Record<KeyId, string>>;
  /** Keys without Ctrl, Alt or Shift act (WCAG 2.2, success criterion 2.1.4). */
  bare: boolean;
  /** The list of keys is open. */
  shown: boolean;
}

export const useKeyTable = create<Keys>(() => ({ mine: read(), bare: localStorage.getItem(BARE) !== "off", shown: false }));

/** The key of something; "" where it has none. */
export const keyOf = ({ mine }: Pick<Keys, "mine">, id: KeyId): string => mine[id] ?? KEYED[id].usual;

/** Whether a key is a letter, digit or sign alone: what speech or a slip may type (Escape and its like are no such keys). */
export const isBare = (key: string) => key.length === 1;

/** Whether both act at one place. */
const together = (a: Where, b: Where) => a === b || a === "everywhere" || b === "everywhere";

/** What else a key would do at the same place. */
export function takenBy(table: Pick<Keys, "mine">, id: KeyId, key: string): KeyId | null {
  const same = (other: KeyId) => other !== id && keyOf(table, other).toLowerCase() === key.toLowerCase();
  return KEY_IDS.find((other) => same(other) && together(KEYED[other].where, KEYED[id].where)) ?? null;
}

/** Puts a key in another's place; "" takes it off. */
export function putKey(id: KeyId, key: string) {
  useKeyTable.setState(({ mine }) => {
    const rest = Object.fromEntries(Object.entries(mine).filter(([other]) => other !== id)) as Keys["mine"];
    const next = key === KEYED[id].usual ? rest : { ...rest, [id]: key };
    localStorage.setItem(MINE, JSON.stringify(next));
    return { mine: next };
  });
}

export function putAllBack() {
  localStorage.removeItem(MINE);
  useKeyTable.setState({ mine: {} });
}

export function letBare(bare: boolean) {
  localStorage.setItem(BARE, bare ? "on" : "off");
  useKeyTable.setState({ bare });
}

const ALONE = ["Control", "Shift", "Alt", "Meta", "AltGraph", "Dead", "Process", "Unidentified"];

/** A pressed key as it is written; nothing for one that only goes with others. */
export function written(e: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey">): string | null {
  if (ALONE.includes(e.key)) return null;
  const letter = /^[a-z]$/i.test(e.key);
  const key = e.key === " " ? "Space" : letter ? e.key.toLowerCase() : e.key;
  // Shift makes a sign another sign: it is part of it.
  const shift = e.shiftKey && (letter || e.key.length > 1);
  return [e.ctrlKey || e.metaKey ? "$mod" : "", e.altKey ? "Alt" : "", shift ? "Shift" : "", key].filter(Boolean).join("+");
}

const WORDS: Record<string, string> = { $mod: "Ctrl", Delete: "Del", Escape: "Esc", ArrowUp: "↑", ArrowDown: "↓", ArrowLeft: "←", ArrowRight: "→" };

/** How a key is shown. */
export const shownKey = (key: string) =>
  key === "+" ? "+" : key.split("+").map((part) => WORDS[part] ?? (part.length === 1 ? part.toUpperCase() : part)).join(" ");

/** How the key of something is shown, where it acts. */
export const useShownKey = (id: KeyId): string =>
  useKeyTable((t) => {
    const key = keyOf(t, id);
    return isBare(key) && !t.bare ? "" : shownKey(key);
  });

/** Binds keys to what they do, where nothing else has the keyboard. */

import { useEffect, useRef } from "react";
import { tinykeys } from "tinykeys";
import { isBare, keyOf, useKeyTable, type KeyId } from "./registry";

/** What has the keyboard to itself: lists, popovers, dialogs, text. */
const OWNS = "[role=listbox], [role=menu], [role=dialog], [data-radix-popper-content-wrapper]";
/** What opens a list takes letters for its rows, also while it is closed; what is held down with Ctrl or Alt it leaves alone. */
const OPENS = "[role=combobox]";
const isChord = (key: string) => /(\$mod|Alt)\+/.test(key);

/** Whether a key is meant for what has the focus. */
export function isMeantFor(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.closest(OWNS) || target.isContentEditable || target instanceof HTMLTextAreaElement) return true;
  if (target.closest(OPENS)) return !isChord(key);
  if (!(target instanceof HTMLInputElement) || target.type === "range" || target.type === "checkbox") return false;
  // In a number field whose number is taken nothing is typed: keys that cannot be part of a number go on.
  return isBare(key) || target.dataset.taken === undefined;
}

/** `doing` may change from drawing to drawing. */
export function useKeys(doing: Partial<Record<KeyId, () => unknown>>) {
  const { mine, bare } = useKeyTable();
  const latest = useRef(doing);
  useEffect(() => {
    latest.current = doing;
  });
  const ids = Object.keys(doing).join();
  useEffect(() => {
    const bound = (ids.split(",") as KeyId[])
      .map((id) => [id, keyOf({ mine }, id)] as const)
      .filter(([, key]) => key !== "" && (bare || !isBare(key)))
      .flatMap(([id, key]) => {
        const press = (e: KeyboardEvent) => {
          if (isMeantFor(e.target, key) || document.querySelector("[role=dialog]")) return;
          e.preventDefault();
          latest.current[id]?.();
        };
        // A sign may need Shift on this keyboard.
        return isBare(key) && !/^[a-z0-9]$/i.test(key) ? [[key, press], [`Shift+${key}`, press]] : [[key, press]];
      });
    return tinykeys(window, Object.fromEntries(bound));
  }, [ids, mine, bare]);
}

/** Keys that work anywhere on the Bench, except while something is typed, and the one that works everywhere. */

import { useEffect } from "react";
import { STATIONS } from "../model/tool";
import { keep } from "../session/saving";
import { redo, undo, useBench, wipePad } from "../session/store";

/** Something is being typed; a number field whose number is taken is not typed in. */
const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || (target instanceof HTMLInputElement && target.type !== "range" && target.dataset.taken === undefined));

export function useKeys() {
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      const held = e.ctrlKey || e.metaKey;
      const key = e.key.toLowerCase();
      const field = e.target instanceof HTMLInputElement && e.target.type !== "range";
      // In a number field only keys that cannot be part of a number.
      if (typing(e.target) || (field && !held) || useBench.getState().palette || useBench.getState().naming) return;
      if (held && key === "z") {
        e.preventDefault();
        if (e.shiftKey) redo();
        else undo();
      } else if (held && key === "enter") {
        e.preventDefault();
        void keep();
      } else if (held || e.altKey) {
        return;
      } else if (key === "o") useBench.setState((s) => ({ padOpen: !s.padOpen }));
      else if (key === "w") wipePad();
      else if (/^[1-7]$/.test(key)) {
        const station = STATIONS[Number(key) - 1];
        if (station) useBench.setState({ station: station.id });
      }
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}

export function usePaletteKey() {
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== "k") return;
      e.preventDefault();
      useBench.setState((s) => ({ palette: !s.palette }));
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}

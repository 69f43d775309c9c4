/** What the painter chose before, as this browser keeps it. */

export const UNDERS = "saltmarsh.unders";

export function readUnders(): Record<string, string> {
  try {
    return JSON.parse(localStorage.getItem(UNDERS) ?? "{}") as Record<string, string>;
  } catch {
    return {};
  }
}

export const FINGERS = "saltmarsh.fingers";
export const PEN_SEEN = "saltmarsh.pen-seen";
export const OTHER_END = "saltmarsh.other-end";

export function readFingers(): boolean | null {
  const chosen = localStorage.getItem(FINGERS);
  return chosen === null ? null : chosen === "on";
}

export const THEME = "saltmarsh.theme";

/** The theme that was chosen, else the system's. */
export function readTheme(): "light" | "dark" {
  const chosen = localStorage.getItem(THEME);
  const dark = chosen === null ? window.matchMedia("(prefers-color-scheme: dark)").matches : chosen === "dark";
  return dark ? "dark" : "light";
}

export const LARGE_BUTTONS = "saltmarsh.large-buttons";

/** Whether what is used between strokes is large: once a pen was seen, unless the painter chose otherwise. */
export function readLargeButtons(): boolean {
  const chosen = localStorage.getItem(LARGE_BUTTONS);
  return chosen === null ? readPenSeen() : chosen === "on";
}

export const readPenSeen = () => localStorage.getItem(PEN_SEEN) !== null;

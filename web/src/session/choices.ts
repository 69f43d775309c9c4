/** What the painter chooses once and finds again: what strips lie on, how sheets are looked at, what draws, the theme. */

import type { View } from "../generated/core";
import type { Before } from "../engine/types";
import type { MediumDeclared, ToolDocument } from "../model/tool";
import { FINGERS, OTHER_END, PEN_SEEN, THEME, UNDERS } from "./stored";
import { placeForTool } from "./putTool";
import { useBench, type BenchState } from "./store";

const VIEW = "saltmarsh.view";

/** Takes the view that was chosen last, of those fields that the core knows. */
export function takeView(usual: View) {
  let chosen: Partial<View> = {};
  try {
    chosen = JSON.parse(localStorage.getItem(VIEW) ?? "{}") as Partial<View>;
  } catch {
    // What an older program stored is no view.
  }
  const known = Object.fromEntries(Object.entries(chosen).filter(([field]) => field in usual));
  useBench.setState({ view: { ...usual, ...known } });
}

const kindOf = (document: ToolDocument) => `${document.medium}:${document.action}`;
/** Chosen instead of what media declare: strokes of another tool. */
export const STROKES = "strokes of";
/** What was chosen for the strips of a tool to lie on; null for what its medium shows it on first. */
export const chosenUnder = (s: BenchState, document: ToolDocument): string | null => s.unders[kindOf(document)] ?? null;
/** What they lie on: where those strokes are not known yet, what its medium shows it on first. */
export function underOf(s: BenchState, document: ToolDocument): string | Before | null {
  const chosen = chosenUnder(s, document);
  return chosen === STROKES ? s.before : chosen;
}

/** Forgets choices that an older program stored and these media do not declare. */
export function keepDeclaredUnders(media: MediumDeclared[]) {
  const known = media.flatMap((m) => m.actions.flatMap((a) => a.unders.map((u) => `${m.medium}:${a.action} ${u.id}`)));
  useBench.setState((s) => ({ unders: Object.fromEntries(Object.entries(s.unders).filter(([kind, id]) => id === STROKES || known.includes(`${kind} ${id}`))) }));
}

/** Chooses what the strips of tools of this kind lie on. */
export function lieOn(document: ToolDocument, under: string) {
  const unders = { ...useBench.getState().unders, [kindOf(document)]: under };
  localStorage.setItem(UNDERS, JSON.stringify(unders));
  useBench.setState({ unders });
}

/** Looks at sheets so from now on. */
export function lookAt(view: View) {
  localStorage.setItem(VIEW, JSON.stringify(view));
  useBench.setState({ view });
}

/** Whether a touch draws: once a pen was seen it is a palm, unless the painter says otherwise. */
export const fingersDraw = (s: BenchState) => s.fingers ?? !s.penSeen;

export function letFingersDraw(fingers: boolean) {
  localStorage.setItem(FINGERS, fingers ? "on" : "off");
  useBench.setState({ fingers });
}

export function seePen() {
  if (useBench.getState().penSeen) return;
  localStorage.setItem(PEN_SEEN, "yes");
  useBench.setState({ penSeen: true });
}

const otherEnd = placeForTool(OTHER_END, (tool) => useBench.setState({ otherEnd: tool }));
/** Puts a tool on the pen's other end, or takes it off; and what was put there before. */
export const putOnOtherEnd = otherEnd.place;
export const takeOtherEnd = otherEnd.takeUp;

export function setTheme(theme: "light" | "dark") {
  localStorage.setItem(THEME, theme);
  showTheme(theme);
}

/** Shows a theme without choosing it. */
export function showTheme(theme: "light" | "dark") {
  document.documentElement.dataset.theme = theme;
  useBench.setState({ theme });
}

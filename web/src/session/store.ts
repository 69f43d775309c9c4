/** What the Bench is showing and editing. Server state lives in `saving.ts`'s hold on the tool; nothing is kept twice. */

import { create } from "zustand";
import type { Tool } from "../api/client";
import { PLAIN_HAND, type Hand } from "../model/hand";
import type { Held, View } from "../generated/core";
import type { Before, Between, Dab } from "../engine/types";
import type { MediumDeclared, Station, ToolDocument } from "../model/tool";

/** A stroke on the free row: packed samples, mm from the row's corner, and the tool that drew it where that was not the draft. */
export interface PadStroke {
  samples: number[];
  by?: ToolDocument;
}

/** What undo goes back to. */
export interface Snapshot {
  document: ToolDocument;
  pad: PadStroke[];
  /** What was done on the free row between strokes, in order: before the stroke of which number. The tool begins clean and sharp. */
  between: { at: number; what: Between }[];
}

export type Saving =
  | { state: "saved"; at: number }
  | { state: "saving" }
  /** Server or database away: kept in this browser, tried again. */
  | { state: "away"; message: string }
  /** Somebody else saved or kept this tool. */
  | { state: "conflict"; message: string }
  | { state: "refused"; message: string };

/** Signals of the pen or its stand-in as they are now. */
export interface Live {
  pressure: number;
  tiltX: number;
  tiltY: number;
  twist: number;
  speed: number;
  kind: "pen" | "stand-in";
}

/** What stands in for a pen's missing channels. */
export interface StandIn {
  pressure: number;
  tilt: number;
  lean: number;
  barrel: number;
  /** What the hand's speed does to the force. */
  bySpeed: "nothing" | "lighter" | "firmer";
  /** The force comes and goes over this much of the way, mm. */
  taperIn: number;
  taperOut: number;
}

interface BenchState {
  /** The stylus in front of every tool. */
  hand: Hand;
  /** Whether the painter's own stylus was looked for. */
  handTaken: boolean;
  tool: Tool | null;
  /** Draft version the server last gave; 0 where it has none. */
  seen: number;
  now: Snapshot | null;
  past: Snapshot[];
  future: Snapshot[];
  /** Document while a control is dragged; becomes a step of history when let go. */
  dragged: ToolDocument | null;
  saving: Saving;
  station: Station;
  response: string | null;
  gesture: string | null;
  /** Another tool that the draft is run beside, in the kept version's place. */
  against: { id: string; name: string; document: ToolDocument } | null;
  /** What the place under the cursor is compared with: the kept tool there, or a pinned dab. */
  beside: "kept" | { dab: Dab; name: string } | null;
  /** Cursor along the selected stroke, mm; a click holds it there. */
  cursor: number;
  cursorHeld: boolean;
  /** The row that is to be looked at: it comes into sight, and has the focus. */
  goTo: string | null;
  live: Live | null;
  standIn: StandIn;
  /** Whether fingers draw; null: until a pen was seen. */
  fingers: boolean | null;
  /** A pen was seen here, in this browser. */
  penSeen: boolean;
  /** The tool on the pen's other end. */
  otherEnd: { id: string; name: string; document: ToolDocument } | null;
  padOpen: boolean;
  /** What the tool on the free row holds across its tip, from left to right; nothing for those that have no store. */
  held: Held[];
  /** What the strips lie on, chosen by medium and action. */
  unders: Record<string, string>;
  /** The strokes that strips lie on where that is chosen; null until they are known. */
  before: Before | null;
  /** How sheets are looked at; null until the core has said what is usual. */
  view: View | null;
  /** What is written to the version that is kept next. */
  note: string;
  /** The dialog that names a new tool is open; and the one about this tool. */
  naming: boolean;
  about: boolean;
  palette: boolean;
  theme: "light" | "dark";
}

const MOST_STEPS = 300;

const UNDERS = "saltmarsh.unders";

function readUnders(): Record<string, string> {
  try {
    return JSON.parse(localStorage.getItem(UNDERS) ?? "{}") as Record<string, string>;
  } catch {
    return {};
  }
}

const FINGERS = "saltmarsh.fingers";
const PEN_SEEN = "saltmarsh.pen-seen";
const OTHER_END = "saltmarsh.other-end";

function readFingers(): boolean | null {
  const chosen = localStorage.getItem(FINGERS);
  return chosen === null ? null : chosen === "on";
}

const THEME = "saltmarsh.theme";

/** The theme that was chosen, else the system's. */
function readTheme(): "light" | "dark" {
  const chosen = localStorage.getItem(THEME);
  const dark = chosen === null ? window.matchMedia("(prefers-color-scheme: dark)").matches : chosen === "dark";
  return dark ? "dark" : "light";
}

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

export const useBench = create<BenchState>(() => ({
  hand: PLAIN_HAND,
  handTaken: false,
  tool: null,
  seen: 0,
  now: null,
  past: [],
  future: [],
  dragged: null,
  saving: { state: "saved", at: Date.now() },
  station: "touch",
  response: null,
  gesture: null,
  against: null,
  beside: null,
  cursor: 30,
  cursorHeld: false,
  goTo: null,
  live: null,
  standIn: { pressure: 0.35, tilt: 35, lean: 60, barrel: 0, bySpeed: "nothing", taperIn: 0, taperOut: 0 },
  fingers: readFingers(),
  penSeen: localStorage.getItem(PEN_SEEN) !== null,
  otherEnd: null,
  padOpen: false,
  held: [],
  unders: readUnders(),
  before: null,
  view: null,
  note: "",
  naming: false,
  about: false,
  palette: false,
  theme: readTheme(),
}));

const set = useBench.setState;
const get = useBench.getState;

/** The document on show: dragged, else drafted. */
export const documentOf = (s: BenchState) => s.dragged ?? s.now?.document ?? null;
export const keptOf = (s: BenchState) => s.tool?.kept.document ?? null;
/** What the draft is run beside: the kept version, or another tool. */
export const besideOf = (s: BenchState) => s.against?.document ?? keptOf(s);
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
  set((s) => ({ unders: Object.fromEntries(Object.entries(s.unders).filter(([kind, id]) => id === STROKES || known.includes(`${kind} ${id}`))) }));
}

/** Chooses what the strips of tools of this kind lie on. */
export function lieOn(document: ToolDocument, under: string) {
  const unders = { ...get().unders, [kindOf(document)]: under };
  localStorage.setItem(UNDERS, JSON.stringify(unders));
  set({ unders });
}

export const useDocument = () => useBench(documentOf);
export const useKept = () => useBench(keptOf);

/** Opens a tool with the work that belongs to it. */
export function open(tool: Tool, seen: number, snapshot: Snapshot, steps: Pick<BenchState, "past" | "future"> = { past: [], future: [] }) {
  const first = snapshot.document.responses[0]?.id ?? null;
  const force = snapshot.document.responses.find((r) => r.quality === "force")?.id ?? first;
  set({ tool, seen, now: snapshot, ...steps, dragged: null, note: "", response: force, padOpen: false, against: null, beside: null });
}

/** Shows a change while a control is dragged. */
export function drag(document: ToolDocument) {
  set({ dragged: document });
}

/** Makes a change a step of history. */
export function commit(change: Partial<Snapshot>) {
  const { now, past } = get();
  if (!now) return;
  set({ now: { ...now, ...change }, past: [...past.slice(-MOST_STEPS), now], future: [], dragged: null });
}

/** Ends a drag where it is. */
export function letGo() {
  const { dragged, now } = get();
  if (!dragged) return;
  if (dragged === now?.document) set({ dragged: null });
  else commit({ document: dragged });
}

/** Changes the document in one step. */
export function edit(change: (document: ToolDocument) => ToolDocument) {
  const { now } = get();
  if (!now) return;
  const document = change(now.document);
  if (document !== now.document) commit({ document });
}

export function undo() {
  const { past, now, future } = get();
  const before = past.at(-1);
  if (!before || !now) return;
  set({ past: past.slice(0, -1), now: before, future: [now, ...future], dragged: null });
}

export function redo() {
  const { past, now, future } = get();
  const [after, ...rest] = future;
  if (!after || !now) return;
  set({ past: [...past, now], now: after, future: rest, dragged: null });
}

/** Goes to a step: −1 the last before now, 1 the first that was taken back. */
export function goToStep(by: number) {
  const { past, now, future } = get();
  const all = [...past, ...(now ? [now] : []), ...future];
  const at = past.length + by;
  const there = all[at];
  if (there) set({ past: all.slice(0, at), now: there, future: all.slice(at + 1), dragged: null });
}

export function wipePad() {
  if (get().now?.pad.length) commit({ pad: [], between: [] });
}

/** Does something before the next stroke on the free row. */
export function doBetween(what: Between) {
  const { now } = get();
  if (now) commit({ between: [...now.between, { at: now.pad.length, what }] });
}

/** Looks at sheets so from now on. */
export function lookAt(view: View) {
  localStorage.setItem(VIEW, JSON.stringify(view));
  set({ view });
}

/** Whether a touch draws: once a pen was seen it is a palm, unless the painter says otherwise. */
export const fingersDraw = (s: BenchState) => s.fingers ?? !s.penSeen;

export function letFingersDraw(fingers: boolean) {
  localStorage.setItem(FINGERS, fingers ? "on" : "off");
  set({ fingers });
}

export function seePen() {
  if (get().penSeen) return;
  localStorage.setItem(PEN_SEEN, "yes");
  set({ penSeen: true });
}

/** Puts a tool on the pen's other end, or takes it off. */
export function putOnOtherEnd(tool: Tool | null) {
  if (tool) localStorage.setItem(OTHER_END, tool.id);
  else localStorage.removeItem(OTHER_END);
  set({ otherEnd: tool && { id: tool.id, name: tool.name, document: tool.kept.document } });
}

/** The tool that was put there before, as it is kept now. */
export function takeOtherEnd(tools: Tool[]) {
  const id = localStorage.getItem(OTHER_END);
  if (id) putOnOtherEnd(tools.find((t) => t.id === id) ?? null);
}

export function setTheme(theme: "light" | "dark") {
  localStorage.setItem(THEME, theme);
  showTheme(theme);
}

/** Shows a theme without choosing it. */
export function showTheme(theme: "light" | "dark") {
  document.documentElement.dataset.theme = theme;
  set({ theme });
}

/** A number that a control may move to, kept within limits. */
export const within = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

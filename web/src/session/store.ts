/** What the Bench is showing and editing. Server state lives in `saving.ts`'s hold on the tool; nothing is kept twice. */

import { create } from "zustand";
import type { Tool } from "../api/client";
import { moved, stepped } from "../model/history";
import { PLAIN_HAND, type Hand } from "../model/hand";
import type { Held, View } from "../generated/core";
import type { Before, Between, Dab, StrokeClock } from "../engine/types";
import type { PutTool } from "./putTool";
import { readFingers, readPenSeen, readTheme, readUnders } from "./stored";
import type { Station, ToolDocument } from "../model/tool";

/** A stroke on the free row: packed samples, mm from the row's corner, the tool that drew it where that was not the draft, and how time went with it where the row could not keep up with the stroke. */
export interface PadStroke {
  samples: number[];
  by?: ToolDocument;
  clock?: StrokeClock;
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

export interface BenchState {
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
  otherEnd: PutTool | null;
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
  penSeen: readPenSeen(),
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
  const { now, past, future } = get();
  if (now) set({ ...stepped({ past, now, future }, { ...now, ...change }, MOST_STEPS), dragged: null });
}

/** Ends a drag where it is. */
export function letGo() {
  const { dragged, now } = get();
  if (!dragged) return;
  // Dragged and put back where it was, it is no step.
  if (JSON.stringify(dragged) === JSON.stringify(now?.document)) set({ dragged: null });
  else commit({ document: dragged });
}

/** Changes the document in one step. */
export function edit(change: (document: ToolDocument) => ToolDocument) {
  const { now } = get();
  if (!now) return;
  const document = change(now.document);
  if (document !== now.document) commit({ document });
}

/** Goes so many steps from now: −1 to the last before, 1 to the first that was taken back. */
export function goToStep(by: number) {
  const { past, now, future } = get();
  const there = now && moved({ past, now, future }, by);
  if (there) set({ ...there, dragged: null });
}

export const undo = () => goToStep(-1);
export const redo = () => goToStep(1);

export function wipePad() {
  if (get().now?.pad.length) commit({ pad: [], between: [] });
}

/** Does something, one after the other, before the next stroke on the free row. */
export function doBetween(done: Between[]) {
  const { now } = get();
  if (now) commit({ between: [...now.between, ...done.map((what) => ({ at: now.pad.length, what }))] });
}

/** A number that a control may move to, kept within limits. */
export const within = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

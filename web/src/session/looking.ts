/** How the painter looks at the proof sheet: size of the rows, loupe, and the tool pinned beside the draft. Kept in this browser. */

import { create } from "zustand";
import type { Tool } from "../api/client";
import type { Column } from "../engine/types";
import type { ToolDocument } from "../model/tool";
import { LARGE_BUTTONS, readLargeButtons } from "./stored";
import type { RowSize } from "./sheetSize";

export const ROW_ZOOMS = [1, 2, 4] as const;
export type RowZoom = (typeof ROW_ZOOMS)[number];

export const LOUPES = [4, 8, 16] as const;
export type Loupe = (typeof LOUPES)[number];

/** Where the pointer is on a strip or on the free row. */
export interface Spot {
  /** A column's strip, or the free row. */
  on: { column: Column; id: string } | "row";
  /** The canvas that shows it, and mm of one of its CSS pixels. */
  canvas: HTMLCanvasElement;
  mmPerPx: number;
  /** On it, mm from its corner; and in the window, CSS pixels. */
  x: number;
  y: number;
  clientX: number;
  clientY: number;
}

interface Looking {
  rows: RowSize;
  /** What is used between strokes is as large as a pen needs it. Nothing moves under a stroke: what a pen's first stroke changes here shows at the next visit. */
  forPen: boolean;
  /** CSS pixels of a millimetre of this screen; measured with a card, else as CSS has it. */
  pxPerMm: number;
  measured: boolean;
  /** The opened free row shows its sheet so many times as large, laid as finely. */
  rowZoom: RowZoom;
  /** How many times the loupe enlarges; null: it is put away. */
  loupe: Loupe | null;
  spot: Spot | null;
  /** A tool in a third column. */
  third: { id: string; name: string; document: ToolDocument } | null;
  /** Open: the dialogs that measure the screen, choose the third column, and save pictures. */
  open: "measure" | "third" | "save" | null;
}

/** A CSS millimetre: 96 pixels an inch (CSS Values and Units 3, section 6.2). */
const CSS_PX_PER_MM = 96 / 25.4;
const ROWS = "saltmarsh.rows";
const PITCH = "saltmarsh.px-per-mm";
const THIRD = "saltmarsh.third";

/** Screens from coarse to fine. */
export const LEAST_PITCH = 2;
export const MOST_PITCH = 12;

function readRows(): RowSize {
  const chosen = Number(localStorage.getItem(ROWS));
  return chosen === 1 || chosen === 2 || chosen === 3 ? chosen : "fit";
}

function readPitch(): number | null {
  const pitch = Number(localStorage.getItem(PITCH));
  return pitch >= LEAST_PITCH && pitch <= MOST_PITCH ? pitch : null;
}

export const useLooking = create<Looking>(() => ({
  rows: readRows(),
  forPen: readLargeButtons(),
  pxPerMm: readPitch() ?? CSS_PX_PER_MM,
  measured: readPitch() !== null,
  rowZoom: 1,
  loupe: null,
  spot: null,
  third: null,
  open: null,
}));

export function showRows(rows: RowSize) {
  localStorage.setItem(ROWS, String(rows));
  useLooking.setState({ rows });
}

export function measureScreen(pxPerMm: number) {
  localStorage.setItem(PITCH, String(pxPerMm));
  useLooking.setState({ pxPerMm, measured: true });
}

export const takeLoupe = (loupe: Loupe | null) => useLooking.setState({ loupe, ...(loupe === null && { spot: null }) });

/** Makes what is used between strokes large, or as small as it can be. */
export function largeButtons(forPen: boolean) {
  localStorage.setItem(LARGE_BUTTONS, forPen ? "on" : "off");
  document.documentElement.dataset.pen = forPen ? "seen" : "";
  useLooking.setState({ forPen });
}

/** The next stronger loupe, then none. */
export function nextLoupe() {
  const { loupe } = useLooking.getState();
  takeLoupe(loupe === null ? LOUPES[0] : (LOUPES[LOUPES.indexOf(loupe) + 1] ?? null));
}

/** Pins a tool beside the draft, as it is kept; null takes the column away. */
export function pinThird(tool: Tool | null) {
  if (tool) localStorage.setItem(THIRD, tool.id);
  else localStorage.removeItem(THIRD);
  useLooking.setState({ third: tool && { id: tool.id, name: tool.name, document: tool.kept.document } });
}

/** The tool that was pinned before, as it is kept now. */
export function takeThird(tools: Tool[]) {
  const id = localStorage.getItem(THIRD);
  if (id) pinThird(tools.find((t) => t.id === id) ?? null);
}

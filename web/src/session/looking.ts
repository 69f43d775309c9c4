/** How the painter looks at the proof sheet: size of the rows, loupe, and the tool pinned beside the draft. Kept in this browser. */

import { create } from "zustand";
import type { Column } from "../engine/types";
import { placeForTool, type PutTool } from "./putTool";
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
  /** How much of the sheet the free row shows, mm. */
  rowMm: { width: number; height: number };
  /** The opened free row shows its sheet so many times as large, laid as finely. */
  rowZoom: RowZoom;
  /** How many times the loupe enlarges; null: it is put away. */
  loupe: Loupe | null;
  spot: Spot | null;
  /** A tool in a third column. */
  third: PutTool | null;
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
  rowMm: { width: 0, height: 0 },
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

const third = placeForTool(THIRD, (tool) => useLooking.setState({ third: tool }));
/** Pins a tool beside the draft, as it is kept, or takes the column away; and what was pinned before. */
export const pinThird = third.place;
export const takeThird = third.takeUp;

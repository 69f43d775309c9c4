/** Strips as they come from the engine, and which column is being laid. */

import { create } from "zustand";
import { strokeOfRow, type Column, type Strip } from "../engine/types";

interface ProofState {
  /** Counts whole runs of a column: the traces are asked anew when it goes up. */
  runs: Record<Column, number>;
  /** Gestures that would leave their strip show so many times as much of the sheet. */
  fits: Record<string, number>;
  /** Counts how often the free row was laid or drawn on. */
  rowRuns: number;
  /** ms from the last change to the whole draft column, for the status line and the benchmark. */
  lastRunMs: number | null;
  /** Columns with strips that still dry. */
  drying: Partial<Record<Column, boolean>>;
  /** Columns that are being laid. */
  busy: Record<Column, boolean>;
  /** Strips of the draft that lie on paper which had to be made first, of how many; null: the paper is there. */
  making: { made: number; of: number } | null;
}

export const useProof = create<ProofState>(() => ({ runs: { kept: 0, draft: 0, third: 0, before: 0, after: 0 }, fits: {}, rowRuns: 0, lastRunMs: null, drying: {}, busy: { kept: true, draft: true, third: false, before: false, after: false }, making: null }));

const strips = new Map<string, Strip>();
/** Where each strip is shown: in its row, and where it is watched while the rows are out of sight. */
const canvases = new Map<string, Set<HTMLCanvasElement>>();

const paint = (canvas: HTMLCanvasElement, strip: Strip) => {
  if (canvas.width !== strip.width) canvas.width = strip.width;
  if (canvas.height !== strip.height) canvas.height = strip.height;
  canvas.getContext("2d", { alpha: false })?.putImageData(new ImageData(strip.pixels, strip.width, strip.height), 0, 0);
};

/** Strips come faster than they are worth a frame each: they wait this long for each other, ms. */
const TOGETHER_MS = 60;
const waiting: Strip[] = [];
let timer: ReturnType<typeof setTimeout> | undefined;

/** Shows a strip that has come: at once, or with others. */
export function show(strip: Strip, atOnce: boolean) {
  strips.set(`${strip.column}:${strip.id}`, strip);
  const wasDrying = useProof.getState().drying[strip.column] ?? false;
  const drying = [...strips.values()].some((s) => s.column === strip.column && s.drying);
  if (wasDrying !== drying) useProof.setState((s) => ({ drying: { ...s.drying, [strip.column]: drying } }));
  if ((useProof.getState().fits[strip.id] ?? 1) !== strip.fit) useProof.setState((s) => ({ fits: { ...s.fits, [strip.id]: strip.fit } }));
  const { making } = useProof.getState();
  if (making && strip.column === "draft") useProof.setState({ making: { ...making, made: Math.min(making.of, making.made + 1) } });
  waiting.push(strip);
  // Nothing comes after the last that has dried.
  if (atOnce || (wasDrying && !drying)) flush();
  else timer ??= setTimeout(flush, TOGETHER_MS);
}

function flush() {
  clearTimeout(timer);
  timer = undefined;
  for (const strip of waiting.splice(0)) {
    canvases.get(`${strip.column}:${strip.id}`)?.forEach((canvas) => paint(canvas, strip));
  }
}

/** A canvas shows a strip from now on, until what this gives is called. */
export function mount(column: Column, id: string, canvas: HTMLCanvasElement): () => void {
  const key = `${column}:${id}`;
  const there = canvases.get(key) ?? new Set();
  canvases.set(key, there.add(canvas));
  const strip = strips.get(key);
  if (strip) paint(canvas, strip);
  return () => {
    there.delete(canvas);
    if (there.size === 0) canvases.delete(key);
  };
}

/** Tells that a column is being laid; `onNewPaper`: so many strips of it on paper that was not there yet. */
export function begun(column: Column, onNewPaper: number) {
  // Strips of before that still dried come no more.
  for (const [key, strip] of strips) if (strip.column === column) strips.set(key, { ...strip, drying: false });
  useProof.setState((s) => ({ drying: { ...s.drying, [column]: false }, busy: { ...s.busy, [column]: true }, ...(column === "draft" && { making: onNewPaper > 0 ? { made: 0, of: onNewPaper } : null }) }));
}

/** Tells that the whole of a column is there, `ms` after the change. */
export function whole(column: Column, ms: number) {
  flush();
  useProof.setState((s) => ({
    busy: { ...s.busy, [column]: false },
    runs: { ...s.runs, [column]: s.runs[column] + 1 },
    ...(column === "draft" && { lastRunMs: ms, making: null }),
  }));
}

/** Goes up when what is told of a strip, or of a stroke of the free row, may be another. */
export const useRun = (column: Column, id: string | null = null) => useProof((s) => (id !== null && strokeOfRow(id) !== null ? s.rowRuns : s.runs[column]));

/** The free row was laid, or drawn on. */
export const rowLaid = () => useProof.setState((s) => ({ rowRuns: s.rowRuns + 1 }));

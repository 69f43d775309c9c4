/** Strips as they come from the engine, and how often: the traces are asked anew when the count goes up. */

import { create } from "zustand";
import type { Column, Strip } from "../engine/types";

interface ProofState {
  /** Counts finished strips, by `column:gesture`. */
  runs: Record<string, number>;
  /** ms from the last change to the whole draft column, for the status line and the benchmark. */
  lastRunMs: number | null;
  /** Columns that are being laid. */
  busy: Record<Column, boolean>;
}

export const useProof = create<ProofState>(() => ({ runs: {}, lastRunMs: null, busy: { kept: true, draft: true } }));

const strips = new Map<string, Strip>();
const canvases = new Map<string, HTMLCanvasElement>();

const paint = (canvas: HTMLCanvasElement, strip: Strip) => {
  if (canvas.width !== strip.width) canvas.width = strip.width;
  if (canvas.height !== strip.height) canvas.height = strip.height;
  canvas.getContext("2d", { alpha: false })?.putImageData(new ImageData(strip.pixels, strip.width, strip.height), 0, 0);
};

/** Shows a strip that has come. */
export function show(strip: Strip) {
  const key = `${strip.column}:${strip.id}`;
  strips.set(key, strip);
  const canvas = canvases.get(key);
  if (canvas) paint(canvas, strip);
  useProof.setState((s) => ({ runs: { ...s.runs, [key]: (s.runs[key] ?? 0) + 1 } }));
}

/** A canvas that shows a strip from now on. */
export function mount(column: Column, id: string, canvas: HTMLCanvasElement | null) {
  const key = `${column}:${id}`;
  if (!canvas) {
    canvases.delete(key);
    return;
  }
  canvases.set(key, canvas);
  const strip = strips.get(key);
  if (strip) paint(canvas, strip);
}

export const useRun = (column: Column, id: string | null) => useProof((s) => (id ? (s.runs[`${column}:${id}`] ?? 0) : 0));

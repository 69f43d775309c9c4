/** What passes between the page and the engine's worker. Numbers come from the core; see its docs for units. */

import type { Declarations, ToolDocument } from "../model/tool";

export type Column = "kept" | "draft";

export interface Signals {
  raw_pressure: number;
  pressure: number;
  hardest_press: number;
  tilt_deg: number;
  lean_deg: number;
  barrel_deg: number;
  speed_mm_s: number;
  heading_deg: number;
  distance_mm: number;
  time_s: number;
  chance_dab: number;
  chance_stroke: number;
}

export interface Dab {
  pass: number;
  at_mm: number;
  x_mm: number;
  y_mm: number;
  signals: Signals;
  hand_gf: number;
  qualities: number[];
  factors: { response: number; input: number; share: number; output: number; of_most: number }[];
  length_mm: number;
  width_mm: number;
  angle_deg: number;
  area_mm2: number;
  load: number;
  covered: number;
  contact: number;
  full: number;
  laid_um_per_mm: number;
  film_um: number;
  travel_mm: number;
}

export interface Trace {
  length_mm: number;
  dabs: Dab[];
}

export interface Explained {
  dab: Dab;
  reason: {
    sentence: string;
    lines: { station: string; what: string; times: number; weight: number }[];
    mark: number;
  };
}

export interface GroundFigures {
  texture: { sa_um: number; sq_um: number; ssk: number; sku: number; sz_um: number };
  /** `[share, height µm]`, highest first. */
  material_ratio: [number, number][];
  /** `[load, height of the plane µm]`. */
  plane: [number, number][];
  section_um: number[];
  section_step_mm: number;
}

export interface Levels {
  usable_levels: number;
  distinct_outputs: number;
  max_step: number;
  max_step_at: number;
}

/** Whether a parameter acts in a tool, and why not. */
export interface Relevance {
  id: string;
  acts: boolean;
  reason: string;
}

/** The device and its calibration, as the core's `Hand`. */
export interface Hand {
  calibration: { curve: [number, number][] };
  profile: { levels: number; first_gf: number; full_gf: number; exponent: number };
}

export const PLAIN_HAND: Hand = {
  calibration: { curve: [[0, 0], [1, 1]] },
  profile: { levels: 8192, first_gf: 4, full_gf: 400, exponent: 1 },
};

/** Packed samples: t s, x mm, y mm, pressure, tilt x °, tilt y °, twist °. */
export const PACKED = 7;

export interface ProofRow {
  id: string;
  /** Place of the row's corner on the ground, mm. */
  originY: number;
}

export interface ProofJob {
  column: Column;
  tool: ToolDocument;
  hand: Hand;
  /** Pixels of a strip, and mm of one pixel. */
  width: number;
  height: number;
  pixelMm: number;
  rows: ProofRow[];
}

export interface Strip {
  column: Column;
  id: string;
  width: number;
  height: number;
  pixels: Uint8ClampedArray<ArrayBuffer>;
}

export interface PadSize {
  width: number;
  height: number;
  pixelMm: number;
  originY: number;
}

/** The engine's face to the page. */
export interface EngineApi {
  start(): Promise<Declarations>;
  checkTool(document: string): string;
  relevance(tool: ToolDocument): Relevance[];
  curve(points: [number, number][], count: number): Float64Array;
  levels(points: [number, number][], levels: number): Levels;
  ground(tool: ToolDocument): GroundFigures;
  /** Gives how long the way of its strokes is, mm. */
  readGesture(id: string, inkml: string): number;
  /** Runs a column; calls back a strip at a time. Resolves false if a newer run took its place. */
  runProof(job: ProofJob, onStrip: (strip: Strip) => void): Promise<boolean>;
  /** A `Trace` as JSON: text passes to the page faster than objects. */
  trace(column: Column, id: string): Promise<string | null>;
  explain(column: Column, id: string, atMm: number): Promise<Explained | null>;
  nearest(column: Column, id: string, xMm: number, yMm: number): Promise<number | null>;
  padCanvas(canvas: OffscreenCanvas): void;
  /** Lays the pad anew: its size, its strokes, the tool. */
  padRun(tool: ToolDocument, hand: Hand, size: PadSize, strokes: Float64Array[]): Promise<boolean>;
  padBegin(tool: ToolDocument, hand: Hand): void;
  /** `madeAt`: when the newest sample was reported, ms since the epoch. */
  padExtend(samples: Float64Array, madeAt: number): void;
  padLift(): void;
  inkmlOf(samples: Float64Array): string;
}

/** What passes between the page and the engine's worker. Numbers come from the core; see its docs for units. */

import type * as Core from "../generated/core";
import type { DabTrace as Dab, Declarations, DeviceProfile as Profile, Difference, Explained, GroundFigures, Hand, Levels, Movement, Observed, Proposal, Recipe, Relevance, Tool as ToolDocument, Surroundings } from "../generated/core";

export type { DabTrace as Dab, Difference, Explained, GroundFigures, Levels, Movement, Observed, Proposal, Relevance, Signals, Trace, Warning } from "../generated/core";

/** What a gesture asked of one response; null where it is off. */
export type Exercised = Core.Exercised | null;

/** What a painter does between strokes: to the tool, or to what is wet or has dried on the sheet. */
export type Between = Core.Care | "dry" | "wet" | Wait | Rest;

/** So many minutes go by. */
export type Wait = `wait ${number}`;
/** So many steps of time went over the sheet before what was done next. */
export type Rest = `rest ${number}`;

/** How the sheet's time went with a stroke. */
export interface StrokeClock {
  /** Steps that went since the stroke before, or since what was done last. */
  waited: number;
  /** Steps that went under it: contacts since those before, and how many, again and again; null: each when it was due. */
  went: number[] | null;
}

/** Something a painter may want to change in a tool, and the tool it was seen in. */
export type Advice = Core.Advice & { of: ToolDocument };

/** Kept and draft of the Bench, and a tool that is pinned beside them; before and after calibration at the Hand screen. */
export type Column = "kept" | "draft" | "third" | "before" | "after";

/** Strokes as polylines, mm. */
export type Outline = [number, number][][];

/** What becomes of a gesture's way. */
export type Turn = { kind: "reverse" } | { kind: "scale"; by: number } | { kind: "trim"; from: number; to: number };

/** Pressures of marks, each from touching down to lifting. */
export interface Marks {
  light: number[][];
  normal: number[][];
  firm: number[][];
}

/** Names a stroke of the free row where a gesture of the proof sheet is named. */
export const rowId = (stroke: number) => `row:${stroke}`;
/** Number of the stroke of the free row; null for a gesture. */
export const strokeOfRow = (id: string): number | null => (id.startsWith("row:") ? Number(id.slice(4)) : null);

/** Packed samples: t s, x mm, y mm, pressure, tilt x °, tilt y °, twist °. */
export const PACKED = 7;

/** A hand that rests longer than this has waited no longer, s: by then a wash is dry. */
export const LONGEST_PAUSE_S = 3600;

export interface ProofRow {
  id: string;
  /** Place of the row's corner on the ground, mm. */
  originY: number;
  /** The pen that recorded the gesture, where it is known: its forces are told by it. */
  recorder: Profile | null;
}

/** Strokes that strips lie on: of another tool, along a gesture, or along each row's own. */
export interface Before {
  tool: ToolDocument;
  gesture: { id: string; inkml: string; recorder: Profile | null } | null;
}

export interface ProofJob {
  column: Column;
  /** Another column with the same strokes: its strips are these. */
  also: Column | null;
  tool: ToolDocument;
  hand: Hand;
  /** Pixels of a strip, and mm of one pixel. */
  width: number;
  height: number;
  pixelMm: number;
  rows: ProofRow[];
  /** What the strips lie on, of what the medium declares; null for what its tools are shown on first. */
  under: string | Before | null;
  /** Strips are shown so many seconds after the hand; null: once they are dry. */
  seenS: number | null;
  view: Core.View;
  /** The page needs the processors half of the time. */
  half: boolean;
}

/** A part of a strip or of the free row, in pixels of its own. */
export interface Part {
  pixelMm: number;
  /** Its corner from that of the whole, mm. */
  leftMm: number;
  topMm: number;
  /** Pixels. */
  width: number;
  height: number;
}

/** A page of pictures at true size with captions; lengths from its upper left. */
export interface PicturePage {
  title: string;
  widthMm: number;
  heightMm: number;
  /** Of every picture. */
  pixelMm: number;
  pictures: { rgba: Uint8Array<ArrayBuffer>; width: number; height: number; leftMm: number; topMm: number }[];
  /** Baselines; points; from black (0) to white (1). */
  captions: { text: string; leftMm: number; baseMm: number; sizePt: number; grey: number }[];
}

export interface Strip {
  column: Column;
  id: string;
  width: number;
  height: number;
  pixels: Uint8ClampedArray<ArrayBuffer>;
  /** Something on it still moves: it comes again as it dries. */
  drying: boolean;
  /** So many times as much of the sheet as others is in it: its gesture would leave the strip. */
  fit: number;
}

/** A stroke to be laid: packed samples, the tool that drew it where that is not the sheet's own, and how time went with it where it was drawn. */
export interface PadStroke {
  samples: Float64Array;
  by: ToolDocument | null;
  clock?: StrokeClock;
}

export interface PadSize {
  width: number;
  height: number;
  pixelMm: number;
  originY: number;
}

/** A dab to look at by itself. */
export interface TipDab {
  length_mm: number;
  width_mm: number;
  /** What of the length is the side that lies down. */
  side_mm: number;
  angle_deg: number;
  hardness: number;
  grain_depth: number;
}

/** A ground to be shown under raking light. */
export interface GroundPicture {
  ground: Recipe;
  width: number;
  height: number;
  pixelMm: number;
  /** Degrees from the right, clockwise; degrees over the sheet; how far heights are exaggerated. */
  light: { azimuth_deg: number; elevation_deg: number; depth: number };
  /** Looked at from so far, mm; 0 as it is. */
  afarMm: number;
}

/** What one tool does on a sheet. */
export interface SheetStroke {
  tool: ToolDocument;
  hand: Hand;
  /** A gesture, or a step of a technique. */
  way: { inkml: string } | { technique: string; step: number };
  shiftMm: [number, number];
  /** So long the sheet is left to itself first, s; or until all that is wet on it has dried. */
  waitS?: number;
  dryFirst?: boolean;
}

/** A sheet with a few strokes on it. */
export interface SheetJob {
  /** A newer job of the same place takes this one's place. */
  place: string;
  ground: Recipe;
  width: number;
  height: number;
  pixelMm: number;
  /** Looked at from so far, mm; 0 as it is. */
  afarMm: number;
  strokes: SheetStroke[];
  /** On bare ground, whatever the first tool is shown on. */
  bare?: boolean;
  /** What is still wet after so many seconds dries where it is; without it, it is waited for. */
  longestS?: number;
}

/** The engine's face to the page. */
export interface EngineApi {
  /** `module`: compiled once for all workers; `index`: which of them this is; `program`: the module's name, empty where that does not tell it for good. */
  start(module: WebAssembly.Module, index: number, program: string): Promise<Declarations>;
  /** Holds a lock of this name for as long as the worker lives. */
  holdLock(name: string): void;
  /** Makes a ground ready to be drawn on; what it was begun with, for the others. */
  readyGround(ground: Recipe): Promise<Uint8Array>;
  /** Brings what this worker has stored of a ground; whether there was anything. Else it waits for another's, which must be given. */
  bringGround(ground: Recipe): Promise<boolean>;
  /** Makes a tool's ground where its strips will lie, until something is asked; null: no more. Whether it is all there. */
  prepareGround(tool: ToolDocument | null): Promise<boolean>;
  /** Gives what another worker has begun a ground with; null: it has not. */
  giveGround(ground: Recipe, begun: Uint8Array | null): void;
  /** A sign of life. */
  alive(): Promise<true>;
  checkTool(document: string): string;
  relevance(tool: ToolDocument): Relevance[];
  curve(points: [number, number][], count: number): Float64Array;
  /** How a mixture with so much medium looks. */
  swatches(parts: Record<string, number>, medium: number): Core.Swatches;
  /** Levels that are left behind a calibration and a curve over a part of its output. */
  levels(calibration: [number, number][], input: [number, number], points: [number, number][], levels: number): Levels;
  ground(tool: ToolDocument): Promise<GroundFigures>;
  /** RGBA of a ground under raking light. */
  rakingLight(picture: GroundPicture): Promise<Uint8Array<ArrayBuffer>>;
  /** RGBA of a sheet with strokes; null if a newer one for the same place was asked for meanwhile. */
  sheet(job: SheetJob): Promise<Uint8Array<ArrayBuffer> | null>;
  /** Lets go of sheets that are still to be made whose place begins so. */
  dropSheets(prefix: string): void;
  /** Gives how long the way of its strokes is, mm. */
  readGesture(id: string, inkml: string): number;
  /** Runs a column; calls back a strip at a time. Resolves false if a newer run took its place. */
  /** Brings every sheet into a room, its board tilted: what is laid from now on lies there. */
  bringInto(surroundings: Surroundings): Promise<void>;
  runProof(job: ProofJob, onStrip: (strip: Strip) => void): Promise<boolean>;
  /** Shows the strips of a column as they are looked at from now on; nothing is laid anew. */
  lookProof(column: Column, view: Core.View, onStrip: (strip: Strip) => void): void;
  /** A `Trace` as JSON: text passes to the page faster than objects. */
  trace(column: Column, id: string): Promise<string | null>;
  explain(column: Column, id: string, atMm: number): Promise<Explained | null>;
  nearest(column: Column, id: string, xMm: number, yMm: number): Promise<number | null>;
  /** The whole trace as comma-separated values. */
  traceCsv(column: Column, id: string): Promise<string | null>;
  /** A section across the stroke, so long, at the dab nearest to `atMm`. */
  section(column: Column, id: string, atMm: number, lengthMm: number): Promise<Core.Section | null>;
  /** RGBA of a part of a strip as it was laid last, in pixels of its own; null where a newer part was asked for meanwhile. */
  part(column: Column, id: string, part: Part): Promise<Uint8Array<ArrayBuffer> | null>;
  /** The same of the free row, with these strokes on it. */
  padPart(tool: ToolDocument, hand: Hand, strokes: PadStroke[], between: Between[][], part: Part): Promise<Uint8Array<ArrayBuffer> | null>;
  /** Number of the stroke of the free row nearest to a place of it, and mm along it; null where none lies there, or one is drawn. */
  padNearest(xMm: number, yMm: number): [number, number] | null;
  /** A PNG that says how large its pixels are. */
  pngOf(rgba: Uint8Array, width: number, height: number, pixelMm: number): Uint8Array<ArrayBuffer>;
  pdfOf(page: PicturePage): Uint8Array<ArrayBuffer>;
  exercised(column: Column, id: string): Promise<Exercised[] | null>;
  /** `asked`: what each gesture asked of the responses. */
  advise(tool: ToolDocument, hand: Hand, asked: Exercised[][]): Core.Advice[];
  compare(medium: string, a: Dab, b: Dab): Difference[];
  padCanvas(canvas: OffscreenCanvas): void;
  /** Lays the pad anew: its size, its strokes, the tool, and what was done before each stroke and after the last. */
  padRun(tool: ToolDocument, hand: Hand, size: PadSize, strokes: PadStroke[], between: Between[][]): Promise<boolean>;
  /** `by`: the stroke is another tool's. */
  padBegin(tool: ToolDocument, hand: Hand, between: Between[], by: ToolDocument | null): void;
  /** Drops the stroke that is under way: all is as it was before it. */
  padDrop(): void;
  /** Does something between strokes at once, and shows it; gives how many steps of time went since what was done before. */
  padBetween(tool: ToolDocument, what: Between): number;
  /** A tool turned into one of another medium, and what does not carry over. */
  turnedTo(tool: ToolDocument, medium: string): Core.Turned;
  /** The tip's shape under a pen that gives `signals`; null where the medium tells none. */
  tipShape(tool: ToolDocument, hand: Hand, signals: Core.Signals): Core.TipShape | null;
  /** What the tool holds across its tip, from left to right; nothing for those that have no store. */
  padHeld(tool: ToolDocument): Core.Held[];
  /** Looks at the free row so from now on. */
  padLook(view: Core.View): void;
  /** Refused (thrown) where a report is not within its limits. `madeAt`: when the newest sample was reported, ms since the epoch. */
  padExtend(samples: Float64Array, madeAt: number): void;
  /** How fast time goes over the free row; and lets some go by at once, s. */
  padPace(pace: number): void;
  padStep(seconds: number): void;
  /** So much of the time that is due goes over the free row, 0..1: less than all where it is wide and wet. */
  padKeepsUp(): number;
  /** How time went with the stroke that lifted last; null where it went as the stroke says. */
  padClock(): StrokeClock | null;
  /** Resolves when all of the stroke is laid and shown. */
  padLift(): Promise<void>;
  /** RGBA of the free row; null where it is not laid. */
  padPicture(): { width: number; height: number; rgba: Uint8Array<ArrayBuffer> } | null;
  /** A frame of the free row (left, top, right, bottom in its pixels) as a grey PNG: white where powder takes the light. */
  padCapture(frame: [number, number, number, number]): Uint8Array<ArrayBuffer>;
  /** A byte a pixel of how hard a tip presses. */
  tipView(tool: ToolDocument, dab: TipDab, side: number, pixelMm: number): Promise<Uint8Array<ArrayBuffer>>;
  /** What a tool's image lays at its rim, 0..1. */
  hardRim(tool: ToolDocument): Promise<number>;
  inkmlOf(samples: Float64Array): string;
  /** Packed passes of InkML. */
  passesOf(inkml: string): Float64Array[];
  /** InkML of a hand that moves so; `outline` where it follows one. */
  generated(movement: Movement, outline: Outline | null, recorder: Profile): string;
  /** The outlines of an SVG drawing. Refused (thrown) where it cannot be read, or may do harm. */
  drawing(svg: string): { outline: Outline; length_mm: number };
  /** The gestures of an InkML document; those in titled groups have a name. */
  gesturesOf(inkml: string): { name: string | null; inkml: string }[];
  /** One InkML document of several gestures. */
  together(gestures: { name: string; inkml: string }[]): string;
  /** InkML of a gesture, changed. Refused (thrown) where nothing would be left, or too much. */
  turned(inkml: string, turn: Turn): string;
  /** `ends`: index of the sample after each stroke's last. */
  observe(samples: Float64Array, ends: Uint32Array, pen: boolean): Observed;
  /** Refused (thrown) where marks are missing or cannot be told apart. */
  propose(marks: Marks, profile: Profile): Proposal;
  /** gf that the hand needs for outputs 0..1; NaN where no force reaches one. */
  forcesFor(hand: Hand, outputs: number[]): Float64Array;
  readStylus(text: string): Hand;
  /** The stylus document, JSON. */
  writeStylus(hand: Hand): string;
  /** Passes that a stylus would have reported of a gesture that `recorder` recorded. */
  through(inkml: string, stylus: Profile, recorder: Profile, seed: number): Float64Array[];
}

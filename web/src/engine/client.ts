/** The page's hold on the engine: a few workers, each with a module of its own, and who does what. */

import { proxy, transfer, type Remote } from "comlink";
import type { Gesture } from "../api/client";
import { wayOf } from "../api/ways";
import { Crew, EngineLost } from "./crew";
import { Shares } from "./shares";
import moduleUrl from "./wasm/saltmarsh_browser_bg.wasm?url";
import type { Hand } from "../model/hand";
import type { ToolDocument } from "../model/tool";
import type { Recipe, Section, Signals, Surroundings, TipShape, View } from "../generated/core";
import type { Advice, Column, EngineApi, Explained, Part, ProofJob, SheetJob, Strip } from "./types";

/** More would stand idle: one gesture is worked on by one worker. */
const MOST_WORKERS = 4;

const crew = new Crew(
  Math.max(1, Math.min(navigator.hardwareConcurrency || 2, MOST_WORKERS)),
  () => new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }),
  () => WebAssembly.compileStreaming(fetch(moduleUrl)),
  // Built files are named after what they hold.
  import.meta.env.PROD ? moduleUrl : "",
);
/** Where the workers have every processor, whoever draws the page waits for them. */
export const crowded = (navigator.hardwareConcurrency || 2) <= crew.size;
const workers: Remote<EngineApi>[] = Array.from({ length: crew.size }, (_, i) => crew.at(i));
const shares = new Shares(crew.size);

/** The worker of the free row, and of every question that is not about a gesture. */
export const engine = workers[0] as Remote<Omit<EngineApi, "runProof" | "trace" | "traceCsv" | "exercised" | "explain" | "nearest" | "section" | "lookProof" | "tipShape">>;

/** The worker of pictures and figures of grounds: where there is another, not the one that draws. */
export const grounds = workers.at(-1) as Remote<Pick<EngineApi, "rakingLight" | "ground">>;

/** The tip's shape under a pen that gives `signals`; null where the medium tells none. Not asked of the worker that draws, where there is another. */
export const tipShape = (tool: ToolDocument, hand: Hand, signals: Signals): Promise<TipShape | null> => (workers.at(-1) as Remote<EngineApi>).tipShape(tool, hand, signals);

const workerOf = (id: string) => workers[shares.of(id)] as Remote<EngineApi>;

/** Starts every worker; gives what the core declares. */
export const start = () => crew.start();

let readied = "";

/** Makes a ground ready at every worker, while the page still asks for what it will lay there: one begins it for all of them. */
export function readyGround(ground: Recipe) {
  const name = JSON.stringify(ground);
  if (name === readied) return;
  readied = name;
  // The first reads the gestures meanwhile.
  const [last, others] = [workers.at(-1) as Remote<EngineApi>, workers.slice(0, -1)];
  const begun = last.readyGround(ground);
  const take = async (w: Remote<EngineApi>) => {
    if (!(await w.bringGround(ground))) await w.giveGround(ground, await begun.catch(() => null));
  };
  // Whoever lays something there is told what is wrong with it.
  [begun, ...others.map(take)].forEach((done) => void done.catch(() => undefined));
}

/** Makes a tool's ground where its strips will lie, until something else is asked; null: no more. Whether it is all there. */
export const prepareGround = async (tool: ToolDocument | null): Promise<boolean> => (await Promise.all(workers.map((w) => w.prepareGround(tool)))).every(Boolean);

let room: Surroundings | null = null;

/** Brings every sheet into a room, its board tilted. */
export async function bringInto(surroundings: Surroundings): Promise<void> {
  await Promise.all(workers.map((w) => w.bringInto(surroundings)));
  room = surroundings;
}

/** Told once a worker that was lost has been replaced: what it had laid must be laid anew. `drew`: it was the free row's. */
export const onReplaced = (listener: (drew: boolean) => void) =>
  crew.onReplaced((index) => {
    if (room) void workers[index]?.bringInto(room);
    // The new one has read no gesture yet.
    [...given.keys()].filter((id) => index === 0 || shares.of(id) === index).forEach((id) => given.delete(id));
    listener(index === 0);
  });

/** Contents that the workers have, or are being given. */
const given = new Map<string, string>();

/** The last giving of gestures, and how many are under way. */
let reading = Promise.resolve();
let unread = 0;

/** Gives gestures to the workers that will run them; those they have are not given again. Whoever runs a column next waits for it, or is told why it failed. */
export function readGestures(gestures: Gesture[]) {
  const fresh = gestures.filter((g) => given.get(g.id) !== g.content_hash);
  if (fresh.length === 0) return;
  fresh.forEach((g) => given.set(g.id, g.content_hash));
  unread++;
  const now = () => give(fresh);
  reading = reading.then(now, now).finally(() => unread--);
  reading.catch(() => undefined);
}

async function give(gestures: Gesture[]) {
  try {
    const ways = await Promise.all(gestures.map(wayOf));
    // The first worker reads them all, to tell how long their way is: that is what laying them costs.
    const lengths = await Promise.all(gestures.map((g, i) => engine.readGesture(g.id, ways[i] ?? "")));
    shares.take(gestures.map((g, i) => ({ id: g.id, weight: lengths[i] ?? 0 })));
    await Promise.all(gestures.map((g, i) => shares.of(g.id) > 0 && workerOf(g.id).readGesture(g.id, ways[i] ?? "")));
  } catch (error) {
    gestures.forEach((g) => given.delete(g.id));
    throw error;
  }
}

let running = 0;
const waiting: (() => void)[] = [];

/** Runs a column, each gesture at its worker; false if a newer run took its place. */
export async function runProof(job: ProofJob, onStrip: (strip: Strip) => void): Promise<boolean> {
  running++;
  try {
    if (unread > 0) await reading;
    const whole = await Promise.all(
      // A worker without a row of this job is told too: it may be at an older one.
      workers.map((w, i) => w.runProof({ ...job, rows: job.rows.filter((r) => shares.of(r.id) === i) }, proxy(onStrip))),
    );
    return whole.every(Boolean);
  } finally {
    running--;
    if (running === 0) waiting.splice(0).forEach((go) => go());
  }
}

/** Shows the strips of a column as they are looked at from now on. */
export async function lookProof(column: Column, view: View, onStrip: (strip: Strip) => void) {
  await Promise.all(workers.map((w) => w.lookProof(column, view, proxy(onStrip))));
}

/** Resolves when no column is being laid: questions wait until the pictures are there, or they would hold them up. */
export const quiet = (): Promise<void> => (running === 0 ? Promise.resolve() : new Promise((go) => waiting.push(go)));

/** A `Trace` as JSON. */
export async function traceOf(column: Column, id: string): Promise<string | null> {
  await quiet();
  return workerOf(id).trace(column, id);
}

export async function traceCsv(column: Column, id: string): Promise<string | null> {
  await quiet();
  return workerOf(id).traceCsv(column, id);
}

/** Advice on the draft, after what the proof gestures asked of it. */
export async function adviseOn(tool: ToolDocument, hand: Hand, ids: string[]): Promise<Advice[]> {
  await quiet();
  const asked = await Promise.all(ids.map((id) => workerOf(id).exercised("draft", id)));
  const advice = await engine.advise(tool, hand, asked.filter((a) => a !== null));
  return advice.map((a) => ({ ...a, of: tool }));
}

export async function explain(column: Column, id: string, atMm: number): Promise<Explained | null> {
  await quiet();
  return workerOf(id).explain(column, id, atMm);
}

export async function sectionOf(column: Column, id: string, atMm: number, lengthMm: number): Promise<Section | null> {
  await quiet();
  return workerOf(id).section(column, id, atMm, lengthMm);
}

/** A part of a strip in pixels of its own; null where a newer part took its place, or the strip is being laid anew. */
export async function stripPart(column: Column, id: string, part: Part): Promise<Uint8Array<ArrayBuffer> | null> {
  await quiet();
  return workerOf(id).part(column, id, part);
}

export async function nearest(column: Column, id: string, xMm: number, yMm: number): Promise<number | null> {
  await quiet();
  return workerOf(id).nearest(column, id, xMm, yMm);
}

/** RGBA of a sheet with strokes. Refused (thrown) where a newer one for the same place was asked for: that is no answer to keep. */
export async function sheetPicture(job: SheetJob): Promise<Uint8Array<ArrayBuffer>> {
  const rgba = await engine.sheet(job);
  if (!rgba) throw new Error("a newer picture took its place");
  return rgba;
}

/** `onRefused`: the core refused a report. */
export function sendSamples(samples: Float64Array<ArrayBuffer>, madeAt: number, onRefused: (error: unknown) => void) {
  engine.padExtend(transfer(samples, [samples.buffer]), madeAt).catch((error: unknown) => {
    // Of a worker that was lost: the stroke is laid anew from what was reported.
    if (!(error instanceof EngineLost)) onRefused(error);
  });
}

export function giveCanvas(canvas: OffscreenCanvas) {
  void engine.padCanvas(transfer(canvas, [canvas]));
}

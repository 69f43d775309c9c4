/** The proof sheet's strips: a surface each, re-run when the tool changes. */

import { fitOf, type Fit } from "./fit";
import { imagesFor } from "./images";
import type { Papers } from "./papers";
import { layStrip, way, type StripWork } from "./strip";
import { rest, Slices, turn } from "./turns";
import type { View } from "../generated/core";
import type { ToolDocument } from "../model/tool";
import type { Column, Part, ProofJob, ProofRow, Strip } from "./types";
import { Recording, standsAlone, type Studio, type Surface } from "./wasm/saltmarsh_browser";

/** Most pixels of a strip that parts are cut out of: painted all over, 152 bytes each of paste. */
const MOST_WHOLE = 6_000_000;

/** A stroke that nobody sees rests so long, s of the sheet's clock: what moves with time has run by then. */
const RESTED_AHEAD_S = 5;

interface Kept {
  surface: Surface;
  /** What the surface was made for. */
  key: string;
  width: number;
  height: number;
  fit: number;
}

export class Proof {
  private gestures = new Map<string, { inkml: string; passes: Float64Array[] }>();
  private surfaces = new Map<string, Kept>();
  private newest: Record<Column, number> = { kept: 0, draft: 0, third: 0, before: 0, after: 0 };
  /** What each column was laid for last, and in which of its runs. */
  private jobs: Partial<Record<Column, { job: ProofJob; run: number }>> = {};
  /** Columns whose strips are those of another. */
  private sameAs = new Map<Column, Column>();
  /** How many parts were asked for; and the strip that the last was cut out of. */
  private parts = 0;
  private large: { surface: Surface; key: string } | null = null;
  /** How often a ground was asked to be prepared; media of which strokes were laid ahead. */
  private prepared = 0;
  private warm = new Set<string>();
  private underWay = 0;
  private waiting: (() => void)[] = [];
  /** When the last run of each column has let go of its strips. */
  private over: Partial<Record<Column, Promise<boolean>>> = {};

  constructor(
    private studio: Studio,
    private papers: Papers,
  ) {}

  readGesture(id: string, inkml: string): number {
    const recording = Recording.read(inkml);
    const passes = Array.from({ length: recording.passCount }, (_, i) => recording.pass(i));
    recording.free();
    this.gestures.set(id, { inkml, passes });
    return passes.reduce((sum, pass) => sum + way(pass), 0);
  }

  /** Runs a column strip by strip; false if a newer run of it took its place. */
  async run(job: ProofJob, onStrip: (strip: Strip) => void): Promise<boolean> {
    this.underWay++;
    const run = ++this.newest[job.column];
    this.sameAs.delete(job.column);
    // What was being laid for the other alone is no longer wanted.
    const runOfAlso = job.also && ++this.newest[job.also];
    if (job.also) this.sameAs.set(job.also, job.column);
    // A run that rests has yet to notice that it is no longer wanted: until then the strips are its own.
    const before = this.over[job.column];
    const laid = Promise.resolve(before).then(() => this.lay(job, [run, runOfAlso], onStrip));
    this.over[job.column] = laid.catch(() => false);
    try {
      return await laid;
    } finally {
      this.underWay--;
      if (this.underWay === 0) this.waiting.splice(0).forEach((go) => go());
    }
  }

  /** Resolves when no column is being laid: questions about strokes, and preparations, wait until the pictures are there. */
  idle(): Promise<void> {
    return this.underWay === 0 ? Promise.resolve() : new Promise((go) => this.waiting.push(go));
  }

  /** `run`, `runOfAlso`: which of their columns' runs this is. */
  private async lay(job: ProofJob, [run, runOfAlso]: [number, number | null], onStrip: (strip: Strip) => void): Promise<boolean> {
    const { also } = job;
    const current = () => run === this.newest[job.column];
    if (!current()) return false;
    const before = typeof job.under === "object" ? job.under : null;
    await imagesFor(this.studio, JSON.stringify(job.tool), ...(before ? [JSON.stringify(before.tool)] : []));
    if (before?.gesture && this.gestures.get(before.gesture.id)?.inkml !== before.gesture.inkml) this.readGesture(before.gesture.id, before.gesture.inkml);
    const ground = JSON.stringify(job.tool.ground);
    await this.papers.bring(ground);
    // Whatever is already waiting may be a newer change.
    await turn();
    const slices = new Slices(job.half);
    const wet: [Surface, (last?: boolean) => void][] = [];
    this.jobs[job.column] = { job, run };
    if (also && runOfAlso === this.newest[also]) this.jobs[also] = { job, run };
    this.letGoOfLarge();
    for (const row of job.rows) {
      if (!current()) return false;
      const fit = this.fit(job, row.id);
      const surface = this.surface(job, row, fit);
      surface.lookAt(JSON.stringify(job.view));
      if (!(await layStrip(surface, this.work(job, row), slices, current))) return false;
      let rested = job.seenS === 0;
      const show = (last = false) => {
        rested ||= last;
        const pixels = new Uint8ClampedArray(surface.pixels(0, 0, job.width, job.height));
        onStrip({ column: job.column, id: row.id, width: job.width, height: job.height, pixels, fit: fit.times, drying: surface.busy && !rested });
      };
      show();
      if (surface.busy && !rested) wet.push([surface, show]);
      await slices.pause();
    }
    this.papers.keep(ground);
    if (current()) void this.dry(wet, job.seenS, slices, current);
    return current();
  }

  /** Lets strips dry, or rest for so long, one after the other, while questions about them are answered. */
  private async dry(wet: [Surface, (last?: boolean) => void][], seenS: number | null, slices: Slices, current: () => boolean) {
    // What the painter changes goes first.
    const pause = () => slices.pause().then(() => this.idle());
    for (const [surface, show] of wet) {
      if (!(await rest(surface, pause, current, show, seenS ?? undefined))) return;
      show(true);
    }
  }

  /**
   * Makes the ground of a tool under the rows as they were laid last, and what is `more` to make, and lays a stroke there that nobody sees,
   * of a medium's first tool one in every row, until something is asked; null: no more. Whether it is all there.
   */
  async prepare(tool: ToolDocument | null, more: (current: () => boolean) => Promise<boolean>): Promise<boolean> {
    const asked = ++this.prepared;
    const laid = this.jobs.kept ?? this.jobs.draft;
    if (!tool || !laid) return false;
    const [document, ground] = [JSON.stringify(tool), JSON.stringify(tool.ground)];
    await imagesFor(this.studio, document);
    await this.papers.bring(ground);
    const { width, height, pixelMm, rows } = laid.job;
    const current = () => asked === this.prepared && this.underWay === 0;
    for (const [number, row] of rows.entries()) {
      const { times, corner } = this.fit(laid.job, row.id);
      const surface = this.studio.surface(ground, width, height, pixelMm * times, corner[0], row.originY + corner[1]);
      let whole = false;
      // Also where a stroke is refused: the surface is nobody's then.
      try {
        for (let piece = 0; current() && !whole; piece++) {
          whole = !surface.prepareGround(document, piece);
          await turn();
        }
        if (whole && (number === 0 || !this.warm.has(tool.medium))) {
          const slices = new Slices();
          const strip = this.work({ ...laid.job, tool, under: null }, row);
          whole = (await layStrip(surface, strip, slices, current)) && (await rest(surface, () => slices.pause(), current, undefined, RESTED_AHEAD_S));
        }
      } finally {
        surface.free();
      }
      if (!whole) return false;
    }
    this.warm.add(tool.medium);
    if (!(await more(current))) return false;
    this.papers.keep(ground);
    return true;
  }

  /** How much of the sheet a row shows. */
  private fit({ width, height, pixelMm }: ProofJob, id: string): Fit {
    return fitOf(this.gestures.get(id)?.passes ?? [], { width: width * pixelMm, height: height * pixelMm });
  }

  /** What a row of a job asks for. */
  private work({ tool, hand, under }: ProofJob, row: ProofRow): StripWork {
    const passesOf = (id: string) => this.gestures.get(id)?.passes ?? [];
    const strip = { tool: JSON.stringify(tool), passes: passesOf(row.id), recorder: row.recorder, hand, originY: row.originY };
    if (typeof under !== "object" || !under) return { ...strip, under };
    const along = under.gesture ?? row;
    // By what a gesture holds: it may be changed and keep its id.
    const name = JSON.stringify([under.tool, this.gestures.get(along.id)?.inkml, hand, along.recorder]);
    return { ...strip, under: { tool: JSON.stringify(under.tool), passes: passesOf(along.id), recorder: along.recorder, name } };
  }

  /**
   * RGBA of a part of a strip as it was laid last, laid anew in finer or coarser pixels; null where there is none, or a newer part
   * took its place. A part that does not stand alone is cut out of the whole strip, which is kept for the next.
   */
  async part(column: Column, id: string, part: Part): Promise<Uint8Array | null> {
    await this.idle();
    const laid = this.jobs[column];
    const row = laid?.job.rows.find((r) => r.id === id);
    if (!laid || !row) return null;
    const asked = ++this.parts;
    const current = () => asked === this.parts && this.underWay === 0;
    const { job } = laid;
    const work = this.work(job, row);
    const alone = typeof work.under !== "object" || !work.under ? standsAlone(work.tool, work.under ?? undefined) : false;
    const ground = JSON.stringify(job.tool.ground);
    const fit = this.fit(job, id);
    const make = async (width: number, height: number, leftMm: number, topMm: number) => {
      const surface = this.studio.surface(ground, width, height, part.pixelMm, fit.corner[0] + leftMm, row.originY + fit.corner[1] + topMm);
      surface.lookAt(JSON.stringify(job.view));
      const slices = new Slices();
      if ((await layStrip(surface, work, slices, current)) && (await rest(surface, () => slices.pause(), current, undefined, job.seenS ?? undefined))) return surface;
      surface.free();
      return null;
    };
    await turn();
    if (alone) {
      const surface = await make(part.width, part.height, part.leftMm, part.topMm);
      const rgba = surface?.pixels(0, 0, part.width, part.height) ?? null;
      surface?.free();
      return rgba;
    }
    const key = [column, id, part.pixelMm, laid.run, JSON.stringify(job.view)].join();
    if (this.large?.key !== key) {
      const [wide, high] = [job.width, job.height].map((n) => Math.round((n * job.pixelMm * fit.times) / part.pixelMm)) as [number, number];
      if (wide * high > MOST_WHOLE) throw new Error("beyond what this tool's strip is laid at");
      this.letGoOfLarge();
      const whole = await make(wide, high, 0, 0);
      if (!whole) return null;
      this.large = { surface: whole, key };
    }
    const [left, top] = [Math.round(part.leftMm / part.pixelMm), Math.round(part.topMm / part.pixelMm)];
    return this.large.surface.pixels(left, top, left + part.width, top + part.height);
  }

  private letGoOfLarge() {
    this.large?.surface.free();
    this.large = null;
  }

  /** Shows what a column's strips hold as it is looked at from now on. */
  look(column: Column, view: View, onStrip: (strip: Strip) => void) {
    for (const [name, { surface, width, height, fit }] of this.surfaces) {
      const of = this.sameAs.get(column) ?? column;
      if (!name.startsWith(`${of}:`)) continue;
      surface.lookAt(JSON.stringify(view));
      onStrip({ column, id: name.slice(of.length + 1), width, height, pixels: new Uint8ClampedArray(surface.pixels(0, 0, width, height)), fit, drying: surface.busy && this.jobs[column]?.job.seenS === null });
    }
  }

  /** The surface of a strip; a new one where size or ground changed. */
  private surface(job: ProofJob, { id, originY }: ProofRow, fit: Fit): Surface {
    const name = `${job.column}:${id}`;
    const ground = JSON.stringify(job.tool.ground);
    const key = [ground, job.width, job.height, job.pixelMm, originY, fit.times, ...fit.corner].join();
    const there = this.surfaces.get(name);
    if (there?.key === key) return there.surface;
    there?.surface.free();
    const surface = this.studio.surface(ground, job.width, job.height, job.pixelMm * fit.times, fit.corner[0], originY + fit.corner[1]);
    this.surfaces.set(name, { surface, key, width: job.width, height: job.height, fit: fit.times });
    return surface;
  }

  async get(column: Column, id: string): Promise<Surface | undefined> {
    await this.idle();
    return this.surfaces.get(`${this.sameAs.get(column) ?? column}:${id}`)?.surface;
  }
}

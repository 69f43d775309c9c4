/** The proof sheet's strips: a surface each, re-run when the tool changes. */

import { imagesFor } from "./images";
import type { Papers } from "./papers";
import { Slices, turn, workOff } from "./turns";
import type { DeviceProfile as Profile, Section, View } from "../generated/core";
import { PACKED, type Column, type Exercised, type Explained, type ProofJob, type Strip } from "./types";
import { Recording, type Studio, type Surface } from "./wasm/saltmarsh_browser";

/** Dabs of a trace that go to the page at most. */
const TRACE_DABS = 320;
/** Places of a section. */
const SECTION_PLACES = 240;

interface Kept {
  surface: Surface;
  /** What the surface was made for. */
  key: string;
  width: number;
  height: number;
}

export class Proof {
  private gestures = new Map<string, { inkml: string; passes: Float64Array[] }>();
  private surfaces = new Map<string, Kept>();
  private newest: Record<Column, number> = { kept: 0, draft: 0, before: 0, after: 0 };
  private underWay = 0;
  private waiting: (() => void)[] = [];

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
    try {
      return await this.lay(job, onStrip);
    } finally {
      this.underWay--;
      if (this.underWay === 0) this.waiting.splice(0).forEach((go) => go());
    }
  }

  /** Resolves when no column is being laid: questions about strokes, and preparations, wait until the pictures are there. */
  idle(): Promise<void> {
    return this.underWay === 0 ? Promise.resolve() : new Promise((go) => this.waiting.push(go));
  }

  private async lay(job: ProofJob, onStrip: (strip: Strip) => void): Promise<boolean> {
    const run = ++this.newest[job.column];
    const current = () => run === this.newest[job.column];
    const tool = JSON.stringify(job.tool);
    const before = typeof job.under === "object" ? job.under : null;
    await imagesFor(this.studio, tool, ...(before ? [JSON.stringify(before.tool)] : []));
    if (before?.gesture && this.gestures.get(before.gesture.id)?.inkml !== before.gesture.inkml) this.readGesture(before.gesture.id, before.gesture.inkml);
    const ground = JSON.stringify(job.tool.ground);
    await this.papers.bring(ground);
    // Whatever is already waiting may be a newer change.
    await turn();
    const slices = new Slices();
    for (const row of job.rows) {
      if (!current()) return false;
      const surface = this.surface(job, row.id, row.originY);
      surface.lookAt(JSON.stringify(job.view));
      const stroke = async (of: string, along: string, recorder: Profile | null) => {
        surface.begin(of, JSON.stringify({ ...job.hand, profile: recorder ?? job.hand.profile }), true);
        for (const pass of this.gestures.get(along)?.passes ?? []) {
          surface.hear(shifted(pass, row.originY));
          surface.hearLift();
          if (!(await workOff(surface, slices, current))) {
            surface.wipe();
            return false;
          }
        }
        surface.end();
        return true;
      };
      if (before) {
        const along = before.gesture ?? row;
        // By what a gesture holds: it may be changed and keep its id.
        const name = JSON.stringify([before.tool, this.gestures.get(along.id)?.inkml, job.hand, along.recorder]);
        if (!surface.lieOn(name)) {
          if (!(await stroke(JSON.stringify(before.tool), along.id, along.recorder))) return false;
          surface.keepUnder(name);
        }
      } else surface.makeReady(tool, typeof job.under === "string" ? job.under : undefined);
      if (!(await stroke(tool, row.id, row.recorder))) return false;
      const pixels = new Uint8ClampedArray(surface.pixels(0, 0, job.width, job.height));
      onStrip({ column: job.column, id: row.id, width: job.width, height: job.height, pixels });
      await slices.pause();
    }
    this.papers.keep(ground);
    return current();
  }

  /** Shows what a column's strips hold as it is looked at from now on. */
  look(column: Column, view: View, onStrip: (strip: Strip) => void) {
    for (const [name, { surface, width, height }] of this.surfaces) {
      if (!name.startsWith(`${column}:`)) continue;
      surface.lookAt(JSON.stringify(view));
      onStrip({ column, id: name.slice(column.length + 1), width, height, pixels: new Uint8ClampedArray(surface.pixels(0, 0, width, height)) });
    }
  }

  /** The surface of a strip; a new one where size or ground changed. */
  private surface(job: ProofJob, id: string, originY: number): Surface {
    const name = `${job.column}:${id}`;
    const ground = JSON.stringify(job.tool.ground);
    const key = [ground, job.width, job.height, job.pixelMm, originY].join();
    const there = this.surfaces.get(name);
    if (there?.key === key) return there.surface;
    there?.surface.free();
    const surface = this.studio.surface(ground, job.width, job.height, job.pixelMm, 0, originY);
    this.surfaces.set(name, { surface, key, width: job.width, height: job.height });
    return surface;
  }

  private async get(column: Column, id: string): Promise<Surface | undefined> {
    await this.idle();
    return this.surfaces.get(`${column}:${id}`)?.surface;
  }

  async trace(column: Column, id: string): Promise<string | null> {
    return (await this.get(column, id))?.trace(TRACE_DABS) ?? null;
  }

  async explain(column: Column, id: string, atMm: number): Promise<Explained | null> {
    const surface = await this.get(column, id);
    return surface ? JSON.parse(surface.explain(atMm)) : null;
  }

  async traceCsv(column: Column, id: string): Promise<string | null> {
    return (await this.get(column, id))?.traceCsv() ?? null;
  }

  async section(column: Column, id: string, atMm: number, lengthMm: number): Promise<Section | null> {
    const surface = await this.get(column, id);
    return surface ? JSON.parse(surface.section(atMm, lengthMm, SECTION_PLACES)) : null;
  }

  async exercised(column: Column, id: string): Promise<Exercised[] | null> {
    const surface = await this.get(column, id);
    return surface ? JSON.parse(surface.exercised()) : null;
  }

  async nearest(column: Column, id: string, xMm: number, yMm: number): Promise<number | null> {
    return (await this.get(column, id))?.nearestTravel(xMm, yMm) ?? null;
  }
}

/** Length of a pass, mm. */
function way(pass: Float64Array): number {
  const at = (i: number) => [pass[i + 1] ?? 0, pass[i + 2] ?? 0] as const;
  let length = 0;
  for (let i = PACKED; i < pass.length; i += PACKED) {
    const [[x0, y0], [x1, y1]] = [at(i - PACKED), at(i)];
    length += Math.hypot(x1 - x0, y1 - y0);
  }
  return length;
}

/** Gestures start at the top of the sheet; each row lies lower on the paper, so that no two show the same tooth. */
function shifted(samples: Float64Array, originY: number): Float64Array {
  if (originY === 0) return samples;
  const out = samples.slice();
  for (let i = 2; i < out.length; i += PACKED) out[i] = (out[i] ?? 0) + originY;
  return out;
}

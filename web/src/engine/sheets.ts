/** Pictures of grounds and of sheets with a few strokes on them, made when they are asked for. */

import { rest, Slices, workOff } from "./turns";
import { imagesFor } from "./images";
import type { Papers } from "./papers";
import { PACKED, type GroundPicture, type SheetJob } from "./types";
import { Recording, type Studio } from "./wasm/saltmarsh_browser";

export class Sheets {
  private newest = new Map<string, number>();
  /** One sheet after the other: many at once would only hold each other up, and all their memory with it. */
  private before: Promise<unknown> = Promise.resolve();
  /** Those that dry go after the others, and let them go first while they do. */
  private dryingBefore: Promise<unknown> = Promise.resolve();

  /** `idle`: resolves when nothing more urgent is under way; `moving`: media that go on by themselves. */
  constructor(
    private studio: Studio,
    private papers: Papers,
    private idle: () => Promise<void>,
    private moving: Set<string>,
  ) {}

  async rakingLight({ ground, width, height, pixelMm, light, afarMm }: GroundPicture): Promise<Uint8Array> {
    const recipe = JSON.stringify(ground);
    await imagesFor(this.studio, recipe);
    await this.papers.bring(recipe);
    const rgba = this.studio.rakingLight(recipe, width, height, pixelMm, JSON.stringify(light));
    return afarMm > 0 ? this.studio.fromAfar(rgba, width, pixelMm, afarMm) : rgba;
  }

  /** RGBA of a sheet with strokes; null if a newer one for the same `place` was asked for meanwhile. */
  sheet(job: SheetJob): Promise<Uint8Array | null> {
    const run = (this.newest.get(job.place) ?? 0) + 1;
    this.newest.set(job.place, run);
    if (job.strokes.some((s) => this.moving.has(s.tool.medium))) {
      const others = () => this.before.then(() => undefined);
      const laid = this.dryingBefore.then(others).then(() => this.lay(job, run, others));
      this.dryingBefore = laid.catch(() => undefined);
      return laid;
    }
    const laid = this.before.then(() => this.lay(job, run, () => Promise.resolve()));
    this.before = laid.catch(() => undefined);
    return laid;
  }

  /** Lets go of sheets whose place begins so: nobody looks at them any more. */
  drop(prefix: string) {
    for (const [place, run] of this.newest) if (place.startsWith(prefix)) this.newest.set(place, run + 1);
  }

  private async lay(job: SheetJob, run: number, others: () => Promise<void>): Promise<Uint8Array | null> {
    await this.idle();
    if (this.newest.get(job.place) !== run) return null;
    const recipe = JSON.stringify(job.ground);
    await imagesFor(this.studio, recipe, ...job.strokes.map((s) => JSON.stringify(s.tool)));
    await this.papers.bring(recipe);
    const surface = this.studio.surface(recipe, job.width, job.height, job.pixelMm, 0, 0);
    const slices = new Slices();
    // What the painter looks at goes first.
    const pause = () => slices.pause().then(() => this.idle()).then(others);
    const current = () => this.newest.get(job.place) === run;
    try {
      for (const [number, { tool, hand, way, shiftMm, waitS, dryFirst }] of job.strokes.entries()) {
        const document = JSON.stringify(tool);
        if (number === 0) surface.makeReady(document, job.bare ? "bare" : undefined);
        if (waitS && !(await rest(surface, pause, current, undefined, waitS))) return null;
        if (dryFirst) {
          if (!(await rest(surface, pause, current))) return null;
          surface.turn(true);
        }
        surface.begin(document, JSON.stringify(hand), true);
        const recording = "inkml" in way ? Recording.read(way.inkml) : Recording.ofTechnique(way.technique, way.step);
        const passes = Array.from({ length: recording.passCount }, (_, i) => recording.pass(i));
        recording.free();
        for (const pass of passes) {
          const moved = pass.slice();
          for (let i = 0; i < moved.length; i += PACKED) {
            moved[i + 1] = (moved[i + 1] ?? 0) + shiftMm[0];
            moved[i + 2] = (moved[i + 2] ?? 0) + shiftMm[1];
          }
          surface.hear(moved);
          surface.hearLift();
          if (!(await workOff(surface, slices, current))) return null;
        }
        surface.end();
      }
      if (!(await rest(surface, pause, current, undefined, job.longestS))) return null;
      if (surface.busy) surface.turn(true);
      const rgba = surface.pixels(0, 0, job.width, job.height);
      return job.afarMm > 0 ? this.studio.fromAfar(rgba, job.width, job.pixelMm, job.afarMm) : rgba;
    } finally {
      surface.free();
    }
  }
}

/** Time over the free row: while the hand rests, and under a stroke, which it never holds up. */

import { RestClock } from "../model/restClock";
import { waited } from "./row";
import type { StrokeClock } from "./types";
import type { Surface } from "./wasm/saltmarsh_browser";

/** How long time may go over a sheet at rest for one frame, ms, and how many steps between two looks at the clock. */
const REST_MS = 9;
const REST_STEPS = 4;
/** A sheet at rest is kept so far behind the clock, ms: reports come later than they were made. */
const REST_BEHIND_MS = 120;
/** Steps of a stroke may take so long after a frame, ms: what the pen reports meanwhile is in time for the next. */
const SPARE_MS = 6;
/** A longer step goes so many times its length after the one before: few reports are late for it. */
const APART = 40;
/** Among so many steps there is one that moves water, and mostly one of every kind: thin water is moved in every fourteenth. */
const KINDS = 32;
/** How fast time went is told of so long, ms. */
const TOLD_MS = 1500;

export class RowTime {
  private clock = new RestClock();
  /** When by it the last stroke ended, s (in another visit: before all). */
  private restsSince = -Infinity;
  /** Steps that went since; how many of them were told with what was done since; and with the stroke that was begun then. */
  private rested = 0;
  private told = 0;
  private waited = 0;
  /** What had gone, and was told, when the stroke began. */
  private before: [number, number] = [0, 0];
  /** The stroke waits for its first report; and what it begins on moves. */
  private begins = false;
  private moves = false;
  /** What the newest steps took, ms; and when one that takes long may go again, ms of the page's time. */
  private took: number[] = [];
  private next = 0;
  /** Steps that were due and that went of late; and those that went under the stroke. */
  private pace = { since: 0, due: 0, gone: 0 };
  private gone = 0;
  private share = 1;

  /** `take`: what changed. */
  constructor(private take: (rects: Uint32Array) => void) {}

  private now(): number {
    return this.clock.at(performance.now() / 1000);
  }

  setPace(pace: number) {
    this.clock.setPace(pace, performance.now() / 1000);
  }

  step(seconds: number) {
    this.clock.step(seconds);
  }

  /** Steps that went since the last stroke. */
  get steps(): number {
    return this.rested;
  }

  /** A sheet was laid anew: so many steps went since its last stroke. */
  laid(steps: number) {
    [this.rested, this.told] = [steps, steps];
    this.took = [];
  }

  /** The stroke ended: from now on the hand rests. */
  rests() {
    this.restsSince = this.now();
    [this.rested, this.told] = [0, 0];
    // How fast time goes over a stroke says nothing of the rest, and is not told of it for long.
    this.pace = { since: performance.now() - TOLD_MS / 2, due: 0, gone: 0 };
  }

  private go(surface: Surface, steps: number, held: boolean): number {
    const start = performance.now();
    this.take(held ? surface.letGo(steps) : surface.advance(steps));
    const ms = performance.now() - start;
    this.took.push(ms / steps);
    if (this.took.length > KINDS) this.took.shift();
    return ms;
  }

  /** What the dearest of the newest steps took, ms. */
  private get dearest(): number {
    return Math.max(0, ...this.took);
  }

  /** So much of what is due goes, 0..1; 1 where nothing moves. */
  get paceOfLate(): number {
    return this.share;
  }

  /** So many steps are due in all, and went. */
  private counts(due: number, gone: number) {
    const now = performance.now();
    if (now - this.pace.since < TOLD_MS) return;
    const [late, went] = [due - this.pace.due, gone - this.pace.gone];
    this.share = late > 0 ? Math.max(0, Math.min(1, went / late)) : 1;
    this.pace = { since: now, due, gone };
  }

  /**
   * Lets the time that the hand has rested go over the sheet, a little less, so that a stroke's own wait is never overtaken; whether
   * there is more of it. Where the sheet is wide and wet, time on it goes slower than the clock on the wall: a frame is never held up.
   */
  rest(surface: Surface): boolean {
    if (!surface.busy) {
      this.share = 1;
      return false;
    }
    const start = performance.now();
    const due = Math.floor((this.now() - this.restsSince - this.clock.within(REST_BEHIND_MS / 1000)) / surface.stepS);
    while (this.rested < due && performance.now() - start < REST_MS && surface.busy) {
      if (surface.prepareStep()) continue;
      const steps = Math.min(this.dearest > REST_MS / REST_STEPS ? 1 : REST_STEPS, due - this.rested);
      this.go(surface, steps, false);
      this.rested += steps;
    }
    this.counts(due, this.rested);
    // A clock that stands still is waited for by nobody.
    return this.rested < due || this.clock.within(1) > 0;
  }

  /** Steps that went since this was asked, or the last stroke ended: something is done now. */
  tell(): number {
    const steps = this.rested - this.told;
    this.told = this.rested;
    return steps;
  }

  begin() {
    this.begins = true;
    this.before = [this.rested, this.told];
  }

  /** The stroke is dropped: the sheet is as it was before it, and so is what went over it. */
  drop() {
    this.begins = false;
    [this.rested, this.told] = this.before;
  }

  /** The first report of a stroke: what it waited for goes over the sheet, as far as that does not hold it up. */
  touch(surface: Surface, samples: Float64Array) {
    if (!this.begins) return;
    this.begins = false;
    this.moves = surface.busy;
    const due = waited(surface, samples);
    for (let spent = 0; surface.busy && this.rested < due && spent + this.dearest <= SPARE_MS && !surface.prepareStep(); this.rested++) spent += this.go(surface, 1, false);
    if (!surface.busy && this.rested < due) {
      surface.advance(due - this.rested);
      this.rested = due;
    }
    this.waited = this.tell();
    surface.holdTime();
    // A stroke does not begin with a long step, which also copies all that is wet: that is what a dropped stroke goes back to.
    const long = this.dearest;
    this.next = long > SPARE_MS ? performance.now() + APART * long : 0;
    this.pace = { since: performance.now(), due: 0, gone: 0 };
    this.gone = 0;
  }

  /** Lets time that waits under a stroke go as far as a frame has room for it. */
  spare(surface: Surface) {
    const start = performance.now();
    if (this.clock.within(1) === 0) return;
    this.counts(this.gone + surface.timeWaits, this.gone);
    if (start < this.next) return;
    while (surface.timeWaits > 0) {
      if (surface.prepareStep()) {
        this.next = start + APART * (performance.now() - start);
        return;
      }
      const ms = this.go(surface, 1, true);
      this.gone++;
      if (ms > SPARE_MS) {
        this.next = performance.now() + APART * ms;
        return;
      }
      const long = this.dearest;
      if (long <= SPARE_MS && performance.now() - start + long > SPARE_MS) return;
    }
  }

  /** How time went with the stroke whose end was heard; null where it went as the stroke says. */
  of(surface: Surface): StrokeClock | null {
    const went = surface.timeWent();
    return this.moves || went || this.waited !== this.rested ? { waited: this.waited, went: went ? Array.from(went) : null } : null;
  }
}

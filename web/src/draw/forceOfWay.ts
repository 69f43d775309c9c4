/**
 * The force of a hand without a pen, along its way: by speed, and tapered where a stroke begins and ends. The end is known only
 * when the hand lifts, so what may still be part of it is held back.
 */

import type { StandIn } from "../session/store";
import { PACKED } from "../engine/types";

/** Speed at which half of what speed can do is done, mm/s (tuned by hand with a mouse). */
const HALF_SPEED = 160;
/** Share of the force that is left when fast (lighter), or there when slow (firmer). */
const LEAST = 0.25;
/** Speed is smoothed over this time, s: a mouse reports in jumps. */
const SMOOTHING_S = 0.06;

const smooth = (t: number) => {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
};

export class ForceOfWay {
  private held: { sample: number[]; at: number }[] = [];
  private travelled = 0;
  private speed: number | null = null;
  private last: number[] | null = null;

  constructor(private standIn: StandIn) {}

  /** Takes a packed sample; gives packed samples that are settled, one after another. */
  push(sample: number[]): number[] {
    const [t = 0, x = 0, y = 0, pressure = 0, ...rest] = sample;
    if (this.last) {
      const [t0 = t, x0 = x, y0 = y] = this.last;
      const length = Math.hypot(x - x0, y - y0);
      const speed = t > t0 ? length / (t - t0) : (this.speed ?? 0);
      this.speed = this.speed === null ? speed : speed + (this.speed - speed) * Math.exp(-(t - t0) / SMOOTHING_S);
      this.travelled += length;
    }
    this.last = sample;
    const { taperIn, taperOut } = this.standIn;
    const begin = taperIn > 0 ? smooth(this.travelled / taperIn) : 1;
    this.held.push({ sample: [t, x, y, pressure * begin * this.share(), ...rest], at: this.travelled });
    const settled = this.held.findIndex((h) => this.travelled - h.at < taperOut || taperOut === 0);
    // Without a taper nothing waits.
    const count = taperOut === 0 ? this.held.length : settled < 0 ? 0 : settled;
    return this.held.splice(0, count).flatMap((h) => h.sample);
  }

  /** The hand lifts: what was held back, tapered. */
  lift(): number[] {
    const { taperOut } = this.standIn;
    return this.held.splice(0).flatMap(({ sample, at }) => {
      const out = sample.slice(0, PACKED);
      out[3] = (out[3] ?? 0) * smooth((this.travelled - at) / taperOut);
      return out;
    });
  }

  private share(): number {
    const { bySpeed } = this.standIn;
    if (bySpeed === "nothing") return 1;
    const fast = (this.speed ?? 0) / ((this.speed ?? 0) + HALF_SPEED);
    return bySpeed === "lighter" ? 1 - (1 - LEAST) * fast : LEAST + (1 - LEAST) * fast;
  }
}

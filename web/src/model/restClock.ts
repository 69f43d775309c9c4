/** Time over sheets at rest: it stands still, goes as the clock on the wall, or faster. */

/** As fast as it goes: what a sheet cannot keep up with is left to it, and nothing is asked to go faster than so many times. */
export const FASTEST = 30;

export class RestClock {
  private gone = 0;
  private since = 0;

  constructor(private pace = 1) {}

  /** Seconds over the sheet at a time of the page, s. */
  at(now: number): number {
    return this.gone + (now - this.since) * this.pace;
  }

  setPace(pace: number, now: number) {
    this.gone = this.at(now);
    [this.since, this.pace] = [now, pace];
  }

  /** So many seconds go by at once. */
  step(seconds: number) {
    this.gone += seconds;
  }

  /** What goes by over the sheet while so many seconds go by on the wall. */
  within(seconds: number): number {
    return seconds * this.pace;
  }
}

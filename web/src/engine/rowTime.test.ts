import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { RowTime } from "./rowTime";
import type { Surface } from "./wasm/saltmarsh_browser";

let now = 0;
beforeEach(() => {
  now = 1000;
  vi.spyOn(performance, "now").mockImplementation(() => now);
});
afterEach(() => vi.restoreAllMocks());

const STEP_S = 1 / 60;
const FRAME_MS = 16;

/** A sheet that is wet all over, on which every `every`-th step of time takes so many ms. */
function wetSheet(ms: number, every = 1) {
  let waits = 0;
  let gone = 0;
  const go = (steps: number) => {
    for (let i = 0; i < steps; i++) if (++gone % every === 0) now += ms;
    return new Uint32Array();
  };
  const surface = {
    busy: true,
    stepS: STEP_S,
    prepareStep: () => false,
    holdTime: () => undefined,
    advance: go,
    letGo: (steps: number) => ((waits -= steps), go(steps)),
    get timeWaits() {
      return waits;
    },
  };
  return { surface: surface as unknown as Surface, due: (steps: number) => (waits += steps), gone: () => gone };
}

/** Frames for some seconds: what each did, ms. */
function frames(seconds: number, frame: () => void): number[] {
  const took: number[] = [];
  for (const end = now + 1000 * seconds; now < end; ) {
    const start = now;
    frame();
    took.push(now - start);
    now = Math.max(start + FRAME_MS, now);
  }
  return took;
}

test("where a sheet keeps up, time on it goes as the clock on the wall", () => {
  const { surface, gone } = wetSheet(1);
  const time = new RowTime(() => undefined);
  time.rests();
  frames(6, () => time.rest(surface));
  expect(gone() * STEP_S).toBeGreaterThan(5.7);
  expect(time.paceOfLate).toBeGreaterThan(0.9);
});

test("where it does not, time on it goes slower and says so, and no frame is held up by more than a step", () => {
  const { surface, gone } = wetSheet(40);
  const time = new RowTime(() => undefined);
  time.rests();
  const took = frames(6, () => time.rest(surface));
  expect(Math.max(...took)).toBeLessThanOrEqual(40);
  // 25 steps a second at the most, of 60 that are due.
  expect(gone() * STEP_S).toBeLessThan(0.42 * 6);
  expect(time.paceOfLate).toBeGreaterThan(0.2);
  expect(time.paceOfLate).toBeLessThan(0.45);
});

test.each([1, 14])("under a stroke, steps of which every %i. is long leave frames to the pen", (every) => {
  const { surface, due } = wetSheet(30, every);
  const time = new RowTime(() => undefined);
  time.rests();
  time.begin();
  time.touch(surface, new Float64Array([0]));
  const took = frames(10, () => {
    due(1);
    time.spare(surface);
  });
  // A long step goes forty times its length after the one before.
  expect(took.filter((ms) => ms > 6).length).toBeLessThanOrEqual(Math.ceil(10_000 / (40 * 30)));
  expect(Math.max(...took)).toBeLessThanOrEqual(30);
});

test("a stroke over a wide wet sheet does not begin with a long step", () => {
  const { surface, due, gone } = wetSheet(30);
  const time = new RowTime(() => undefined);
  time.rests();
  frames(2, () => time.rest(surface));
  const before = gone();
  time.begin();
  time.touch(surface, new Float64Array([0]));
  const stroke = () => {
    due(1);
    time.spare(surface);
  };
  expect(Math.max(...frames(1.1, stroke))).toBe(0);
  expect(gone()).toBe(before);
  // But time does not stand still under a long one.
  frames(1, stroke);
  expect(gone()).toBeGreaterThan(before);
});

test("how fast time goes while the hand rests is told soon after a stroke, and is not mixed with the stroke's", () => {
  const { surface, due } = wetSheet(40);
  const time = new RowTime(() => undefined);
  time.rests();
  time.begin();
  time.touch(surface, new Float64Array([0]));
  frames(10, () => {
    due(1);
    time.spare(surface);
  });
  expect(time.paceOfLate).toBeLessThan(0.1);
  time.rests();
  frames(1, () => time.rest(surface));
  // 25 steps a second at the most, of 60 that are due.
  expect(time.paceOfLate).toBeGreaterThan(0.2);
  expect(time.paceOfLate).toBeLessThan(0.55);
});

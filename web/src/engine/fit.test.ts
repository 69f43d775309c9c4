import { expect, test } from "vitest";
import { fitOf } from "./fit";
import { PACKED } from "./types";

const SIZE = { width: 80, height: 14 };
const way = (...places: [number, number][]) => Float64Array.from(places.flatMap(([x, y], i) => [i / 100, x, y, 0.5, 0, 0, 0]));

test("a gesture within its strip is shown as large as any", () => {
  expect(PACKED).toBe(7);
  expect(fitOf([way([4, 7], [76, 9])], SIZE)).toEqual({ times: 1, corner: [0, 0] });
  expect(fitOf([], SIZE).times).toBe(1);
});

test("one that leaves it is shown whole, in the middle", () => {
  // 36 mm high about the middle of the strip, as a drawn stroke is put there.
  const { times, corner } = fitOf([way([10, -11], [60, 25])], SIZE);
  expect(times).toBeCloseTo(42 / 14, 9);
  for (const [x, y] of [[10, -11], [60, 25]] as const) {
    expect((x - corner[0]) / (80 * times)).toBeGreaterThan(0);
    expect((x - corner[0]) / (80 * times)).toBeLessThan(1);
    expect(Math.abs((y - corner[1]) / (14 * times) - 0.5)).toBeCloseTo(18 / 42, 9);
  }
  // A long one by its length.
  expect(fitOf([way([0, 7], [154, 7])], SIZE).times).toBeCloseTo(2, 9);
});

import { expect, test } from "vitest";
import { thinned, type Point } from "./thinned";

test("of many points in a column of pixels those are kept that are seen, in their order", () => {
  // A spike up and one down in the third column.
  const points = Array.from({ length: 1000 }, (_, i): Point => [i / 100, i === 250 ? 40 : i === 270 ? -40 : 1]);
  const kept = thinned(points);
  expect(kept.length).toBeLessThanOrEqual(4 * 10);
  expect(kept.filter(([, y]) => y !== 1)).toEqual([
    [2.5, 40],
    [2.7, -40],
  ]);
  expect([kept[0], kept.at(-1)]).toEqual([points[0], points.at(-1)]);
  expect(kept).toEqual(points.filter((p) => kept.includes(p)));
  // What has fewer points than pixels stays as it is, whichever way it goes.
  const few: Point[] = [[30, 1], [20, 5], [10, 2], [20, 2]];
  expect(thinned(few)).toEqual(few);
  expect(thinned([])).toEqual([]);
});

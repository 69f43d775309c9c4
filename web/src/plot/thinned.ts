/** A line over more points than the screen has pixels. */

export type Point = [number, number];

/**
 * Of a line's points, px, those that are seen: where several in turn fall into one column of pixels, the first, the highest, the lowest and the
 * last of them.
 */
export function thinned(points: Point[]): Point[] {
  const seen: Point[] = [];
  let to = 0;
  while (to < points.length) {
    const from = to;
    let [lowest, highest] = [from, from];
    for (; to < points.length && columnOf(points[to]) === columnOf(points[from]); to++) {
      if (height(points[to]) < height(points[lowest])) lowest = to;
      if (height(points[to]) > height(points[highest])) highest = to;
    }
    const kept = new Set([from, Math.min(lowest, highest), Math.max(lowest, highest), to - 1]);
    for (const i of kept) seen.push(points[i] as Point);
  }
  return seen;
}

const columnOf = (point: Point | undefined) => Math.floor(point?.[0] ?? 0);
const height = (point: Point | undefined) => point?.[1] ?? 0;

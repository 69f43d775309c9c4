import { fixed } from "../model/number";
/** How large the strips of the proof sheet are shown, and where they stand. */

/** A strip shows this much of the sheet. */
export const STRIP_MM = { width: 80, height: 14 };

/** Fit the window, or so many times true size. */
export type RowSize = "fit" | 1 | 2 | 3;

export interface Layout {
  /** A column stands under the other, each row's name above. */
  stacked: boolean;
  /** A strip, CSS pixels. */
  strip: { width: number; height: number };
  /** Width of the rows' names, and the least height of the free row, CSS pixels. */
  label: number;
  leastFree: number;
}

export const HEAD = 26;
const LABEL = 124;
const LABEL_PEN = 152;
export const GAP = 10;
/** Height of a row's name where columns are stacked. */
export const NAME = 30;
const LEAST_ROW = 46;
/** The free row is no lower than its controls, which are larger for a pen. */
const LEAST_FREE = 62;
const LEAST_FREE_PEN = 106;
/** Between a strip and the next row. */
const BETWEEN = 5;
/** Strips side by side are at least so wide; narrower ones are stacked. */
const LEAST_BESIDE = 190;

/** The largest strips that fit: `rows` of them, the free row beside, in so many columns. `pxPerMm`: CSS pixels of a millimetre of this screen. */
export function layOut(space: { width: number; height: number }, rows: number, columns: number, size: RowSize, pxPerMm: number, forPen = false): Layout {
  const [label, leastFree] = forPen ? [LABEL_PEN, LEAST_FREE_PEN] : [LABEL, LEAST_FREE];
  const beside = Math.floor((space.width - label - columns * GAP) / columns);
  const stacked = beside < LEAST_BESIDE;
  const widest = stacked ? space.width - 2 : beside;
  if (size !== "fit") {
    const width = Math.round(STRIP_MM.width * pxPerMm * size);
    return { stacked, label, leastFree, strip: { width, height: Math.round((width * STRIP_MM.height) / STRIP_MM.width) } };
  }
  const across = Math.floor((widest * STRIP_MM.height) / STRIP_MM.width);
  const alike = Math.floor((space.height - HEAD) / (rows + 1)) - BETWEEN;
  const room = alike >= leastFree ? alike : Math.floor((space.height - HEAD - leastFree - BETWEEN) / rows) - BETWEEN;
  const height = stacked ? across : Math.max(LEAST_ROW, Math.min(room, across));
  return { stacked, label, leastFree, strip: { width: Math.min(widest, Math.floor((height * STRIP_MM.width) / STRIP_MM.height)), height } };
}

/** How strips are to true size, in words: "× 1.2", or true size itself. */
export function scaleSaid(stripWidth: number, pxPerMm: number): string {
  const times = stripWidth / STRIP_MM.width / pxPerMm;
  return Math.abs(times - 1) < 0.005 ? "true size" : `${times < 0.1 ? fixed(times, 2) : Number(times.toPrecision(2))} × true size`;
}

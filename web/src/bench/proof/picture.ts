/** Pictures of the proof sheet, to be kept outside the program: laid anew at the resolution that was asked for. */

import { engine, stripPart } from "../../engine/client";
import { t } from "../../model/said";
import type { Column, PicturePage } from "../../engine/types";
import { rowToLay } from "./rowToLay";
import { fixed } from "../../model/number";
import { useProof } from "../../session/proofStore";
import { STRIP_MM } from "../../session/sheetSize";

export const LEAST_DPI = 72;
export const MOST_DPI = 1200;
/** Most pixels of a PNG. */
export const MOST_PIXELS = 64_000_000;

const MARGIN_MM = 8;
const LABEL_MM = 34;
const GAP_MM = 4;
const HEAD_MM = 16;
const TEXT_PT = 9;
const SMALL_PT = 7;
const INK = 0.1;
const MUTED = 0.35;

export interface Named {
  id: string;
  name: string;
  note?: string;
}

export interface WantedSheet {
  /** What is written over it all. */
  title: string;
  columns: { column: Column; name: string }[];
  rows: Named[];
  /** The free row, mm; null where nothing lies there. */
  free: { width: number; height: number } | null;
}

/** mm of the page that a proof sheet takes. */
export function sizeOf({ columns, rows, free }: WantedSheet): [number, number] {
  const width = Math.max(columns.length * (STRIP_MM.width + GAP_MM) - GAP_MM, free?.width ?? 0);
  const height = HEAD_MM + rows.length * (STRIP_MM.height + GAP_MM) + (free ? free.height + GAP_MM : 0);
  return [2 * MARGIN_MM + LABEL_MM + width, 2 * MARGIN_MM + height];
}

/** A part that gave way to a newer one is asked for again. */
async function surely(ask: () => Promise<Uint8Array<ArrayBuffer> | null>): Promise<Uint8Array<ArrayBuffer>> {
  for (let tries = 0; tries < 20; tries++) {
    const rgba = await ask();
    if (rgba) return rgba;
    await new Promise((go) => setTimeout(go, 200));
  }
  throw new Error(t("the proof sheet is being laid anew all the time: let go of it while the picture is made"));
}

const pixels = (mm: number, pixelMm: number) => Math.max(1, Math.round(mm / pixelMm));

/** A strip at true size, or as much smaller as it is shown. */
export async function stripOf(column: Column, id: string, pixelMm: number) {
  const [width, height] = [pixels(STRIP_MM.width, pixelMm), pixels(STRIP_MM.height, pixelMm)];
  // A gesture that would leave its strip is shown smaller, as on the sheet.
  const fit = useProof.getState().fits[id] ?? 1;
  return { width, height, rgba: await surely(() => stripPart(column, id, { pixelMm: pixelMm * fit, leftMm: 0, topMm: 0, width, height })) };
}

/** The free row at true size. */
export async function rowOf(size: { width: number; height: number }, pixelMm: number) {
  const row = rowToLay();
  if (!row) throw new Error(t("there is no tool on the bench"));
  const [width, height] = [pixels(size.width, pixelMm), pixels(size.height, pixelMm)];
  return { width, height, rgba: await surely(() => engine.padPart(row.tool, row.hand, row.strokes, row.between, { pixelMm, leftMm: 0, topMm: 0, width, height })) };
}

/** The whole proof sheet, with captions. `onDone`: told after each strip. */
export async function sheetOf(wanted: WantedSheet, pixelMm: number, onDone: (strips: number) => void): Promise<PicturePage> {
  const [widthMm, heightMm] = sizeOf(wanted);
  const page: PicturePage = { title: wanted.title, widthMm, heightMm, pixelMm, pictures: [], captions: [] };
  const write = (text: string, leftMm: number, baseMm: number, sizePt = TEXT_PT, grey = INK) => page.captions.push({ text, leftMm, baseMm, sizePt, grey });
  write(wanted.title, MARGIN_MM, MARGIN_MM + 4, 11);
  const left = (column: number) => MARGIN_MM + LABEL_MM + column * (STRIP_MM.width + GAP_MM);
  wanted.columns.forEach(({ name }, i) => write(name, left(i), MARGIN_MM + HEAD_MM - 3));
  let top = MARGIN_MM + HEAD_MM;
  for (const row of wanted.rows) {
    write(row.name, MARGIN_MM, top + 6);
    const fit = useProof.getState().fits[row.id] ?? 1;
    const note = fit > 1 ? `1 : ${fixed(fit, 1)}, ${row.note ?? ""}` : row.note;
    if (note) write(note, MARGIN_MM, top + 10, SMALL_PT, MUTED);
    for (const [i, { column }] of wanted.columns.entries()) {
      page.pictures.push({ ...(await stripOf(column, row.id, pixelMm)), leftMm: left(i), topMm: top });
      onDone(page.pictures.length);
    }
    top += STRIP_MM.height + GAP_MM;
  }
  if (wanted.free) {
    write("Free row", MARGIN_MM, top + 6);
    page.pictures.push({ ...(await rowOf(wanted.free, pixelMm)), leftMm: left(0), topMm: top });
  }
  return page;
}

/** A page as PNG: white, with what is on it at its place. */
export async function pngOf({ widthMm, heightMm, pixelMm, pictures, captions }: PicturePage): Promise<Uint8Array<ArrayBuffer>> {
  const canvas = new OffscreenCanvas(pixels(widthMm, pixelMm), pixels(heightMm, pixelMm));
  const context = canvas.getContext("2d");
  if (!context) throw new Error(t("this browser has no room for so large a picture"));
  context.fillStyle = "#ffffff";
  context.fillRect(0, 0, canvas.width, canvas.height);
  for (const p of pictures) context.putImageData(new ImageData(new Uint8ClampedArray(p.rgba.buffer), p.width, p.height), pixels(p.leftMm, pixelMm), pixels(p.topMm, pixelMm));
  for (const c of captions) {
    context.font = `${((c.sizePt / 72) * 25.4) / pixelMm}px "Atkinson Hyperlegible Next Variable", sans-serif`;
    context.fillStyle = `rgb(${[c.grey, c.grey, c.grey].map((g) => Math.round(255 * g)).join()})`;
    context.fillText(c.text, c.leftMm / pixelMm, c.baseMm / pixelMm);
  }
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  return engine.pngOf(new Uint8Array(data.buffer), canvas.width, canvas.height, pixelMm);
}

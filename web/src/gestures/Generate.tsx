/** A gesture made from parameters, as a hand would move. */

import { useState } from "react";
import { useAnswer } from "../session/useEngine";
import { engine } from "../engine/client";
import type { Movement, Outline } from "../engine/types";
import { PLAIN_HAND } from "../model/hand";
import { Button, Choice, Dialog, NumberField } from "../ui/controls";
import { FileButton } from "../ui/FileButton";
import { added, type Change } from "./steps";
import { Thumbnail } from "./Thumbnail";
import { refusalOf } from "../model/refused";
import { t } from "../model/said";

const WAYS: [Movement["way"], string][] = [
  ["line", "straight"],
  ["arc", "arc"],
  ["wave", "wave"],
  ["loops", "loops"],
  ["zigzag", "zigzag"],
];
/** An outline fits between these, mm, unless it is asked to be larger. */
const STRIP = { width: 70, height: 12 };
const MOST_BYTES = 4 * 1024 * 1024;

/** The numbers of a movement and their limits, which are the core's. */
const FIELDS: { label: string; unit: string; low: number; high: number; step: number; of: (m: Movement) => number; to: (m: Movement, v: number) => Movement }[] = [
  { label: "Length", unit: "mm", low: 2, high: 2000, step: 1, of: (m) => m.length_mm, to: (m, v) => ({ ...m, length_mm: v }) },
  { label: "Mean speed", unit: "mm/s", low: 1, high: 2000, step: 1, of: (m) => m.speed_mm_s, to: (m, v) => ({ ...m, speed_mm_s: v }) },
  { label: "Force at the start", unit: "gf", low: 0, high: 2000, step: 1, of: (m) => m.force_gf[0], to: (m, v) => ({ ...m, force_gf: [v, m.force_gf[1], m.force_gf[2]] }) },
  { label: "Force in the middle", unit: "gf", low: 0, high: 2000, step: 1, of: (m) => m.force_gf[1], to: (m, v) => ({ ...m, force_gf: [m.force_gf[0], v, m.force_gf[2]] }) },
  { label: "Force at the end", unit: "gf", low: 0, high: 2000, step: 1, of: (m) => m.force_gf[2], to: (m, v) => ({ ...m, force_gf: [m.force_gf[0], m.force_gf[1], v] }) },
  { label: "Tilt from upright", unit: "°", low: 0, high: 85, step: 1, of: (m) => m.tilt_deg, to: (m, v) => ({ ...m, tilt_deg: v }) },
  { label: "Lean", unit: "°", low: 0, high: 360, step: 1, of: (m) => m.lean_deg, to: (m, v) => ({ ...m, lean_deg: v }) },
  { label: "Barrel", unit: "°", low: 0, high: 360, step: 1, of: (m) => m.barrel_deg, to: (m, v) => ({ ...m, barrel_deg: v }) },
  { label: "Tremor", unit: "mm", low: 0, high: 5, step: 0.05, of: (m) => m.tremor_mm, to: (m, v) => ({ ...m, tremor_mm: v }) },
];

/** Length at which an outline is as large as it was drawn, or fits a strip. */
function fitting(outline: Outline, length: number): number {
  const [xs, ys] = [0, 1].map((axis) => outline.flat().map((p) => p[axis] ?? 0));
  const span = (v: number[] = []) => v.reduce((m, x) => Math.max(m, x), -Infinity) - v.reduce((m, x) => Math.min(m, x), Infinity);
  const scale = Math.min(1, STRIP.width / Math.max(span(xs), 1e-9), STRIP.height / Math.max(span(ys), 1e-9));
  return Math.min(2000, Math.max(2, Number((length * scale).toFixed(1))));
}

const FIRST: Movement = { way: "wave", length_mm: 72, speed_mm_s: 60, force_gf: [80, 220, 40], tilt_deg: 40, lean_deg: 60, barrel_deg: 0, tremor_mm: 0, seed: 1 };

export function Generate({ change, onClose }: { change: Change; onClose: () => void }) {
  const [movement, setMovement] = useState(FIRST);
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [drawing, setDrawing] = useState<{ id: string; name: string; outline: Outline } | null>(null);
  const key = JSON.stringify([movement, drawing?.id]);
  const made = useAnswer(`generated:${key}`, async () => {
    try {
      const outline = movement.way === "outline" ? (drawing?.outline ?? null) : null;
      return { key, inkml: await engine.generated(movement, outline, PLAIN_HAND.profile) };
    } catch (error) {
      setProblem(refusalOf(error).message);
      throw error;
    }
  });
  // The last one is shown until the next is there, but never kept in its place.
  const preview = made && { inkml: made.inkml, content_hash: `generated:${made.key}` };
  const inkml = made?.key === key ? made.inkml : null;
  const set = (next: Movement) => {
    setProblem(null);
    setMovement(next);
  };
  const read = async (f: File) => {
    if (f.size > MOST_BYTES) return setProblem(`${f.name}: may be at most 4 MiB`);
    try {
      const { outline, length_mm } = await engine.drawing(await f.text());
      // Of two readings of one file the second may be another drawing.
      setDrawing({ id: crypto.randomUUID(), name: f.name, outline });
      set({ ...movement, way: "outline", length_mm: fitting(outline, length_mm) });
      if (name === "") setName(f.name.replace(/\.[^.]*$/, "").slice(0, 80));
    } catch (error) {
      const { field, message } = refusalOf(error);
      setProblem(`${f.name}: ${field} ${message}`);
    }
  };
  const ways = drawing ? [...WAYS, ["outline", drawing.name] as [Movement["way"], string]] : WAYS;
  const keep = async () => {
    if (inkml && (await change(async () => added([{ name: name.trim(), note: "generated", inkml, stylus: null }], t("{{name}} was kept.", { name: name.trim() })), "told"))) onClose();
  };
  return (
    <Dialog open title={t("Generate a gesture")} onClose={onClose}>
      <div className="grid gap-1">
        {preview && <Thumbnail gesture={preview} className="h-24 w-full" />}
        <div className="flex min-h-8 items-center">
          {t("Way")}
          <span className="ml-auto" />
          <FileButton
            className="mr-1"
            text={t("Outline from SVG…")}
            label={t("SVG file")}
            accept=".svg,image/svg+xml"
            title={t("The outlines of an SVG drawing are stroked one after another")}
            onFiles={([f]) => f && void read(f)}
          />
          <Choice label={t("Way")} value={movement.way} options={ways} onChange={(way) => set({ ...movement, way: way as Movement["way"] })} />
        </div>
        {FIELDS.map((f) => (
          <div key={f.label} className="flex items-center border-t border-hair py-0.5">
            {f.label}
            <span className="ml-auto" />
            <NumberField label={f.label} value={f.of(movement)} low={f.low} high={f.high} step={f.step} onCommit={(v) => set(f.to(movement, v))} />
            <span className="w-12 pl-1 text-muted">{f.unit}</span>
          </div>
        ))}
        {problem && (
          <p role="alert" className="text-warn">
            {problem}
          </p>
        )}
        <label className="flex items-center gap-2 border-t border-hair pt-2">
          {t("Name")}
          <input className="flex-1 rounded border border-line bg-raised px-2 py-1" value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        <div className="mt-2 flex justify-end gap-2">
          <Button onClick={onClose}>{t("Not now")}</Button>
          <Button primary disabled={!inkml || name.trim() === ""} onClick={() => void keep()}>
            {t("Keep gesture")}
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

/** The last seconds of every signal, running from right to left, and what it is now. */

import { useEffect, useRef, useState } from "react";
import { useBench } from "../session/store";
import { useAnswer } from "../session/useEngine";
import { leaning } from "../model/tilt";
import type { Report } from "../draw/report";
import { engine } from "../engine/client";
import { forceOf } from "../model/hand";
import { heard, reports, WINDOW_S } from "./monitor";
import { fixed } from "../model/number";
import { t } from "../model/said";

interface Row {
  label: string;
  unit: string;
  most: number;
  digits: number;
  of: (r: Report) => number;
  /** A second, stronger line. */
  also?: (r: Report) => number;
}

const CURVE_STEPS = 400;
/** How often the figures are written, ms. */
const FIGURES_MS = 120;

export function StripCharts() {
  const hand = useBench((s) => s.hand);
  const curve = useAnswer(`calibration:${JSON.stringify(hand.calibration)}`, () => engine.curve(hand.calibration.curve, CURVE_STEPS + 1));
  const raw = (r: Report) => r.sample[3] ?? 0;
  const calibrated = (r: Report) => Math.min(1, Math.max(0, curve?.[Math.round(raw(r) * CURVE_STEPS)] ?? raw(r)));
  const lean = (r: Report) => leaning(r.sample[4] ?? 0, r.sample[5] ?? 0);
  const rows: Row[] = [
    { label: "Force of the hand", unit: "gf", most: hand.profile.full_gf, digits: 0, of: (r) => forceOf(raw(r), hand.profile) },
    { label: "Pressure: raw, calibrated", unit: "", most: 1, digits: 3, of: raw, also: calibrated },
    { label: "Tilt from upright", unit: "°", most: 90, digits: 0, of: (r) => lean(r).tilt },
    { label: "Lean", unit: "°", most: 360, digits: 0, of: (r) => lean(r).lean },
    { label: "Barrel", unit: "°", most: 360, digits: 0, of: (r) => r.sample[6] ?? 0 },
    { label: "Speed", unit: "mm/s", most: 400, digits: 0, of: (r) => r.speed },
  ];
  return (
    <section aria-label={t("Signals")} className="grid min-h-0 flex-1 grid-rows-6">
      {rows.map((row) => (
        <Strip key={row.label} row={row} />
      ))}
    </section>
  );
}

function Strip({ row }: { row: Row }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [figure, setFigure] = useState("–");
  const latest = useRef(row);
  useEffect(() => {
    latest.current = row;
  });
  useEffect(() => {
    let asked = 0;
    let drawn = -1;
    let written = 0;
    const draw = (now: number) => {
      asked = requestAnimationFrame(draw);
      const last = reports().at(-1);
      // Nothing moves once the newest report has run out to the left.
      if (heard() === drawn && (!last || now / 1000 - (last.sample[0] ?? 0) > WINDOW_S + 1)) return;
      drawn = heard();
      if (canvas.current) paint(canvas.current, latest.current, now / 1000);
      if (now - written < FIGURES_MS) return;
      written = now;
      const r = latest.current;
      const fresh = last && now / 1000 - (last.sample[0] ?? 0) < 1;
      const value = (of: (x: Report) => number) => (last ? fixed(of(last), r.digits) : "–");
      setFigure(fresh ? `${value(r.of)}${r.also ? ` → ${value(r.also)}` : ""} ${r.unit}` : "–");
    };
    asked = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(asked);
  }, []);
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[18px_minmax(0,1fr)] border-b border-hair">
      <span className="flex text-[12px]">
        <span>{row.label}</span>
        <span className="num pl-1.5 text-muted">
          0–{fixed(row.most)} {row.unit}
        </span>
        <span className="num ml-auto text-muted" data-signal={row.label}>
          {figure}
        </span>
      </span>
      <canvas ref={canvas} aria-hidden className="block h-full w-full" />
    </div>
  );
}

function paint(canvas: HTMLCanvasElement, row: Row, now: number) {
  const scale = window.devicePixelRatio || 1;
  const [width, height] = [Math.round(canvas.clientWidth * scale), Math.round(canvas.clientHeight * scale)];
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
  const context = canvas.getContext("2d");
  if (!context) return;
  const colour = (name: string) => getComputedStyle(canvas).getPropertyValue(name);
  context.clearRect(0, 0, width, height);
  context.strokeStyle = colour("--hair");
  context.lineWidth = 1;
  for (let s = 1; s < WINDOW_S; s++) {
    const x = Math.round(width - (s / WINDOW_S) * width) + 0.5;
    context.beginPath();
    context.moveTo(x, 0);
    context.lineTo(x, height);
    context.stroke();
  }
  const x = (r: Report) => width - ((now - (r.sample[0] ?? 0)) / WINDOW_S) * width;
  const y = (v: number) => height - 2 - Math.min(1, v / row.most) * (height - 4);
  const line = (of: (r: Report) => number, stroke: string, thick: number) => {
    context.strokeStyle = stroke;
    context.lineWidth = thick * scale;
    context.beginPath();
    let before: Report | null = null;
    for (const r of reports()) {
      // A pen that was away, or an angle that went round, is no line.
      const whole = before && (r.sample[0] ?? 0) - (before.sample[0] ?? 0) < 0.3 && Math.abs(of(r) - of(before)) < 0.7 * row.most;
      if (whole) context.lineTo(x(r), y(of(r)));
      else context.moveTo(x(r), y(of(r)));
      before = r;
    }
    context.stroke();
  };
  line(row.of, colour(row.also ? "--faint" : "--ink"), 1.2);
  if (row.also) line(row.also, colour("--draft"), 1.6);
}

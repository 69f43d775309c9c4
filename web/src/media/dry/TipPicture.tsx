/** A tip by itself, and what one dab of it leaves on the ground. */

import { useEffect, useRef } from "react";
import { engine, quiet, sheetPicture } from "../../engine/client";
import type { Dab, TipDab } from "../../engine/types";
import { Canvas } from "../../ui/Canvas";
import type { ToolDocument } from "../../model/tool";
import { useBench } from "../../session/store";
import { useAnswer } from "../../session/useEngine";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

/** Room about the tip. */
const ROOM = 1.25;
const spanOf = (dab: TipDab) => Math.max(0.5, ROOM * Math.hypot(dab.length_mm, dab.width_mm));
/** Numbers near enough that nothing would be seen: fewer questions to the engine. */
const rounded = (dab: TipDab) => Object.values(dab).map((v) => Number((v as number).toPrecision(3)));

export function TipPicture({ document, dab, side, label }: { document: ToolDocument; dab: TipDab; side: number; label: string }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const tip = Object.entries(document.parameters).filter(([id]) => id.startsWith("tip."));
  const pressure = useAnswer(`tip:${JSON.stringify([tip, document.seed, rounded(dab), side])}`, () => quiet().then(() => engine.tipView(document, dab, side, spanOf(dab) / side)));
  useEffect(() => {
    const context = ref.current?.getContext("2d");
    if (!context || pressure?.length !== side * side) return;
    context.canvas.width = side;
    context.canvas.height = side;
    const data = new ImageData(side, side);
    pressure.forEach((p, i) => data.data.set([28, 28, 28, p], 4 * i));
    context.putImageData(data, 0, 0);
  }, [pressure, side]);
  return <canvas ref={ref} {...(label ? { role: "img", "aria-label": label } : { "aria-hidden": true })} className="block shrink-0 bg-[#f3f1ec]" style={{ width: side, height: side }} />;
}

/** A single press with the hand as it is at the cursor, enlarged. */
export function DabOnGround({ document, dab, shown, side }: { document: ToolDocument; dab: Dab; shown: TipDab; side: number }) {
  const hand = useBench((s) => s.hand);
  const span = spanOf(shown);
  const { raw_pressure, barrel_deg, tilt_deg, lean_deg } = dab.signals;
  // Tilt along x and y from how far and which way the pen leans (W3C Pointer Events).
  const [tilt, lean] = [(tilt_deg * Math.PI) / 180, (lean_deg * Math.PI) / 180];
  const tiltX = (Math.atan(Math.cos(lean) * Math.tan(tilt)) * 180) / Math.PI;
  const tiltY = (Math.atan(Math.sin(lean) * Math.tan(tilt)) * 180) / Math.PI;
  const travel = Math.max(0.05, dab.travel_mm);
  const way = (dab.signals.heading_deg * Math.PI) / 180;
  const samples = [0, 1].flatMap((i) => [i * 0.05, span / 2 + (i - 0.5) * travel * Math.cos(way), span / 2 + (i - 0.5) * travel * Math.sin(way), raw_pressure, tiltX, tiltY, barrel_deg]);
  const key = `dab:${JSON.stringify([document, hand, samples.map((v) => Number(v.toFixed(2))), side])}`;
  const rgba = useAnswer(key, async () => {
    const inkml = await engine.inkmlOf(Float64Array.from(samples));
    return sheetPicture({ place: "dab", ground: document.ground, width: side, height: side, pixelMm: span / side, afarMm: 0, strokes: [{ tool: document, hand, way: { inkml }, shiftMm: [0, 0] }] });
  });
  return <Canvas rgba={rgba} width={side} height={side} label={t("One dab, {{v0}} mm across", { v0: fixed(span, 1) })} />;
}

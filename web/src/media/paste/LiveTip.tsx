/** Tip: the brush or blade as it bends under the pen, from the side and from below; while the pen is idle the selected gesture plays. */

import { useEffect, useRef, useState } from "react";
import { signalsOf } from "../../session/signals";
import { quiet, tipShape } from "../../engine/client";
import type { Dab } from "../../engine/types";
import type { Held, TipShape } from "../../generated/core";
import { useBench, useDocument } from "../../session/store";
import { useTrace } from "../../session/useEngine";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

const SIDE_PX = { width: 168, height: 150 };
const BELOW_PX = { width: 150, height: 150 };
/** How often the shape is asked for, ms. */
const EVERY_MS = 90;
/** A played gesture rests so long at its end, s. */
const REST_S = 0.8;

const reduced = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/** The dab that a gesture is at after so long. */
function dabAt(dabs: Dab[], seconds: number): Dab | undefined {
  // Passes come one after another: their times begin anew.
  let begun = 0;
  let pass = dabs[0]?.pass ?? 0;
  let last = 0;
  for (const dab of dabs) {
    if (dab.pass !== pass) {
      begun += last;
      pass = dab.pass;
    }
    last = dab.signals.time_s;
    if (begun + last >= seconds) return dab;
  }
  return dabs.at(-1);
}

/** The tip's shape as it is now. */
function useShape() {
  const document = useDocument();
  const hand = useBench((s) => s.hand);
  const gesture = useBench((s) => s.gesture);
  const cursor = useBench((s) => s.cursor);
  const trace = useTrace("draft", gesture);
  const [shape, setShape] = useState<TipShape | null>(null);
  const held = useBench((s) => s.held);
  const started = useRef(0);
  useEffect(() => {
    if (!document || !trace?.dabs.length) return;
    const { dabs } = trace;
    const whole = dabs.reduce((sum, d, i) => (dabs[i + 1]?.pass === d.pass ? sum : sum + d.signals.time_s), 0);
    started.current = performance.now();
    let stopped = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = async () => {
      const { live } = useBench.getState();
      const seconds = ((performance.now() - started.current) / 1000) % (whole + REST_S);
      const nearest = dabs.reduce((a, b) => (Math.abs(b.at_mm - cursor) < Math.abs(a.at_mm - cursor) ? b : a));
      const dab = reduced() ? nearest : (dabAt(dabs, seconds) ?? nearest);
      const signals = live ? signalsOf(live, dab.signals) : dab.signals;
      await quiet();
      // A document on the way between two states may be refused; the shape before stays.
      const next = await tipShape(document, hand, signals).catch(() => null);
      if (stopped) return;
      if (next) setShape(next);
      if (live || !reduced()) timer = setTimeout(() => void ask(), EVERY_MS);
    };
    void ask();
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }, [document, hand, trace, cursor]);
  return { shape, held };
}

const path = (points: [number, number][], at: (p: [number, number]) => [number, number]) => points.map((p) => at(p).map((v) => v.toFixed(1)).join()).join(" ");

export function LiveTip() {
  const { shape, held } = useShape();
  const document = useDocument();
  const width = Number(document?.parameters["tip.width_mm"] ?? 18);
  const length = Number(document?.parameters["tip.hair_length_mm"] ?? 22);
  if (!shape) return <div style={{ height: SIDE_PX.height }} />;
  const blade = document?.parameters["tip.ferrule"] === "blade";
  const high = 1.35 * (blade ? 28 : length);
  const scale = SIDE_PX.height / (high + 3);
  const side = ([x, y]: [number, number]): [number, number] => [0.72 * SIDE_PX.width + x * scale, SIDE_PX.height - 12 - y * scale];
  const span = 1.5 * width;
  const zoom = BELOW_PX.width / span;
  const below = ([x, y]: [number, number]): [number, number] => [BELOW_PX.width / 2 + x * zoom, BELOW_PX.height / 2 + y * zoom];
  const share = fixed(shape.touching * 100);
  const ends = shape.held_at.map(side);
  const [from, to] = [ends[0] ?? [0, 0], ends[1] ?? [0, 0]];
  const turn = shape.angle_deg;
  const said = blade ? `Gap ${fixed(1000 * shape.lowered_mm)} µm` : `${fixed(shape.lowered_mm, 1)} mm down, ${share} % of the hairs touch`;
  return (
    <figure className="m-0 border-b border-hair pb-2" data-testid="live-tip">
      <div className="flex gap-2">
        <svg width={SIDE_PX.width} height={SIDE_PX.height} role="img" aria-label={t("The tip from the side: {{said}}", { said })} className="rounded bg-raised">
          <line x1={0} x2={SIDE_PX.width} y1={SIDE_PX.height - 12} y2={SIDE_PX.height - 12} stroke="var(--muted)" />
          {shape.side.map((line, i) => (
            <polyline key={i} points={path(line as [number, number][], side)} fill="none" stroke={blade ? "var(--muted)" : colourOf(held, i / Math.max(1, shape.side.length - 1))} strokeWidth={blade ? 3 : 2.4} strokeLinecap="round" />
          ))}
          {!blade && <line x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} stroke="var(--muted)" strokeWidth={9} strokeLinecap="butt" />}
        </svg>
        <svg width={BELOW_PX.width} height={BELOW_PX.height} role="img" aria-label={t("From below: width turned to {{v0}}°", { v0: fixed(turn) })} className="rounded bg-raised">
          <polygon points={path(shape.section as [number, number][], below)} fill="none" stroke="var(--line)" strokeWidth={1.5} strokeDasharray="3 2" />
          <clipPath id="touched">
            <polygon points={path(shape.patch as [number, number][], below)} />
          </clipPath>
          <g clipPath="url(#touched)">
            <g transform={`translate(${BELOW_PX.width / 2} ${BELOW_PX.height / 2}) rotate(${turn})`}>
              {held.map((part, i) => (
                <rect key={i} x={zoom * width * 1.2 * (i / held.length - 0.5)} y={-BELOW_PX.height} width={(zoom * width * 1.2) / held.length + 0.6} height={2 * BELOW_PX.height} fill={`rgb(${part.rgb.join()})`} fillOpacity={0.25 + 0.75 * Math.min(1, part.full)} />
              ))}
            </g>
          </g>
          <polygon points={path(shape.patch as [number, number][], below)} fill="none" stroke="var(--draft)" strokeWidth={1.2} />
        </svg>
      </div>
      <figcaption className="num pt-1 text-[12px] text-muted">
        {fixed(shape.force_gf)}{" "}{t("gf ·")}{" "}{said}
      </figcaption>
    </figure>
  );
}

function colourOf(held: Held[], share: number): string {
  const part = held[Math.min(held.length - 1, Math.floor(share * held.length))];
  return part && part.full > 0 ? `rgb(${part.rgb.join()})` : "var(--muted)";
}

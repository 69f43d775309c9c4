/** Every channel of a gesture over its time, with the part that trimming would keep. */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useBench } from "../session/store";
import { leaning } from "../model/tilt";
import { PACKED } from "../engine/types";
import { forceOf } from "../model/hand";
import { useSize } from "../plot/useSize";
import { fixed } from "../model/number";
import { t } from "../model/said";

interface Channel {
  label: string;
  unit: string;
  most: number;
  /** Value at a sample of a packed pass. */
  of: (pass: Float64Array, i: number) => number;
}

const LABEL = 110;
/** Room for the times. */
const TICKS = 16;

/** Speed between a sample and the one before, mm/s; of the first, to the one after. */
function speed(pass: Float64Array, at: number): number {
  const i = Math.max(at, PACKED);
  if (i >= pass.length) return 0;
  const d = (k: number) => (pass[i + k] ?? 0) - (pass[i - PACKED + k] ?? 0);
  return d(0) > 0 ? Math.hypot(d(1), d(2)) / d(0) : 0;
}

export function Channels({ passes, keep }: { passes: Float64Array[]; keep: [number, number] }) {
  const profile = useBench((s) => s.hand.profile);
  const { ref, size } = useSize<HTMLDivElement>();
  const first = passes[0]?.[0] ?? 0;
  const last = passes.at(-1)?.at(-PACKED) ?? first;
  const x = scaleLinear([0, Math.max(last - first, 1e-6)], [LABEL, size.width - 8]);
  const lean = (pass: Float64Array, i: number) => leaning(pass[i + 4] ?? 0, pass[i + 5] ?? 0);
  const fastest = passes.reduce((most, pass) => {
    for (let i = 0; i < pass.length; i += PACKED) most = Math.max(most, speed(pass, i));
    return most;
  }, 1);
  const channels: Channel[] = [
    { label: "Force", unit: "gf", most: profile.full_gf, of: (p, i) => forceOf(p[i + 3] ?? 0, profile) },
    { label: "Tilt", unit: "°", most: 90, of: (p, i) => lean(p, i).tilt },
    { label: "Lean", unit: "°", most: 360, of: (p, i) => lean(p, i).lean },
    { label: "Barrel", unit: "°", most: 360, of: (p, i) => p[i + 6] ?? 0 },
    { label: "Speed", unit: "mm/s", most: fastest, of: speed },
  ];
  const row = (size.height - TICKS) / channels.length;
  return (
    <div ref={ref} className="h-full min-h-0">
      {size.width > 0 && (
        <svg width={size.width} height={size.height} role="img" aria-label={t("Channels of the gesture over time")}>
          {channels.map((c, n) => {
            const y = scaleLinear([0, c.most], [(n + 1) * row - 4, n * row + 8]).clamp(true);
            const path = passes.map((pass) => line<number>((i) => x((pass[i] ?? 0) - first), (i) => y(c.of(pass, i)))(indices(pass)) ?? "").join("");
            return (
              <g key={c.label}>
                <line x1={0} x2={size.width} y1={(n + 1) * row - 2} y2={(n + 1) * row - 2} stroke="var(--hair)" />
                <text x={0} y={n * row + 18} fontSize={13} fill="var(--ink)">
                  {c.label}
                </text>
                <text x={0} y={n * row + 34} fontSize={12} fill="var(--muted)" className="num">
                  0–{fixed(c.most)} {c.unit}
                </text>
                <path d={path} fill="none" stroke="var(--ink)" strokeWidth={1.3} />
              </g>
            );
          })}
          {x.ticks(8).map((t) => (
            <text key={t} x={x(t)} y={size.height - 4} textAnchor="middle" fontSize={11} fill="var(--muted)" className="num">
              {t === 0 ? "0 s" : t}
            </text>
          ))}
          <rect x={LABEL} width={Math.max(0, x(keep[0]) - LABEL)} height={size.height - TICKS} fill="var(--ground)" opacity={0.8} />
          <rect x={x(keep[1])} width={Math.max(0, size.width - 8 - x(keep[1]))} height={size.height - TICKS} fill="var(--ground)" opacity={0.8} />
        </svg>
      )}
    </div>
  );
}

const indices = (pass: Float64Array) => Array.from({ length: pass.length / PACKED }, (_, i) => i * PACKED);

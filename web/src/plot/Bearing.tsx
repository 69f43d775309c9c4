/** A ground in section and as its material-ratio curve, with the depth that a stick reaches. */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { GroundFigures } from "../engine/types";
import { short } from "../model/tool";
import { fixed } from "../model/number";
import { t } from "../model/said";

/** Left a section of the ground with the depth that the stick reaches under a load; right the material-ratio curve. */
export function Bearing({ figures, load, width, height = 120 }: { figures: GroundFigures; load: number; width: number; height?: number }) {
  const heights = figures.material_ratio.map((p) => p[1]);
  const [low, high] = [Math.min(...heights, -5), Math.max(...heights, 5)];
  const y = scaleLinear([low, high], [height - 16, 14]);
  const split = width * 0.62;
  const mm = scaleLinear([0, figures.section_um.length * figures.section_step_mm], [0, split - 10]);
  const share = scaleLinear([0, 1], [split + 6, width - 6]);
  const level = interpolate(figures.plane, Math.min(1, load));
  const covered = figures.material_ratio.find((p) => p[1] < level)?.[0] ?? 1;
  const section = line<number>((_, i) => mm(i * figures.section_step_mm), (v) => y(v))(figures.section_um) ?? "";
  const ratio = line<[number, number]>((p) => share(p[0]), (p) => y(p[1]))(figures.material_ratio) ?? "";
  return (
    <svg width={width} height={height} role="img" aria-label={t("Section of the ground and material ratio; the stick stands at {{v0}} µm and touches {{v1}} %", { v0: fixed(level, 1), v1: fixed(100 * covered) })}>
      <path d={`${section}L${mm(figures.section_um.length * figures.section_step_mm)},${height - 14}L0,${height - 14}Z`} fill="var(--line)" stroke="var(--muted)" />
      {mm.ticks(10).map((v) => (
        <line key={v} x1={mm(v)} x2={mm(v)} y1={height - 14} y2={height - 14 - (v % 5 === 0 ? 7 : 4)} stroke="var(--ink)" />
      ))}
      <path d={ratio} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
      <line x1={0} x2={width} y1={y(level)} y2={y(level)} stroke="var(--draft)" strokeDasharray="5 3" strokeWidth={1.4} />
      <circle cx={share(covered)} cy={y(level)} r={4} fill="var(--draft)" />
      <g fontSize={11} fill="var(--muted)">
        <text x={2} y={10}>
          {t("section,")}{" "}{fixed(mm.domain()[1] ?? 0)}{" "}{t("mm, a mark a mm")}
        </text>
        <text x={width - 4} y={10} textAnchor="end">
          {t("material ratio")}
        </text>
        <text x={width - 4} y={height - 2} textAnchor="end" fill="var(--draft)" fontWeight={600}>
          {t("touches")}{" "}{fixed(100 * covered)}{" "}{t("% at")}{" "}{short(level, 2)} µm
        </text>
        <text x={2} y={height - 2}>
          {fixed(low)}{" "}{t("to")}{" "}{fixed(high)} µm
        </text>
      </g>
    </svg>
  );
}

function interpolate(table: [number, number][], at: number): number {
  const i = table.findIndex((p) => p[0] >= at);
  const [b, a] = [table[i] ?? table.at(-1), table[i - 1]];
  if (!b) return 0;
  if (!a) return b[1];
  return a[1] + ((b[1] - a[1]) * (at - a[0])) / (b[0] - a[0]);
}


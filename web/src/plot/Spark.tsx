/** A small live plot of a station: one or two lines over the stroke's length, with the shared cursor. */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";

export interface Series {
  points: [number, number][];
  look: "kept" | "draft" | "ink";
}

const STROKE = { kept: "var(--kept)", draft: "var(--draft)", ink: "var(--ink)" };

export function Spark(props: { series: Series[]; length: number; top: number; cursor: number; width: number; height: number }) {
  const { width, height } = props;
  const x = scaleLinear([0, Math.max(props.length, 1)], [1, width - 1]);
  const y = scaleLinear([0, props.top > 0 ? props.top : 1], [height - 2, 3]).clamp(true);
  const path = line<[number, number]>((p) => x(p[0]), (p) => y(p[1]));
  return (
    <svg width={width} height={height} aria-hidden className="block">
      <line x1={0} x2={width} y1={height - 1.5} y2={height - 1.5} stroke="var(--line)" />
      {props.series.map((s, i) => (
        <path key={i} d={path(s.points) ?? ""} fill="none" stroke={STROKE[s.look]} strokeWidth={s.look === "kept" ? 1.1 : 1.5} />
      ))}
      <line x1={x(props.cursor)} x2={x(props.cursor)} y1={0} y2={height} stroke="var(--muted)" strokeWidth={1} />
    </svg>
  );
}

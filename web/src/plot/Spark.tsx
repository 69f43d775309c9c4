/** A small live plot of a station: one or two lines over the stroke's length, with the shared cursor. */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useMemo } from "react";
import { thinned, type Point } from "./thinned";

export interface Series {
  points: Point[];
  look: "kept" | "draft" | "ink";
}

const STROKE = { kept: "var(--kept)", draft: "var(--draft)", ink: "var(--ink)" };

export function Spark(props: { series: Series[]; length: number; top: number; cursor: number; width: number; height: number }) {
  const { series, length, top, width, height } = props;
  // The cursor moves more often than the lines do.
  const { x, paths } = useMemo(() => {
    const x = scaleLinear([0, Math.max(length, 1)], [1, width - 1]);
    const y = scaleLinear([0, top > 0 ? top : 1], [height - 2, 3]).clamp(true);
    return { x, paths: series.map(({ points }) => line()(thinned(points.map((p) => [x(p[0]), y(p[1])]))) ?? "") };
  }, [series, length, top, width, height]);
  return (
    <svg width={width} height={height} aria-hidden className="block">
      <line x1={0} x2={width} y1={height - 1.5} y2={height - 1.5} stroke="var(--line)" />
      {series.map((s, i) => (
        <path key={i} d={paths[i]} fill="none" stroke={STROKE[s.look]} strokeWidth={s.look === "kept" ? 1.1 : 1.5} />
      ))}
      <line x1={x(props.cursor)} x2={x(props.cursor)} y1={0} y2={height} stroke="var(--muted)" strokeWidth={1} />
    </svg>
  );
}

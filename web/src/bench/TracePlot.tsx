/** Every factor over the stroke's length. */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useMemo } from "react";
import type { Dab, Trace } from "../engine/types";
import { viewsOf } from "../media";
import { Term } from "../media/Term";
import { thinned } from "../plot/thinned";
import { useSize } from "../plot/useSize";
import { useDeclared } from "../session/context";
import { useBench, within } from "../session/store";
import { useTrace } from "../session/useEngine";
import { fixed } from "../model/number";
import { t } from "../model/said";

const MARGIN = { left: 30, right: 30, top: 8, bottom: 18 };
/** Height of the legend, px. */
const LEGEND = 24;

export function TracePlot() {
  const { ref, size } = useSize<HTMLDivElement>();
  const gesture = useBench((s) => s.gesture);
  const cursor = useBench((s) => s.cursor);
  const kept = useTrace("kept", gesture);
  const besideName = useBench((s) => s.against?.name ?? "kept");
  const draft = useTrace("draft", gesture);
  const { medium, qualityOf, columnOf } = useDeclared();
  const { traced } = viewsOf(medium.medium);
  const width = size.width;
  const height = Math.max(0, size.height - LEGEND);
  const length = Math.max(1, draft?.length_mm ?? 1);
  const { x, y, forces, lines } = useMemo(
    () => linesOf({ kept, draft, traced, force: (d) => qualityOf(d, "force"), columnOf, length, width, height }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the declarations never change
    [kept, draft, medium, length, width, height],
  );
  const top = forces.domain()[1] ?? 1;
  const move = (to: number) => useBench.setState({ cursor: within(to, 0, length) });
  const point = (e: React.PointerEvent<SVGSVGElement>) => move(x.invert(e.clientX - e.currentTarget.getBoundingClientRect().left));
  const shown = within(cursor, 0, length);
  return (
    <div ref={ref} className="h-full min-w-0">
      {width > 0 && draft && (
        <p className="flex items-center gap-4 overflow-hidden text-[12px] whitespace-nowrap text-muted" style={{ height: LEGEND }}>
          <Term word="word:gf">{t("Force, gf (gram-force)")}</Term>
          <Drawn stroke="var(--faint)">{t("hand")}</Drawn>
          <Drawn stroke="var(--kept)" dash="4 3">
            {besideName === "kept" ? t("kept") : besideName}
          </Drawn>
          <Drawn stroke="var(--draft)">{t("draft")}</Drawn>
          {traced && (
            <span className="ml-auto">
              <Drawn stroke="var(--ink)">{traced.label}, %</Drawn>
            </span>
          )}
        </p>
      )}
      {width > 0 && draft && (
        <svg
          width={width}
          height={height}
          role="slider"
          tabIndex={0}
          aria-label={t("Cursor along the stroke")}
          aria-valuemin={0}
          aria-valuemax={Math.round(length)}
          aria-valuenow={Math.round(shown)}
          aria-valuetext={`${fixed(shown, 1)} mm`}
          className="cursor-crosshair touch-none"
          data-testid="trace"
          onPointerMove={(e) => !useBench.getState().cursorHeld && point(e)}
          onPointerDown={(e) => {
            point(e);
            useBench.setState({ cursorHeld: true });
          }}
          onKeyDown={(e) => {
            const step = e.shiftKey ? 5 : 0.5;
            if (e.key === "ArrowLeft") move(shown - step);
            if (e.key === "ArrowRight") move(shown + step);
            if (e.key === "Home") move(0);
            if (e.key === "End") move(length);
          }}
        >
          {x.ticks(9).map((t) => (
            <g key={t}>
              <line x1={x(t)} x2={x(t)} y1={MARGIN.top} y2={height - MARGIN.bottom} stroke="var(--hair)" />
              <text x={x(t)} y={height - 4} textAnchor="middle" className="num" fontSize={11} fill="var(--muted)">
                {t}
              </text>
            </g>
          ))}
          <text x={width - 2} y={height - 4} textAnchor="end" className="num" fontSize={11} fill="var(--muted)">
            {t("mm")}
          </text>
          {forces.ticks(3).map((t) => (
            <text key={t} x={MARGIN.left - 5} y={y(t / top) + 4} textAnchor="end" className="num" fontSize={11} fill="var(--muted)">
              {t}
            </text>
          ))}
          {lines.map((l) => (
            <path key={l.name} d={l.path} fill="none" stroke={l.stroke} strokeWidth={l.width} strokeDasharray={l.dash} />
          ))}
          {traced &&
            [0, 0.5, 1].map((share) => (
              <text key={share} x={width - MARGIN.right + 5} y={y(share) + 4} className="num" fontSize={11} fill="var(--muted)">
                {100 * share}
              </text>
            ))}
          <line x1={x(shown)} x2={x(shown)} y1={MARGIN.top - 2} y2={height - MARGIN.bottom} stroke="var(--ink)" strokeWidth={1.5} />
          <g transform={`translate(${within(x(shown), 26, width - 26)} ${height - 8})`}>
            <rect x={-22} y={-8} width={44} height={16} rx={2} fill="var(--ink)" />
            <text textAnchor="middle" y={4} className="num" fontSize={11} fill="var(--ground)">
              {fixed(shown, 1)}
            </text>
          </g>
        </svg>
      )}
    </div>
  );
}

interface Told {
  kept: Trace | null;
  draft: Trace | null;
  /** What the medium tells of itself here. */
  traced: { column: string } | null | undefined;
  force: (d: Dab) => number;
  columnOf: (d: Dab, column: string) => number;
  length: number;
  width: number;
  height: number;
}

/** The lines as they are drawn, and their scales: those change seldom, and the cursor often. */
function linesOf({ kept, draft, traced, force, columnOf, length, width, height }: Told) {
  const x = scaleLinear([0, length], [MARGIN.left, width - MARGIN.right]);
  const y = scaleLinear([0, 1], [height - MARGIN.bottom, MARGIN.top]);
  const most = [kept, draft].flatMap((t) => t?.dabs ?? []).reduce((most, d) => Math.max(most, force(d), d.hand_gf), 1);
  const forces = scaleLinear([0, most], [0, 1]).nice(4);
  const top = forces.domain()[1] ?? most;
  const path = (trace: Trace | null, of: (d: Dab) => number) => line()(thinned((trace?.dabs ?? []).map((d) => [x(d.at_mm), y(of(d))]))) ?? "";
  const lines: { name: string; path: string; stroke: string; dash?: string; width: number }[] = [
    { name: "hand", path: path(draft, (d) => d.hand_gf / top), stroke: "var(--faint)", width: 1.2 },
    { name: "kept", path: path(kept, (d) => force(d) / top), stroke: "var(--kept)", dash: "4 3", width: 1.3 },
    { name: "draft", path: path(draft, (d) => force(d) / top), stroke: "var(--draft)", width: 2 },
    ...(traced ? [{ name: traced.column, path: path(draft, (d) => columnOf(d, traced.column)), stroke: "var(--ink)", width: 1 }] : []),
  ];
  return { x, y, forces, lines };
}

/** A line as it is drawn, with its name. */
function Drawn({ stroke, dash, children }: { stroke: string; dash?: string; children: React.ReactNode }) {
  return (
    <span className="inline-flex min-w-0 items-center gap-1.5">
      <svg aria-hidden width={18} height={6}>
        <path d="M0 3H18" stroke={stroke} strokeWidth={2} strokeDasharray={dash} />
      </svg>
      <span className="truncate">{children}</span>
    </span>
  );
}

/** The chain of stations: each a small live plot of what it does to the selected stroke. The ribbon is the navigation. */

import { memo, useMemo } from "react";
import type { Dab, Trace } from "../engine/types";
import { Spark, type Series } from "../plot/Spark";
import type { Point } from "../plot/thinned";
import { useSize } from "../plot/useSize";
import { calledOf } from "../model/ground";
import { viewsOf } from "../media";
import { rangeOf, type RibbonOf, type RibbonView } from "../media/views";
import { STATIONS, changes, type Station } from "../model/tool";
import { useDeclared } from "../session/context";
import { useFollowed } from "../session/followed";
import { useBench, useKept } from "../session/store";
import { useTrace } from "../session/useEngine";
import { fixed } from "../model/number";
import { t } from "../model/said";

export function Ribbon() {
  const gesture = useBench((s) => s.gesture);
  const open = useBench((s) => s.station);
  const kept = useKept();
  const draft = useFollowed();
  const { declarations, medium, qualityOf, columnOf } = useDeclared();
  const paper = draft ? calledOf(declarations, draft.ground) : "";
  const keptTrace = useTrace("kept", gesture);
  const draftTrace = useTrace("draft", gesture);
  const changed = kept && draft ? changes(kept, draft, medium.parameters).stations : new Set<Station>();
  const views = useMemo(
    () => {
      if (!draft) return [];
      const of: RibbonOf = { document: draft, kept: keptTrace, draft: draftTrace, column: columnOf, ground: paper };
      return STATIONS.map(({ id }) => viewOf(id, of, medium.medium, (d) => qualityOf(d, "force")));
    },
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the declarations never change
    [keptTrace, draftTrace, paper, draft],
  );
  return (
    <nav aria-label={t("Stations")} className="grid h-full grid-cols-[repeat(7,minmax(132px,1fr))] overflow-x-auto overflow-y-hidden rounded-t border border-line">
      {STATIONS.map(({ id, label }, i) => {
        const view = views[i];
        if (!view) return null;
        const active = open === id;
        return (
          <button
            key={id}
            type="button"
            aria-current={active ? "true" : undefined}
            title={`${label} (${i + 1})`}
            onClick={() => useBench.setState({ station: id })}
            className={`relative flex min-w-0 flex-col border-line p-1.5 text-left ${i > 0 ? "border-l" : ""} ${active ? "bg-raised" : "bg-pane"}`}
          >
            <span className="flex w-full items-baseline gap-1.5">
              <span className={`font-semibold ${view.idle ? "text-muted" : ""}`}>{label}</span>
              {changed.has(id) && <span className="inline-block h-2 w-2 rounded-full bg-draft" role="img" aria-label={t("changed")} />}
              <span className="num ml-auto truncate text-muted">{view.figure}</span>
            </span>
            {view.idle ? (
              <span className="mt-2 text-[12px] text-muted">{view.idle}</span>
            ) : (
              <Plot view={view} length={draftTrace?.length_mm ?? 0} />
            )}
            {active && <span aria-hidden className="absolute inset-x-0 bottom-0 h-0.5 bg-draft" />}
          </button>
        );
      })}
    </nav>
  );
}

function viewOf(id: Station, of: RibbonOf, medium: string, force: (d: Dab) => number): RibbonView {
  const { kept, draft } = of;
  const dabs = draft?.dabs ?? [];
  // Nothing was measured yet: no number is better than a nought.
  if (dabs.length === 0) return { figure: id === "ground" ? of.ground : "–" };
  switch (id) {
    case "hand":
      return { figure: rangeOf(draft, (d) => d.hand_gf, 0, "gf"), of: (d) => d.hand_gf, draft, look: "ink" };
    case "touch":
      return { figure: rangeOf(draft, force, 0, "gf"), of: force, kept, draft };
    case "tip": {
      const widest = dabs.reduce((m, d) => (d.length_mm > m.length_mm ? d : m));
      return { figure: `${fixed(widest.length_mm, 1)} × ${fixed(widest.width_mm, 1)} mm`, footprints: true, kept, draft };
    }
    default:
      return viewsOf(medium).ribbon(id, of);
  }
}

const Plot = memo(function Plot({ view, length }: { view: RibbonView; length: number }) {
  const { ref, size } = useSize<HTMLSpanElement>();
  const cursor = useBench((s) => s.cursor);
  const { series, top } = useMemo(() => seriesOf(view), [view]);
  let body = null;
  if (size.width > 0 && view.footprints) {
    body = <Footprints kept={view.kept ?? null} draft={view.draft ?? null} length={length} cursor={cursor} {...size} />;
  } else if (size.width > 0 && view.of) {
    body = <Spark series={series} length={length} top={top} cursor={cursor} width={size.width} height={size.height} />;
  }
  return (
    <span ref={ref} className="mt-0.5 block min-h-0 w-full flex-1">
      {body}
    </span>
  );
});

function seriesOf(view: RibbonView): { series: Series[]; top: number } {
  const { of } = view;
  if (!of) return { series: [], top: 0 };
  const points = (trace: Trace | null | undefined) => (trace?.dabs ?? []).map((d): Point => [d.at_mm, of(d)]);
  const series: Series[] = [];
  if (view.kept) series.push({ points: points(view.kept), look: "kept" });
  series.push({ points: points(view.draft), look: view.look ?? "draft" });
  return { series, top: series.flatMap((s) => s.points).reduce((most, [, y]) => Math.max(most, y), 1e-6) };
}

const SHOWN = 5;

function Footprints(props: { kept: Trace | null; draft: Trace | null; length: number; cursor: number; width: number; height: number }) {
  const { width, height, length } = props;
  const pick = (trace: Trace | null) =>
    Array.from({ length: SHOWN }, (_, i) => {
      const at = (length * (i + 0.5)) / SHOWN;
      return trace?.dabs.find((d) => d.at_mm >= at) ?? trace?.dabs.at(-1);
    });
  const all = [...pick(props.kept), ...pick(props.draft)].filter((d) => d !== undefined);
  const most = Math.max(0.1, ...all.map((d) => d.length_mm));
  const scale = Math.min(height - 6, width / SHOWN - 2) / most;
  const shapes = (trace: Trace | null, stroke: string, fill: string) =>
    pick(trace).map(
      (d, i) =>
        d && (
          <rect
            key={i}
            x={(-d.length_mm / 2) * scale}
            y={(-d.width_mm / 2) * scale}
            width={d.length_mm * scale}
            height={d.width_mm * scale}
            rx={(d.width_mm / 2) * scale}
            transform={`translate(${(width * (i + 0.5)) / SHOWN} ${height / 2}) rotate(${d.angle_deg})`}
            stroke={stroke}
            fill={fill}
          />
        ),
    );
  const x = length > 0 ? (props.cursor / length) * width : 0;
  return (
    <svg width={width} height={height} aria-hidden>
      {shapes(props.kept, "var(--kept)", "none")}
      {shapes(props.draft, "var(--draft)", "color-mix(in srgb, var(--draft) 22%, transparent)")}
      <line x1={x} x2={x} y1={0} y2={height} stroke="var(--muted)" />
    </svg>
  );
}

/** The trace: why the mark under the cursor is as it is, and every factor over the stroke's length. */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Column, MediumDeclared, Quality, Reading } from "../generated/core";
import type { Dab, Trace } from "../engine/types";
import { useSize } from "../plot/useSize";
import { viewsOf } from "../media";
import { STATIONS, outputRange, short } from "../model/tool";
import { traceCsv } from "../engine/client";
import { Button } from "../ui/controls";
import { saveFile } from "../ui/saveFile";
import { useDeclared } from "../session/context";
import { useBench, useDocument, within } from "../session/store";
import { useDifferences, useExplained, useTrace } from "../session/useEngine";

const stationLabel = (id: string) => STATIONS.find((s) => s.id === id)?.label ?? id;

export function Reason() {
  const gesture = useBench((s) => s.gesture);
  const cursor = useBench((s) => s.cursor);
  const explained = useExplained("draft", gesture, cursor);
  const { declarations, medium, signal, ownParameter, qualityOf } = useDeclared();
  const document = useDocument();
  const beside = useBench((s) => s.beside);
  const against = useBench((s) => s.against);
  const cut = useTrace("draft", gesture)?.cut;
  if (!explained) return <div className="p-3 text-muted">No stroke is selected.</div>;
  const { dab, reason } = explained;
  // What each response made of its signal: input, the curve's share, output.
  const responses = dab.factors.flatMap((f): [string, string][] => {
    const response = document?.responses[f.response];
    const [from, to] = [signal(response?.signal ?? ""), ownParameter(response?.quality ?? "")];
    if (!document || !response || !from || !to) return [];
    const { unit } = outputRange(document, response, to);
    return [[`${from.label} → ${to.label.toLowerCase()}`, `${short(f.input)} ${from.unit} → ${f.share.toFixed(3)} → ${short(f.output)} ${unit}`]];
  });
  return (
    <section aria-label="Why the mark is so" className="h-full overflow-y-auto px-3 py-2" data-testid="reason">
      <div className="float-right ml-2 flex gap-1 text-[12px]">
        <Button
          className="!min-h-6 !px-1.5 !py-0"
          aria-pressed={beside === "kept"}
          title="Compare with the tool beside the draft at the same place"
          onClick={() => useBench.setState({ beside: beside === "kept" ? null : "kept" })}
        >
          {against ? "Beside" : "Kept"}
        </Button>
        <Button
          className="!min-h-6 !px-1.5 !py-0"
          aria-pressed={beside !== null && beside !== "kept"}
          title="Pin this place and compare others with it"
          onClick={() => useBench.setState({ beside: beside !== null && beside !== "kept" ? null : { dab, name: `${dab.at_mm.toFixed(1)} mm` } })}
        >
          Pin
        </Button>
        <Button className="!min-h-6 !px-1.5 !py-0" title="Save the whole trace as comma-separated values" onClick={() => gesture && void saveCsv(gesture)}>
          CSV
        </Button>
      </div>
      <p className="mb-1 font-semibold">
        <span className="num">{dab.at_mm.toFixed(1)} mm:</span> {reason.sentence}
      </p>
      {cut && (
        <p className="mb-1 text-muted" data-testid="cut">
          This stroke was {cut}.
        </p>
      )}
      {beside && <Beside dab={dab} />}
      <table className="w-full">
        <tbody>
          {reason.lines.map((l) => (
            <tr key={l.station + l.what}>
              <td className="w-[62%] whitespace-nowrap py-px pr-2">
                {stationLabel(l.station)}: {l.what}
              </td>
              <td>
                <span className="block h-1.5 bg-muted" style={{ width: `${Math.max(1, 100 * l.weight)}%` }} />
              </td>
              <td className="num w-16 text-right">× {short(l.times)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <details className="mt-1">
        <summary className="cursor-pointer text-muted">Every factor</summary>
        <dl className="grid grid-cols-[1fr_auto] gap-x-3 text-[12px]">
          {[...figures(dab, declarations.columns, medium, qualityOf), ...responses].map(([label, value]) => (
            <div key={label} className="contents">
              <dt className="text-muted">{label}</dt>
              <dd className="num text-right">{value}</dd>
            </div>
          ))}
        </dl>
      </details>
    </section>
  );
}

async function saveCsv(gesture: string) {
  const text = await traceCsv("draft", gesture);
  if (text) saveFile("trace.csv", "text/csv", text);
}

/** What differs from the tool beside the draft here, or from the pinned place, most first. */
function Beside({ dab }: { dab: Dab }) {
  const gesture = useBench((s) => s.gesture);
  const beside = useBench((s) => s.beside);
  const kept = useExplained("kept", beside === "kept" ? gesture : null, dab.at_mm);
  const other = beside === "kept" ? (kept?.dab ?? null) : (beside?.dab ?? null);
  const differences = useDifferences(useDeclared().medium.medium, other, dab);
  const against = useBench((s) => s.against?.name ?? "kept");
  const name = beside === "kept" ? against : (beside?.name ?? "");
  if (!differences) return null;
  return (
    <table className="mb-2 w-full text-[12px]" data-testid="differences">
      <thead>
        <tr className="text-muted">
          <th className="text-left font-normal">{differences.length === 0 ? "Nothing differs" : "Differs most in"}</th>
          <th className="num text-right font-normal">{name}</th>
          <th className="num text-right font-normal text-draft">here</th>
          <th className="w-10" />
        </tr>
      </thead>
      <tbody>
        {differences.map((d) => (
          <tr key={d.what}>
            <td>{d.what}</td>
            <td className="num text-right">{short(d.a)}</td>
            <td className="num text-right">{short(d.b)}</td>
            <td className="pl-1 text-muted">{d.unit}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How a number of the trace is written. */
function written(value: number, unit: string, kind: Reading): string {
  if (kind === "share") return `${(100 * value).toFixed(1)} %`;
  return `${short(value)} ${unit}`.trimEnd();
}

/** Every recorded number of a dab with its unit: what every trace tells, the qualities, what the medium tells. */
function figures(d: Dab, common: Column[], medium: MediumDeclared, qualityOf: (d: Dab, q: Quality) => number): [string, string][] {
  const numbers: Record<string, unknown> = { ...d.signals, ...d };
  return [
    ...common.map(({ id, label, unit, kind }): [string, string] => [label, written(Number(numbers[id] ?? 0), unit, kind)]),
    ...medium.parameters.flatMap((p): [string, string][] => (p.quality ? [[`Quality: ${p.label.toLowerCase()}`, written(qualityOf(d, p.quality), p.unit, "amount")]] : [])),
    ...medium.columns.map(({ label, unit, kind }, i): [string, string] => [label, written(d.values[i] ?? 0, unit, kind)]),
  ];
}

const MARGIN = { left: 30, right: 20, top: 18, bottom: 18 };

export function TracePlot() {
  const { ref, size } = useSize<HTMLDivElement>();
  const gesture = useBench((s) => s.gesture);
  const cursor = useBench((s) => s.cursor);
  const kept = useTrace("kept", gesture);
  const besideName = useBench((s) => s.against?.name ?? "kept");
  const draft = useTrace("draft", gesture);
  const { medium, qualityOf, columnOf } = useDeclared();
  const { traced } = viewsOf(medium.medium);
  const { width, height } = size;
  const length = Math.max(1, draft?.length_mm ?? 1);
  const x = scaleLinear([0, length], [MARGIN.left, width - MARGIN.right]);
  const y = scaleLinear([0, 1], [height - MARGIN.bottom, MARGIN.top]);
  const force = (d: Dab) => qualityOf(d, "force");
  const most = Math.max(1, ...[kept, draft].flatMap((t) => (t?.dabs ?? []).map((d) => Math.max(force(d), d.hand_gf))));
  const forces = scaleLinear([0, most], [0, 1]).nice(4);
  const top = forces.domain()[1] ?? most;
  const path = (trace: Trace | null, of: (d: Dab) => number) => line<Dab>((d) => x(d.at_mm), (d) => y(of(d)))(trace?.dabs ?? []) ?? "";
  const move = (to: number) => useBench.setState({ cursor: within(to, 0, length) });
  const shown = within(cursor, 0, length);
  const lines: { name: string; trace: Trace | null; of: (d: Dab) => number; stroke: string; dash?: string; width: number }[] = [
    { name: "hand", trace: draft, of: (d) => d.hand_gf / top, stroke: "var(--faint)", width: 1.2 },
    { name: besideName, trace: kept, of: (d) => force(d) / top, stroke: "var(--kept)", dash: "4 3", width: 1.3 },
    { name: "draft", trace: draft, of: (d) => force(d) / top, stroke: "var(--draft)", width: 2 },
    ...(traced ? [{ name: traced.column, trace: draft, of: (d: Dab) => columnOf(d, traced.column), stroke: "var(--ink)", width: 1 }] : []),
  ];
  return (
    <div ref={ref} className="h-full min-w-0">
      {width > 0 && draft && (
        <svg
          width={width}
          height={height}
          role="slider"
          tabIndex={0}
          aria-label="Cursor along the stroke"
          aria-valuemin={0}
          aria-valuemax={Math.round(length)}
          aria-valuenow={Math.round(shown)}
          aria-valuetext={`${shown.toFixed(1)} mm`}
          className="cursor-crosshair touch-none"
          data-testid="trace"
          onPointerMove={(e) => move(x.invert(e.clientX - e.currentTarget.getBoundingClientRect().left))}
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
            mm
          </text>
          {forces.ticks(3).map((t) => (
            <text key={t} x={MARGIN.left - 5} y={y(t / top) + 4} textAnchor="end" className="num" fontSize={11} fill="var(--muted)">
              {t}
            </text>
          ))}
          {lines.map((l) => (
            <path key={l.name} d={path(l.trace, l.of)} fill="none" stroke={l.stroke} strokeWidth={l.width} strokeDasharray={l.dash} />
          ))}
          <g fontSize={12} textAnchor="end">
            <text x={width - 280} y={13} fill="var(--muted)">
              force in gf: of the hand
            </text>
            <text x={width - 190} y={13} fill="var(--muted)">
              - - {besideName === "kept" ? "kept tool" : "the tool beside"}
            </text>
            <text x={width - 110} y={13} fill="var(--draft)" fontWeight={600}>
              — draft
            </text>
            <text x={width - 20} y={13} fill="var(--ink)">
              {traced?.label}
            </text>
          </g>
          <line x1={x(shown)} x2={x(shown)} y1={MARGIN.top - 2} y2={height - MARGIN.bottom} stroke="var(--ink)" strokeWidth={1.5} />
          <g transform={`translate(${within(x(shown), 26, width - 26)} ${height - 8})`}>
            <rect x={-22} y={-8} width={44} height={16} rx={2} fill="var(--ink)" />
            <text textAnchor="middle" y={4} className="num" fontSize={11} fill="var(--ground)">
              {shown.toFixed(1)}
            </text>
          </g>
        </svg>
      )}
    </div>
  );
}

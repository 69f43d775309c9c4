/** Why the mark under the cursor is as it is, and what changes each cause. */

import type { Column, Line, MediumDeclared, Quality, Reading } from "../generated/core";
import type { Dab } from "../engine/types";
import { useShownKey } from "../keys/registry";
import { STATIONS, outputRange, short, type ToolDocument } from "../model/tool";
import { traceCsv } from "../engine/client";
import { Button } from "../ui/controls";
import { saveFile } from "../ui/saveFile";
import { useDeclared } from "../session/context";
import { useFollowed } from "../session/followed";
import { useBench } from "../session/store";
import { useDifferences, useExplained, useTrace } from "../session/useEngine";
import { fixed } from "../model/number";
import { t, worded } from "../model/said";

const stationLabel = (id: string) => STATIONS.find((s) => s.id === id)?.label ?? id;

export function Reason() {
  const gesture = useBench((s) => s.gesture);
  const cursor = useBench((s) => s.cursor);
  const explained = useExplained("draft", gesture, cursor);
  const { declarations, medium, signal, ownParameter, qualityOf } = useDeclared();
  const document = useFollowed();
  const beside = useBench((s) => s.beside);
  const against = useBench((s) => s.against);
  const held = useBench((s) => s.cursorHeld);
  const key = useShownKey("let-go");
  const cut = useTrace("draft", gesture)?.cut;
  if (!explained) return <div className="p-3 text-muted">{t("No stroke is selected.")}</div>;
  const { dab, reason } = explained;
  // What each response made of its signal: input, the curve's share, output.
  const responses = dab.factors.flatMap((f): [string, string][] => {
    const response = document?.responses[f.response];
    const [from, to] = [signal(response?.signal ?? ""), ownParameter(response?.quality ?? "")];
    if (!document || !response || !from || !to) return [];
    const { unit } = outputRange(document, response, to);
    return [[`${from.label} → ${to.label.toLowerCase()}`, `${short(f.input)} ${from.unit} → ${fixed(f.share, 3)} → ${short(f.output)} ${unit}`]];
  });
  return (
    <section aria-label={t("Why the mark is so")} className="h-full overflow-y-auto px-3 py-2" data-testid="reason">
      <div className="float-right ml-2 flex gap-1 text-[12px]">
        <Button
          className="!min-h-6 !px-1.5 !py-0"
          aria-pressed={beside === "kept"}
          title={t("Compare with the tool beside the draft at the same place")}
          onClick={() => useBench.setState({ beside: beside === "kept" ? null : "kept" })}
        >
          {against ? t("Beside") : t("Kept")}
        </Button>
        <Button
          className="!min-h-6 !px-1.5 !py-0"
          aria-pressed={beside !== null && beside !== "kept"}
          title={t("Pin this place and compare others with it")}
          onClick={() => useBench.setState({ beside: beside !== null && beside !== "kept" ? null : { dab, name: `${fixed(dab.at_mm, 1)} mm` } })}
        >
          {t("Pin")}
        </Button>
        <Button className="!min-h-6 !px-1.5 !py-0" title={t("Save the whole trace as comma-separated values")} onClick={() => gesture && void saveCsv(gesture)}>
          {t("CSV")}
        </Button>
      </div>
      <p className="mb-1 font-semibold">
        <span className="num">{fixed(dab.at_mm, 1)}{" "}{t("mm:")}</span> {worded(reason.sentence)}
      </p>
      {held && (
        <p className="mb-1 text-[12px] text-muted">
          {t("This place is held.")}{" "}
          <button type="button" className="min-h-6 px-1 text-draft underline" onClick={() => useBench.setState({ cursorHeld: false })}>
            {t("Let go")}
          </button>{" "}
          {key && <kbd className="num">{key}</kbd>}
        </p>
      )}
      {cut && (
        <p className="mb-1 text-muted" data-testid="cut">
          {t("This stroke was")}{" "}{worded(cut)}.
        </p>
      )}
      {beside && <Beside dab={dab} />}
      <table className="w-full">
        <thead className="text-[11px] leading-none text-muted">
          <tr>
            <th scope="col" className="text-left font-normal">
              {t("What acts; a click leads to it")}
            </th>
            <th scope="col" className="text-left font-normal">
              {t("weight")}
            </th>
            <th scope="col" className="text-right font-normal">
              {t("× the mark")}
            </th>
          </tr>
        </thead>
        <tbody>
          {reason.lines.map((l) => (
            <tr key={l.station + whatOf(l)}>
              <td className="w-[62%] whitespace-nowrap pr-2">
                <button type="button" className="min-h-6 text-left decoration-muted underline-offset-2 hover:underline" title={t("To what changes it")} onClick={() => mend(l, document)}>
                  {stationLabel(l.station)}: {whatOf(l)}
                </button>
              </td>
              <td>
                <span className="block h-1.5 bg-muted" style={{ width: `${Math.max(1, 100 * l.weight)}%` }} />
              </td>
              <td className="num w-16 text-right" title={t("Times the mark: under 1 takes away")}>
                × {short(l.times)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <details className="mt-1">
        <summary className="cursor-pointer text-muted">{t("Every factor")}</summary>
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

/** What acts, and how much of it. */
const whatOf = ({ what, much }: Line) => [what, ...(much ? [much] : [])].map(worded).join(", ");

/** Leads to the row, or to the response, that changes a cause. */
function mend({ response, parameter, station }: Line, document: ToolDocument | null) {
  const id = response === null ? undefined : document?.responses[response]?.id;
  if (id) useBench.setState({ station: "touch", response: id, goTo: null });
  else useBench.setState({ station, goTo: parameter });
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
          <th className="text-left font-normal">{differences.length === 0 ? t("Nothing differs") : t("Differs most in")}</th>
          <th className="num text-right font-normal">{name}</th>
          <th className="num text-right font-normal text-draft">{t("here")}</th>
          <th className="w-10" />
        </tr>
      </thead>
      <tbody>
        {differences.map((d) => (
          <tr key={d.what}>
            <td>{t(d.what)}</td>
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
  if (kind === "share") return `${fixed(100 * value, 1)} %`;
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

/** One parameter: its name, what was kept beside what is drafted, a slider or choice, and why it does not act. */

import { memo, useEffect, useRef } from "react";
import { sameValue, withParameter, type Parameter, type Value } from "../model/tool";
import { ImageField } from "../images/ImageField";
import { Choice, NumberField, Toggle } from "../ui/controls";
import { Slider } from "../ui/Slider";
import { useDeclared } from "../session/context";
import { useIdle } from "../session/relevance";
import { documentOf, drag, edit, keptOf, letGo, useBench } from "../session/store";
import { Nature } from "./Nature";
import { Term } from "./Term";
import { PaintField } from "./PaintField";
import { useUsual } from "./useUsual";
import { t } from "../model/said";

/** A row that was sought stands out so long, ms. */
const SOUGHT_MS = 1800;

/** Drawn anew only when its own value, or why it does not act, is another: a tool has many rows, and one is dragged. */
export const ParameterRow = memo(function ParameterRow({ id }: { id: string }) {
  const { parameter } = useDeclared();
  const value = useBench((s) => documentOf(s)?.parameters[id]);
  const before = useBench((s) => keptOf(s)?.parameters[id]) ?? value;
  const reason = useIdle(id);
  const row = useRef<HTMLDivElement>(null);
  const sought = useBench((s) => s.goTo === id);
  useEffect(() => {
    if (!sought) return;
    row.current?.scrollIntoView({ block: "center" });
    // Its value, not the word that explains it.
    (row.current?.querySelector<HTMLElement>("input, [role=combobox], [role=switch]") ?? row.current?.querySelector("button"))?.focus();
    // Found: it may be sought again.
    const timer = setTimeout(() => useBench.setState({ goTo: null }), SOUGHT_MS);
    return () => clearTimeout(timer);
  }, [sought]);
  const p = parameter(id);
  if (!p || value === undefined || before === undefined) return null;
  const changed = !sameValue(before, value);
  const set = (next: Value) => edit((d) => withParameter(d, id, next));
  return (
    <div ref={row} className={`border-t border-hair py-1 ${sought ? "bg-ground" : ""}`} data-parameter={id}>
      <div className="flex items-center gap-2">
        <Term word={`parameter:${id}`} className={reason ? "text-muted" : ""}>
          {p.label}
        </Term>
        {changed && <span className="inline-block h-1.5 w-1.5 rounded-full bg-draft" role="img" aria-label={t("changed")} />}
        <span className="ml-auto flex items-center gap-1">
          {changed && (
            <button type="button" className="num min-h-6 px-0.5 text-muted line-through" title={t("Put this back")} aria-label={t("Put {{label}} back to {{v1}}", { label: p.label, v1: written(p, before) })} onClick={() => set(before)}>
              {written(p, before)}
            </button>
          )}
          {p.kind === "number" && <NumberField label={p.label} value={Number(value)} low={p.low} high={p.high} step={p.step} onCommit={set} />}
          {p.kind === "number" && <span className="min-w-12 text-muted">{p.unit}</span>}
          {p.kind === "switch" && <Toggle label={p.label} on={value === true} onChange={set} />}
          {p.kind === "image" && <ImageField label={p.label} value={String(value)} onChange={set} />}
          {p.kind === "choice" && <Choice label={p.label} value={String(value)} options={p.options} onChange={set} />}
        </span>
      </div>
      {p.kind === "paint" && !reason && <Paint id={id} label={p.label} value={typeof value === "object" ? value : {}} onChange={set} />}
      {reason ? <p className="text-[12px] text-muted">{t("Does not act:")}{" "}{reason}.</p> : p.kind === "number" && <Drag id={id} span={p} value={Number(value)} />}
      <Nature parameter={id} />
    </div>
  );
});

/** A value in words. */
const written = (p: Parameter, v: Value): string => {
  if (p.kind === "paint") return "the paint before";
  if (p.kind === "image") return v ? "another image" : "none";
  if (typeof v === "boolean") return v ? "on" : "off";
  return (p.kind === "choice" && p.options.find((o) => o[0] === v)?.[1]) || String(v);
};

function Drag({ id, span, value }: { id: string; span: Extract<Parameter, { kind: "number" }>; value: number }) {
  const usual = useUsual(id);
  const move = (v: number) => {
    const document = documentOf(useBench.getState());
    if (document) drag(withParameter(document, id, v));
  };
  return <Slider label={t("{{label}}, slider", { label: span.label })} span={span} value={value} usual={usual} onDrag={move} onLetGo={letGo} />;
}

function Paint({ id, ...rest }: { id: string; label: string; value: Record<string, number>; onChange: (value: Value) => void }) {
  const medium = useBench((s) => Number(documentOf(s)?.parameters["load.medium"] ?? 0));
  return <PaintField key={id} {...rest} medium={medium} />;
}

export const Rows = ({ ids }: { ids: string[] }) => ids.map((id) => <ParameterRow key={id} id={id} />);

/** One parameter: its name, what was kept beside what is drafted, a slider or choice, and why it does not act. */

import { useEffect, useRef } from "react";
import { sameValue, withParameter, type Value } from "../model/tool";
import { ImageField } from "../images/ImageField";
import { Choice, NumberField, Toggle } from "../ui/controls";
import { Slider } from "../ui/Slider";
import { useRelevance } from "../session/useEngine";
import { drag, edit, letGo, useBench, useDocument, useKept } from "../session/store";
import { Nature } from "./Nature";
import { PaintField } from "./PaintField";
import { useDeclared } from "../session/context";

/** A row that was sought stands out so long, ms. */
const SOUGHT_MS = 1800;

export function ParameterRow({ id }: { id: string }) {
  const { parameter } = useDeclared();
  const document = useDocument();
  const kept = useKept();
  const reasons = useRelevance(document);
  const row = useRef<HTMLDivElement>(null);
  const sought = useBench((s) => s.goTo === id);
  useEffect(() => {
    if (!sought) return;
    row.current?.scrollIntoView({ block: "center" });
    row.current?.querySelector<HTMLElement>("input, button, [role=combobox]")?.focus();
    // Found: it may be sought again.
    const timer = setTimeout(() => useBench.setState({ goTo: null }), SOUGHT_MS);
    return () => clearTimeout(timer);
  }, [sought]);
  const p = parameter(id);
  if (!p || !document) return null;
  const value = document.parameters[id] ?? "";
  const before = kept?.parameters[id] ?? value;
  const changed = !sameValue(before, value);
  const reason = reasons?.find((r) => r.id === id)?.reason ?? "";
  const set = (next: Value) => edit((d) => withParameter(d, id, next));
  const written = (v: unknown) =>
    p.kind === "paint" ? "the paint before" : p.kind === "image" ? (v ? "another image" : "none") : (typeof v === "boolean" ? (v ? "on" : "off") : ((p.kind === "choice" && p.options.find((o) => o[0] === v)?.[1]) || String(v)));
  return (
    <div ref={row} className={`border-t border-hair py-1 ${sought ? "bg-ground" : ""}`} title={p.help} data-parameter={id}>
      <div className="flex items-center gap-2">
        <span className={reason ? "text-muted" : ""}>{p.label}</span>
        {changed && <span className="inline-block h-1.5 w-1.5 rounded-full bg-draft" role="img" aria-label="changed" />}
        <span className="ml-auto flex items-center gap-1">
          {changed && (
            <button type="button" className="num text-muted line-through" title="Put this back" aria-label={`Put ${p.label} back to ${written(before)}`} onClick={() => set(before)}>
              {written(before)}
            </button>
          )}
          {p.kind === "number" && (
            <NumberField
              label={p.label}
              value={Number(value)}
              low={p.low}
              high={p.high}
              step={p.step}
              onCommit={set}
            />
          )}
          {p.kind === "number" && <span className="w-12 text-muted">{p.unit}</span>}
          {p.kind === "switch" && <Toggle label={p.label} on={value === true} onChange={set} />}
          {p.kind === "image" && <ImageField label={p.label} value={String(value)} onChange={set} />}
          {p.kind === "choice" && <Choice label={p.label} value={String(value)} options={p.options} onChange={set} />}
        </span>
      </div>
      {p.kind === "paint" && !reason && (
        <PaintField label={p.label} value={typeof value === "object" ? value : {}} medium={Number(document.parameters["load.medium"] ?? 0)} onChange={set} />
      )}
      {reason ? (
        <p className="text-[12px] text-muted">Does not act: {reason}.</p>
      ) : (
        p.kind === "number" && (
          <Slider
            label={`${p.label}, slider`}
            span={p}
            value={Number(value)}
            onDrag={(v) => drag(withParameter(document, id, v))}
            onLetGo={letGo}
          />
        )
      )}
      <Nature parameter={id} />
    </div>
  );
}

export const Rows = ({ ids }: { ids: string[] }) => ids.map((id) => <ParameterRow key={id} id={id} />);

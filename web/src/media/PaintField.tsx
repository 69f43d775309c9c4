/** A mixture: pigments by parts, and how it looks in the four swatches by which painters know a paint. */

import { Button, Choice, NumberField } from "../ui/controls";
import { useDeclared } from "../session/context";
import { engine } from "../engine/client";
import { useAnswer } from "../session/useEngine";
import { t } from "../model/said";

type Parts = Record<string, number>;

const ADD = "add";
const MOST = 8;

const rgb = ([r, g, b]: [number, number, number]) => `rgb(${r} ${g} ${b})`;

export function PaintField(props: { label: string; value: Parts; medium: number; onChange: (next: Parts) => void }) {
  const { declarations } = useDeclared();
  const { label, value, onChange } = props;
  const entries = Object.entries(value);
  const named = (code: string) => declarations.pigments.find((p) => p.code === code);
  const without = (code: string) => Object.fromEntries(entries.filter(([c]) => c !== code));
  const left = declarations.pigments.filter((p) => !(p.code in value));
  return (
    <div role="group" aria-label={label} className="grid gap-1 pb-1 pt-1">
      <Swatches parts={value} medium={props.medium} label={label} />
      {entries.map(([code, parts]) => (
        <div key={code} className="flex items-center gap-2">
          <span className="h-4 w-4 shrink-0 border border-line" style={{ background: rgb(named(code)?.masstone ?? [0, 0, 0]) }} />
          <span className="truncate" title={code}>
            {named(code)?.name ?? code}
          </span>
          <span className="ml-auto flex items-center gap-1">
            <NumberField label={t("{{label}}: parts of {{v1}}", { label, v1: named(code)?.name ?? code })} value={parts} low={0} high={1000} step={0.1} onCommit={(n) => onChange({ ...value, [code]: n })} />
            <span className="text-muted">{t("parts")}</span>
            <Button className="!px-2" aria-label={t("Take {{v0}} out of {{label}}", { v0: named(code)?.name ?? code, label })} disabled={entries.length === 1} onClick={() => onChange(without(code))}>
              ×
            </Button>
          </span>
        </div>
      ))}
      {entries.length < MOST && (
        <Choice
          label={t("Add a pigment to {{label}}", { label })}
          value={ADD}
          options={[[ADD, "Add a pigment…"], ...left.map((p): [string, string] => [p.code, `${p.name} · ${p.code}`])]}
          onChange={(code) => code !== ADD && onChange({ ...value, [code]: 1 })}
        />
      )}
    </div>
  );
}

/** Thick, with white, and a thin film over black and over white. */
function Swatches({ parts, medium, label }: { parts: Parts; medium: number; label: string }) {
  const key = JSON.stringify([parts, medium]);
  const seen = useAnswer(`swatches:${key}`, () => engine.swatches(parts, medium));
  const all: [string, [number, number, number] | undefined][] = [
    ["thick", seen?.masstone],
    ["1 : 9 with white", seen?.tint],
    ["film on white", seen?.on_white],
    ["on black", seen?.on_black],
  ];
  return (
    <div className="grid grid-cols-4 text-[12px] text-muted" role="img" aria-label={t("How {{label}} looks: thick, with white, as a film on white and on black", { label })}>
      {all.map(([name, colour]) => (
        <span key={name} className="grid">
          <span className="h-7 border-y border-line" style={colour && { background: rgb(colour) }} />
          <span className="truncate">{name}</span>
        </span>
      ))}
    </div>
  );
}

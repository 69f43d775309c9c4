/** Jitter: how far a dab's angle, aspect and size stray by chance. Each is a response of chance around the value. */

import type { Quality } from "../../generated/core";
import type { Response, ToolDocument } from "../../model/tool";
import { NumberField } from "../../ui/controls";
import { useFollowed } from "../../session/followed";
import { edit } from "../../session/store";
import { t } from "../../model/said";

const KINDS: { quality: Quality; label: string; unit: string; high: number; step: number }[] = [
  { quality: "angle", label: "Angle strays by ±", unit: "°", high: 180, step: 1 },
  { quality: "aspect", label: "Aspect strays by ±", unit: "×", high: 1, step: 0.01 },
  { quality: "width", label: "Width strays by ±", unit: "×", high: 1, step: 0.01 },
];

const isJitter = (r: Response, quality: Quality) => r.quality === quality && r.around === true && r.signal === "chance-per-dab" && r.on;

function withJitter(doc: ToolDocument, quality: Quality, spread: number): ToolDocument {
  const rest = doc.responses.filter((r) => !isJitter(r, quality));
  if (spread === 0) return { ...doc, responses: rest };
  const there = doc.responses.find((r) => isJitter(r, quality));
  const made: Response = { id: `jitter-${quality}`, quality, signal: "chance-per-dab", input: [0, 1], curve: [[0, 0], [1, 1]], output: [-spread, spread], amount: 1, on: true, around: true };
  return { ...doc, responses: there ? doc.responses.map((r) => (r === there ? { ...r, output: [-spread, spread] } : r)) : [...rest, made] };
}

export function Jitter() {
  const document = useFollowed();
  if (!document) return null;
  return (
    <section aria-label={t("Jitter")}>
      {KINDS.map(({ quality, label, unit, high, step }) => {
        const found = document.responses.find((r) => isJitter(r, quality));
        const value = found ? Math.max(...found.output.map(Math.abs)) : 0;
        return (
          <div key={quality} className="flex items-center gap-2 border-t border-hair py-1" title={t("By chance at every dab, the same again from the same seed; tuned in full at Touch.")}>
            <span>{label}</span>
            <span className="ml-auto flex items-center gap-1">
              <NumberField label={label} value={value} low={0} high={high} step={step} onCommit={(v) => edit((d) => withJitter(d, quality, v))} />
              <span className="w-12 text-muted">{unit}</span>
            </span>
          </div>
        );
      })}
    </section>
  );
}

/** Beside Relief: how the sheet is looked at. It is the sheet's, not the tool's: nothing of it is kept in a tool. */

import { useDeclared } from "../../session/context";
import { lookAt } from "../../session/choices";
import { useBench } from "../../session/store";
import type { Seen, View } from "../../generated/core";
import { Compass } from "../../ui/Compass";
import { Slider, type Span } from "../../ui/Slider";
import { Choice, NumberField } from "../../ui/controls";
import { Section } from "./Section";
import { t } from "../../model/said";

const SEEN: [Seen, string][] = [
  ["natural", "as it is: paint lit, powder flat"],
  ["lit", "under light"],
  ["flat", "flat colour"],
  ["height", "height"],
  ["wetness", "wetness"],
];

type Field = "elevation_deg" | "strength" | "gloss" | "exaggeration";

const ROWS: [Field, string, string, Span][] = [
  ["elevation_deg", "Height of light", "°", { low: 5, high: 90, step: 1, ratio: false }],
  ["strength", "Strength", "", { low: 0, high: 1, step: 0.01, ratio: false }],
  ["gloss", "Gloss", "×", { low: 0, high: 2, step: 0.05, ratio: false }],
  ["exaggeration", "Exaggeration", "×", { low: 0, high: 6, step: 0.1, ratio: false }],
];

export function Light() {
  const view = useBench((s) => s.view);
  const { medium } = useDeclared();
  if (!view) return null;
  const change = (to: Partial<View>) => lookAt({ ...view, ...to });
  // As they are, only sheets of media that stand up and gleam are seen under light.
  const lit = view.seen === "lit" || (view.seen === "natural" && medium.lit);
  return (
    <section aria-label={t("What you see")} className="mb-2 border-b border-line pb-2">
      <div className="flex items-center justify-between gap-2 pb-1">
        <h2 className="font-semibold">{t("What you see")}</h2>
        <Choice label={t("What you see")} value={view.seen} options={SEEN} onChange={(seen) => change({ seen: seen as Seen })} />
      </div>
      {lit && (
        <div className="flex gap-2">
          <Compass label={t("Light from")} value={view.azimuth_deg} now={null} onDrag={(azimuth_deg) => change({ azimuth_deg })} onLetGo={() => undefined} onCommit={(azimuth_deg) => change({ azimuth_deg })} />
          <div className="min-w-0 flex-1">
            {ROWS.map(([field, label, unit, span]) => (
              <div key={field}>
                <div className="flex items-center">
                  <span>{label}</span>
                  <span className="ml-auto">
                    <NumberField label={label} value={view[field]} low={span.low} high={span.high} step={span.step} onCommit={(v) => change({ [field]: v })} />
                  </span>
                  <span className="w-6 text-muted">{unit}</span>
                </div>
                <Slider label={t("{{label}}, slider", { label })} span={span} value={view[field]} onDrag={(v) => change({ [field]: v })} onLetGo={() => undefined} />
              </div>
            ))}
          </div>
        </div>
      )}
      {view.seen === "height" && <p className="text-[12px] text-muted">{t("Black lies 100 µm under the mean level of the bare ground, white 500 µm over it.")}</p>}
      {view.seen === "wetness" && <p className="text-[12px] text-muted">{t("The bluer, the thicker the wet paint: full at 200 µm. What has dried, and powder, are pale.")}</p>}
      <Section />
    </section>
  );
}

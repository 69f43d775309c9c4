/** What a surface gauge says of a ground, and how far a stick reaches into it. */

import { useState } from "react";
import { useBench, documentOf } from "../session/store";
import type { GroundFigures } from "../engine/types";
import { Bearing } from "../plot/Bearing";
import { useSize } from "../plot/useSize";
import { Term } from "../media/Term";
import { NumberField } from "../ui/controls";
import { Slider } from "../ui/Slider";
import { fixed } from "../model/number";
import { t } from "../model/said";

const HEIGHT = 132;

/** `measuring`: what is shown is not true any more. */
export function Figures({ figures, measuring }: { figures: GroundFigures | null; measuring: boolean }) {
  const document = useBench(documentOf);
  const hardness = Number(document?.parameters["load.hardness_gf_mm2"] ?? 16);
  const [share, setShare] = useState(0.15);
  const { ref, size } = useSize<HTMLDivElement>();
  const span = { low: 0.005 * hardness, high: hardness, step: 0.01, ratio: true };
  const pressure = share * hardness;
  const set = (v: number) => setShare(v / hardness);
  const texture = figures?.texture;
  const [across, down] = figures?.correlation_mm ?? [null, null];
  const list: [string, string, string][] = texture
    ? [
        ["Sa", fixed(texture.sa_um, 1), "µm"],
        ["Sq", fixed(texture.sq_um, 1), "µm"],
        ["Sz", fixed(texture.sz_um), "µm"],
        ["Sp", fixed(texture.sp_um), "µm"],
        ["Sv", fixed(texture.sv_um), "µm"],
        ["Ssk", fixed(texture.ssk, 2), ""],
        ["Sku", fixed(texture.sku, 2), ""],
        ["Sdr", fixed(figures?.sdr_percent, 1) ?? "", "%"],
        ["Sal", [across, down].some((v) => v !== null) ? fixed(Math.min(...[across, down].filter((v) => v !== null)), 2) : "–", "mm"],
      ]
    : [];
  return (
    <section aria-label={t("Measured")} aria-busy={measuring} className="relative grid min-h-0 grid-cols-[minmax(0,1fr)] wide:grid-cols-[minmax(0,1fr)_210px] gap-3 border-t border-line px-3 py-1">
      {measuring && (
        <span role="status" className="absolute top-1 right-2 z-10 rounded border border-line bg-raised px-2">
          {t("measuring…")}
        </span>
      )}
      <div>
        <div ref={ref} style={{ height: HEIGHT }}>
          {figures && size.width > 0 && <Bearing figures={figures} load={share} width={size.width} height={HEIGHT} />}
        </div>
        <div className="grid grid-cols-[auto_1fr_auto_auto] items-center gap-2">
          <span className="truncate text-muted">{document?.name ?? t("A stick")}{" "}{t("presses with")}</span>
          <Slider label={t("Pressure under the stick, slider")} span={span} value={pressure} onDrag={set} onLetGo={() => undefined} />
          <NumberField label={t("Pressure under the stick")} value={Number(pressure.toFixed(2))} {...span} onCommit={set} />
          <span className="text-muted">{t("gf/mm²")}</span>
        </div>
      </div>
      <dl aria-busy={measuring} aria-label={t("Surface figures, ISO 25178")} className="num grid grid-cols-[auto_1fr_auto] content-start gap-x-2 aria-busy:opacity-40" data-testid="ground-figures">
        {list.map(([label, value, unit]) => (
          <div key={label} className="contents">
            <dt className="text-muted">
              <Term word={`word:${label === "Sv" ? "sp" : label.toLowerCase()}`}>{label}</Term>
            </dt>
            <dd className="text-right">{value}</dd>
            <dd className="w-8 text-muted">{unit}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** A section across the selected stroke at the cursor: the ground, what is dry on it, what is wet. */

import { sectionOf } from "../../engine/client";
import { useBench } from "../../session/store";
import { useAnswer } from "../../session/useEngine";
import { useProof, useRun } from "../../session/proofStore";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

/** As far as it goes where the sheet is as wide. */
const LENGTH_MM = 24;
const WIDTH = 330;
const HEIGHT = 96;
const LEFT = 34;
/** Under it lies the same line as it is seen from above. */
const BAND = 10;

export function Section() {
  const gesture = useBench((s) => s.gesture);
  const cursor = useBench((s) => s.cursor);
  const exaggeration = useBench((s) => s.view?.exaggeration ?? 1);
  const run = useRun("draft");
  // What was wet when it was asked has settled once it is dry.
  const drying = useProof((s) => s.drying.draft ?? false);
  const section = useAnswer(gesture ? `section:${gesture}:${cursor.toFixed(1)}:${run}:${drying}` : null, () => sectionOf("draft", gesture ?? "", cursor, LENGTH_MM));
  if (!section || section.top_um.length < 2) return null;
  const all = [...section.ground_um, ...section.top_um];
  const low = Math.floor(Math.min(...all, 0) / 100) * 100;
  const high = Math.max(low + 200, Math.ceil(Math.max(...all) / 100) * 100);
  const x = (i: number) => LEFT + (i / (section.top_um.length - 1)) * (WIDTH - LEFT);
  const step = x(1) - x(0);
  const y = (um: number) => HEIGHT - ((um - low) / (high - low)) * HEIGHT;
  const area = (top: number[]) => `M${LEFT},${HEIGHT} ${top.map((um, i) => `L${x(i).toFixed(1)},${y(um).toFixed(1)}`).join(" ")} L${WIDTH},${HEIGHT}Z`;
  const thickest = Math.max(...section.top_um.map((um, i) => um - (section.ground_um[i] ?? 0)));
  const ticks = [low, low + (high - low) / 2, high];
  return (
    <figure className="m-0 pt-1" data-testid="section">
      <svg viewBox={`0 -6 ${WIDTH} ${HEIGHT + BAND + 12}`} className="block w-full" role="img" aria-label={t("Section across the stroke at the cursor: {{v0}} µm of paint at most", { v0: fixed(thickest) })}>
        <path d={area(section.top_um)} fill="var(--draft)" />
        <path d={area(section.dry_um)} fill="var(--kept)" />
        <path d={area(section.ground_um)} fill="var(--line)" />
        {section.rgb.map((rgb, i) => (
          <rect key={i} x={x(i - 0.5)} y={HEIGHT + 4} width={step + 0.3} height={BAND} fill={`rgb(${rgb.join()})`} />
        ))}
        {ticks.map((um) => (
          <g key={um}>
            <line x1={LEFT} x2={WIDTH} y1={y(um)} y2={y(um)} stroke="var(--hair)" />
            <text x={LEFT - 4} y={y(um) + 4} textAnchor="end" fontSize={11} fill="var(--muted)">
              {fixed(um)}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="text-[12px] text-muted">
        {t("Across the stroke at the cursor,")}{" "}{fixed(section.length_mm)}{" "}{t("mm, µm:")}{" "}<Key colour="--line" />{" "}{t("ground,")}{" "}<Key colour="--kept" />{" "}{t("dry,")}{" "}<Key colour="--draft" />{" "}{t("wet. What you see:")}{" "}
        <span className="num">
          {fixed(thickest)} µm × {fixed(exaggeration, 1)}
        </span>

        . {t("Under it the same line from above.")}{" "}
        {section.hollows_over_crowns !== null && (
          <span data-testid="granulation">{t("Hollows take × {{times}} of the light that crowns take.", { times: fixed(section.hollows_over_crowns, 2) })}</span>
        )}
      </figcaption>
    </figure>
  );
}

const Key = ({ colour }: { colour: string }) => <span aria-hidden className="inline-block h-2 w-2 rounded-[1px]" style={{ background: `var(${colour})` }} />;

/** The curve in front of all tools: the painter's own forces behind it, and what it leaves of the pen. */

import { useMemo, useState } from "react";
import { say } from "../session/notices";
import { useBench } from "../session/store";
import { useAnswer, useCurve, useLevels } from "../session/useEngine";
import { engine } from "../engine/client";
import { PACKED } from "../engine/types";
import { forceOf, STRAIGHT } from "../model/hand";
import { CurveEditor, movePoint } from "../plot/CurveEditor";
import { CurveLibrary } from "../curves/CurveLibrary";
import { useSize } from "../plot/useSize";
import { Button, Choice, NumberField } from "../ui/controls";
import { change, drag, letGo, useHand } from "../session/handStore";
import { counted, fixed } from "../model/number";
import { t } from "../model/said";

const BINS = 40;
const OUTPUTS = [0.1, 0.5, 1];

export function Calibration() {
  const hand = useBench((s) => s.hand);
  const live = useBench((s) => s.live?.pressure ?? null);
  const { ref, size } = useSize<HTMLDivElement>();
  const [point, setPoint] = useState<number | null>(null);
  const [asForce, setAsForce] = useState(true);
  const { curve } = hand.calibration;
  const samples = useCurve(curve);
  const straight = useCurve(STRAIGHT.curve);
  const histogram = useOwnForces();
  const set = (points: [number, number][]) => change({ ...hand, calibration: { curve: points } });
  const chosen = point !== null ? curve[point] : undefined;
  return (
    <section aria-label={t("Calibration")} ref={ref}>
      <div className="flex items-center gap-2 pb-1">
        <h2 className="font-semibold">{t("Calibration, in front of every tool")}</h2>
        <span className="ml-auto" />
        <Choice
          label={t("Input is written as")}
          value={asForce ? "gf" : "share"}
          options={[["gf", "in gf"], ["share", "as share"]]}
          onChange={(v) => setAsForce(v === "gf")}
        />
      </div>
      {size.width > 0 && (
        <CurveEditor
          name="Calibration curve"
          points={curve}
          samples={samples}
          keptSamples={JSON.stringify(curve) === JSON.stringify(STRAIGHT.curve) ? null : straight}
          inputLabel={(share) => (asForce ? `${fixed(forceOf(share, hand.profile))} gf` : fixed(share, 2))}
          outputLabel={(share) => fixed(share, 2)}
          histogram={histogram}
          live={live !== null && live > 0 ? live : null}
          selected={point}
          width={size.width}
          height={190}
          onSelect={setPoint}
          onRefuse={say}
          onDrag={(points) => drag({ ...hand, calibration: { curve: points } })}
          onLetGo={letGo}
          onChange={set}
        />
      )}
      <div className="flex min-h-8 items-center gap-1 border-t border-hair text-[12px]">
        {chosen && point !== null ? (
          <>
            <span className="text-muted">{t("Point")}{" "}{point + 1}</span>
            <NumberField label={t("Point, input share")} value={chosen[0]} low={0} high={1} step={0.001} width="w-14" onCommit={(x) => set(movePoint(curve, point, [x, chosen[1]]))} />
            <span aria-hidden>→</span>
            <NumberField label={t("Point, output share")} value={chosen[1]} low={0} high={1} step={0.001} width="w-14" onCommit={(y) => set(movePoint(curve, point, [chosen[0], y]))} />
            <Button
              className="!min-h-6 !px-2 !py-0"
              disabled={curve.length <= 2}
              onClick={() => {
                set(curve.filter((_, i) => i !== point));
                setPoint(null);
              }}
            >
              {t("Remove")}
            </Button>
          </>
        ) : (
          <span className="text-muted">{t("Click to add a point; drag ends to clip.")}</span>
        )}
        <span className="ml-auto" />
        <CurveLibrary curve={curve} onTake={set} />
        <Button className="!min-h-6 !px-2 !py-0" onClick={() => set(STRAIGHT.curve)}>
          {t("Straight")}
        </Button>
      </div>
      <Figures />
    </section>
  );
}

/** What the curve leaves of the levels, and what it asks of the hand. */
function Figures() {
  const hand = useBench((s) => s.hand);
  const levels = useLevels(STRAIGHT.curve, [0, 1]);
  const forces = useAnswer(`needs:${JSON.stringify(hand)}`, () => engine.forcesFor(hand, OUTPUTS));
  const force = (i: number) => {
    const gf = forces?.[i];
    return gf === undefined || Number.isNaN(gf) ? "never" : `${fixed(gf)} gf`;
  };
  return (
    <div className="num grid grid-cols-[1fr_auto] gap-x-3 border-t border-hair py-1 text-[12px]" data-testid="calibration-figures">
      <span className="font-sans">{t("Levels that still count")}</span>
      <span data-figure="levels">{levels ? t("{{v0}} of {{v1}}", { v0: counted(levels.usable_levels), v1: counted(hand.profile.levels) }) : "–"}</span>
      <span className="font-sans">{t("Largest step of the output")}</span>
      <span>{levels ? t("{{v0}} % at {{v1}} gf", { v0: (100 * levels.max_step).toPrecision(2), v1: fixed(forceOf(levels.max_step_at / (hand.profile.levels - 1), hand.profile)) }) : "–"}</span>
      <span className="font-sans">{t("Force for 10 / 50 / 100 % output")}</span>
      <span data-figure="forces">
        {force(0)} / {force(1)} / {force(2)}
      </span>
    </div>
  );
}

/** How long the painter's own marks dwelt at each pressure, largest bin 1. */
function useOwnForces(): number[] {
  const marks = useHand((s) => s.marks);
  return useMemo(() => {
    const bins = Array.from({ length: BINS }, () => 0);
    for (const { samples } of marks) {
      for (let i = PACKED; i < samples.length; i += PACKED) {
        const pressure = samples[i + 3] ?? 0;
        if (pressure <= 0) continue;
        const bin = Math.min(BINS - 1, Math.floor(pressure * BINS));
        bins[bin] = (bins[bin] ?? 0) + (samples[i] ?? 0) - (samples[i - PACKED] ?? 0);
      }
    }
    const most = Math.max(...bins, 1e-9);
    return bins.map((b) => b / most);
  }, [marks]);
}

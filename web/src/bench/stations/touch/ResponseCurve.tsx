/** The curve of a response over the painter's own input: what the proof gestures give it, and where the pen is now. */

import { useMemo } from "react";
import { leaning } from "../../../model/tilt";
import { short, type Response } from "../../../model/tool";
import { CurveEditor } from "../../../plot/CurveEditor";
import { useBenchContext } from "../../../session/context";
import { useProof } from "../../../session/proofStore";
import { letGo, useBench } from "../../../session/store";
import { say } from "../../../session/notices";
import { useCurve, useForces, useTraces } from "../../../session/useEngine";
import { fixed } from "../../../model/number";

const BINS = 24;

interface CurveProps {
  name: string;
  response: Response;
  kept: Response | null;
  inputUnit: string;
  selected: number | null;
  width: number;
  onSelect: (index: number | null) => void;
  onDrag: (curve: [number, number][]) => void;
  onChange: (curve: [number, number][]) => void;
}

const inUnit = (share: number, [a, b]: [number, number]) => a + (b - a) * share;

/** The curve over the painter's own input. Apart from the rows below it: it follows the pen, and they need not. */
export function ResponseCurve({ response, kept, inputUnit, ...rest }: CurveProps) {
  const samples = useCurve(response.curve);
  const keptSamples = useCurve(kept?.curve ?? null);
  const histogram = useHistogram(response);
  const live = useBench((s) => liveShareOf(response, s.live));
  const forces = useForces();
  const asForce = response.signal === "pressure" || response.signal === "hardest-press";
  const inputLabel = (share: number) =>
    asForce ? forces(inUnit(share, response.input)) : `${short(inUnit(share, response.input))} ${inputUnit}`;
  const digits = Math.max(0, 2 - Math.floor(Math.log10(Math.max(...response.output.map(Math.abs), 1e-3))));
  const plain = (share: number) => fixed(inUnit(share, response.output), Math.min(3, digits > 0 ? digits - 1 : 0));
  const outputLabel = response.around ? (share: number) => spreadLabel(inUnit(share, response.output), response.quality) : plain;
  return (
    <CurveEditor
      points={response.curve}
      samples={samples}
      keptSamples={keptSamples}
      inputLabel={inputLabel}
      outputLabel={outputLabel}
      histogram={histogram}
      live={live}
      height={196}
      onRefuse={say}
      onLetGo={letGo}
      {...rest}
    />
  );
}

const spreadLabel = (value: number, quality: string) => `${value > 0 ? "+" : value < 0 ? "−" : ""}${short(Math.abs(quality === "angle" ? value : 100 * value), 2)} ${quality === "angle" ? "°" : "%"}`;

const SIGNAL_FIELD: Record<string, string> = {
  pressure: "pressure",
  "hardest-press": "hardest_press",
  tilt: "tilt_deg",
  lean: "lean_deg",
  barrel: "barrel_deg",
  speed: "speed_mm_s",
  heading: "heading_deg",
  distance: "distance_mm",
  time: "time_s",
  "paint-left": "paint_left",
  "chance-per-dab": "chance_dab",
  "chance-per-stroke": "chance_stroke",
};

/** How often the proof gestures give each part of the response's input: length of stroke in each bin, largest 1. */
function useHistogram(response: Response): number[] {
  const { gestures } = useBenchContext();
  const ran = useProof((s) => s.lastRunMs !== null);
  const traces = useTraces(gestures.map((g) => g.id), ran);
  return useMemo(() => {
    const bins = Array.from({ length: BINS }, () => 0);
    const field = SIGNAL_FIELD[response.signal] ?? "";
    const [low, high] = response.input;
    for (const dab of (traces ?? []).flatMap((t) => t?.dabs ?? [])) {
      const value = (dab.signals as unknown as Record<string, number>)[field] ?? 0;
      const share = (value - low) / (high - low);
      const bin = Math.min(BINS - 1, Math.max(0, Math.floor(share * BINS)));
      bins[bin] = (bins[bin] ?? 0) + dab.travel_mm;
    }
    const most = Math.max(...bins, 1e-9);
    return bins.map((b) => b / most);
  }, [traces, response.signal, response.input]);
}

/** Where the pen is now on the response's input. */
function liveShareOf(response: Response, live: ReturnType<typeof useBench.getState>["live"]): number | null {
  if (!live) return null;
  const lean = leaning(live.tiltX, live.tiltY);
  const values: Record<string, number> = {
    pressure: live.pressure,
    "hardest-press": live.pressure,
    tilt: lean.tilt,
    lean: lean.lean,
    barrel: live.twist,
    speed: live.speed,
  };
  const value = values[response.signal];
  if (value === undefined) return null;
  return Math.min(1, Math.max(0, (value - response.input[0]) / (response.input[1] - response.input[0])));
}

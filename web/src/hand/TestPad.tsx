/** A plain mark to try the pen with: pressure drives one quality, and gestures can be played as if a hand drew. */

import { useState } from "react";
import { say } from "../session/notices";
import { useBenchContext } from "../session/context";
import { useBench } from "../session/store";
import { DrawingSheet } from "../draw/DrawingSheet";
import { useDrawing } from "../draw/useDrawing";
import { StandIns } from "../draw/StandIns";
import { wayOf } from "../api/ways";
import { engine } from "../engine/client";
import { recipeOf } from "../model/ground";
import { PLAIN_HAND } from "../model/hand";
import type { Quality } from "../generated/core";
import { defaultsOf, mediumOf, type Declarations, type ToolDocument } from "../model/tool";
import { useSize } from "../plot/useSize";
import { Button, Choice } from "../ui/controls";
import { forget, lifted, seen, unfoldedInto } from "./monitor";
import { decide, useHand } from "../session/handStore";
import { refusalOf } from "../model/refused";
import { t } from "../model/said";

/** What pressure may drive here, and from what to what. */
const QUALITIES: Partial<Record<Quality, { label: string; output: [number, number] }>> = {
  width: { label: "width", output: [0.2, 6] },
  force: { label: "force", output: [0, 500] },
  opacity: { label: "opacity", output: [0, 1] },
};

const DRIVEN: Quality[] = ["width", "force", "opacity"];

/** A soft, dark, even stick on smooth paper: as little tool as there can be between hand and mark. */
function plainTool(declarations: Declarations, quality: Quality): ToolDocument {
  const parameters = defaultsOf(mediumOf(declarations, "dry"));
  return {
    format: "saltmarsh.tool",
    version: declarations.tool_version,
    name: "Plain mark",
    intent: "",
    medium: "dry",
    action: "lay",
    seed: 1,
    ground: recipeOf(declarations, "hot-pressed"),
    parameters: {
      ...parameters,
      "ground.tooth": 0.2,
      "touch.force_gf": 400,
      "touch.build": "even",
      "tip.width_mm": 3,
      "tip.side_mm": 0,
      // So close that a width that changes fast leaves no steps.
      "tip.spacing_auto": false,
      "tip.spacing": 0.02,
      "load.hardness_gf_mm2": 16,
      "load.grain": 0,
      "load.face_um": 0,
    },
    responses: [
      {
        id: "pressure",
        quality,
        signal: "pressure",
        input: [0, 1],
        curve: [[0, 0], [1, 1]],
        output: QUALITIES[quality]?.output ?? [0, 1],
        amount: 1,
        on: true,
      },
    ],
    combine: {},
  };
}

/** A device pixel of the pad, mm. */
const PIXEL_MM = 0.13;

export function TestPad() {
  const { declarations, allGestures: gestures } = useBenchContext();
  const hand = useBench((s) => s.hand);
  const quality = useHand((s) => s.quality);
  const marks = useHand((s) => s.marks);
  const marking = useHand((s) => s.marking);
  const { ref, size } = useSize<HTMLDivElement>();
  const [tool, setTool] = useState(() => plainTool(declarations, quality));
  const [gesture, setGesture] = useState(gestures[0]?.id ?? "");
  const [stylus, setStylus] = useState(0);
  const drawing = useDrawing({
    document: size.width > 0 ? tool : null,
    hand,
    strokes: marks.map(({ samples }) => ({ samples })),
    width: size.width,
    height: size.height,
    pixelMm: PIXEL_MM / (window.devicePixelRatio || 1),
    onReport: seen,
    onEvent: unfoldedInto,
    onStroke: ({ samples }) => {
      lifted();
      useHand.setState((s) => ({ marks: [...s.marks, { samples, kind: s.marking }] }));
    },
  });
  const start = async () => {
    const chosen = gestures.find((g) => g.id === gesture);
    const simulated = declarations.simulated_styluses[stylus];
    if (!chosen || !simulated) return;
    try {
      const passes = await engine.through(await wayOf(chosen), simulated, chosen.stylus ?? PLAIN_HAND.profile, marks.length);
      await drawing.play(passes, { ...hand, profile: simulated });
    } catch (error) {
      say(refusalOf(error).message);
    }
  };
  const wipe = () => {
    forget();
    decide(false);
    useHand.setState({ marks: [] });
  };
  return (
    <section aria-label={t("Test pad")} className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto]">
      <div className="flex min-h-[30px] flex-wrap items-center gap-1.5">
        <span className="font-semibold">{t("Draw here")}</span>
        <StandIns />
        {marking && <span className="font-semibold text-draft">{marking}{" "}{t("marks")}</span>}
        <span className="ml-auto text-muted">{t("pressure drives")}</span>
        <Choice
          label={t("Quality that pressure drives")}
          value={quality}
          options={DRIVEN.map((q) => [q, QUALITIES[q]?.label ?? q])}
          onChange={(next) => {
            useHand.setState({ quality: next });
            setTool(plainTool(declarations, next));
          }}
        />
        <Button className="!min-h-6 !px-2 !py-0" disabled={marks.length === 0} onClick={wipe}>
          {t("Wipe")}
        </Button>
      </div>
      <div ref={ref} className="min-h-0">
        <DrawingSheet drawing={drawing} label={t("Test pad: draw here")} width={size.width} height={size.height} />
      </div>
      <div className="flex min-h-[34px] flex-wrap items-center gap-1.5">
        <span className="text-muted">{t("Play")}</span>
        <Choice label={t("Gesture to play")} value={gesture} options={gestures.map((g) => [g.id, g.name])} onChange={setGesture} />
        <span className="text-muted">{t("through")}</span>
        <Choice
          label={t("Simulated stylus")}
          className="min-w-0 truncate"
          value={String(stylus)}
          options={declarations.simulated_styluses.map((s, i) => [String(i), s.name])}
          onChange={(i) => setStylus(Number(i))}
        />
        <Button className="ml-auto" onClick={() => void start()}>
          {t("Play")}
        </Button>
      </div>
    </section>
  );
}

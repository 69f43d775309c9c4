/** A sheet to record a gesture on, drawn with the draft. */

import { useState } from "react";
import { useBench, useDocument } from "../session/store";
import { StandIns } from "../draw/StandIns";
import { DrawingSheet } from "../draw/DrawingSheet";
import { useDrawing } from "../draw/useDrawing";
import { engine } from "../engine/client";
import { intoStrip } from "../draw/intoStrip";
import { useSize } from "../plot/useSize";
import { Button } from "../ui/controls";
import { added, type Change } from "./steps";
import { t } from "../model/said";

/** A device pixel, mm. */
const PIXEL_MM = 0.2;

export function Record({ change }: { change: Change }) {
  const document = useDocument();
  const hand = useBench((s) => s.hand);
  const { ref, size } = useSize<HTMLDivElement>();
  const [strokes, setStrokes] = useState<number[][]>([]);
  const [name, setName] = useState("");
  const drawing = useDrawing({
    document: size.width > 0 ? document : null,
    hand,
    strokes: strokes.map((samples) => ({ samples })),
    width: size.width,
    height: size.height,
    pixelMm: PIXEL_MM / (window.devicePixelRatio || 1),
    onStroke: ({ samples }) => setStrokes((s) => [...s, samples]),
  });
  const keep = async () => {
    const stroke = strokes.at(-1);
    if (!stroke) return;
    const kept = await change(
      async () => added([{ name: name.trim(), note: "my own hand", inkml: await engine.inkmlOf(intoStrip(stroke)), stylus: hand.profile }], t("{{name}} was kept.", { name: name.trim() })),
      "told",
    );
    if (!kept) return;
    setStrokes([]);
    setName("");
  };
  return (
    <section aria-label={t("Record")} className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] border-t border-line px-3 pb-2">
      <div className="flex min-h-[34px] flex-wrap items-center gap-1.5">
        <h2 className="font-semibold">{t("Record")}</h2>
        <StandIns />
        <span className="truncate text-muted">{strokes.length === 0 ? t("Draw a stroke; the last one is kept.") : t("{{length}} drawn; the last is kept.", { length: strokes.length })}</span>
        <span className="ml-auto" />
        <input
          aria-label={t("Name of the recorded gesture")}
          placeholder={t("Name")}
          className="w-48 rounded border border-line bg-raised px-2 py-0.5"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button primary disabled={strokes.length === 0 || name.trim() === ""} onClick={() => void keep()}>
          {t("Keep gesture")}
        </Button>
        <Button disabled={strokes.length === 0} onClick={() => setStrokes([])}>
          {t("Wipe")}
        </Button>
      </div>
      <div ref={ref} className="min-h-0">
        <DrawingSheet drawing={drawing} label={t("Recording sheet: draw here")} width={size.width} height={size.height} />
      </div>
    </section>
  );
}

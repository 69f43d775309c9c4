/** The same gesture with the pen as it is, and through the calibration: two copies of one hand. */

import { useEffect, useMemo, useState } from "react";
import { lay } from "../session/columns";
import { STRIP_MM } from "../session/sheetSize";
import { useBenchContext } from "../session/context";
import { mount } from "../session/proofStore";
import { useBench, useDocument } from "../session/store";
import { STRAIGHT } from "../model/hand";
import { useSize } from "../plot/useSize";
import { Choice } from "../ui/controls";
import { t } from "../model/said";

export function BeforeAfter() {
  const { allGestures: gestures } = useBenchContext();
  const view = useBench((s) => s.view);
  const hand = useBench((s) => s.hand);
  const tool = useDocument();
  const [id, setId] = useState(gestures[0]?.id ?? "");
  const { ref, size } = useSize<HTMLDivElement>();
  const gesture = useMemo(() => gestures.filter((g) => g.id === id), [gestures, id]);
  const strip = useMemo(() => ({ width: size.width, height: Math.round((size.width * STRIP_MM.height) / STRIP_MM.width) }), [size.width]);
  const scale = window.devicePixelRatio || 1;
  useEffect(() => {
    if (tool && view && strip.width > 0) void lay("before", tool, { ...hand, calibration: STRAIGHT }, { gestures: gesture, strip, scale }, 1, { under: null, view });
  }, [tool, hand.profile, strip, gesture, scale, view]); // eslint-disable-line react-hooks/exhaustive-deps -- the calibration is not in it
  useEffect(() => {
    if (tool && view && strip.width > 0) void lay("after", tool, hand, { gestures: gesture, strip, scale }, 1, { under: null, view });
  }, [tool, hand, strip, gesture, scale, view]);
  return (
    <section aria-label={t("Before and after")} className="border-t border-line pt-1">
      <div className="flex items-center gap-1.5 pb-1">
        <h2 className="font-semibold">{t("Before and after")}</h2>
        <span className="truncate text-muted">{tool?.name}</span>
        <span className="ml-auto" />
        <Choice label={t("Gesture before and after")} value={id} options={gestures.map((g) => [g.id, g.name])} onChange={setId} />
      </div>
      <div ref={ref} className="grid gap-1">
        {(["before", "after"] as const).map((column) => (
          <canvas
            key={column + id}
            ref={(canvas) => (canvas ? mount(column, id, canvas) : undefined)}
            role="img"
            aria-label={column === "before" ? t("Uncalibrated") : t("Calibrated")}
            data-column={column}
            className={`block bg-[#f3f1ec] ${column === "after" ? "outline-2 outline-draft" : ""}`}
            style={strip}
          />
        ))}
      </div>
    </section>
  );
}

/** Names a stroke of the free row and keeps it as a gesture: it joins the proof sheet. */

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { addGesture } from "../../api/client";
import { engine } from "../../engine/client";
import { PACKED } from "../../engine/types";
import { Choice } from "../../ui/controls";
import { Naming } from "../../ui/Naming";
import { intoStrip } from "../../draw/intoStrip";
import { useBench, type PadStroke } from "../../session/store";
import { t } from "../../model/said";

/** The way of a stroke, small. */
function Preview({ stroke }: { stroke: number[] }) {
  const places = stroke.filter((_, i) => i % PACKED === 1 || i % PACKED === 2);
  const xs = places.filter((_, i) => i % 2 === 0);
  const ys = places.filter((_, i) => i % 2 === 1);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [width, height] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const points = xs.map((x, i) => `${x - left},${(ys[i] ?? top) - top}`).join(" ");
  return (
    <svg aria-hidden viewBox={`-2 -2 ${width + 4} ${height + 4}`} className="h-24 w-full bg-[#f3f1ec]">
      <polyline points={points} fill="none" stroke="#1c1c1c" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
    </svg>
  );
}

export function KeepGesture(props: { strokes: PadStroke[]; onClose: () => void }) {
  const [which, setWhich] = useState(props.strokes.length - 1);
  const stroke = props.strokes[which]?.samples ?? [];
  const queries = useQueryClient();
  const keep = async (name: string) => {
    const inkml = await engine.inkmlOf(intoStrip(stroke));
    await addGesture(name, "my own hand", inkml, useBench.getState().hand.profile);
    await queries.invalidateQueries({ queryKey: ["gestures"] });
  };
  return (
    <Naming title={t("Keep as gesture")} act={t("Keep gesture")} onName={keep} onClose={props.onClose}>
      <div className="mb-2 grid gap-2">
        <Choice
          label={t("Which stroke")}
          value={String(which)}
          options={props.strokes.map((_, i) => [String(i), `stroke ${i + 1} of ${props.strokes.length}`])}
          onChange={(i) => setWhich(Number(i))}
        />
        <Preview stroke={stroke} />
      </div>
    </Naming>
  );
}

/** A row of the proof sheet: one gesture, with every column's tool. */

import { memo } from "react";
import { nearest } from "../../engine/client";
import type { Column } from "../../engine/types";
import { fixed } from "../../model/number";
import { useProof } from "../../session/proofStore";
import { GAP, NAME, STRIP_MM, type Layout } from "../../session/sheetSize";
import { useLooking } from "../../session/looking";
import { useBench } from "../../session/store";
import { StripCanvas } from "./StripCanvas";
import { useTrace } from "../../session/useEngine";

interface RowProps {
  id: string;
  name: string;
  note: string;
  layout: Layout;
  columns: Column[];
}

export const Row = memo(function Row({ id, name, note, layout: { stacked, strip, label }, columns }: RowProps) {
  const selected = useBench((s) => s.gesture === id);
  const fit = useProof((s) => s.fits[id] ?? 1);
  const select = () => useBench.setState({ gesture: id });
  return (
    <div className={stacked ? "border-t border-hair pb-2" : "flex w-max min-w-full items-center border-t border-hair"} style={stacked ? {} : { height: strip.height + 5 }} data-gesture={name}>
      <button
        type="button"
        aria-pressed={selected}
        onClick={select}
        className={`pr-2 text-left ${stacked ? "flex w-full items-baseline gap-2" : "sticky left-0 z-[5] h-full shrink-0 bg-pane"}`}
        style={stacked ? { height: NAME } : { width: label }}
      >
        <span className={`block font-semibold ${selected ? "text-draft" : ""}`}>{name}</span>
        <span className="block truncate text-[12px] text-muted">{fit > 1 ? `1 : ${fixed(fit, 1)} · ${note}` : note}</span>
      </button>
      {columns.map((column, i) => (
        <div key={column} style={i > 0 ? (stacked ? { marginTop: 3 } : { marginLeft: GAP }) : {}}>
          <StripView column={column} id={id} name={name} fit={fit} strip={strip} />
        </div>
      ))}
    </div>
  );
});

function StripView({ column, id, name, fit, strip }: { column: Column; id: string; name: string; fit: number; strip: Layout["strip"] }) {
  const selected = useBench((s) => s.gesture === id);
  const against = useBench((s) => s.against?.name ?? null);
  const third = useLooking((s) => s.third?.name ?? null);
  const scale = strip.width / STRIP_MM.width / fit;
  const called = { kept: against ?? "kept", draft: "draft", third: third ?? "beside", before: "before", after: "after" }[column];
  const placeOf = (e: React.PointerEvent<HTMLDivElement>): [number, number] => {
    const box = e.currentTarget.getBoundingClientRect();
    return [(e.clientX - box.left) / scale, (e.clientY - box.top) / scale];
  };
  const point = async ([x, y]: [number, number]) => {
    const at = await nearest(column, id, x, y);
    if (at !== null && useBench.getState().gesture === id) useBench.setState({ cursor: at });
  };
  /** Pointing at a stroke traces it, unless a place is held; under the loupe it is enlarged. */
  const pointed = (e: React.PointerEvent<HTMLDivElement>) => {
    const [x, y] = placeOf(e);
    const canvas = e.currentTarget.querySelector("canvas");
    if (useLooking.getState().loupe && canvas) {
      useLooking.setState({ spot: { on: { column, id }, canvas, mmPerPx: 1 / scale, x, y, clientX: e.clientX, clientY: e.clientY } });
    }
    if (useBench.getState().cursorHeld) return;
    if (!selected) useBench.setState({ gesture: id });
    void point([x, y]);
  };
  return (
    <div
      className={`relative ${selected && column === "draft" ? "outline-2 outline-draft" : ""}`}
      style={strip}
      onPointerMove={pointed}
      onPointerLeave={() => useLooking.setState({ spot: null })}
      onPointerDown={(e) => {
        useBench.setState({ gesture: id, cursorHeld: true });
        void point(placeOf(e));
      }}
    >
      <StripCanvas column={column} id={id} label={`${name}, ${called}`} />
      {selected && column !== "third" && <Mark column={column} id={id} scale={scale} />}
    </div>
  );
}

/** Where the trace's cursor is on a stroke. `scale`: CSS pixels a mm. */
export function Mark({ column, id, scale }: { column: Column; id: string; scale: number }) {
  const cursor = useBench((s) => s.cursor);
  const trace = useTrace(column, id);
  const dab = trace?.dabs.reduce((best, d) => (Math.abs(d.at_mm - cursor) < Math.abs(best.at_mm - cursor) ? d : best));
  if (!dab) return null;
  const ellipse = { rx: Math.max(2, (dab.length_mm / 2) * scale), ry: Math.max(2, (dab.width_mm / 2) * scale), transform: `rotate(${dab.angle_deg})` };
  return (
    <svg aria-hidden className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden" data-testid={`mark-${column}`}>
      <g transform={`translate(${dab.x_mm * scale} ${dab.y_mm * scale})`} stroke="#1c1c1c" fill="none">
        <path d="M0 -500V-13M0 13V500" opacity={0.35} />
        <ellipse {...ellipse} stroke="#ffffff" strokeWidth={2.5} />
        <ellipse {...ellipse} />
      </g>
    </svg>
  );
}

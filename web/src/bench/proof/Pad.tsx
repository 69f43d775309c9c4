/** The free row: drawn on with the draft, opened to the whole proof area and back. */

import { useEffect, useState } from "react";
import { engine } from "../../engine/client";
import { StandIns } from "../../draw/StandIns";
import { DrawingSheet } from "../../draw/DrawingSheet";
import { useDrawing } from "../../draw/useDrawing";
import { Button, Choice } from "../../ui/controls";
import { useShownKey } from "../../keys/registry";
import { openRow } from "../useBenchKeys";
import { KeepGesture } from "./KeepGesture";
import { useFollowed } from "../../session/followed";
import { commit, useBench, wipePad, type Snapshot } from "../../session/store";
import { rowId, strokeOfRow } from "../../engine/types";
import { useSize } from "../../plot/useSize";
import { useBenchContext } from "../../session/context";
import { ROW_ZOOMS, useLooking } from "../../session/looking";
import { rowLaid } from "../../session/proofStore";
import type { Layout } from "../../session/sheetSize";
import { Slow } from "./Clock";
import { Mark } from "./Row";
import { Cares, Held, useAskHeld } from "./Held";
import { t } from "../../model/said";

/** One place is asked for at a time. */
let asking = false;

/** Pointing at a stroke traces it, unless a place is held or something is drawn; under the loupe it is enlarged. */
async function pointAt(e: React.PointerEvent<HTMLDivElement>, mmPerPx: number) {
  const canvas = e.currentTarget.querySelector("canvas");
  if (!canvas || e.buttons !== 0) return;
  const box = canvas.getBoundingClientRect();
  const [x, y] = [(e.clientX - box.left) * mmPerPx, (e.clientY - box.top) * mmPerPx];
  if (useLooking.getState().loupe) useLooking.setState({ spot: { on: "row", canvas, mmPerPx, x, y, clientX: e.clientX, clientY: e.clientY } });
  const { cursorHeld, now } = useBench.getState();
  if (cursorHeld || !now?.pad.length) return;
  if (asking) return;
  asking = true;
  const near = await engine.padNearest(x, y).finally(() => (asking = false));
  if (near && !useBench.getState().cursorHeld) useBench.setState({ gesture: rowId(near[0]), cursor: near[1] });
}

/** Height of the opened row's buttons in one line, px. */
const BAR = 34;

const NOTHING: Snapshot["between"] = [];

export function Pad(props: { width: number; height: number; layout: Layout; pixelMm: number }) {
  const document = useFollowed();
  const hand = useBench((s) => s.hand);
  const strokes = useBench((s) => s.now?.pad);
  const between = useBench((s) => s.now?.between) ?? NOTHING;
  const { gestures } = useBenchContext();
  const { stacked, label, leastFree } = props.layout;
  const rowZoom = useLooking((s) => s.rowZoom);
  const open = useBench((s) => s.padOpen);
  const zoom = open ? rowZoom : 1;
  // Where its buttons need two lines, the sheet is so much lower.
  const { ref: bar, size: barSize } = useSize<HTMLDivElement>();
  const [width, height] = [props.width * zoom, (open ? props.height - Math.max(0, barSize.height - BAR) : props.height) * zoom];
  const count = strokes?.length ?? 0;
  const view = useBench((s) => s.view);
  const keys = [useShownKey("row"), useShownKey("wipe")];
  const [keeping, setKeeping] = useState(false);
  const drawing = useDrawing({
    document,
    hand,
    strokes,
    width,
    height,
    pixelMm: props.pixelMm / zoom,
    between: (stroke) => between.filter((b) => b.at === stroke).map((b) => b.what),
    otherEnd: useBench((s) => s.otherEnd?.document) ?? null,
    onStroke: (stroke) => commit({ pad: [...(useBench.getState().now?.pad ?? []), stroke] }),
  });

  useEffect(() => {
    if (view) void engine.padLook(view);
  }, [view, drawing.sheet]);
  const { mmPerPx } = drawing;
  useEffect(() => useLooking.setState({ rowMm: { width: width * mmPerPx, height: height * mmPerPx } }), [width, height, mmPerPx]);
  useEffect(() => {
    if (!drawing.busy) rowLaid();
  }, [drawing.busy, count, between]);
  const traced = useBench((s) => (s.gesture !== null && strokeOfRow(s.gesture) !== null ? s.gesture : null));
  // A stroke that was taken back, or wiped, is traced no more.
  useEffect(() => {
    if (traced !== null && (strokeOfRow(traced) ?? 0) >= count) useBench.setState({ gesture: gestures[0]?.id ?? null, cursorHeld: false });
  }, [traced, count, gestures]);
  const pointed = (e: React.PointerEvent<HTMLDivElement>) => void pointAt(e, drawing.mmPerPx);
  useAskHeld({ drawing, strokes: count, between });

  return (
    <div
      className={open ? "absolute inset-0 z-10 flex flex-col bg-pane" : `sticky bottom-0 z-[6] bg-pane border-t border-hair ${stacked ? "pb-1" : "flex w-max min-w-full items-center"}`}
      style={open || stacked ? {} : { height: Math.max(props.height, leastFree) + 5 }}
      data-testid="pad"
    >
      <div
        ref={bar}
        data-between-strokes
        className={open ? "flex min-h-[34px] shrink-0 flex-wrap items-center gap-x-2" : stacked ? "flex flex-wrap items-center gap-2 py-0.5" : "sticky left-0 z-[5] flex shrink-0 flex-col items-start gap-px bg-pane"}
        style={open || stacked ? {} : { width: label }}
      >
        <span className={`flex items-center gap-1.5 font-semibold ${open || stacked ? "" : "h-3 text-[12px] leading-none"}`}>
          {t("Free row")}
          <Held small={!open && !stacked} />
        </span>
        <StandIns />
        {open && <Slow />}
        <span className="flex flex-wrap gap-0.5 text-[12px]">
          <Button className="!min-h-6 !px-1 !py-0" onClick={openRow} title={t("Open or close {{v0}}", { v0: keys[0] })}>
            {open ? t("Close") : t("Open")}
          </Button>
          <Button className="!min-h-6 !px-1 !py-0" disabled={!strokes?.length} onClick={wipePad} title={t("Undo brings it back {{v0}}", { v0: keys[1] })}>
            {t("Wipe")}
          </Button>
          <Cares open={open} drawing={drawing} strokes={count} between={between} />
          {open && (
            <Choice
              label={t("Free row is shown")}
              className="!min-h-6 !gap-1 !px-1"
              value={String(rowZoom)}
              options={ROW_ZOOMS.map((z): [string, string] => [String(z), z === 1 ? "whole" : `× ${z}`])}
              onChange={(z) => useLooking.setState({ rowZoom: ROW_ZOOMS.find((r) => String(r) === z) ?? 1 })}
            />
          )}
          {open && (
            <Button className="!min-h-6 !py-0" disabled={!strokes?.length} onClick={() => setKeeping(true)}>
              {t("Keep a stroke as gesture…")}
            </Button>
          )}
        </span>
      </div>
      <div className={zoom > 1 ? "min-h-0 flex-1 overflow-auto" : ""}>
        <div
          className="relative shrink-0"
          style={{ width, height }}
          onPointerMove={pointed}
          onPointerLeave={() => useLooking.setState({ spot: null })}
          onPointerDown={() => useLooking.setState({ spot: null })}
        >
          <DrawingSheet drawing={drawing} label={t("Free row: draw here with the draft")} width={width} height={height} />
          {traced !== null && !drawing.busy && <Mark column="draft" id={traced} scale={1 / drawing.mmPerPx} />}
        </div>
      </div>
      {keeping && strokes && <KeepGesture strokes={strokes} onClose={() => setKeeping(false)} />}
    </div>
  );
}

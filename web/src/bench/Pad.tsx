/** The free row: drawn on with the draft, opened to the whole proof area and back. */

import { useEffect, useState } from "react";
import { engine } from "../engine/client";
import { StandIns } from "../draw/StandIns";
import { DrawingSheet } from "../draw/DrawingSheet";
import { useDrawing } from "../draw/useDrawing";
import { Button } from "../ui/controls";
import { useShownKey } from "../keys/registry";
import { openRow } from "./useBenchKeys";
import { KeepGesture } from "./KeepGesture";
import { commit, useBench, useDocument, wipePad, type Snapshot } from "../session/store";
import { Cares, Held, useAskHeld } from "./Held";

const NOTHING: Snapshot["between"] = [];

export function Pad(props: { width: number; height: number; label: number; pixelMm: number }) {
  const document = useDocument();
  const hand = useBench((s) => s.hand);
  const strokes = useBench((s) => s.now?.pad);
  const between = useBench((s) => s.now?.between) ?? NOTHING;
  const open = useBench((s) => s.padOpen);
  const count = strokes?.length ?? 0;
  const view = useBench((s) => s.view);
  const keys = [useShownKey("row"), useShownKey("wipe")];
  const [keeping, setKeeping] = useState(false);
  const drawing = useDrawing({
    document,
    hand,
    strokes,
    width: props.width,
    height: props.height,
    pixelMm: props.pixelMm,
    between: (stroke) => between.filter((b) => b.at === stroke).map((b) => b.what),
    otherEnd: useBench((s) => s.otherEnd?.document) ?? null,
    onStroke: (samples, by) => commit({ pad: [...(useBench.getState().now?.pad ?? []), by ? { samples, by } : { samples }] }),
  });

  useEffect(() => {
    if (view) void engine.padLook(view);
  }, [view, drawing.sheet]);
  useAskHeld({ drawing, strokes: count, between });

  return (
    <div
      className={open ? "absolute inset-0 z-10 flex flex-col bg-pane" : "flex items-center border-t border-hair"}
      style={open ? {} : { height: props.height + 5 }}
      data-testid="pad"
    >
      <div className={open ? "flex h-[34px] items-center gap-2" : "flex flex-col items-start gap-px"} style={open ? {} : { width: props.label }}>
        <span className={`flex items-center gap-1.5 font-semibold ${open ? "" : "h-3 text-[12px] leading-none"}`}>
          Free row
          <Held small={!open} />
        </span>
        <StandIns />
        <span className="flex gap-0.5 text-[12px]">
          <Button className="!min-h-6 !px-1 !py-0" onClick={openRow} title={`Open or close ${keys[0]}`}>
            {open ? "Close" : "Open"}
          </Button>
          <Button className="!min-h-6 !px-1 !py-0" disabled={!strokes?.length} onClick={wipePad} title={`Undo brings it back ${keys[1]}`}>
            Wipe
          </Button>
          <Cares open={open} drawing={drawing} strokes={count} between={between} />
          {open && (
            <Button className="!min-h-6 !py-0" disabled={!strokes?.length} onClick={() => setKeeping(true)}>
              Keep a stroke as gesture…
            </Button>
          )}
        </span>
      </div>
      <DrawingSheet drawing={drawing} label="Free row: draw here with the draft" width={props.width} height={props.height} />
      {keeping && strokes && <KeepGesture strokes={strokes} onClose={() => setKeeping(false)} />}
    </div>
  );
}

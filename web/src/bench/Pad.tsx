/** The free row: drawn on with the draft, opened to the whole proof area and back. */

import { useState } from "react";
import { StandIns } from "../draw/StandIns";
import { DrawingSheet } from "../draw/DrawingSheet";
import { useDrawing } from "../draw/useDrawing";
import { Button } from "../ui/controls";
import { KeepGesture } from "./KeepGesture";
import { cleanTool, commit, useBench, useDocument, wipePad } from "../session/store";

const NEVER: number[] = [];

export function Pad(props: { width: number; height: number; label: number; pixelMm: number }) {
  const document = useDocument();
  const hand = useBench((s) => s.hand);
  const strokes = useBench((s) => s.now?.pad);
  const cleaned = useBench((s) => s.now?.cleaned) ?? NEVER;
  const open = useBench((s) => s.padOpen);
  const carries = !!strokes?.length && !cleaned.includes(strokes.length);
  const [keeping, setKeeping] = useState(false);
  const drawing = useDrawing({
    document,
    hand,
    strokes,
    width: props.width,
    height: props.height,
    pixelMm: props.pixelMm,
    fresh: (stroke) => stroke === 0 || cleaned.includes(stroke),
    onStroke: (samples) => commit({ pad: [...(useBench.getState().now?.pad ?? []), samples] }),
  });

  return (
    <div
      className={open ? "absolute inset-0 z-10 flex flex-col bg-pane" : "flex items-center border-t border-hair"}
      style={open ? {} : { height: props.height + 5 }}
      data-testid="pad"
    >
      <div className={open ? "flex h-[34px] items-center gap-2" : "flex flex-col items-start gap-0.5"} style={open ? {} : { width: props.label }}>
        <span className="flex items-center gap-1 font-semibold">
          Free row
          <StandIns />
        </span>
        <span className="flex gap-0.5 text-[12px]">
          <Button className="!min-h-6 !px-1 !py-0" onClick={() => useBench.setState({ padOpen: !open })} title="Open or close (O)">
            {open ? "Close" : "Open"}
          </Button>
          <Button className="!min-h-6 !px-1 !py-0" disabled={!strokes?.length} onClick={wipePad} title="Wipe (W); undo brings it back">
            Wipe
          </Button>
          <Button className="!min-h-6 !px-1 !py-0" disabled={!carries} onClick={cleanTool} title="Before the next stroke: what it took up is wiped off, a worn point is sharp again">
            Clean
          </Button>
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

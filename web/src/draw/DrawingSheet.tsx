/** The canvas that is drawn on, with the tip's outline at the pen. */

import { Footprint } from "./Footprint";
import type { useDrawing } from "./useDrawing";
import { t } from "../model/said";

interface DrawingSheetProps {
  drawing: ReturnType<typeof useDrawing>;
  /** What it is, for who cannot see it. */
  label: string;
  width: number;
  height: number;
}

export function DrawingSheet({ drawing, label, width, height }: DrawingSheetProps) {
  return (
    <div className="relative shrink-0 overflow-hidden" style={{ width, height }}>
      <canvas
        key={drawing.sheet}
        ref={drawing.canvas}
        tabIndex={0}
        role="img"
        aria-busy={drawing.busy}
        aria-label={t("{{label}}. Arrow up and down change the stand-in force.", { label })}
        className="block cursor-crosshair touch-none bg-[#f3f1ec]"
        style={{ width, height }}
        {...drawing.handlers}
      />
      {drawing.document && <Footprint sheet={drawing.canvas} which={drawing.sheet} document={drawing.document} hand={drawing.hand} mmPerPx={drawing.mmPerPx} />}
    </div>
  );
}

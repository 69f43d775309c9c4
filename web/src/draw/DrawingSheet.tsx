/** The canvas that is drawn on. */

import type { useDrawing } from "./useDrawing";

interface DrawingSheetProps {
  drawing: ReturnType<typeof useDrawing>;
  /** What it is, for who cannot see it. */
  label: string;
  width: number;
  height: number;
}

export function DrawingSheet({ drawing, label, width, height }: DrawingSheetProps) {
  return (
    <canvas
      ref={drawing.canvas}
      tabIndex={0}
      role="img"
      aria-busy={drawing.busy}
      aria-label={`${label}. Arrow up and down change the stand-in force.`}
      className="block shrink-0 cursor-crosshair touch-none bg-[#f3f1ec]"
      style={{ width, height }}
      {...drawing.handlers}
    />
  );
}

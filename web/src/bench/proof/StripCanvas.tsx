/** A strip as the engine laid it last. */

import { useCallback } from "react";
import type { Column } from "../../engine/types";
import { mount } from "../../session/proofStore";

export function StripCanvas({ column, id, label }: { column: Column; id: string; label: string }) {
  const shown = useCallback((canvas: HTMLCanvasElement | null) => (canvas ? mount(column, id, canvas) : undefined), [column, id]);
  return <canvas ref={shown} role="img" aria-label={label} data-column={column} className="block h-full w-full" />;
}

/** All that lies on the free row, for laying it elsewhere. */

import type { Between, PadStroke } from "../../engine/types";
import type { Hand } from "../../model/hand";
import type { ToolDocument } from "../../model/tool";
import { documentOf, useBench } from "../../session/store";

export function rowToLay(): { tool: ToolDocument; hand: Hand; strokes: PadStroke[]; between: Between[][] } | null {
  const state = useBench.getState();
  const tool = documentOf(state);
  if (!tool || !state.now) return null;
  const { pad, between } = state.now;
  return {
    tool,
    hand: state.hand,
    strokes: pad.map((s) => ({ ...s, samples: Float64Array.from(s.samples), by: s.by ?? null })),
    between: Array.from({ length: pad.length + 1 }, (_, i) => between.filter((b) => b.at === i).map((b) => b.what)),
  };
}

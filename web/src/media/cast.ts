/** Which tools play which parts in a technique. */

import type { SheetStroke } from "../engine/types";
import { PLAIN_HAND, type Hand } from "../model/hand";
import type { Technique, ToolDocument } from "../model/tool";

/**
 * The strokes of a technique with the tools that play its parts; null where a part has none. Its strokes are a plain pen's, through
 * the painter's own calibration: as the Bench would show them.
 */
export function castOf(technique: Technique, calibration: Hand["calibration"], player: (role: string) => ToolDocument | null): SheetStroke[] | null {
  const strokes: SheetStroke[] = [];
  for (const [i, step] of technique.steps.entries()) {
    const tool = player(step.role);
    if (!tool) return null;
    strokes.push({
      tool: { ...tool, parameters: { ...tool.parameters, ...step.parameters } },
      hand: { ...PLAIN_HAND, calibration },
      way: { technique: technique.id, step: i },
      shiftMm: [0, 0],
      waitS: step.wait_s,
      dryFirst: step.dry_first,
    });
  }
  return strokes;
}

/** Plays passes of a gesture at true speed, as if a hand drew. */

import { useEffect, useRef, type RefObject } from "react";
import { engine, sendSamples } from "../engine/client";
import { PACKED } from "../engine/types";
import type { Hand } from "../model/hand";
import { refusalOf } from "../model/refused";
import type { ToolDocument } from "../model/tool";
import { useBench } from "../session/store";
import { say } from "../session/notices";
import { ORIGIN_Y, pause, played } from "./report";
import type { Drawn, DrawingOptions } from "./useDrawing";
import { t } from "../model/said";

interface PlayOptions extends Pick<DrawingOptions, "document" | "onReport" | "strokes"> {
  drawing: RefObject<Drawn | null>;
  /** When the last stroke ended, s by the sheet's clock. */
  ended: RefObject<number | null>;
  begin: (hand: Hand, by: ToolDocument | null) => void;
  finish: (stroke: Drawn) => void;
}

/** No pointer has this id. */
const PLAYED = -1;

const frame = () => new Promise<number>((go) => requestAnimationFrame(go));

export function usePlay({ document, onReport, strokes, drawing, ended, begin, finish }: PlayOptions) {
  const gone = useRef(false);
  useEffect(() => {
    gone.current = false;
    return () => {
      gone.current = true;
      if (drawing.current?.id === PLAYED) void engine.padLift();
    };
  }, [drawing]);

  /** Packed passes, mm from the corner of the sheet; ends early where a hand draws. */
  return async (passes: Float64Array[], heldBy: Hand) => {
    if (!document || drawing.current) return;
    const first = passes[0]?.[0] ?? 0;
    const started = performance.now();
    for (const [i, pass] of passes.entries()) {
      // The first has waited for as long as the hand has rested here, the others as the gesture says.
      const before = passes[i - 1]?.at(-PACKED);
      const waits = before === undefined ? pause(started / 1000, ended.current, (strokes?.length ?? 0) > 0) : Math.max(0, (pass[0] ?? 0) - before);
      const stroke: Drawn = { samples: [], start: (pass[0] ?? 0) - waits, id: PLAYED, kind: "played", last: 0, way: null, by: null };
      let next = 0;
      while (next < pass.length) {
        const now = first + (await frame() - started) / 1000;
        // The sheet belongs to another screen now.
        if (gone.current) return;
        if (drawing.current !== (next === 0 ? null : stroke)) return;
        const batch: number[] = [];
        for (; next < pass.length && (pass[next] ?? 0) <= now; next += PACKED) {
          const [t = 0, x = 0, y = 0, ...rest] = pass.subarray(next, next + PACKED);
          const sample = [t - stroke.start, x, y + ORIGIN_Y, ...rest];
          onReport?.(played(sample, stroke.samples, stroke.start - first + started / 1000));
          stroke.samples.push(...sample);
          batch.push(...sample);
        }
        if (batch.length === 0) continue;
        if (!drawing.current) {
          drawing.current = stroke;
          begin(heldBy, null);
        }
        sendSamples(Float64Array.from(batch), performance.timeOrigin + performance.now(), (error) => {
          const { field, message } = refusalOf(error);
          say(t("What is played cannot be: {{field}} {{message}}", { field, message }));
        });
      }
      finish(stroke);
    }
    useBench.setState({ live: null });
  };
}

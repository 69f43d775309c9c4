/** What the Bench asks of the engine, as hooks: the newest answer, and never one for an older question. */

import { useEffect, useState } from "react";
import { engine } from "../engine/client";
import type { Column, Explained, GroundFigures, Trace } from "../engine/types";
import type { ToolDocument } from "../model/tool";

/** Asks whenever `key` changes; shows the last answer meanwhile. */
export function useAnswer<T>(key: string | null, ask: () => Promise<T>): T | null {
  const [answer, setAnswer] = useState<T | null>(null);
  useEffect(() => {
    if (key === null) return;
    let current = true;
    ask().then(
      (value) => current && setAnswer(value),
      // A document on the way between two states may be refused; the next one is asked at once.
      () => undefined,
    );
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for everything `ask` closes over
  }, [key]);
  return answer;
}

export const useTrace = (column: Column, id: string | null, run: number): Trace | null =>
  useAnswer(id ? `${column}:${id}:${run}` : null, () => engine.trace(column, id ?? ""));

export const useExplained = (column: Column, id: string | null, at: number, run: number): Explained | null =>
  useAnswer(id ? `${column}:${id}:${at.toFixed(2)}:${run}` : null, () => engine.explain(column, id ?? "", at));

export const useCurve = (points: [number, number][] | null): Float64Array | null =>
  useAnswer(points ? JSON.stringify(points) : null, () => engine.curve(points ?? [], 241));

export const useGround = (document: ToolDocument | null): GroundFigures | null =>
  useAnswer(document ? JSON.stringify(document.parameters) : null, () => engine.ground(document as ToolDocument));

/** What the Bench asks of the engine, as hooks: the newest answer, and never one for an older question. */

import { useEffect, useRef, useState } from "react";
import { adviseOn, engine, explain, grounds, quiet, traceOf } from "../engine/client";
import type { Advice, Column, Dab, Difference, Explained, GroundFigures, Levels, Trace } from "../engine/types";
import type { ToolDocument } from "../model/tool";
import { useRun } from "./proofStore";
import { useBench } from "./store";
import { fixed } from "../model/number";
import { saidOf } from "../model/refused";
import { EngineLost } from "../engine/crew";
import { say } from "./notices";

const MOST_ANSWERS = 160;
const answers = new Map<string, Promise<unknown>>();

/** What several parts of the screen ask at once is put to the worker once. `key` says everything that the answer depends on. */
function once<T>(key: string, ask: () => Promise<T>): Promise<T> {
  const there = answers.get(key);
  if (there) return there as Promise<T>;
  const [oldest] = answers.keys();
  if (oldest !== undefined && answers.size >= MOST_ANSWERS) answers.delete(oldest);
  const answer = ask();
  answers.set(key, answer);
  answer.catch(() => answers.delete(key));
  return answer;
}

/** Asks whenever `key` changes; shows the last answer meanwhile. */
export function useAnswer<T>(key: string | null, ask: () => Promise<T>): T | null {
  const [answer, setAnswer] = useState<T | null>(null);
  useEffect(() => {
    if (key === null) return;
    let current = true;
    once(key, ask).then(
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

/** An answer, what it was asked for, and whether a newer one is due. */
export interface Newest<T> {
  answer: T | null;
  of: string | null;
  due: boolean;
}

/**
 * Asks one thing at a time: of all that was wanted while an answer was on its way only the newest. For answers that take long and
 * cannot be broken off.
 */
export function useNewest<T>(key: string | null, ask: () => Promise<T>): Newest<T> {
  const [got, setGot] = useState<{ answer: T | null; of: string } | null>(null);
  const wanted = useRef<{ key: string; ask: () => Promise<T> } | null>(null);
  const running = useRef(false);
  useEffect(() => {
    if (key === null) return;
    wanted.current = { key, ask };
    const run = async () => {
      running.current = true;
      while (wanted.current) {
        const now: { key: string; ask: () => Promise<T> } = wanted.current;
        wanted.current = null;
        try {
          setGot({ answer: await now.ask(), of: now.key });
        } catch (error) {
          // On the way between two states it may be refused: the next is asked at once. What nothing follows has no answer, and is told.
          if (wanted.current) continue;
          if (error instanceof EngineLost) wanted.current = now;
          else {
            setGot({ answer: null, of: now.key });
            say(saidOf(error));
          }
        }
      }
      running.current = false;
    };
    if (!running.current) void run();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for everything `ask` closes over
  }, [key]);
  return { answer: got?.answer ?? null, of: got?.of ?? null, due: key !== null && got?.of !== key };
}

const parsed = <T>(text: Promise<string | null>): Promise<T | null> => text.then((t) => (t === null ? null : (JSON.parse(t) as T)));

export const useTrace = (column: Column, id: string | null): Trace | null => {
  const run = useRun(column, id);
  return useAnswer(id ? `trace:${column}:${id}:${run}` : null, () => parsed<Trace>(traceOf(column, id ?? "")));
};

/** Traces of several gestures with the draft, as they are when asked. */
export const useTraces = (ids: string[], ready: boolean): (Trace | null)[] | null =>
  useAnswer(ready ? `traces:${ids.join()}` : null, () => Promise.all(ids.map((id) => parsed<Trace>(traceOf("draft", id)))));

export const useExplained = (column: Column, id: string | null, at: number): Explained | null => {
  const run = useRun(column, id);
  return useAnswer(id ? `explain:${column}:${id}:${at.toFixed(2)}:${run}` : null, () => explain(column, id ?? "", at));
};

/** Advice on the draft as it was last run. */
export const useAdvice = (document: ToolDocument | null, ids: string[]): Advice[] | null => {
  const run = useRun("draft");
  const hand = useBench((s) => s.hand);
  return useAnswer(document && run > 0 ? `advice:${run}:${JSON.stringify([document, hand, ids])}` : null, () => adviseOn(document as ToolDocument, hand, ids));
};

export const useDifferences = (medium: string, a: Dab | null, b: Dab | null): Difference[] | null =>
  useAnswer(a && b ? `compare:${JSON.stringify([medium, a, b])}` : null, () => engine.compare(medium, a as Dab, b as Dab));

export const useCurve = (points: [number, number][] | null): Float64Array | null =>
  useAnswer(points ? `curve:${JSON.stringify(points)}` : null, () => engine.curve(points ?? [], 241));

const FORCES = 200;

/** How the force behind a calibrated pressure is written, with its unit. */
export function useForces(): (pressure: number) => string {
  const hand = useBench((s) => s.hand);
  const table = useAnswer(`forces:${JSON.stringify(hand)}`, () =>
    engine.forcesFor(hand, Array.from({ length: FORCES + 1 }, (_, i) => i / FORCES)),
  );
  return (pressure) => {
    if (pressure <= 0) return "0 gf";
    const at = Math.min(FORCES, pressure * FORCES);
    const [a, b] = [table?.[Math.floor(at)] ?? NaN, table?.[Math.ceil(at)] ?? NaN];
    const force = a + (b - a) * (at - Math.floor(at));
    return Number.isFinite(force) ? `${fixed(force)} gf` : "–";
  };
}

/** What the stylus's calibration, and a curve over the part `input` of its output, leave of the stylus's levels. */
export const useLevels = (points: [number, number][], input: [number, number]): Levels | null => {
  const { calibration, profile } = useBench((s) => s.hand);
  return useAnswer(`levels:${JSON.stringify([calibration, input, points, profile.levels])}`, () =>
    quiet().then(() => engine.levels(calibration.curve, input, points, profile.levels)),
  );
};

export const useGround = (document: ToolDocument | null): GroundFigures | null =>
  useAnswer(document ? `ground:${JSON.stringify([document.ground, document.parameters])}` : null, () => quiet().then(() => grounds.ground(document as ToolDocument)));

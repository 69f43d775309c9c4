/** What lies on a sheet of the engine's: strokes laid anew where something changed, and those that are drawn as they come. */

import { useRoom } from "../session/room";
import { useEffect, useRef, useState } from "react";
import { engine, giveCanvas, onReplaced } from "../engine/client";
import { EngineLost } from "../engine/crew";
import type { Between, StrokeClock } from "../engine/types";
import type { Hand } from "../model/hand";
import type { ToolDocument } from "../model/tool";
import { doBetween, type PadStroke } from "../session/store";
import { ORIGIN_Y } from "./report";

const CLEANED: Between[] = ["clean"];

/** What a lost worker was asked is asked anew of the next. */
function unlessLost(error: unknown) {
  if (!(error instanceof EngineLost)) throw error;
}

export interface LaidOptions {
  document: ToolDocument | null;
  hand: Hand;
  /** What is drawn already: packed samples, mm from the corner, `ORIGIN_Y` added. */
  strokes: PadStroke[] | undefined;
  /** CSS pixels. */
  width: number;
  height: number;
  /** mm of a device pixel. */
  pixelMm: number;
  onStroke: (stroke: PadStroke) => void;
  /** What was done before the stroke of this number; without it, the tool is made clean before each. */
  between?: (stroke: number) => Between[];
}

export function useLaid(options: LaidOptions) {
  const { document, hand, strokes, width, height, pixelMm } = options;
  const canvas = useRef<HTMLCanvasElement>(null);
  const [busy, setBusy] = useState(true);
  /** Strokes that ended and are not all laid yet: a large tip lays on after the hand has gone. */
  const [laying, setLaying] = useState(0);
  /** Goes up where all must be laid anew although nothing changed. */
  const [again, setAgain] = useState(0);
  /** What the canvas shows: nothing is laid anew that is already there. */
  const shown = useRef("");
  /** A stroke began before the earlier ones were laid anew: they must be, once it ends. */
  const cut = useRef(false);
  /** Which sheet of the engine's it is: another once the worker that drew was lost, and its canvas with it. */
  const [sheet, setSheet] = useState(0);
  const given = useRef(-1);
  const under = useRef(false);
  /** Which run is the newest. A stroke may begin and end before the page hears that it broke one off. */
  const runs = useRef(0);
  const layAnew = () => {
    shown.current = "";
    setAgain((n) => n + 1);
  };

  useEffect(() => {
    const element = canvas.current;
    if (!element || given.current === sheet) return;
    given.current = sheet;
    giveCanvas(element.transferControlToOffscreen());
  }, [sheet]);
  useEffect(
    () =>
      onReplaced((drew) => {
        if (!drew) return;
        [under.current, cut.current, shown.current] = [false, false, ""];
        setSheet((n) => n + 1);
      }),
    [],
  );

  /** Settled once the strokes that ended, and what was done between, are told of. */
  const told = useRef(Promise.resolve());
  const between = (stroke: number) => options.between?.(stroke) ?? CLEANED;
  const room = useRoom((s) => s.room);
  const scale = window.devicePixelRatio || 1;
  const size = { width: Math.round(width * scale), height: Math.round(height * scale) };
  /** What was done before each of so many strokes, and after the last. */
  const lists = (count: number) => (options.between ? Array.from({ length: count + 1 }, (_, i) => between(i)) : []);
  const state = (all: PadStroke[] | undefined, done = lists(all?.length ?? 0)) =>
    JSON.stringify([document, hand, room, size, pixelMm, all?.map((s) => [s.samples.length, s.by?.name ?? ""]) ?? [], done]);
  const key = state(strokes);
  useEffect(() => {
    if (!document || shown.current === key || under.current) return;
    shown.current = key;
    const packed = (strokes ?? []).map((s) => ({ ...s, samples: Float64Array.from(s.samples), by: s.by ?? null }));
    setBusy(true);
    const run = ++runs.current;
    void engine.padRun(document, hand, { ...size, pixelMm, originY: ORIGIN_Y }, packed, options.between ? lists(packed.length) : packed.map(() => CLEANED)).then((whole) => {
      if (run !== runs.current) return;
      if (whole) setBusy(false);
      else if (under.current) cut.current = true;
      else layAnew();
    }, unlessLost);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for all of it
  }, [key, again, sheet]);

  // Played strokes end long after the drawing of the page that began them.
  const lift = useRef<(stroke: PadStroke) => void>(() => undefined);
  const done = useRef<(list: Between[]) => void>(() => undefined);
  useEffect(() => {
    lift.current = (stroke) => {
      // The canvas already shows this stroke.
      shown.current = cut.current ? "" : state([...(strokes ?? []), stroke]);
      cut.current = false;
      options.onStroke(stroke);
    };
    done.current = (list) => {
      // The canvas already shows it.
      const now = lists(strokes?.length ?? 0);
      if (!cut.current && shown.current === key) shown.current = state(strokes, now.with(-1, [...(now.at(-1) ?? []), ...list]));
      doBetween(list);
    };
  });

  return {
    canvas,
    sheet,
    busy: busy || laying > 0,
    mmPerPx: pixelMm * scale,
    /** A stroke begins; `by`: another tool's. */
    begin: (heldBy: Hand, by: ToolDocument | null) => {
      if (!document) return;
      under.current = true;
      void engine.padBegin(document, heldBy, options.between ? [] : CLEANED, by).catch(unlessLost);
    },
    /** It ends, and lies there. */
    end: (samples: number[], by: ToolDocument | null) => {
      under.current = false;
      setLaying((n) => n + 1);
      void engine.padLift().catch(unlessLost).finally(() => setLaying((n) => n - 1));
      const clock = engine.padClock().catch((error: unknown): StrokeClock | null => (unlessLost(error), null));
      told.current = told.current.then(async () => {
        const went = await clock;
        lift.current({ samples, ...(by && { by }), ...(went && { clock: went }) });
      });
    },
    /** It is dropped: nothing of it stays. */
    drop: () => {
      under.current = false;
      void engine.padDrop();
      if (!cut.current) return;
      cut.current = false;
      layAnew();
    },
    /** Does something between strokes at once; the sheet shows it, and is not laid anew for it. */
    does: (what: Between) => {
      if (!document || under.current) return;
      const rested = engine.padBetween(document, what).catch((error: unknown) => (unlessLost(error), 0));
      told.current = told.current.then(async () => {
        const steps = await rested;
        done.current(steps > 0 ? [`rest ${steps}`, what] : [what]);
      });
    },
  };
}

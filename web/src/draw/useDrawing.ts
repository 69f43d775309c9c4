/** Drawing on a sheet of the engine's: a pen, a mouse with stand-ins, or a gesture played at true speed. */

import { useEffect, useRef, useState } from "react";
import { refusalOf } from "../model/refused";
import { doBetween, say, useBench, within } from "../session/store";
import { engine, giveCanvas, sendSamples } from "../engine/client";
import { PACKED, type Between } from "../engine/types";
import type { Hand } from "../model/hand";
import type { ToolDocument } from "../model/tool";
import { ForceOfWay } from "./forceOfWay";
import { isPen, liveOf, unfolded } from "./pen";

/** The sheet lies on a piece of paper of its own, mm below the proof rows. */
export const ORIGIN_Y = 280;
const FORCE_STEP = 0.04;
/** After a pause there is no speed to tell, s. */
const PAUSE_S = 0.2;
const CLEANED: Between[] = ["clean"];

/** A report as it came: packed sample and how fast the pen was. */
export interface Report {
  sample: number[];
  speed: number;
  down: boolean;
  from: "pen" | "stand-in" | "played";
}

export interface DrawingOptions {
  document: ToolDocument | null;
  hand: Hand;
  /** What is drawn already: packed samples, mm from the corner, `ORIGIN_Y` added. */
  strokes: number[][] | undefined;
  /** CSS pixels. */
  width: number;
  height: number;
  /** mm of a device pixel. */
  pixelMm: number;
  onStroke: (samples: number[]) => void;
  /** What was done before the stroke of this number; without it, the tool is made clean before each. */
  between?: (stroke: number) => Between[];
  /** Every report, of a hovering pen too. */
  onReport?: (report: Report) => void;
  /** How many reports an event brought. */
  onEvent?: (reports: number) => void;
}

export function useDrawing(options: DrawingOptions) {
  const { document, hand, strokes, width, height, pixelMm } = options;
  const canvas = useRef<HTMLCanvasElement>(null);
  /** A stroke began before the earlier ones were laid anew: they must be, once it ends. */
  const cut = useRef(false);
  const moved = useRef<{ t: number; x: number; y: number } | null>(null);
  const [busy, setBusy] = useState(true);
  /** Strokes that ended and are not all laid yet: a large tip lays on after the hand has gone. */
  const [laying, setLaying] = useState(0);
  const drawing = useRef<{ samples: number[]; start: number; id: number; last: number; way: ForceOfWay | null } | null>(null);
  /** What the canvas shows: nothing is laid anew that is already there. */
  const shown = useRef("");
  const given = useRef(false);
  const gone = useRef(false);
  /** When the last stroke ended, s; 0 before the first. */
  const ended = useRef(0);

  useEffect(() => {
    const element = canvas.current;
    if (!element || given.current) return;
    given.current = true;
    giveCanvas(element.transferControlToOffscreen());
  }, []);
  useEffect(() => {
    gone.current = false;
    return () => {
      gone.current = true;
      if (drawing.current?.id === PLAYED) void engine.padLift();
    };
  }, []);

  const between = (stroke: number) => options.between?.(stroke) ?? CLEANED;
  const refused = (error: unknown) => {
    const { field, message } = refusalOf(error);
    say(`The pen reported what cannot be: ${field} ${message}`);
  };
  const scale = window.devicePixelRatio || 1;
  const size = { width: Math.round(width * scale), height: Math.round(height * scale) };
  /** What was done before each of so many strokes, and after the last. */
  const lists = (count: number) => (options.between ? Array.from({ length: count + 1 }, (_, i) => between(i)) : []);
  const state = (all: number[][] | undefined, done = lists(all?.length ?? 0)) => JSON.stringify([document, hand, size, pixelMm, all?.map((s) => s.length) ?? [], done]);
  const key = state(strokes);
  useEffect(() => {
    if (!document || shown.current === key || drawing.current) return;
    shown.current = key;
    const packed = (strokes ?? []).map((s) => Float64Array.from(s));
    setBusy(true);
    void engine.padRun(document, hand, { ...size, pixelMm, originY: ORIGIN_Y }, packed, options.between ? lists(packed.length) : packed.map(() => CLEANED)).then((whole) => {
      if (whole) setBusy(false);
      else if (shown.current === key) cut.current = true;
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for all of it
  }, [key]);

  const perPx = pixelMm * scale;
  const report = (event: PointerEvent, down: boolean): Report => {
    const box = canvas.current?.getBoundingClientRect();
    const live = liveOf(event, useBench.getState().standIn, down);
    const [x, y] = [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
    const t = event.timeStamp / 1000;
    const before = moved.current;
    const seconds = before ? t - before.t : 0;
    const speed = before && seconds > 0 && seconds < PAUSE_S ? (Math.hypot(x - before.x, y - before.y) * perPx) / seconds : 0;
    moved.current = { t, x, y };
    useBench.setState({ live: { ...live, speed } });
    return { sample: [t, x * perPx, ORIGIN_Y + y * perPx, live.pressure, live.tiltX, live.tiltY, live.twist], speed, down, from: live.kind };
  };

  const take = (e: PointerEvent) => {
    const stroke = drawing.current;
    if (!stroke) {
      for (const event of unfolded(e)) {
        const seen = report(event, false);
        options.onReport?.(seen);
      }
      return;
    }
    if (e.pointerId !== stroke.id) return;
    const batch: number[] = [];
    const events = unfolded(e);
    options.onEvent?.(events.length);
    for (const event of events) {
      const seen = report(event, true);
      options.onReport?.(seen);
      const sample = [Math.max(stroke.last, (seen.sample[0] ?? 0) - stroke.start), ...seen.sample.slice(1)];
      stroke.last = sample[0] ?? 0;
      batch.push(...(stroke.way ? stroke.way.push(sample) : sample));
    }
    if (batch.length === 0) return;
    stroke.samples.push(...batch);
    sendSamples(Float64Array.from(batch), performance.timeOrigin + e.timeStamp, refused);
  };

  // Raw updates come as often as the pen reports; React does not know the event.
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const name = "onpointerrawupdate" in window ? "pointerrawupdate" : "pointermove";
    const listen = (e: Event) => latest.current(e as PointerEvent);
    element.addEventListener(name, listen);
    return () => element.removeEventListener(name, listen);
  }, []);

  const finish = (samples: number[]) => {
    drawing.current = null;
    ended.current = performance.now() / 1000;
    setLaying((n) => n + 1);
    void engine.padLift().finally(() => setLaying((n) => n - 1));
    lift.current(samples);
  };
  // Played strokes end long after the drawing of the page that began them.
  const lift = useRef<(samples: number[]) => void>(() => undefined);
  useEffect(() => {
    lift.current = (samples) => {
      // The canvas already shows this stroke.
      shown.current = cut.current ? "" : state([...(strokes ?? []), samples]);
      cut.current = false;
      options.onStroke(samples);
    };
  });

  /** Plays passes (packed, mm from the corner of the sheet) at true speed as if a hand drew; ends early where one does. */
  const play = async (passes: Float64Array[], heldBy: Hand) => {
    if (!document || drawing.current) return;
    const first = passes[0]?.[0] ?? 0;
    const started = performance.now();
    for (const [i, pass] of passes.entries()) {
      // The first has waited for as long as the hand has rested here, the others as the gesture says.
      const before = passes[i - 1]?.at(-PACKED);
      const waits = before === undefined ? pause(started / 1000, ended.current) : Math.max(0, (pass[0] ?? 0) - before);
      const stroke = { samples: [] as number[], start: (pass[0] ?? 0) - waits, id: PLAYED, last: 0, way: null };
      let next = 0;
      while (next < pass.length) {
        const now = first + (await frame() - started) / 1000;
        // The sheet belongs to another screen now.
        if (gone.current) return;
        if (drawing.current && drawing.current !== stroke) return;
        const batch: number[] = [];
        for (; next < pass.length && (pass[next] ?? 0) <= now; next += PACKED) {
          const [t = 0, x = 0, y = 0, ...rest] = pass.subarray(next, next + PACKED);
          const sample = [t - stroke.start, x, y + ORIGIN_Y, ...rest];
          options.onReport?.(played(sample, stroke.samples, stroke.start - first + started / 1000));
          stroke.samples.push(...sample);
          batch.push(...sample);
        }
        if (batch.length === 0) continue;
        if (!drawing.current) {
          drawing.current = stroke;
          void engine.padBegin(document, heldBy, options.between ? [] : CLEANED);
        }
        sendSamples(Float64Array.from(batch), performance.timeOrigin + performance.now(), refused);
      }
      finish(stroke.samples);
    }
    useBench.setState({ live: null });
  };
  const end = (e: React.PointerEvent<HTMLCanvasElement>) => {
    const stroke = drawing.current;
    if (!stroke || stroke.id !== e.pointerId) return;
    const rest = stroke.way?.lift() ?? [];
    if (rest.length > 0) {
      stroke.samples.push(...rest);
      sendSamples(Float64Array.from(rest), performance.timeOrigin + e.timeStamp, refused);
    }
    finish(stroke.samples);
  };

  const handlers = {
    onPointerDown: (e: React.PointerEvent<HTMLCanvasElement>) => {
      if (!document || drawing.current || e.button !== 0) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      const way = isPen(e.nativeEvent) ? null : new ForceOfWay(useBench.getState().standIn);
      drawing.current = { samples: [], start: e.timeStamp / 1000 - pause(e.timeStamp / 1000, ended.current), id: e.pointerId, last: 0, way };
      void engine.padBegin(document, hand, options.between ? [] : CLEANED);
      take(e.nativeEvent);
    },
    onPointerUp: end,
    onPointerCancel: end,
    onPointerLeave: (e: React.PointerEvent<HTMLCanvasElement>) => {
      moved.current = null;
      if (!isPen(e.nativeEvent) && !drawing.current) useBench.setState({ live: null });
    },
    onKeyDown: (e: React.KeyboardEvent) => {
      if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
      e.preventDefault();
      const by = e.key === "ArrowUp" ? FORCE_STEP : -FORCE_STEP;
      useBench.setState((s) => ({ standIn: { ...s.standIn, pressure: within(s.standIn.pressure + by, 0.02, 1) } }));
    },
  };

  /** Does something between strokes at once; the sheet shows it, and is not laid anew for it. */
  const does = (what: Between) => {
    if (!document || drawing.current) return;
    void engine.padBetween(document, what);
    // The canvas already shows it.
    const now = lists(strokes?.length ?? 0);
    if (!cut.current && shown.current === key) shown.current = state(strokes, now.with(-1, [...(now.at(-1) ?? []), what]));
    doBetween(what);
  };

  return { canvas, document, hand, mmPerPx: perPx, busy: busy || laying > 0, handlers, play, does };
}

/** A hand that rests longer than this has waited no longer, s: by then a wash is dry. */
const LONGEST_PAUSE_S = 3600;

/** How long the hand has rested, s. */
const pause = (now: number, ended: number) => (ended > 0 ? Math.min(LONGEST_PAUSE_S, Math.max(0, now - ended)) : 0);

/** No pointer has this id. */
const PLAYED = -1;

const frame = () => new Promise<number>((go) => requestAnimationFrame(go));

/** The report of a played sample; `before`: those of its stroke so far; `offset`: from the stroke's time to the page's, s. */
function played(sample: number[], before: number[], offset: number): Report {
  const [t = 0, x = 0, y = 0, pressure = 0, tiltX = 0, tiltY = 0, twist = 0] = sample;
  const [x0 = x, y0 = y] = before.slice(-PACKED + 1);
  const seconds = before.length > 0 ? t - (before.at(-PACKED) ?? 0) : 0;
  const speed = seconds > 0 ? Math.hypot(x - x0, y - y0) / seconds : 0;
  useBench.setState({ live: { pressure, tiltX, tiltY, twist, speed, kind: "pen" } });
  return { sample: [t + offset, x, y, pressure, tiltX, tiltY, twist], speed, down: true, from: "played" };
}

/** Drawing on a sheet of the engine's: a pen, a mouse or finger with stand-ins, or a gesture played at true speed. */

import { useEffect, useRef } from "react";
import { sendSamples } from "../engine/client";
import { refusalOf } from "../model/refused";
import type { ToolDocument } from "../model/tool";
import { fingersDraw, seePen } from "../session/choices";
import { clock } from "../session/clock";
import { useBench, within } from "../session/store";
import { say } from "../session/notices";
import { NEAR_MS, OTHER_END, claim, type Claim } from "./claims";
import { ForceOfWay } from "./forceOfWay";
import { isPen, unfolded } from "./pen";
import { pause, reportOf, type Moved, type Report } from "./report";
import { useLaid, type LaidOptions } from "./useLaid";
import { usePlay } from "./usePlay";
import { t } from "../model/said";

const FORCE_STEP = 0.04;

export interface DrawingOptions extends LaidOptions {
  /** The tool on the pen's other end; without one, that end draws nothing here. */
  otherEnd?: ToolDocument | null;
  /** Every report, of a hovering pen too. */
  onReport?: (report: Report) => void;
  /** How many reports an event brought. */
  onEvent?: (reports: number) => void;
  /** A stroke was dropped that had been reported. */
  onDrop?: () => void;
}

/** A stroke under way. */
export interface Drawn extends Claim {
  samples: number[];
  /** When its time is 0, s; and its last sample's time. */
  start: number;
  last: number;
  way: ForceOfWay | null;
  by: ToolDocument | null;
}

const kindOf = (e: PointerEvent): Claim["kind"] => (isPen(e) ? "pen" : e.pointerType === "touch" ? "touch" : "mouse");

const refused = (error: unknown) => {
  const { field, message } = refusalOf(error);
  say(t("The pen reported what cannot be: {{field}} {{message}}", { field, message }));
};

export function useDrawing(options: DrawingOptions) {
  const { document, hand } = options;
  const laid = useLaid(options);
  const drawing = useRef<Drawn | null>(null);
  const moved = useRef<Moved>(null);
  /** When a pen was heard of last, ms of the page's time, 0 before the first; when the last stroke ended, s by the sheet's clock. */
  const pen = useRef(0);
  const ended = useRef<number | null>(null);

  // A stroke whose sheet is gone is over: what was reported of it is not lost.
  const sheet = useRef(laid.sheet);
  useEffect(() => {
    if (sheet.current === laid.sheet) return;
    sheet.current = laid.sheet;
    const cut = drawing.current;
    drawing.current = null;
    if (cut && cut.samples.length > 0) options.onStroke({ samples: cut.samples, ...(cut.by && { by: cut.by }) });
  });
  const finish = (stroke: Drawn) => {
    drawing.current = null;
    ended.current = clock.at(performance.now() / 1000);
    laid.end(stroke.samples, stroke.by);
  };
  const drop = () => {
    drawing.current = null;
    options.onDrop?.();
    laid.drop();
  };
  const play = usePlay({ ...options, drawing, ended, begin: laid.begin, finish });

  const report = (event: PointerEvent, down: boolean): Report => {
    const [seen, now] = reportOf(event, laid.canvas.current, laid.mmPerPx, moved.current, down);
    moved.current = now;
    options.onReport?.(seen);
    return seen;
  };
  const take = (e: PointerEvent) => {
    const stroke = drawing.current;
    if (isPen(e)) {
      pen.current = e.timeStamp;
      seePen();
    }
    if (!stroke) {
      // A touch that does not draw is a palm: it moves nothing.
      if (kindOf(e) !== "touch") unfolded(e).forEach((event) => report(event, false));
      return;
    }
    if (e.pointerId !== stroke.id) return;
    const batch: number[] = [];
    const events = unfolded(e);
    options.onEvent?.(events.length);
    for (const event of events) {
      const seen = report(event, true);
      const sample = [Math.max(stroke.last, (seen.sample[0] ?? 0) - stroke.start), ...seen.sample.slice(1)];
      stroke.last = sample[0] ?? 0;
      batch.push(...(stroke.way ? stroke.way.push(sample) : sample));
    }
    send(stroke, batch, e);
  };
  const send = (stroke: Drawn, batch: number[], e: PointerEvent) => {
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
    const element = laid.canvas.current;
    if (!element) return;
    const name = "onpointerrawupdate" in window ? "pointerrawupdate" : "pointermove";
    const listen = (e: Event) => latest.current(e as PointerEvent);
    element.addEventListener(name, listen);
    return () => element.removeEventListener(name, listen);
  }, [laid.canvas, laid.sheet]);

  const end = (e: React.PointerEvent) => {
    const stroke = drawing.current;
    if (!stroke || stroke.id !== e.pointerId) return;
    send(stroke, stroke.way?.lift() ?? [], e.nativeEvent);
    finish(stroke);
  };
  const handlers = {
    onPointerDown: (e: React.PointerEvent<HTMLCanvasElement>) => {
      if (!document) return;
      const kind = kindOf(e.nativeEvent);
      const now = e.timeStamp;
      const verdict = claim(drawing.current, { id: e.pointerId, kind, button: e.button }, fingersDraw(useBench.getState()), now - pen.current < NEAR_MS && pen.current > 0);
      if (verdict === "no") return;
      const by = e.button === OTHER_END ? (options.otherEnd ?? null) : null;
      if (e.button === OTHER_END && !by) {
        if (options.otherEnd !== undefined) say("No tool is on the pen's other end: put one there beside the stand-ins.");
        return;
      }
      if (verdict === "instead") drop();
      e.currentTarget.setPointerCapture(e.pointerId);
      const way = kind === "pen" ? null : new ForceOfWay(useBench.getState().standIn);
      drawing.current = { samples: [], start: now / 1000 - pause(now / 1000, ended.current, (options.strokes?.length ?? 0) > 0), id: e.pointerId, kind, last: 0, way, by };
      laid.begin(hand, by);
      take(e.nativeEvent);
    },
    onPointerUp: end,
    // A finger that the system takes for a palm leaves nothing; what a pen has drawn stays.
    onPointerCancel: (e: React.PointerEvent) => {
      if (drawing.current?.id === e.pointerId && drawing.current.kind === "touch") drop();
      else end(e);
    },
    onLostPointerCapture: end,
    onPointerLeave: (e: React.PointerEvent) => {
      moved.current = null;
      if (!isPen(e.nativeEvent) && !drawing.current) useBench.setState({ live: null });
    },
    // A long press, or a button on the barrel, opens no menu over a stroke.
    onContextMenu: (e: React.MouseEvent) => e.preventDefault(),
    onKeyDown: (e: React.KeyboardEvent) => {
      if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
      e.preventDefault();
      const by = e.key === "ArrowUp" ? FORCE_STEP : -FORCE_STEP;
      useBench.setState((s) => ({ standIn: { ...s.standIn, pressure: within(s.standIn.pressure + by, 0.02, 1) } }));
    },
  };

  return { canvas: laid.canvas, sheet: laid.sheet, document, hand, mmPerPx: laid.mmPerPx, busy: laid.busy, handlers, play, does: laid.does };
}


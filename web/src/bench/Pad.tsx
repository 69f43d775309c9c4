/** The free row: drawn on with the draft, opened to the whole proof area and back. */

import { useEffect, useRef, useState } from "react";
import { engine, giveCanvas, sendSamples } from "../engine/client";
import { PACKED, PLAIN_HAND } from "../engine/types";
import { Button } from "../ui/controls";
import { KeepGesture } from "./KeepGesture";
import { isPen, liveOf, unfolded } from "./pen";
import { StandIns } from "./StandIns";
import { commit, useBench, useDocument, wipePad, within } from "./store";

/** The free row lies on a piece of paper of its own, mm below the proof rows. */
const ORIGIN_Y = 280;
const FORCE_STEP = 0.04;

export function Pad(props: { width: number; height: number; label: number; pixelMm: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const document = useDocument();
  const strokes = useBench((s) => s.now?.pad);
  const open = useBench((s) => s.padOpen);
  const [keeping, setKeeping] = useState(false);
  /** A stroke began before the earlier ones were laid anew: they must be, once it ends. */
  const cut = useRef(false);
  /** Where and when the pointer was last seen, for its speed. */
  const moved = useRef<{ t: number; x: number; y: number } | null>(null);
  /** Strokes are being laid anew. */
  const [busy, setBusy] = useState(true);
  const drawing = useRef<{ samples: number[]; start: number; id: number } | null>(null);
  /** What the canvas shows: nothing is laid anew that is already there. */
  const shown = useRef("");

  useEffect(() => {
    const element = canvas.current;
    if (element && !element.dataset.given) {
      element.dataset.given = "yes";
      giveCanvas(element.transferControlToOffscreen());
    }
  }, []);

  const scale = window.devicePixelRatio || 1;
  const size = { width: Math.round(props.width * scale), height: Math.round(props.height * scale) };
  const state = (pad: number[][] | undefined) =>
    JSON.stringify([document, size, props.pixelMm, pad?.length ?? 0, pad?.map((s) => s.length)]);
  const key = state(strokes);
  useEffect(() => {
    if (!document || shown.current === key || drawing.current) return;
    shown.current = key;
    const packed = (strokes ?? []).map((s) => Float64Array.from(s));
    setBusy(true);
    void engine.padRun(document, PLAIN_HAND, { ...size, pixelMm: props.pixelMm, originY: ORIGIN_Y }, packed).then((whole) => {
      if (whole) setBusy(false);
      else if (shown.current === key) cut.current = true;
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for all of it
  }, [key]);

  const take = (e: PointerEvent) => {
    const stroke = drawing.current;
    const element = canvas.current;
    if (!stroke || !element || e.pointerId !== stroke.id) return;
    const box = element.getBoundingClientRect();
    const batch: number[] = [];
    const perPx = props.pixelMm * scale;
    for (const event of unfolded(e)) {
      const live = liveOf(event, useBench.getState().standIn, true);
      const before = stroke.samples.at(-PACKED) ?? 0;
      const t = Math.max(before, (event.timeStamp - stroke.start) / 1000);
      const x = (event.clientX - box.left) * perPx;
      const y = ORIGIN_Y + (event.clientY - box.top) * perPx;
      const sample = [t, x, y, live.pressure, live.tiltX, live.tiltY, live.twist];
      stroke.samples.push(...sample);
      batch.push(...sample);
    }
    sendSamples(Float64Array.from(batch), performance.timeOrigin + e.timeStamp);
  };

  // Raw updates come as often as the pen reports; React does not know the event.
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const name = "onpointerrawupdate" in window ? "pointerrawupdate" : "pointermove";
    const listen = (e: Event) => latest.current(e as PointerEvent);
    element.addEventListener(name, listen);
    return () => element.removeEventListener(name, listen);
  }, []);

  const begin = (e: React.PointerEvent<HTMLCanvasElement>) => {
    if (!document || drawing.current || e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    drawing.current = { samples: [], start: e.timeStamp, id: e.pointerId };
    void engine.padBegin(document, PLAIN_HAND);
    take(e.nativeEvent);
  };
  const end = (e: React.PointerEvent<HTMLCanvasElement>) => {
    const stroke = drawing.current;
    if (!stroke || stroke.id !== e.pointerId) return;
    drawing.current = null;
    void engine.padLift();
    const pad = [...(useBench.getState().now?.pad ?? []), stroke.samples];
    // The canvas already shows this stroke.
    shown.current = cut.current ? "" : state(pad);
    cut.current = false;
    commit({ pad });
  };
  const keys = (e: React.KeyboardEvent) => {
    if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
    e.preventDefault();
    const by = e.key === "ArrowUp" ? FORCE_STEP : -FORCE_STEP;
    useBench.setState((s) => ({ standIn: { ...s.standIn, pressure: within(s.standIn.pressure + by, 0.02, 1) } }));
  };

  return (
    <div
      className={open ? "absolute inset-0 z-10 flex flex-col bg-pane" : "flex items-center border-t border-hair"}
      style={open ? {} : { height: props.height + 5 }}
      data-testid="pad"
    >
      <div className={open ? "flex h-[34px] items-center gap-2" : "flex flex-col items-start gap-0.5"} style={open ? {} : { width: props.label }}>
        <span className="flex items-center gap-1 font-semibold">
          Free row
          <StandIns />
        </span>
        <span className="flex gap-1 text-[12px]">
          <Button className="!min-h-6 !px-1.5 !py-0" onClick={() => useBench.setState({ padOpen: !open })} title="Open or close (O)">
            {open ? "Close" : "Open"}
          </Button>
          <Button className="!min-h-6 !px-1.5 !py-0" disabled={!strokes?.length} onClick={wipePad} title="Wipe (W); undo brings it back">
            Wipe
          </Button>
          {open && (
            <Button className="!min-h-6 !py-0" disabled={!strokes?.length} onClick={() => setKeeping(true)}>
              Keep a stroke as gesture…
            </Button>
          )}
        </span>
      </div>
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-busy={busy}
        aria-label="Free row: draw here with the draft. Arrow up and down change the stand-in force."
        className="block shrink-0 cursor-crosshair touch-none bg-[#f3f1ec]"
        style={{ width: props.width, height: props.height }}
        onPointerDown={begin}
        onPointerMove={(e) => {
          const live = liveOf(e.nativeEvent, useBench.getState().standIn, e.buttons > 0);
          const before = moved.current;
          moved.current = { t: e.timeStamp, x: e.clientX, y: e.clientY };
          const seconds = before ? (e.timeStamp - before.t) / 1000 : 0;
          const mm = before ? Math.hypot(e.clientX - before.x, e.clientY - before.y) * props.pixelMm * scale : 0;
          // After a pause there is no speed to tell.
          const speed = seconds > 0 && seconds < 0.2 ? mm / seconds : 0;
          useBench.setState({ live: { ...live, speed } });
        }}
        onPointerUp={end}
        onPointerCancel={end}
        onPointerLeave={(e) => {
          moved.current = null;
          if (!isPen(e.nativeEvent) && !drawing.current) useBench.setState({ live: null });
        }}
        onKeyDown={keys}
      />
      {keeping && strokes && <KeepGesture strokes={strokes} originY={ORIGIN_Y} onClose={() => setKeeping(false)} />}
    </div>
  );
}

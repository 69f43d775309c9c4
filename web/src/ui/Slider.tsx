/** A slider over a number's range: by ratio where equal ratios feel like equal steps. */

import { useRef } from "react";
import { t } from "../model/said";

export interface Span {
  low: number;
  high: number;
  step: number;
  ratio: boolean;
}

/** Where a number lies along its slider, 0..1. */
const toShare = (p: Span, v: number) => (p.ratio ? Math.log(v / p.low) / Math.log(p.high / p.low) : (v - p.low) / (p.high - p.low));
/** In steps of so much: a browser keeps no finer ones, and would tell of a change where it rounds. */
const STEP = 0.002;
const inSteps = (share: number) => Number((Math.round(share / STEP) * STEP).toFixed(3));
const fromShare = (p: Span, s: number) => {
  const v = p.ratio ? p.low * (p.high / p.low) ** s : p.low + s * (p.high - p.low);
  return Math.min(p.high, Math.max(p.low, Number((Math.round(v / p.step) * p.step).toFixed(6))));
};

/** What is usual along a slider: a band from low to high, and a mark at a kind's own. */
export interface Usual {
  low: number;
  high: number;
  own: number;
  of: string;
}

/** With Shift the pen moves the number so much slower than the slider's own length would. */
const FINE = 0.1;

/** With Shift a drag is ten times finer, and an arrow key moves by the number's own step. */
export function Slider(props: { label: string; span: Span; value: number; onDrag: (value: number) => void; onLetGo: () => void; tall?: boolean; usual?: Usual | null }) {
  const { span, onLetGo } = props;
  const fine = useRef<{ x: number; share: number } | null>(null);
  // Between pressing it and letting go; what comes otherwise, as from a screen reader, is let go at once.
  const held = useRef(false);
  const letGo = () => {
    fine.current = null;
    held.current = false;
    onLetGo();
  };
  const slider = (
    <input
      type="range"
      aria-label={props.label}
      aria-description={props.usual ? `${props.usual.of}: usually ${props.usual.own}; all kinds from ${props.usual.low} to ${props.usual.high}` : undefined}
      className={`block w-full ${props.tall ? "h-6" : "h-4"}`}
      min={0}
      max={1}
      step={STEP}
      value={inSteps(toShare(span, props.value))}
      onChange={(e) => {
        props.onDrag(fromShare(span, Number(e.target.value)));
        if (!held.current) letGo();
      }}
      onPointerDown={(e) => {
        held.current = true;
        if (!e.shiftKey) return;
        e.preventDefault();
        e.currentTarget.focus();
        e.currentTarget.setPointerCapture(e.pointerId);
        fine.current = { x: e.clientX, share: toShare(span, props.value) };
      }}
      onPointerMove={(e) => {
        const { current } = fine;
        if (!current) return;
        const moved = (e.clientX - current.x) / Math.max(1, e.currentTarget.clientWidth);
        props.onDrag(fromShare(span, Math.min(1, Math.max(0, current.share + FINE * moved))));
      }}
      onPointerUp={letGo}
      onPointerCancel={letGo}
      onKeyDown={(e) => {
        held.current = true;
        const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
        if (!e.shiftKey || way === undefined) return;
        e.preventDefault();
        props.onDrag(Math.min(span.high, Math.max(span.low, Number((props.value + way * span.step).toFixed(6)))));
      }}
      onKeyUp={letGo}
      onBlur={letGo}
    />
  );
  return props.usual ? (
    <>
      {slider}
      <UsualBand span={span} usual={props.usual} />
    </>
  ) : (
    slider
  );
}

/** The middle of a slider's thumb is never nearer to its ends, px. */
const THUMB = 8;

function UsualBand({ span, usual }: { span: Span; usual: Usual }) {
  const at = (v: number) => `calc(${THUMB}px + ${Math.min(1, Math.max(0, toShare(span, v)))} * (100% - ${2 * THUMB}px))`;
  return (
    <span className="relative block h-4 text-[11px] leading-none text-muted" title={t("All kinds lie from {{low}} to {{high}}; {{of}} usually has {{own}}", { low: usual.low, high: usual.high, of: usual.of, own: usual.own })}>
      <span aria-hidden className="absolute top-0 h-0.5 bg-kept" style={{ left: at(usual.low), right: `calc(100% - ${at(usual.high)})` }} />
      <span aria-hidden className="absolute top-0 h-1.5 w-0.5 -translate-x-1/2 bg-ink" style={{ left: at(usual.own) }} />
      <span aria-hidden className="absolute top-1.5 max-w-[60%] truncate" style={toShare(span, usual.own) > 0.5 ? { right: `calc(100% - ${at(usual.own)} + 4px)` } : { left: `calc(${at(usual.own)} + 4px)` }}>
        {usual.of}
      </span>
    </span>
  );
}

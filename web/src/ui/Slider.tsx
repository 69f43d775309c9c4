/** A slider over a number's range: by ratio where equal ratios feel like equal steps. */

import { useRef } from "react";
import { t } from "../model/said";
import { HALF_THUMB, Rail } from "./Rail";

export interface Span {
  low: number;
  high: number;
  step: number;
  ratio: boolean;
}

/** Where a number lies along its slider, 0..1. */
const toShare = (p: Span, v: number) => (p.ratio ? Math.log(v / p.low) / Math.log(p.high / p.low) : (v - p.low) / (p.high - p.low));
/** In steps of so much of its length. */
const STEP = 0.002;
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
  const before = useRef(props.value);
  const letGo = () => {
    fine.current = null;
    held.current = false;
    onLetGo();
  };
  const slider = (
    <Rail
      label={props.label}
      description={props.usual ? `${props.usual.of}: usually ${props.usual.own}; all kinds from ${props.usual.low} to ${props.usual.high}` : undefined}
      said={String(props.value)}
      tall={props.tall}
      low={0}
      high={1}
      step={STEP}
      value={toShare(span, props.value)}
      onChange={(share) => {
        props.onDrag(fromShare(span, share));
        if (!held.current) letGo();
      }}
      onPointerDown={(e) => {
        held.current = true;
        before.current = props.value;
        if (!e.shiftKey) return;
        // Kept from moving the thumb under the pen: it moves from where it is.
        e.preventDefault();
        e.currentTarget.querySelector<HTMLElement>("[role=slider]")?.focus({ preventScroll: true });
        e.currentTarget.setPointerCapture(e.pointerId);
        fine.current = { x: e.clientX, share: toShare(span, props.value) };
      }}
      onPointerMove={(e) => {
        const { current } = fine;
        if (!current) return;
        e.preventDefault();
        const moved = (e.clientX - current.x) / Math.max(1, e.currentTarget.clientWidth);
        props.onDrag(fromShare(span, Math.min(1, Math.max(0, current.share + FINE * moved))));
      }}
      onPointerUp={letGo}
      onPointerCancel={() => {
        // To the last digit: the rail counts in steps.
        props.onDrag(before.current);
        letGo();
      }}
      onKeyDown={(e) => {
        held.current = true;
        const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
        if (way === undefined) return;
        // Where the number's own step is the coarser, an arrow key moves by it too.
        if (!e.shiftKey && fromShare(span, toShare(span, props.value) + way * STEP) !== props.value) return;
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

function UsualBand({ span, usual }: { span: Span; usual: Usual }) {
  const at = (v: number) => `calc(${HALF_THUMB}px + ${Math.min(1, Math.max(0, toShare(span, v)))} * (100% - ${2 * HALF_THUMB}px))`;
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

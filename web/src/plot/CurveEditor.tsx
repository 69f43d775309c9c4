/**
 * The curve of a response over the painter's own input. Drawing and pointing only: points are shares in 0..1, the axis
 * shows the signal's unit, and every change is handed out.
 */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useRef, useState } from "react";
import { t } from "../model/said";

type Point = [number, number];

export interface CurveEditorProps {
  points: Point[];
  /** The curve and the kept curve at even steps of 0..1, from the core. */
  samples: Float64Array | null;
  keptSamples: Float64Array | null;
  /** How a place on either axis is written, with the signal's unit. */
  inputLabel: (share: number) => string;
  outputLabel: (share: number) => string;
  /** Shares of the proof gestures' input in even bins, largest 1. */
  histogram: number[];
  /** Where the input is just now, 0..1. */
  live: number | null;
  selected: number | null;
  width: number;
  height: number;
  name: string;
  onSelect: (index: number | null) => void;
  /** Told why a change is not made. */
  onRefuse: (message: string) => void;
  /** While dragging. */
  onDrag: (points: Point[]) => void;
  onLetGo: () => void;
  /** At once. */
  onChange: (points: Point[]) => void;
}

const MOST_POINTS = 64;
/** Points stay this far apart. */
const GAP = 0.002;
const MARGIN = { left: 44, right: 10, top: 8, bottom: 22 };

/** A point moved, kept between its neighbours and within 0..1. */
export function movePoint(points: Point[], index: number, to: Point): Point[] {
  const low = index > 0 ? (points[index - 1]?.[0] ?? 0) + GAP : 0;
  const high = index < points.length - 1 ? (points[index + 1]?.[0] ?? 1) - GAP : 1;
  const clamp = (v: number, a: number, b: number) => Math.min(b, Math.max(a, v));
  const exact = (v: number) => Number(v.toFixed(4));
  const moved: Point = [exact(clamp(to[0], low, high)), exact(clamp(to[1], 0, 1))];
  return points.map((p, i) => (i === index ? moved : p));
}

export function CurveEditor(props: CurveEditorProps) {
  const { points, width, height, selected } = props;
  const svg = useRef<SVGSVGElement>(null);
  const [dragging, setDragging] = useState<number | null>(null);
  const x = scaleLinear([0, 1], [MARGIN.left, width - MARGIN.right]);
  const y = scaleLinear([0, 1], [height - MARGIN.bottom, MARGIN.top]);
  const path = (samples: Float64Array) => {
    const top = samples.length - 1;
    return line<number>((_, i) => x(i / top), (v) => y(v))([...samples]) ?? "";
  };
  const at = (e: { clientX: number; clientY: number }): Point => {
    const box = svg.current?.getBoundingClientRect();
    return box ? [x.invert(e.clientX - box.left), y.invert(e.clientY - box.top)] : [0, 0];
  };
  const add = (place: Point) => {
    if (points.length >= MOST_POINTS) {
      props.onRefuse(`A curve has at most ${MOST_POINTS} points`);
      return;
    }
    const index = points.findIndex((p) => p[0] > place[0]);
    const i = index < 0 ? points.length : index;
    const next = [...points.slice(0, i), place, ...points.slice(i)];
    const moved = movePoint(next, i, place);
    props.onChange(moved);
    props.onSelect(i);
  };
  const remove = (index: number) => {
    if (points.length <= 2) return;
    props.onChange(points.filter((_, i) => i !== index));
    props.onSelect(null);
  };
  const ticks = [0, 0.25, 0.5, 0.75, 1];
  const liveY = props.live !== null && props.samples ? props.samples[Math.round(props.live * (props.samples.length - 1))] : null;

  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role="group"
      aria-label={props.name}
      className="touch-none select-none"
      onPointerMove={(e) => {
        if (dragging !== null) props.onDrag(movePoint(points, dragging, at(e)));
      }}
      onPointerUp={() => {
        if (dragging !== null) props.onLetGo();
        setDragging(null);
      }}
    >
      {props.histogram.map((share, i) => {
        const step = 1 / props.histogram.length;
        const h = share * (height - MARGIN.top - MARGIN.bottom) * 0.5;
        return <rect key={i} x={x(i * step) + 0.5} width={Math.max(0, x(step) - x(0) - 1)} y={y(0) - h} height={h} fill="var(--line)" opacity={0.7} />;
      })}
      {ticks.map((t) => (
        <g key={t}>
          <line x1={x(0)} x2={x(1)} y1={y(t)} y2={y(t)} stroke="var(--hair)" />
          <text x={x(0) - 6} y={y(t) + 4} textAnchor="end" className="num" fontSize={11} fill="var(--muted)">
            {props.outputLabel(t)}
          </text>
          <text x={x(t)} y={height - 6} textAnchor={t === 1 ? "end" : t === 0 ? "start" : "middle"} className="num" fontSize={11} fill="var(--muted)">
            {props.inputLabel(t)}
          </text>
        </g>
      ))}
      {props.keptSamples && <path d={path(props.keptSamples)} fill="none" stroke="var(--kept)" strokeDasharray="4 3" strokeWidth={1.3} />}
      {props.samples && (
        <>
          <path d={path(props.samples)} fill="none" stroke="var(--draft)" strokeWidth={2} />
          {/* A wide, unseen line to click on. */}
          <path
            d={path(props.samples)}
            fill="none"
            stroke="transparent"
            strokeWidth={16}
            className="cursor-copy"
            data-testid="curve-line"
            onClick={(e) => add(at(e))}
          />
        </>
      )}
      {props.live !== null && liveY !== null && liveY !== undefined && (
        <g>
          <line x1={x(props.live)} x2={x(props.live)} y1={y(0)} y2={y(liveY)} stroke="var(--ink)" />
          <circle cx={x(props.live)} cy={y(liveY)} r={3} fill="var(--ink)" data-testid="live-dot" />
        </g>
      )}
      {points.map((p, i) => {
        const end = i === 0 ? "left end, " : i === points.length - 1 ? "right end, " : "";
        return (
          <g
            key={i}
            role="button"
            tabIndex={0}
            aria-label={t("Point {{v0}}, {{end}}{{v2}} to {{v3}}", { v0: i + 1, end, v2: props.inputLabel(p[0]), v3: props.outputLabel(p[1]) })}
            className="cursor-grab outline-offset-2"
            onFocus={() => props.onSelect(i)}
            onPointerDown={(e) => {
              e.preventDefault();
              e.currentTarget.focus();
              svg.current?.setPointerCapture(e.pointerId);
              props.onSelect(i);
              setDragging(i);
            }}
            onKeyDown={(e) => {
              const step = e.shiftKey ? 0.05 : 0.005;
              const by: Record<string, Point> = {
                ArrowLeft: [-step, 0],
                ArrowRight: [step, 0],
                ArrowUp: [0, step],
                ArrowDown: [0, -step],
              };
              const move = by[e.key];
              if (move) {
                e.preventDefault();
                props.onChange(movePoint(points, i, [p[0] + move[0], p[1] + move[1]]));
              } else if (e.key === "Delete" || e.key === "Backspace") {
                e.preventDefault();
                e.stopPropagation();
                remove(i);
              }
            }}
          >
            <circle cx={x(p[0])} cy={y(p[1])} r={12} fill="transparent" />
            <circle
              cx={x(p[0])}
              cy={y(p[1])}
              r={selected === i ? 6 : 4.5}
              fill={selected === i ? "var(--draft)" : "var(--raised)"}
              stroke="var(--draft)"
              strokeWidth={2}
            />
          </g>
        );
      })}
    </svg>
  );
}

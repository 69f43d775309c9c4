/** The tip's outline at the pen over a sheet: the section of what holds its hairs, and where they touch under the pen's force. */

import { useEffect, useRef, useState, type RefObject } from "react";
import { tipShape } from "../engine/client";
import type { TipShape } from "../generated/core";
import type { Hand } from "../model/hand";
import type { ToolDocument } from "../model/tool";
import { useBench } from "../session/store";
import { AT_REST, signalsOf } from "../session/signals";

/** How often the shape is asked for, ms: a sheet that is drawn on needs the engine more. */
const EVERY_MS = 70;
/** The way has a heading after so many CSS pixels. */
const HEADS_PX = 3;

interface FootprintProps {
  sheet: RefObject<HTMLCanvasElement | null>;
  /** Goes up where the sheet is another element. */
  which: number;
  document: ToolDocument;
  hand: Hand;
  mmPerPx: number;
}

export function Footprint({ sheet, which, document, hand, mmPerPx }: FootprintProps) {
  const place = useRef<SVGGElement>(null);
  const [shape, setShape] = useState<TipShape | null>(null);
  useEffect(() => {
    const element = sheet.current;
    if (!element) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let over = false;
    let headed = { x: 0, y: 0, degrees: 0 };
    const ask = async () => {
      const { live } = useBench.getState();
      // A document on the way between two states may be refused; the shape before stays.
      const next = live && (await tipShape(document, hand, signalsOf(live, { ...AT_REST, heading_deg: headed.degrees })).catch(() => null));
      // What was asked before the pen left is no longer true.
      if (over) setShape(next);
    };
    const follow = (e: PointerEvent) => {
      over = true;
      const box = element.getBoundingClientRect();
      const [x, y] = [e.clientX - box.left, e.clientY - box.top];
      const way = [x - headed.x, y - headed.y] as const;
      if (Math.hypot(...way) > HEADS_PX) headed = { x, y, degrees: ((Math.atan2(way[1], way[0]) * 180) / Math.PI + 360) % 360 };
      place.current?.setAttribute("transform", `translate(${x} ${y})`);
      timer ??= setTimeout(() => {
        timer = undefined;
        void ask();
      }, EVERY_MS);
    };
    const leave = () => {
      over = false;
      setShape(null);
    };
    element.addEventListener("pointermove", follow);
    element.addEventListener("pointerleave", leave);
    return () => {
      over = false;
      clearTimeout(timer);
      element.removeEventListener("pointermove", follow);
      element.removeEventListener("pointerleave", leave);
    };
  }, [sheet, which, document, hand]);
  const points = (outline: [number, number][]) => outline.map(([x, y]) => `${(x / mmPerPx).toFixed(1)},${(y / mmPerPx).toFixed(1)}`).join(" ");
  return (
    <svg aria-hidden className="pointer-events-none absolute inset-0 size-full" data-testid="footprint">
      <g ref={place}>
        {shape && (
          <>
            <polygon points={points(shape.section as [number, number][])} fill="none" stroke="#fff" strokeOpacity={0.7} strokeWidth={2.5} />
            <polygon points={points(shape.section as [number, number][])} fill="none" stroke="#333" strokeWidth={1} strokeDasharray="3 2" />
            <polygon points={points(shape.patch as [number, number][])} fill="none" stroke="#333" strokeWidth={1} />
          </>
        )}
      </g>
    </svg>
  );
}

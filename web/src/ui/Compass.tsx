/** A bearing on a small compass, turned with a pointer or the arrow keys. */

import { aroundMiddle } from "./dial";
import { t } from "../model/said";

const SIZE = 64;
const MIDDLE = SIZE / 2;
const REACH = MIDDLE - 7;
const STEP = 5;

interface CompassProps {
  label: string;
  /** Degrees from the right, clockwise. */
  value: number;
  /** Where the tip lies at the cursor, degrees; null where that is not known. */
  now: number | null;
  onDrag: (degrees: number) => void;
  onLetGo: () => void;
  onCommit: (degrees: number) => void;
}

export function Compass({ label, value, now, onDrag, onLetGo, onCommit }: CompassProps) {
  const point = (e: React.PointerEvent<SVGSVGElement>) => {
    if (e.buttons !== 0) onDrag(aroundMiddle(e, SIZE).degrees);
  };
  const end = (degrees: number, reach: number) => ({ x2: MIDDLE + reach * Math.cos((degrees * Math.PI) / 180), y2: MIDDLE + reach * Math.sin((degrees * Math.PI) / 180) });
  const turn = (by: number) => onCommit((value + by + 360) % 360);
  return (
    <svg
      width={SIZE}
      height={SIZE}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={359}
      aria-valuenow={value}
      aria-valuetext={t("{{value}}° from the right, clockwise", { value })}
      className="shrink-0 cursor-pointer touch-none"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        point(e);
      }}
      onPointerMove={point}
      onPointerUp={onLetGo}
      onKeyDown={(e) => {
        const by = { ArrowRight: STEP, ArrowDown: STEP, ArrowLeft: -STEP, ArrowUp: -STEP }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        turn(e.shiftKey ? Math.sign(by) : by);
      }}
    >
      <circle cx={MIDDLE} cy={MIDDLE} r={REACH + 3} fill="var(--raised)" stroke="var(--line)" />
      {Array.from({ length: 12 }, (_, i) => (
        <line key={i} x1={MIDDLE + REACH} x2={MIDDLE + REACH - (i % 3 === 0 ? 6 : 3)} y1={MIDDLE} y2={MIDDLE} transform={`rotate(${30 * i} ${MIDDLE} ${MIDDLE})`} stroke="var(--muted)" />
      ))}
      {now !== null && <line x1={MIDDLE} y1={MIDDLE} {...end(now, REACH)} stroke="var(--kept)" strokeWidth={2} strokeDasharray="3 2" />}
      <line x1={MIDDLE - 0.4 * REACH * Math.cos((value * Math.PI) / 180)} y1={MIDDLE - 0.4 * REACH * Math.sin((value * Math.PI) / 180)} {...end(value, REACH)} stroke="var(--draft)" strokeWidth={4} strokeLinecap="round" />
      <circle cx={MIDDLE} cy={MIDDLE} r={2.5} fill="var(--ink)" />
    </svg>
  );
}

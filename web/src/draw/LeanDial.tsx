/** The pen seen from above: where its end points is the lean, how far out the tilt. Turned with a pointer or the arrow keys. */

import { useBench, within } from "../session/store";
import { aroundMiddle } from "../ui/dial";
import { t } from "../model/said";

const SIZE = 92;
const MIDDLE = SIZE / 2;
const REACH = MIDDLE - 8;
const MOST_TILT = 75;
const STEP = 5;

export function LeanDial() {
  const { lean, tilt } = useBench((s) => s.standIn);
  const set = (c: { lean?: number; tilt?: number }) => useBench.setState((s) => ({ standIn: { ...s.standIn, ...c } }));
  const turn = (by: number) => set({ lean: (lean + by + 360) % 360 });
  const point = (e: React.PointerEvent<SVGSVGElement>) => {
    if (e.buttons === 0) return;
    const { degrees, out } = aroundMiddle(e, SIZE);
    set(out < 3 ? { tilt: 0 } : { lean: degrees, tilt: Math.round(Math.min(1, out / REACH) * MOST_TILT) });
  };
  const angle = (lean * Math.PI) / 180;
  const far = (REACH * tilt) / MOST_TILT;
  const [x, y] = [MIDDLE + far * Math.cos(angle), MIDDLE + far * Math.sin(angle)];
  return (
    <svg
      width={SIZE}
      height={SIZE}
      role="slider"
      tabIndex={0}
      aria-label={t("Stand-in lean")}
      aria-valuemin={0}
      aria-valuemax={359}
      aria-valuenow={lean}
      aria-valuetext={t("leans {{lean}}°, {{tilt}}° from upright", { lean, tilt })}
      className="shrink-0 cursor-pointer touch-none"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        point(e);
      }}
      onPointerMove={point}
      onKeyDown={(e) => {
        const keys: Record<string, () => void> = {
          ArrowRight: () => turn(STEP),
          ArrowLeft: () => turn(-STEP),
          ArrowUp: () => set({ tilt: within(tilt + STEP, 0, MOST_TILT) }),
          ArrowDown: () => set({ tilt: within(tilt - STEP, 0, MOST_TILT) }),
        };
        const act = keys[e.key];
        if (!act) return;
        e.preventDefault();
        act();
      }}
    >
      <circle cx={MIDDLE} cy={MIDDLE} r={REACH + 4} fill="var(--raised)" stroke="var(--line)" />
      {[30, 60].map((t) => (
        <circle key={t} cx={MIDDLE} cy={MIDDLE} r={(REACH * t) / MOST_TILT} fill="none" stroke="var(--hair)" />
      ))}
      {[0, 90, 180, 270].map((a) => (
        <line key={a} x1={MIDDLE} y1={MIDDLE} x2={MIDDLE + REACH} y2={MIDDLE} transform={`rotate(${a} ${MIDDLE} ${MIDDLE})`} stroke="var(--hair)" />
      ))}
      <line x1={MIDDLE} y1={MIDDLE} x2={x} y2={y} stroke="var(--draft)" strokeWidth={5} strokeLinecap="round" />
      <circle cx={MIDDLE} cy={MIDDLE} r={2.5} fill="var(--ink)" />
    </svg>
  );
}

/** A slider over a number's range: by ratio where equal ratios feel like equal steps. */

export interface Span {
  low: number;
  high: number;
  step: number;
  ratio: boolean;
}

/** Where a number lies along its slider, 0..1. */
const toShare = (p: Span, v: number) => (p.ratio ? Math.log(v / p.low) / Math.log(p.high / p.low) : (v - p.low) / (p.high - p.low));
const fromShare = (p: Span, s: number) => {
  const v = p.ratio ? p.low * (p.high / p.low) ** s : p.low + s * (p.high - p.low);
  return Math.min(p.high, Math.max(p.low, Number((Math.round(v / p.step) * p.step).toFixed(6))));
};

export function Slider(props: { label: string; span: Span; value: number; onDrag: (value: number) => void; onLetGo: () => void; tall?: boolean }) {
  const { span, onLetGo } = props;
  return (
    <input
      type="range"
      aria-label={props.label}
      className={`block w-full ${props.tall ? "h-6" : "h-4"}`}
      min={0}
      max={1}
      step={0.002}
      value={toShare(span, props.value)}
      onChange={(e) => props.onDrag(fromShare(span, Number(e.target.value)))}
      onPointerUp={onLetGo}
      onKeyUp={onLetGo}
      onBlur={onLetGo}
    />
  );
}

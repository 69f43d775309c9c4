/** What every slider is made of: a rail, and a thumb on it that pen, mouse, finger and keys move. */

import { Slider } from "radix-ui";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";

/** The thumb's middle is never nearer to the rail's ends, px. */
export const HALF_THUMB = 12;

interface Props {
  label: string;
  description?: string | undefined;
  /** The number with its unit, where that is not what the rail counts. */
  said?: string;
  low: number;
  high: number;
  step: number;
  value: number;
  onChange: (value: number) => void;
  tall?: boolean | undefined;
  className?: string;
  onPointerDown?: (event: PointerEvent<HTMLSpanElement>) => void;
  onPointerMove?: (event: PointerEvent<HTMLSpanElement>) => void;
  onPointerUp?: () => void;
  onPointerCancel?: () => void;
  onKeyDown?: (event: KeyboardEvent<HTMLSpanElement>) => void;
  onKeyUp?: () => void;
  onBlur?: () => void;
}

/** It is hit within 24 px; where it is not tall, the lowest of them are the padding below it. */
export function Rail({ label, description, said, low, high, value, onChange, tall, className, ...rest }: Props) {
  const before = useRef(value);
  return (
    <Slider.Root
      {...rest}
      onPointerDown={(e) => {
        before.current = value;
        rest.onPointerDown?.(e);
      }}
      // A finger that scrolls the page over it was no hand on it.
      onPointerCancel={() => {
        onChange(before.current);
        rest.onPointerCancel?.();
      }}
      data-rail
      className={`relative flex h-6 w-full touch-pan-y items-center select-none ${tall ? "" : "-mb-1"} ${className ?? ""}`}
      min={low}
      max={high}
      value={[Number(value.toFixed(6))]}
      onValueChange={([next]) => next !== undefined && onChange(next)}
    >
      <Slider.Track className="relative mx-2 h-1 w-full rounded-full bg-line">
        <Slider.Range className="absolute h-full rounded-full bg-draft" />
      </Slider.Track>
      <Slider.Thumb
        aria-label={label}
        aria-description={description}
        aria-valuetext={said}
        className="grid h-6 w-6 place-items-center rounded-full before:h-3.5 before:w-3.5 before:rounded-full before:border-2 before:border-raised before:bg-draft before:shadow-sm"
      />
    </Slider.Root>
  );
}

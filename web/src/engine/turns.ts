/** Long work in turns: the worker stays open to messages between slices. */

import type { Surface } from "./wasm/saltmarsh_browser";

/** How long a slice may take, ms. */
const SLICE_MS = 8;
/** Pixels that are visited between two looks at the clock: about a millisecond. */
export const PIECE_PIXELS = 8192;

const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();

/** Lets waiting messages in. */
export function turn(): Promise<void> {
  return new Promise((resolve) => {
    waiting.push(resolve);
    channel.port2.postMessage(null);
  });
}

const sleep = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

/** Slices of one long work. */
export class Slices {
  private end = performance.now() + SLICE_MS;

  /** `half`: it rests as long as it works, and leaves its processor to others meanwhile. */
  constructor(private half = false) {}

  /** Lets waiting messages in where the slice is over. */
  async pause() {
    if (performance.now() < this.end) return;
    await (this.half ? sleep(SLICE_MS) : turn());
    this.end = performance.now() + SLICE_MS;
  }
}

/** Steps of time that go over a resting sheet between two looks at the clock. */
const REST_STEPS = 16;
/** A resting sheet is shown as it dries so often, ms. */
const SHOWN_EVERY_MS = 250;

/**
 * Lets a surface rest for so many seconds, or until nothing on it moves, showing it now and then; it lets others go first where it has to
 * `pause`; false where it is not `current` any more.
 */
export async function rest(surface: Surface, pause: () => Promise<void>, current: () => boolean, show?: () => void, seconds?: number): Promise<boolean> {
  let shown = performance.now();
  const last = seconds === undefined ? surface.longestRest : Math.floor(seconds / surface.stepS);
  for (let steps = 0; surface.busy && steps < last; steps += REST_STEPS) {
    if (seconds === undefined) surface.restOn();
    else surface.advance(Math.min(REST_STEPS, last - steps));
    await pause();
    if (!current()) return false;
    if (show && performance.now() - shown > SHOWN_EVERY_MS) {
      show();
      shown = performance.now();
    }
    if (seconds !== undefined && !surface.busy) surface.advance(Math.max(0, last - steps - REST_STEPS));
  }
  return true;
}

/** Works off what a surface heard, in slices; false where it is not `current` any more. */
export async function workOff(surface: Surface, slices: Slices, current: () => boolean): Promise<boolean> {
  while (surface.waits) {
    surface.work(PIECE_PIXELS);
    await slices.pause();
    if (!current()) return false;
  }
  return true;
}

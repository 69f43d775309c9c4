import { afterEach, expect, test, vi } from "vitest";
import type { Strip } from "../engine/types";
import { mount, show } from "./proofStore";

vi.useFakeTimers();
vi.stubGlobal("ImageData", function ImageData() {});
afterEach(() => vi.clearAllTimers());

/** A canvas that tells how often a picture was put on it. */
function canvas() {
  const putImageData = vi.fn();
  return { width: 0, height: 0, getContext: () => ({ putImageData }), putImageData };
}

const strip = (id: string, drying: boolean): Strip => ({ column: "draft", id, width: 1, height: 1, pixels: new Uint8ClampedArray(4), fit: 1, drying });

test("strips wait for each other, but the last that dries is shown at once", () => {
  const [first, second] = [canvas(), canvas()];
  mount("draft", "first", first as never);
  mount("draft", "second", second as never);
  const puts = () => [first, second].map((c) => c.putImageData.mock.calls.length);
  show(strip("first", true), false);
  show(strip("second", true), false);
  expect(puts()).toEqual([0, 0]);
  vi.advanceTimersByTime(100);
  expect(puts()).toEqual([1, 1]);
  show(strip("first", false), false);
  expect(puts()).toEqual([1, 1]);
  // Nothing dries after this one.
  show(strip("second", false), false);
  expect(puts()).toEqual([2, 2]);
  // What never dries waits as before.
  show(strip("first", false), false);
  expect(puts()).toEqual([2, 2]);
});

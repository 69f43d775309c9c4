import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { ToolDocument } from "../model/tool";

vi.stubGlobal("localStorage", { getItem: () => null });
vi.stubGlobal("window", { matchMedia: () => ({ matches: false }) });
const { drag, letGo, useBench } = await import("./store");
const { useFollowing } = await import("./followed");

const wide = (width: number) => ({ parameters: { "tip.width_mm": width } }) as unknown as ToolDocument;
const followed = () => useFollowing.getState().document?.parameters["tip.width_mm"];

beforeEach(() => {
  vi.useFakeTimers();
  useBench.setState({ now: { document: wide(1), pad: [], between: [] }, dragged: null });
});
afterEach(() => void vi.useRealTimers());

test("what is not under the hand follows a drag now and then, and all else at once", () => {
  expect(followed()).toBe(1);
  const seen: unknown[] = [];
  const stop = useFollowing.subscribe(() => seen.push(followed()));
  for (let width = 2; width <= 31; width++) {
    drag(wide(width));
    vi.advanceTimersByTime(10);
  }
  // 30 moves in 300 ms.
  expect(seen.length).toBeGreaterThan(0);
  expect(seen.length).toBeLessThan(4);
  letGo();
  expect(followed()).toBe(31);
  vi.advanceTimersByTime(1000);
  useBench.setState({ now: { document: wide(5), pad: [], between: [] } });
  expect(followed()).toBe(5);
  // Once let go nothing old comes after.
  const count = seen.length;
  vi.advanceTimersByTime(1000);
  expect(seen.length).toBe(count);
  stop();
});

import { beforeEach, expect, test, vi } from "vitest";
import type { ToolDocument } from "../model/tool";
import type { Work } from "./steps";

const { bench, store, heard } = vi.hoisted(() => {
  const heard: ((state: object, before: object) => void)[] = [];
  const bench = {
    state: {} as object,
    getState: () => bench.state,
    subscribe: (listen: (state: object, before: object) => void) => heard.push(listen),
  };
  return { bench, heard, store: { put: vi.fn(), transaction: { commit: vi.fn() } } };
});
vi.mock("./store", () => ({ useBench: bench }));
vi.mock("idb-keyval", () => ({
  createStore: () => (_: string, write: (to: typeof store) => unknown) => Promise.resolve(write(store)),
  promisifyRequest: () => Promise.resolve(),
  entries: () => Promise.resolve([]),
}));
vi.stubGlobal("window", { addEventListener: () => undefined });
const { stepsTo, watchSteps } = await import("./steps");

const at = (side: number) => ({ document: { parameters: { "tip.side_mm": side } } as unknown as ToolDocument, pad: [], between: [] });
const work: Work = { past: [at(1)], now: at(2), future: [at(3)], at: 0 };

test("work is found again with its steps, and no step of it is lost where the last was not written any more", () => {
  expect(stepsTo(at(2).document, work)).toEqual({ past: [at(1)], future: [at(3)] });
  // Undo goes to what was kept last, and on from there.
  expect(stepsTo(at(4).document, work)).toEqual({ past: [at(1), at(2)], future: [] });
  expect(stepsTo(at(4).document, null)).toEqual({ past: [], future: [] });
});

beforeEach(() => void vi.useFakeTimers());

test("what lies on the free row is written at once, for good, and what is dragged once it rests", async () => {
  watchSteps(() => undefined);
  const tool = { id: "reed" };
  const become = (now: object) => {
    const before = bench.state;
    bench.state = { tool, now, past: [], future: [] };
    heard.forEach((listen) => listen(bench.state, before));
  };
  const first = at(1);
  bench.state = { tool, now: first, past: [], future: [] };
  const drawn = { ...first, pad: [{ samples: [1, 2] }] };
  become(drawn);
  expect(store.put.mock.calls.map(([work]) => (work as Work).now)).toEqual([drawn]);
  expect(store.transaction.commit).toHaveBeenCalledTimes(1);
  for (const side of [2, 3, 4]) {
    become({ ...drawn, document: at(side).document });
    await vi.advanceTimersByTimeAsync(100);
  }
  expect(store.put).toHaveBeenCalledTimes(1);
  await vi.advanceTimersByTimeAsync(200);
  expect(store.put.mock.calls.map(([work]) => (work as Work).now)).toEqual([drawn, { ...drawn, document: at(4).document }]);
});

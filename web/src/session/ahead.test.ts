import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Tool } from "../api/client";

const { prepareGround, bench } = vi.hoisted(() => ({
  prepareGround: vi.fn((tool: unknown) => Promise.resolve(tool !== null)),
  bench: { document: { medium: "dry", ground: { surface: "cold-pressed" } } },
}));
vi.mock("../engine/client", () => ({ prepareGround }));
vi.mock("./store", () => ({ useBench: { getState: () => bench }, documentOf: (s: typeof bench) => s.document }));
const heard = new Map<string, () => void>();
vi.stubGlobal("window", { addEventListener: (name: string, act: () => void) => heard.set(name, act), removeEventListener: (name: string) => heard.delete(name) });
vi.stubGlobal("document", { hidden: false });

const { makeAhead } = await import("./ahead");
const { useProof } = await import("./proofStore");

const on = (surface: string, medium = "dry") => ({ kept: { document: { medium, ground: { surface } } } }) as unknown as Tool;
const tools = [on("gesso"), on("cold-pressed"), on("linen"), on("linen"), on("cold-pressed")];
const asked = () => prepareGround.mock.calls.map(([tool]) => (tool as { ground: { surface: string } } | null)?.ground.surface ?? null);

beforeEach(() => {
  vi.useFakeTimers();
  prepareGround.mockClear();
  useProof.setState({ busy: { kept: false, draft: false, third: false, before: false, after: false }, drying: {} });
});
afterEach(() => void vi.useRealTimers());

test("papers of other tools are made one after the other, those of most tools first, once", async () => {
  const stop = makeAhead(tools);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked()).toEqual(["linen", "gesso"]);
  stop();
});

test("a ground is made ready for each medium that has tools on it", async () => {
  const stop = makeAhead([...tools, on("cold-pressed", "wash")]);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked()).toEqual(["linen", "gesso", "cold-pressed"]);
  stop();
});

test("nothing is made while strokes are laid or dry or the painter acts, and what is being made gives way", async () => {
  const stop = makeAhead(tools);
  for (let i = 0; i < 10; i++) {
    await vi.advanceTimersByTimeAsync(2000);
    heard.get("pointermove")?.();
  }
  expect(asked()).toEqual([]);
  useProof.setState((s) => ({ busy: { ...s.busy, draft: true } }));
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked()).toEqual([]);
  // Laid, but wet: the workers see to it that it dries.
  useProof.setState((s) => ({ busy: { ...s.busy, draft: false }, drying: { draft: true } }));
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked()).toEqual([]);
  let done: (whole: boolean) => void = () => undefined;
  prepareGround.mockImplementationOnce(() => new Promise((resolve) => (done = resolve)));
  useProof.setState({ drying: { draft: false } });
  await vi.advanceTimersByTimeAsync(5000);
  heard.get("pointerdown")?.();
  expect(asked()).toEqual(["linen", null]);
  // It was not made whole: it is asked for again.
  done(false);
  await vi.advanceTimersByTimeAsync(4200);
  expect(asked()).toEqual(["linen", null, "linen"]);
  // Once one is whole the next follows soon.
  await vi.advanceTimersByTimeAsync(500);
  expect(asked()).toEqual(["linen", null, "linen", "gesso"]);
  stop();
});

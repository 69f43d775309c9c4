import { expect, test, vi } from "vitest";
import type { Tool } from "../api/client";

const { bench, answers, open } = vi.hoisted(() => {
  const bench = { tool: null as { id: string } | null };
  return { bench, answers: [] as (() => void)[], open: vi.fn((tool: { id: string }) => (bench.tool = tool)) };
});
vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined });
vi.mock("./store", () => ({ open, useBench: { getState: () => bench, setState: () => undefined } }));
vi.mock("./steps", () => ({
  // The browser's storage, which answers when it has time.
  workOf: () => new Promise((answer) => answers.push(() => answer(null))),
  keepSteps: () => Promise.resolve(),
  stepsTo: () => ({ past: [], future: [] }),
  strokesOf: () => [],
}));
const { openFirst } = await import("./saving");

test("the first tool is opened once, however often it is told while the browser's storage is slow", async () => {
  const tool = { id: "chalk", kept: { number: 1, document: {} } } as unknown as Tool;
  const asked = [openFirst(tool, true), openFirst(tool, false)];
  answers.shift()?.();
  await asked[0];
  // Tuned by now: whatever is asked later would take its steps away.
  await Promise.all([...asked, openFirst(tool, false)]);
  answers.forEach((answer) => answer());
  await Promise.resolve();
  expect(open).toHaveBeenCalledTimes(1);
});

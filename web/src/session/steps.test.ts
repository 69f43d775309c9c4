import { expect, test, vi } from "vitest";
import type { ToolDocument } from "../model/tool";
import type { Work } from "./steps";

vi.mock("./store", () => ({ useBench: {} }));
const { stepsTo } = await import("./steps");

const at = (side: number) => ({ document: { parameters: { "tip.side_mm": side } } as unknown as ToolDocument, pad: [], between: [] });
const work: Work = { past: [at(1)], now: at(2), future: [at(3)], at: 0 };

test("work is found again with its steps, and no step of it is lost where the last was not written any more", () => {
  expect(stepsTo(at(2).document, work)).toEqual({ past: [at(1)], future: [at(3)] });
  // Undo goes to what was kept last, and on from there.
  expect(stepsTo(at(4).document, work)).toEqual({ past: [at(1), at(2)], future: [] });
  expect(stepsTo(at(4).document, null)).toEqual({ past: [], future: [] });
});

import { expect, test } from "vitest";
import type { ToolDocument } from "../model/tool";
import type { Snapshot } from "./store";
import { toldStep } from "./toldStep";

const document = { name: "Reed", intent: "", medium: "dry", action: "lay", ground: { surface: "laid", numbers: {} }, parameters: { "tip.width_mm": 3, "tip.aspect": 1, "load.give_um": 4 }, responses: [], combine: {} } as unknown as ToolDocument;
const at = (change: Partial<ToolDocument> = {}, row: Partial<Snapshot> = {}): Snapshot => ({ document: { ...document, ...change }, pad: [], between: [], ...row });
const parameters = [
  { id: "tip.width_mm", label: "Width" },
  { id: "tip.aspect", label: "Length over width" },
  { id: "load.give_um", label: "Gives" },
];

test("a step is told by what it changed", () => {
  const told = (after: Snapshot, before = at()) => toldStep(before, after, parameters);
  expect(told(at({ parameters: { ...document.parameters, "tip.width_mm": 4 } }))).toBe("Width");
  expect(told(at({ parameters: { "tip.width_mm": 4, "tip.aspect": 2, "load.give_um": 5 } }))).toBe("Width, Length over width and 1 more");
  expect(told(at({ name: "Quill" }))).toBe("name");
  const stroke = { samples: [1, 2, 3] };
  expect(told(at({}, { pad: [stroke] }))).toBe("stroke 1 on the free row");
  expect(told(at(), at({}, { pad: [stroke, stroke] }))).toBe("free row wiped");
  expect(told(at({}, { between: [{ at: 0, what: "dry" }] }))).toBe("free row: dry");
});

import { expect, test } from "vitest";
import { freeName } from "./freeName";

test("a name that is free is near the one that was wanted, and never too long", () => {
  const tools = ["Reed", "Reed, 2"].map((name) => ({ name }));
  expect(freeName("Quill", tools)).toBe("Quill");
  expect(freeName("Reed", tools)).toBe("Reed, 3");
  const long = "x".repeat(80);
  expect(freeName(long, [{ name: long }]).length).toBeLessThanOrEqual(80);
});

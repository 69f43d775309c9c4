import { expect, test } from "vitest";
import { found, slips } from "./finding";

test("slips are counted as a hand makes them", () => {
  expect([slips("hardness", "hardness"), slips("hradness", "hardness"), slips("hardnes", "hardness"), slips("kitten", "sitting")]).toEqual([0, 1, 1, 3]);
});

test("the very word goes first, then what begins so, other words, and slips", () => {
  const order = (typed: string, things: [string, string[]?][]) => things.map(([value, others]) => ({ value, score: found(value, typed, others) })).sort((a, b) => b.score - a.score).filter((t) => t.score > 0).map((t) => t.value);
  expect(order("ground", [["Grounds screen"], ["Ground station"], ["Tooth parameter", ["How deep the ground's grain is"]], ["Width parameter"]])).toEqual(["Ground station", "Grounds screen", "Tooth parameter"]);
  expect(order("hradness", [["Edge hardness parameter"], ["Width parameter"]])).toEqual(["Edge hardness parameter"]);
  expect(order("hardness edge", [["Edge hardness parameter"], ["Hardness parameter"]])).toEqual(["Edge hardness parameter"]);
  expect(order("erase", [["Wipe the free row", ["clear", "erase"]], ["Undo", ["back"]]])).toEqual(["Wipe the free row"]);
  expect(found("Anything", "")).toBe(1);
  expect(found("Tip station", "zzz", ["anything"])).toBe(0);
});

import { expect, test } from "vitest";
import { toldTogether } from "./together";

test("how responses come together is told as it is reckoned", () => {
  expect(toldTogether("Flow", ["pressure", "speed"], "product")).toEqual(["Flow is what pressure gives, times what speed gives.", "f(pressure) × f(speed)"]);
  expect(toldTogether("Flow", ["pressure", "speed"], "smallest")).toEqual(["Flow is what pressure gives, or what speed gives, whichever is least.", "min(f(pressure), f(speed))"]);
  // An angle is never multiplied: the core adds every turn to its own value.
  expect(toldTogether("Angle", ["barrel", "lean"], "turned")).toEqual(["Angle is its own value, turned by what barrel gives and by what lean gives.", "own + f(barrel) + f(lean)"]);
});

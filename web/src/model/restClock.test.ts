import { expect, test } from "vitest";
import { RestClock } from "./restClock";

test("time stands still, is stepped, and goes on from there at another pace", () => {
  const clock = new RestClock();
  expect(clock.at(5)).toBe(5);
  clock.setPace(0, 5);
  expect(clock.at(50)).toBe(5);
  clock.step(0.25);
  expect(clock.at(60)).toBe(5.25);
  clock.setPace(4, 60);
  expect(clock.at(62)).toBe(13.25);
  expect(clock.within(0.1)).toBeCloseTo(0.4, 12);
  clock.setPace(1, 62);
  expect(clock.at(63)).toBe(14.25);
});

import { expect, test } from "vitest";
import { moved, stepped, type History } from "./history";

test("steps go back and forth, and a new one ends what was taken back", () => {
  let h: History<string> = { past: [], now: "a", future: [] };
  for (const next of ["b", "c", "d"]) h = stepped(h, next, 100);
  expect(moved(h, -2)).toEqual({ past: ["a"], now: "b", future: ["c", "d"] });
  const back = moved(h, -2)!;
  expect(moved(back, 2)).toEqual(h);
  expect(stepped(back, "x", 100)).toEqual({ past: ["a", "b"], now: "x", future: [] });
  expect([moved(h, 1), moved(h, -4), moved(h, 0)]).toEqual([null, null, null]);
});

test("only the newest steps are kept", () => {
  let h: History<number> = { past: [], now: 0, future: [] };
  for (let i = 1; i <= 9; i++) h = stepped(h, i, 3);
  expect(h).toEqual({ past: [6, 7, 8], now: 9, future: [] });
});

import { expect, test } from "vitest";
import { Shares } from "./shares";

test("each worker has rows side by side, about as much work as the other, and keeps them", () => {
  const shares = new Shares(2);
  const rows = [300, 100, 100, 100, 200, 400].map((weight, i) => ({ id: `row ${i}`, weight }));
  shares.take(rows);
  const places = () => rows.map((r) => shares.of(r.id));
  expect(places()).toEqual([0, 0, 0, 0, 1, 1]);
  // What comes later goes to whoever has least by then, and moves nothing.
  shares.take([...rows, { id: "new", weight: 50 }]);
  shares.take([{ id: "one more", weight: 50 }]);
  expect(places()).toEqual([0, 0, 0, 0, 1, 1]);
  expect([shares.of("new"), shares.of("one more"), shares.of("unknown")]).toEqual([0, 1, 0]);
});

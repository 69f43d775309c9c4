import { expect, test } from "vitest";
import { Preparing } from "./preparing";
import type { Surface } from "./wasm/saltmarsh_browser";

test("paper that time waits for is made first, a frame after each piece, and by one preparation at a time", async () => {
  const did: string[] = [];
  const frame = () => Promise.resolve(did.push("frame"));
  const preparing = new Preparing(() => Promise.resolve(), frame);
  const surface = (wet: number, busy = true) => ({ busy, prepareStep: () => wet-- > 0 && did.push("wet") > 0 }) as unknown as Surface;
  const two = (name: string) => (_: Surface, piece: number) => piece < 2 && did.push(`${name} ${String(piece)}`) > 0;

  const [wet, dry] = [surface(2), surface(2, false)];
  const pieces = preparing.begin(() => wet);
  expect(await pieces(two("ground"))).toBe(true);
  expect(await pieces(two("water"))).toBe(true);
  const made = ["wet", "wet", "ground 0", "ground 1", null, "water 0", "water 1", null];
  expect(did).toEqual(made.flatMap((what) => (what ? ["frame", what] : ["frame"])));

  // Where nothing moves, nothing waits for it.
  did.length = 0;
  expect(await preparing.begin(() => dry)(two("ground"))).toBe(true);
  expect(did).toEqual(["frame", "ground 0", "frame", "ground 1", "frame"]);

  // A newer one takes its place; and a sheet that is gone has none.
  did.length = 0;
  const [older, newer] = [preparing.begin(() => dry)(two("older")), preparing.begin(() => dry)(two("newer"))];
  expect([await older, await newer]).toEqual([false, true]);
  expect(did.filter((what) => what !== "frame")).toEqual(["newer 0", "newer 1"]);
  expect(await preparing.begin(() => null)(two("gone"))).toBe(false);
});

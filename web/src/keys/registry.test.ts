import { beforeAll, expect, test, vi } from "vitest";

beforeAll(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal("localStorage", { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v), removeItem: (k: string) => kept.delete(k) });
});

const press = (key: string, held: Partial<KeyboardEvent> = {}) => ({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held });

test("a pressed key is written as it is bound", async () => {
  const { isBare, written } = await import("./registry");
  expect(written(press("W"))).toBe("w");
  expect(written(press("Z", { ctrlKey: true, shiftKey: true }))).toBe("$mod+Shift+z");
  expect(written(press("z", { metaKey: true }))).toBe("$mod+z");
  expect(written(press("Delete", { shiftKey: true }))).toBe("Shift+Delete");
  // Shift makes the sign: it is no key beside it.
  expect(written(press("?", { shiftKey: true }))).toBe("?");
  expect(written(press("Shift", { shiftKey: true }))).toBeNull();
  expect([isBare("w"), isBare("?"), isBare("$mod+w")]).toEqual([true, true, false]);
});

test("no two keys are the same at one place, and none that is bare destroys", async () => {
  const { KEYED, KEY_IDS, keyOf, putAllBack, putKey, takenBy, useKeyTable } = await import("./registry");
  const table = () => useKeyTable.getState();
  for (const id of KEY_IDS) expect(takenBy(table(), id, keyOf(table(), id)), id).toBeNull();
  expect(KEYED.wipe.usual).toContain("+");
  // The same key may do two things on two screens, not one screen's and everywhere's.
  expect(takenBy(table(), "hand-undo", KEYED.undo.usual)).toBeNull();
  expect(takenBy(table(), "row", KEYED.find.usual)).toBe("find");
  putKey("wipe", "x");
  expect(takenBy(table(), "row", "X")).toBe("wipe");
  putKey("wipe", "");
  expect([keyOf(table(), "wipe"), takenBy(table(), "row", "x")]).toEqual(["", null]);
  putAllBack();
  expect(keyOf(table(), "wipe")).toBe(KEYED.wipe.usual);
});

/** Pen and palm at once: what rests on the sheet is no stroke, and a pen goes before all else. */

import { Pen, expect, test, type Touch } from "../bench";

test("a palm spoils nothing, a pen draws instead of a finger, its other end takes its tool", async ({ bench, page }) => {
  const pen = await Pen.of(page);
  const fingers = await page.context().newCDPSession(page);
  const finger = async (type: "touchStart" | "touchMove" | "touchEnd" | "touchCancel", at?: { x: number; y: number }) =>
    fingers.send("Input.dispatchTouchEvent", { type, touchPoints: at ? [{ ...at, radiusX: 9, radiusY: 12, force: 0.5 }] : [] });
  const drag = async (y: number, end: "touchEnd" | "touchCancel") => {
    await finger("touchStart", await bench.onPad(0.6, y));
    for (let i = 1; i <= 8; i++) await finger("touchMove", await bench.onPad(0.6 + 0.03 * i, y));
    await finger(end);
  };
  /** Who drew the strokes that the browser keeps. */
  const strokes = () =>
    page.evaluate(
      () =>
        new Promise<string[]>((done) => {
          const open = indexedDB.open("keyval-store");
          open.onsuccess = () => {
            const read = open.result.transaction("keyval").objectStore("keyval").get(`saltmarsh.steps.${localStorage.getItem("saltmarsh.tool")}`);
            read.onsuccess = () => {
              const work = read.result as { now: { pad: { by?: { name: string } }[] } } | undefined;
              open.result.close();
              done((work?.now.pad ?? []).map((s) => s.by?.name ?? "draft"));
            };
          };
        }),
    );
  const blank = await bench.shown(bench.pad);

  // No pen was seen yet: a finger draws. What the system takes for a palm leaves nothing.
  await drag(0.5, "touchCancel");
  await bench.settled();
  expect(await bench.shown(bench.pad)).toEqual(blank);
  await drag(0.5, "touchEnd");
  await expect.poll(strokes).toEqual(["draft"]);
  await bench.settled();
  await page.keyboard.press("Control+z");
  await expect.poll(() => bench.shown(bench.pad)).toEqual(blank);

  // A finger is drawing when the pen comes: the pen draws instead, and of the finger nothing is left.
  const way: Touch[] = await Promise.all(Array.from({ length: 20 }, (_, i) => bench.onPad(0.1 + 0.02 * i, 0.5).then((at) => ({ ...at, force: 0.6, tiltX: 30 }))));
  const first = way[0];
  const last = way.at(-1);
  if (!first || !last) throw new Error("no way");
  await finger("touchStart", await bench.onPad(0.6, 0.4));
  for (let i = 1; i <= 6; i++) await finger("touchMove", await bench.onPad(0.6 + 0.03 * i, 0.4));
  await pen.hover(first);
  await pen.down(first);
  for (const t of way.slice(1)) {
    await pen.move(t);
    // The palm moves on under it.
    await finger("touchMove", await bench.onPad(0.8, 0.4));
  }
  await pen.up(last);
  await finger("touchEnd");
  await expect.poll(strokes).toEqual(["draft"]);
  await bench.settled();
  const drawn = await bench.shown(bench.pad);
  expect(drawn).not.toEqual(blank);
  // Laid anew from what was kept, it is the same: no trace of the finger lies under it.
  await page.reload();
  await bench.settled();
  await expect.poll(() => bench.shown(bench.pad)).toEqual(drawn);

  // From now on a touch is a palm, also while no pen is near, until the painter says otherwise.
  await page.waitForTimeout(800);
  await drag(0.5, "touchEnd");
  await expect.poll(strokes).toEqual(["draft"]);
  await page.getByRole("button", { name: "Stand-ins for force, tilt, lean and barrel" }).click();
  await expect(page.getByRole("switch", { name: "Fingers draw" })).not.toBeChecked();

  // The pen's other end takes the tool that was put on it; the draft's strokes stay the draft's.
  await page.getByRole("combobox", { name: "Tool on the pen's other end" }).click();
  await page.getByRole("option", { name: /^Kneaded eraser/ }).click();
  await page.keyboard.press("Escape");
  await pen.otherEnd(way);
  await expect.poll(strokes).toEqual(["draft", expect.stringMatching(/^Kneaded eraser/)]);
  await bench.settled();
  const lifted = await bench.shown(bench.pad);
  expect(lifted).not.toEqual(drawn);
  await page.reload();
  await bench.settled();
  await expect.poll(() => bench.shown(bench.pad)).toEqual(lifted);
});

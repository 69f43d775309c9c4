/** Drawing on the free row: a pen with all its channels, a mouse with stand-ins, wiping, opening, keeping as a gesture. */

import { Pen, expect, test, type Touch } from "../bench";

test("a mouse draws with stand-ins whose force the keys change on the way", async ({ bench, page }) => {
  await bench.station("Hand").click();
  const force = bench.controls.getByRole("slider", { name: "Stand-in force" });
  await expect(force).toHaveAttribute("aria-valuenow", "0.35");
  const [a, b] = [await bench.onPad(0.1, 0.5), await bench.onPad(0.6, 0.5)];
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move((a.x + b.x) / 2, a.y, { steps: 12 });
  for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowUp");
  await page.mouse.move(b.x, b.y, { steps: 12 });
  await page.mouse.up();
  await expect(force).toHaveAttribute("aria-valuenow", "0.55");

  // Kept as a gesture, it joins the proof sheet and shows both forces.
  await page.getByRole("button", { name: "Open", exact: true }).click();
  // A second stroke: it is the first that is to be kept.
  const [c, d] = [await bench.onPad(0.1, 0.8), await bench.onPad(0.3, 0.8)];
  await page.mouse.move(c.x, c.y);
  await page.mouse.down();
  await page.mouse.move(d.x, d.y, { steps: 6 });
  await page.mouse.up();
  await page.getByRole("button", { name: "Keep a stroke as gesture…" }).click();
  await page.getByRole("combobox", { name: "Which stroke" }).click();
  await page.getByRole("option", { name: "stroke 1 of 2" }).click();
  await page.getByRole("textbox", { name: "Name" }).fill("Pressing harder");
  await page.getByRole("button", { name: "Keep gesture" }).click();
  await page.keyboard.press("Escape");
  await page.keyboard.press("o");
  await expect(bench.strip("Pressing harder", "draft")).toBeVisible();
  const added = await bench.wayOf("Pressing harder");
  const forces = [...added.matchAll(/[,>]\S+ \S+ (\S+) /g)].map((m) => Number(m[1]));
  expect(Math.min(...forces)).toBeCloseTo(0.35, 5);
  expect(Math.max(...forces)).toBeCloseTo(0.55, 5);
});

test("a pen draws with all its signals, on the free row and on the whole area", async ({ bench, page }) => {
  await test.step("a pen draws, and its signals show", async () => {
    const pen = await Pen.of(page);
    const blank = await bench.shown(bench.pad);
    await bench.station("Hand").click();
    const touches: Touch[] = [];
    for (let i = 0; i <= 40; i++) {
      touches.push({ ...(await bench.onPad(0.1 + 0.6 * (i / 40), 0.5)), force: 0.2 + 0.6 * (i / 40), tiltX: 30, tiltY: 20, twist: 45 });
    }
    const [first, ...rest] = touches;
    if (!first) throw new Error("no touches");
    await pen.hover(first);
    await pen.down(first);
    for (const t of rest) await pen.move(t);
    await expect(bench.controls).toContainText("The pen now");
    await expect(bench.controls).toContainText("45 °");
    // 0.8 of full scale is 321 gf with the plain pen; tilts of 30° and 20° lean 34° from upright (arctan √(tan²30+tan²20)).
    await expect(bench.controls).toContainText("321 gf");
    await expect(bench.controls).toContainText("34 °");
    await pen.up(rest.at(-1) ?? first);
    await expect.poll(() => bench.shown(bench.pad)).not.toEqual(blank);
    const drawn = await bench.shown(bench.pad);

    // The live dot follows the pen on the curve.
    await bench.station("Touch").click();
    await pen.hover(first);
    await expect(page.getByTestId("live-dot")).toBeVisible();

    // Wiping is one chord and can be undone; a reload loses nothing.
    await page.keyboard.press("Shift+Delete");
    await expect.poll(() => bench.shown(bench.pad)).toEqual(blank);
    await page.keyboard.press("Control+z");
    await expect.poll(() => bench.shown(bench.pad)).toEqual(drawn);
    await page.keyboard.press("Shift+Delete");
    await expect.poll(() => bench.shown(bench.pad)).toEqual(blank);
    // At once: before the sheet is laid anew.
    await page.keyboard.press("Control+z");
    await page.reload();
    await bench.settled();
    await expect.poll(() => bench.shown(bench.pad)).toEqual(drawn);
  });

  await test.step("the free row opens to the whole proof area and back by a key", async () => {
    const small = await bench.pad.boundingBox();
    await page.keyboard.press("o");
    await expect.poll(async () => (await bench.pad.boundingBox())?.height).toBeGreaterThan(300);
    const pen = await Pen.of(page);
    const blank = await bench.shown(bench.pad);
    await pen.stroke([{ ...(await bench.onPad(0.2, 0.2)), force: 0.6 }, { ...(await bench.onPad(0.4, 0.5)), force: 0.6 }, { ...(await bench.onPad(0.8, 0.8)), force: 0.6 }]);
    await expect.poll(() => bench.shown(bench.pad)).not.toEqual(blank);
    await page.keyboard.press("o");
    await expect.poll(() => bench.pad.boundingBox()).toEqual(small);
  });
});

test("a tip too large for one frame lays in the end what it lays anew, stroke after stroke", async ({ bench, page }) => {
  await page.getByRole("combobox", { name: "Tool", exact: true }).click();
  await page.getByRole("option", { name: /^Soft pastel/ }).click();
  await bench.station("Tip").click();
  await bench.setParameter("Side on the paper", "60");
  await page.getByRole("button", { name: "Open", exact: true }).click();
  await bench.settled();
  const blank = await bench.shown(bench.pad);
  const pen = await Pen.of(page);
  const stroke = (y: number) =>
    Promise.all(
      Array.from({ length: 25 }, (_, i) => bench.onPad(0.15 + 0.025 * i, y + 0.1 * Math.sin(i / 4)).then((at): Touch => ({ ...at, force: 0.3 + 0.02 * i, tiltX: 10, tiltY: 60 }))),
    );
  const [upper, lower] = [await stroke(0.3), await stroke(0.55)];
  // The second begins while the first is still being laid.
  await pen.stroke(upper);
  await pen.stroke(lower);
  await bench.settled();
  const before = await bench.shown(bench.pad);
  expect(before).not.toEqual(blank);
  await page.reload();
  await bench.settled();
  await page.getByRole("button", { name: "Open", exact: true }).click();
  await bench.settled();
  await expect.poll(() => bench.shown(bench.pad)).toEqual(before);
});

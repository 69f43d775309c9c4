/** A painter lays watercolour: it goes on after the hand lifts, dries, and is loaded stronger. */

import AxeBuilder from "@axe-core/playwright";
import { expect, Pen, test } from "../bench";

test("a wash moves while the hand rests, dries, and follows what it is loaded with", async ({ bench, page }) => {
  test.setTimeout(180_000);
  await page.getByRole("combobox", { name: "Tool", exact: true }).click();
  await page.getByRole("option", { name: "Mop", exact: true }).click();
  await bench.settled();
  // The strips are there at once, and come again as they dry.
  await expect(page.getByTestId("drying")).toBeVisible();
  // The last row is the last to dry.
  const draft = bench.strip("Lean fan", "draft");
  const laid = await bench.shown(draft);
  await expect.poll(() => bench.shown(draft)).not.toEqual(laid);

  // Strokes tell of their water, while strips still dry.
  await draft.click();
  await expect(page.getByText(/brings \d+ µm of water/).first()).toBeVisible();

  await bench.station("Load").click();
  const before = await bench.shown(bench.strip("Lean fan", "kept"));
  await bench.setParameter("Paint to water", "0.2");
  await bench.settled();
  await expect.poll(() => bench.shown(draft)).not.toEqual(before);
  await bench.setParameter("Water", "700");
  await expect(page.getByRole("alert")).toContainText("0 to 600");
  await page.keyboard.press("Escape");
  // The board is tilted, and all is laid anew: what was laid on a level one lay otherwise.
  await bench.settled();
  const level = await bench.shown(bench.strip("Press ramp", "kept"));
  await page.getByRole("button", { name: "Room and board" }).click();
  const tilt = page.getByRole("textbox", { name: "Board tilted" });
  await tilt.fill("90");
  await tilt.press("Enter");
  await expect(page.getByRole("alert")).toContainText("0 to 75");
  await tilt.fill("35");
  await tilt.press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Room and board" })).toContainText("tilted 35°");
  await bench.settled();
  await expect.poll(() => bench.shown(bench.strip("Press ramp", "kept"))).not.toEqual(level);
  for (const station of ["Tip", "Load", "Mix", "Ground"]) {
    await bench.station(station).click();
    expect((await new AxeBuilder({ page }).include("[aria-label=Controls]").analyze()).violations, station).toEqual([]);
  }

  // On the free row water goes on by itself: nothing is touched, and the picture changes.
  const pen = await Pen.of(page);
  const box = await bench.pad.boundingBox();
  if (!box) throw new Error("no free row");
  const y = box.y + box.height / 2;
  await pen.stroke(Array.from({ length: 20 }, (_, i) => ({ x: box.x + 40 + 8 * i, y, force: 0.6 })));
  await bench.settled();
  const wet = await bench.shown(bench.pad);
  await expect.poll(() => bench.shown(bench.pad)).not.toEqual(wet);
});

/** The trace: one cursor on the sheet, the plot and the ribbon; a sentence and every factor with its unit. */

import { expect, test } from "../bench";

test("pointing at the sheet moves the trace, and the reverse", async ({ bench, page }) => {
  const trace = page.getByTestId("trace");
  const at = async () => Number((await trace.getAttribute("aria-valuetext"))?.replace(" mm", ""));
  const strip = await bench.strip("Press ramp", "draft").boundingBox();
  if (!strip) throw new Error("no strip");
  const point = (share: number) => page.mouse.move(strip.x + strip.width * share, strip.y + strip.height / 2);
  // The ramp runs from 4 to 76 mm of the strip's 80.
  await point(0.25);
  await expect.poll(at).toBeGreaterThan(14);
  await expect.poll(at).toBeLessThan(18);
  await point(0.75);
  await expect.poll(at).toBeGreaterThan(54);
  await expect.poll(at).toBeLessThan(58);

  await trace.focus();
  const before = await page.getByTestId("mark-draft").locator("g").first().getAttribute("transform");
  const mm = await at();
  await page.keyboard.press("Shift+ArrowLeft");
  await expect.poll(at).toBeCloseTo(mm - 5, 1);
  await expect(page.getByTestId("mark-draft").locator("g").first()).not.toHaveAttribute("transform", before ?? "");
});

test("the reason says why a mark is faint", async ({ bench, page }) => {
  const reason = page.getByTestId("reason");
  const trace = page.getByTestId("trace");
  const box = await trace.boundingBox();
  if (!box) throw new Error("no trace");
  await trace.focus();
  await page.keyboard.press("Home");
  await expect(reason).toContainText(/(light|hardly touches), covers/);
  await expect(reason).toContainText("pressure 16 gf");
  await page.keyboard.press("End");
  await expect(reason).toContainText("closed, covers");
  await reason.getByText("Every factor").click();
  for (const unit of ["gf", "mm/s", "mm²", "µm/mm", "µm", "°", "%"]) await expect(reason).toContainText(unit);

  // A softer stick at the same hand: the reason follows the draft.
  await bench.station("Load").click();
  await page.mouse.move(box.x + box.width * 0.3, box.y + 50);
  const soft = await reason.innerText();
  await bench.setParameter("Hardness", "400");
  await expect.poll(() => reason.innerText()).not.toEqual(soft);
});

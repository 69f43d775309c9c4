/** The trace: one cursor on the sheet, the plot and the ribbon; a sentence and every factor with its unit. */

import { expect, test } from "../bench";
import { DEMO_ROWS } from "../server";

test.use({ rows: DEMO_ROWS });

test("every stroke is traced and explains itself", async ({ bench, page }) => {
  await test.step("pointing at the sheet moves the trace, and the reverse", async () => {
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

  await test.step("the reason says why a mark is faint", async () => {
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

  await test.step("any stroke is traced by pointing, a click holds the place, and each cause leads to what changes it", async () => {
    const reason = page.getByTestId("reason");
    const trace = page.getByTestId("trace");
    const at = async () => Number((await trace.getAttribute("aria-valuetext"))?.replace(" mm", ""));
    const box = await bench.strip("Hatching", "kept").boundingBox();
    if (!box) throw new Error("no strip");
    const point = (share: number) => page.mouse.move(box.x + box.width * share, box.y + box.height / 2);
    const row = page.getByRole("button", { name: /^Hatching/ });
    await expect(row).toHaveAttribute("aria-pressed", "false");
    await point(0.2);
    await expect(row).toHaveAttribute("aria-pressed", "true");
    await page.mouse.down();
    await page.mouse.up();
    await expect(reason).toContainText("This place is held.");
    const held = await at();
    // On the way to the reason other strokes are passed: the place stays.
    await page.mouse.move(box.x + box.width * 0.8, box.y - 100, { steps: 4 });
    await page.mouse.move(200, 750, { steps: 4 });
    await expect(row).toHaveAttribute("aria-pressed", "true");
    expect(await at()).toBe(held);
    await reason.getByRole("button", { name: /^Ground: tooth/ }).click();
    await expect(bench.station("Ground")).toHaveAttribute("aria-current", "true");
    await expect(bench.parameter("Tooth")).toBeFocused();
    await reason.getByRole("button", { name: /^Touch: .* from / }).first().click();
    await expect(bench.station("Touch")).toHaveAttribute("aria-current", "true");
    await expect(page.getByRole("combobox", { name: "Response", exact: true })).toBeVisible();
    await page.keyboard.press("Escape");
    await expect(reason).not.toContainText("This place is held.");
    await point(0.6);
    await expect.poll(at).not.toBe(held);
  });
});

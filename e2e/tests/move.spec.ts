/** Tools that move powder: a bed to act on, what the tool does as a choice, and a balance in which nothing is lost. */

import { expect, test } from "../bench";

const mm3 = (text: string | null) => Number(text?.match(/[\d.]+/)?.[0] ?? NaN);

test("a finger moves charcoal on the proof sheet, and its balance is told", async ({ bench, page }) => {
  await page.getByRole("combobox", { name: "Tool", exact: true }).click();
  await page.getByRole("option", { name: "Finger", exact: true }).click();
  await bench.settled();
  await expect(page.getByRole("combobox", { name: "Action" })).toContainText("blends");
  await bench.station("Mix").click();
  const row = async (label: string) => mm3(await page.getByTestId("balance").locator("dt", { hasText: label }).locator("xpath=following-sibling::dd").textContent());
  await expect.poll(() => row("In the tool")).toBeGreaterThan(0);
  expect(await row("From the stick")).toBe(0);
  const sheet = await row("On the sheet now");
  const held = await row("In the tool");

  // It releases hardly anything: more stays in it, and as much less on the sheet.
  const shown = await bench.shown(bench.strip("Slow pull", "draft"));
  await bench.setParameter("Release over", "500");
  await expect.poll(() => row("In the tool")).toBeGreaterThan(held);
  expect((await row("In the tool")) + (await row("On the sheet now"))).toBeCloseTo(sheet + held, 3);
  await bench.settled();
  expect(await bench.shown(bench.strip("Slow pull", "draft"))).not.toEqual(shown);
  await expect(page.getByTestId("reason")).toContainText(/reaches \d+ % of the tooth, picks up/);
});

test("what a tool does is one choice, told as a change and taken back", async ({ bench, page }) => {
  const laid = await bench.shown(bench.strip("Scrub", "draft"));
  await page.getByRole("combobox", { name: "Action" }).click();
  await page.getByRole("option", { name: "lifts" }).click();
  await bench.settled();
  await expect.poll(() => bench.shown(bench.strip("Scrub", "draft"))).not.toEqual(laid);
  await expect(bench.status).toContainText("1 change");
  await bench.station("Load").click();
  await expect(bench.controls).toContainText("Does not act: this tool brings no powder");
  await page.keyboard.press("Control+z");
  await bench.settled();
  await expect.poll(() => bench.shown(bench.strip("Scrub", "draft"))).toEqual(laid);
});

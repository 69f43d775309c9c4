/** Tools that move powder: a bed to act on, what the tool does as a choice, and a balance in which nothing is lost. */

import { Pen, expect, test, type Bench } from "../bench";

const mm3 = (text: string | null) => Number(text?.match(/[\d.]+/)?.[0] ?? NaN);

/** A finger dragged on the free row from one place to another, mm of its 160. */
async function drag(bench: Bench, pen: Pen, from: number, to: number) {
  const places = Array.from({ length: 12 }, (_, i) => bench.onPad((from + ((to - from) * i) / 11) / 160, 0.5));
  await pen.stroke((await Promise.all(places)).map((p) => ({ ...p, force: 0.8 })));
  await bench.settled();
}

test("tools that move powder", async ({ bench, page }) => {
  await test.step("what a tool does is one choice, told as a change and taken back", async () => {
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

  await test.step("a dirty finger marks bare paper until it is cleaned, and a reload knows which it was", async () => {
    await bench.choose("Finger");
    const pen = await Pen.of(page);
    const clean = page.getByRole("button", { name: "Clean", exact: true });
    await expect(clean).toBeDisabled();
    // The bed has charcoal from 5 to 29 mm and none from there to 45.
    await drag(bench, pen, 9, 25);
    const taken = await bench.shown(bench.pad);
    await drag(bench, pen, 36.5, 37.5);
    await expect.poll(() => bench.shown(bench.pad)).not.toBe(taken);

    await page.keyboard.press("Control+z");
    await expect.poll(() => bench.shown(bench.pad)).toBe(taken);
    await clean.click();
    await expect(clean).toBeDisabled();
    await drag(bench, pen, 36.5, 37.5);
    await expect(clean).toBeEnabled();
    expect(await bench.shown(bench.pad)).toBe(taken);
    await page.reload();
    await bench.settled();
    await expect.poll(() => bench.shown(bench.pad)).toBe(taken);
  });

  await test.step("a finger moves charcoal on the proof sheet, and its balance is told", async () => {
    await bench.choose("Finger");
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

    // On bare ground it has nothing to move; what the strips lie on is told beside the sheet and kept over a reload.
    const on = (what: string) => page.getByRole("option", { name: what }).click();
    const bed = await bench.shown(bench.strip("Slow pull", "draft"));
    await page.getByRole("combobox", { name: "Strips lie on" }).click();
    await on("bare ground");
    await bench.settled();
    await expect.poll(() => row("In the tool")).toBe(0);
    expect(await bench.shown(bench.strip("Slow pull", "draft"))).toBe(await bench.shown(bench.strip("Slow pull", "kept")));
    await page.getByRole("combobox", { name: "Strips lie on" }).click();
    await on("a bed of charcoal");
    await bench.settled();
    await expect.poll(() => bench.shown(bench.strip("Slow pull", "draft"))).toBe(bed);
  });
});

/** How late a stroke is shown, as the worker of the free row notes it. */

import type { Browser } from "@playwright/test";
import { Bench, Pen, expect } from "../bench";
import type { Studio } from "../server";

/** So large that the open free row is 2048² and more. */
const LARGE = { width: 2520, height: 2420 };

/**
 * Times from a pen's report to the frame that shows it, and the size of the sheet: with the tool that is there, or another. `wide`: broad
 * strokes on a sheet of the usual size, which run into one another, and then as many more over all of them.
 */
export async function penToPixel(browser: Browser, studio: Studio, tool: RegExp | null, wide = false) {
  const viewport = wide ? { width: 1280, height: 800 } : LARGE;
  const page = await browser.newPage({ viewport });
  const bench = new Bench(page, studio);
  bench.patience = 240_000;
  await bench.open();
  if (tool) {
    await bench.choose(tool);
    // A list that has just closed keeps the keys.
    await page.getByRole("button", { name: "Open", exact: true }).click();
  } else await page.keyboard.press("o");
  await expect.poll(async () => (await bench.pad.boundingBox())?.height).toBeGreaterThan(wide ? viewport.height / 2 : 2047);
  await bench.settled();
  const size = await bench.pad.boundingBox();
  // The paper under the sheet is made in the background meanwhile: a stroke must not wait for it.
  const started = Date.now();
  const made = () => Promise.all(page.workers().map((worker) => worker.evaluate(() => performance.getEntriesByName("paper made").length))).then((counts) => counts.some((n) => n > 0));
  await page.waitForTimeout(1000);
  await expect.poll(made, { timeout: 240_000, intervals: [1000] }).toBe(true);
  const paper = (Date.now() - started) / 1000;
  const pen = await Pen.of(page);
  if (!size) throw new Error("the page has no pad");
  // Only the worker of the free row has any.
  const measures = async () => {
    const lists = page.workers().map((worker) =>
      worker.evaluate(() => {
        const all = performance.getEntriesByName("pen to pixel").map((e) => e.duration);
        performance.clearMeasures("pen to pixel");
        return all;
      }),
    );
    return (await Promise.all(lists)).flat();
  };
  const hand = (f: number, lane: number) => ({
    x: size.x + size.width * (wide ? 0.05 + 0.9 * f : 0.1 + 0.8 * f),
    y: size.y + size.height * (0.14 + 0.09 * lane + 0.03 * Math.sin(9 * f)),
    force: wide ? 0.95 : 0.35 + 0.3 * Math.sin(5 * f),
    tiltX: 8,
    tiltY: 26,
  });
  const [all, over]: [number[], number[]] = [[], []];
  for (let stroke = 0; stroke < (wide ? 18 : 9); stroke++) {
    if (wide && stroke > 0) await page.getByRole("button", { name: "Dip", exact: true }).click();
    await pen.stroke(Array.from({ length: 120 }, (_, i) => hand(i / 119, stroke % 9)));
    await page.waitForTimeout(600);
    // The first two strokes warm the code up.
    const some = await measures();
    if (stroke > 8) over.push(...some);
    else if (stroke > 1) all.push(...some);
  }
  const width = await page.evaluate(() => document.querySelector("[data-testid=pad] canvas")?.clientWidth);
  await page.close();
  // A sheet that never comes to rest between its frames would tell nothing, and look quick.
  expect(all.length).toBeGreaterThan(400);
  return { all, over, paper, sheet: `${width} × ${Math.round(size.height)}` };
}

/** The rack: tools shown by what they do, and techniques played by them. */

import { createHash } from "node:crypto";
import type { Locator } from "@playwright/test";
import { expect, test } from "../bench";

/** Colours of a picture, and a hash of it. */
async function picture(canvas: Locator) {
  const png = await canvas.evaluate((c: HTMLCanvasElement) => {
    const data = c.getContext("2d")?.getImageData(0, 0, c.width, c.height).data ?? new Uint8ClampedArray();
    const colours = new Set<number>();
    for (let i = 0; i < data.length; i += 4) colours.add(((data[i] ?? 0) << 16) | ((data[i + 1] ?? 0) << 8) | (data[i + 2] ?? 0));
    return { colours: colours.size, url: c.toDataURL() };
  });
  return { colours: png.colours, hash: createHash("sha256").update(png.url).digest("hex") };
}

// No strip is laid that no test here looks at.
test.use({ start: "/rack" });

test("every tool shows what it does, is found by its use, and goes on the bench", async ({ bench, page }) => {
  await page.getByRole("link", { name: "Rack", exact: true }).click();
  const cards = page.getByRole("list", { name: "Tools" }).getByRole("listitem");
  await expect(cards.nth(13)).toBeVisible();
  const count = await cards.count();
  const hashes = new Set<string>();
  for (let i = 0; i < count; i++) {
    const canvas = cards.nth(i).locator("canvas");
    // A picture of strokes has many greys; an empty one has none.
    await expect.poll(async () => (await picture(canvas)).colours, { timeout: 30_000 }).toBeGreaterThan(20);
    hashes.add((await picture(canvas)).hash);
  }
  expect(hashes.size).toBe(count);
  await page.getByRole("searchbox", { name: "Find tools" }).fill("under-drawing");
  await expect(cards).toHaveCount(2);
  await page.getByRole("searchbox", { name: "Find tools" }).fill("stump");
  await cards.first().getByRole("button").first().click();
  await expect(page.getByRole("combobox", { name: "Tool" })).toContainText("Stump");
  await bench.settled();
});

test("a technique is played by the tools that are chosen, with the draft where it is on the bench", async ({ bench, page }) => {
  await page.getByRole("link", { name: "Rack", exact: true }).click();
  await page.getByRole("button", { name: "Techniques" }).click();
  const sheets = page.getByRole("list", { name: "Techniques" }).getByRole("listitem");
  await expect(sheets).toHaveCount(26);
  const sheet = sheets.filter({ has: page.getByRole("heading", { name: "Block-in", exact: true }) });
  const canvas = sheet.locator("canvas");
  await expect.poll(async () => (await picture(canvas)).colours, { timeout: 60_000 }).toBeGreaterThan(20);
  const before = (await picture(canvas)).hash;

  await sheet.getByRole("combobox", { name: "Block-in: lays the mass" }).click();
  await page.getByRole("option", { name: /^Compressed charcoal/ }).click();
  await expect.poll(async () => (await picture(canvas)).hash, { timeout: 30_000 }).not.toBe(before);
  const compressed = (await picture(canvas)).hash;

  // What is chosen stays, and goes back to the same picture.
  await page.getByRole("link", { name: "Hand", exact: true }).click();
  await page.getByRole("link", { name: "Rack", exact: true }).click();
  await page.getByRole("button", { name: "Techniques" }).click();
  await expect.poll(async () => (await picture(canvas)).hash, { timeout: 60_000 }).toBe(compressed);
  await sheet.getByRole("combobox", { name: "Block-in: lays the mass" }).click();
  await page.getByRole("option", { name: /^Vine charcoal, side/ }).click();
  await expect.poll(async () => (await picture(canvas)).hash, { timeout: 30_000 }).toBe(before);

  // A change of the draft on the bench shows.
  await page.getByRole("link", { name: "Bench", exact: true }).click();
  await bench.station("Tip").click();
  await bench.controls.getByRole("slider", { name: "Side on the paper, slider" }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowLeft");
  await page.getByRole("link", { name: "Rack", exact: true }).click();
  await page.getByRole("button", { name: "Techniques" }).click();
  await expect(sheet.getByRole("combobox", { name: "Block-in: lays the mass" })).toContainText("draft");
  await expect.poll(async () => { const p = await picture(canvas); return p.colours > 20 && p.hash !== before; }, { timeout: 60_000 }).toBe(true);
});

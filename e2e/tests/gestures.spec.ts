/** The Gestures screen: recorded, named, changed, ordered, on and off the proof sheet, and always back again. */

import type { Page } from "@playwright/test";
import { Pen, expect, test } from "../bench";

const list = (page: Page) => page.getByRole("list", { name: "Gestures" });
const names = async (page: Page) => (await list(page).getByRole("listitem").allInnerTexts()).map((t) => t.split("\n")[0]);

async function gesturesScreen(page: Page) {
  await page.getByRole("link", { name: "Gestures", exact: true }).click();
  await expect(list(page).getByRole("listitem")).toHaveCount(6);
}

test("a gesture is recorded with a pen, named, tagged and found, and joins the proof sheet", async ({ bench, page }) => {
  await gesturesScreen(page);
  const box = await page.getByRole("img", { name: /^Recording sheet/ }).boundingBox();
  if (!box) throw new Error("there is no recording sheet");
  const pen = await Pen.of(page);
  await pen.stroke(Array.from({ length: 30 }, (_, i) => ({ x: box.x + 60 + 8 * i, y: box.y + 60 + 20 * Math.sin(i / 5), force: 0.2 + 0.02 * i, tiltX: 20, tiltY: 10 })));
  await page.getByRole("textbox", { name: "Name of the recorded gesture" }).fill("Reed bend");
  await page.getByRole("button", { name: "Keep gesture" }).click();
  await expect(list(page).getByRole("listitem")).toHaveCount(7);
  await list(page).getByRole("button", { name: /^Reed bend/ }).click();
  const tags = page.getByRole("region", { name: "Reed bend" }).getByRole("textbox", { name: "Tags" });
  await tags.fill("reeds, soft");
  await tags.press("Enter");
  await page.getByRole("searchbox", { name: "Find gestures" }).fill("soft");
  await expect(list(page).getByRole("listitem")).toHaveCount(1);
  await page.getByRole("link", { name: "Bench", exact: true }).click();
  await bench.settled();
  await expect(bench.strip("Reed bend", "draft")).toBeVisible();
});

test("order and choice of the proof sheet are the painter's", async ({ bench, page }) => {
  await gesturesScreen(page);
  await page.getByRole("button", { name: "Move Slow pull up" }).click();
  await expect.poll(() => names(page)).toEqual(["Slow pull", "Press ramp", "Flicks", "Hatching", "Scrub", "Lean fan"]);
  await page.getByRole("switch", { name: "Hatching on the proof sheet" }).click();
  await expect(page.getByRole("main").locator("..")).toContainText("5 of 6 on the proof sheet");
  await page.getByRole("link", { name: "Bench", exact: true }).click();
  await bench.settled();
  await expect(bench.strip("Hatching", "draft")).toHaveCount(0);
  const tops = await Promise.all(["Slow pull", "Press ramp"].map(async (g) => (await bench.strip(g, "draft").boundingBox())?.y ?? NaN));
  expect(tops[0]).toBeLessThan(Number(tops[1]));
});

test("a gesture is turned, scaled, trimmed and taken away, and each can be brought back", async ({ bench, page }) => {
  await gesturesScreen(page);
  const inkml = async () => (await bench.ask<{ name: string; inkml: string }[]>("/gestures")).find((g) => g.name === "Press ramp")?.inkml ?? "";
  const before = await inkml();
  const one = page.getByRole("region", { name: "Press ramp" });
  await one.getByRole("button", { name: "Reverse" }).click();
  await expect.poll(inkml).not.toEqual(before);
  await page.getByRole("button", { name: "Bring back" }).click();
  await expect.poll(inkml).toEqual(before);

  await one.getByRole("textbox", { name: "Trim to" }).fill("0.5");
  await one.getByRole("textbox", { name: "Trim to" }).press("Enter");
  await one.getByRole("button", { name: "Trim", exact: true }).click();
  await expect(one.getByTestId("gesture-size")).toContainText("0.50 s, 101 reports");
  await one.getByRole("textbox", { name: "Scale by" }).fill("99");
  await one.getByRole("textbox", { name: "Scale by" }).press("Enter");
  await expect(page.getByRole("alert")).toContainText("a number from 0.05 to 20");

  await one.getByRole("button", { name: "Take away" }).click();
  await expect(list(page).getByRole("listitem")).toHaveCount(5);
  await page.getByRole("button", { name: "Bring back" }).click();
  await expect.poll(() => names(page)).toEqual(["Press ramp", "Slow pull", "Flicks", "Hatching", "Scrub", "Lean fan"]);
});

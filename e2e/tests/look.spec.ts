/** Room to look: loupe, true size, a third column, strokes of the free row traced, pictures to keep, and narrow windows. */

import { readFile } from "node:fs/promises";
import { expect, railOf, test, type Bench } from "../bench";
import type { Locator, Page } from "@playwright/test";

/** How a canvas looks: mean of its neighbouring pixels' differences, which are none where pixels are only enlarged. */
const roughness = (canvas: Locator) =>
  canvas.evaluate((c: HTMLCanvasElement) => {
    const { data } = c.getContext("2d")!.getImageData(0, 0, c.width, c.height);
    let [same, all] = [0, 0];
    for (let i = 0; i + 7 < data.length; i += 4) {
      all++;
      if (data[i] === data[i + 4] && data[i + 1] === data[i + 5]) same++;
    }
    return 1 - same / all;
  });

/** A stroke across the free row. */
const draw = async (bench: Bench, page: Page) => {
  const [from, to] = [await bench.onPad(0.2, 0.5), await bench.onPad(0.8, 0.5)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 20 });
  await page.mouse.up();
};

const looked = async (page: Page, what: string) => {
  await page.getByRole("button", { name: "Proof sheet: how it is looked at" }).click();
  await page.getByRole("radio", { name: what, exact: true }).click();
  await page.keyboard.press("Escape");
};

test("the loupe lays anew what lies under it, on strips and on the free row", async ({ bench, page }) => {
  await page.keyboard.press("l");
  await page.keyboard.press("l");
  const strip = bench.strip("Slow pull", "draft");
  await strip.hover({ position: { x: 150, y: 26 } });
  const glass = page.getByTestId("loupe");
  await expect(glass).toContainText("× 8");
  await expect(glass).toHaveAttribute("data-laid", "true");
  // Enlarged pixels would differ from their neighbours at every eighth place at most.
  expect(await roughness(glass.locator("canvas"))).toBeGreaterThan(0.2);
  await draw(bench, page);
  await bench.settled();
  const box = (await bench.pad.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await expect(glass).toHaveAttribute("data-laid", "true");
  expect(await roughness(glass.locator("canvas"))).toBeGreaterThan(0.2);
  await page.keyboard.press("l");
  await page.keyboard.press("l");
  await expect(glass).toHaveCount(0);

  // Pointing at the stroke traces it; a click on the trace holds the place; wiping leaves no trace of it.
  await page.mouse.move(box.x + box.width / 2 + 4, box.y + box.height / 2);
  await expect(page.getByTestId("pad").getByTestId("mark-draft")).toBeVisible();
  await expect(page.getByTestId("reason")).toContainText(/covers \d+ %/);
  await page.getByTestId("trace").click();
  await expect(page.getByTestId("reason")).toContainText("This place is held.");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Shift+Delete");
  await expect(page.getByTestId("pad").getByTestId("mark-draft")).toHaveCount(0);
  await expect(bench.strip("Press ramp", "draft").locator("..").getByTestId("mark-draft")).toBeVisible();
});

test("true size goes by the measured screen; a third tool and moved borders are remembered", async ({ bench, page }) => {
  const width = async () => (await bench.strip("Press ramp", "draft").boundingBox())?.width ?? 0;
  await looked(page, "true size");
  expect(await width()).toBeCloseTo((80 * 96) / 25.4, 0);
  await page.getByRole("button", { name: "Proof sheet: how it is looked at" }).click();
  await page.getByRole("button", { name: "Measure it…" }).click();
  const slider = page.getByRole("slider", { name: "Width of the card on this screen" });
  await slider.press("Home");
  for (let i = 0; i < 30; i++) await slider.press("PageUp");
  await expect(slider).toHaveAttribute("aria-valuenow", "5");
  const card = await page.getByRole("img", { name: "Outline of a card" }).boundingBox();
  expect(card?.width).toBeCloseTo(85.6 * 5, 0);
  await page.getByRole("button", { name: "It is as wide" }).click();
  expect(await width()).toBeCloseTo(400, 0);
  // The free row stays in sight whatever the rows' height.
  await looked(page, "three times");
  await expect(bench.pad).toBeInViewport();
  await looked(page, "as large as fits");

  await page.getByRole("button", { name: "Proof sheet: how it is looked at" }).click();
  await page.getByRole("button", { name: "Pin a third tool…" }).click();
  await page.getByRole("dialog").getByRole("button", { name: /Compressed charcoal, edge/ }).click();
  const third = page.getByRole("img", { name: "Press ramp, Compressed charcoal, edge of block" });
  await bench.settled();
  expect(await bench.shown(third)).not.toEqual(await bench.shown(bench.strip("Press ramp", "draft")));
  // Borders are moved by keys, and stay where they were put.
  const wide = async () => (await bench.controls.boundingBox())?.width ?? 0;
  const before = await wide();
  await page.getByRole("separator", { name: "Move this border left or right" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect.poll(wide).toBeGreaterThan(before + 20);
  const moved = await wide();
  await page.reload();
  await expect.poll(wide).toBeCloseTo(moved, -1);
  await expect(third).toBeVisible();
  await page.getByRole("button", { name: /^Take Compressed charcoal.* off the proof sheet$/ }).click();
  await expect(third).toHaveCount(0);
});

test("pictures go out at the resolution that was asked for, and know their size", async ({ bench, page }) => {
  const save = async (what: RegExp, form: RegExp, dpi: string) => {
    await page.getByRole("button", { name: "Proof sheet: how it is looked at" }).click();
    await page.getByRole("button", { name: "Save a picture…" }).click();
    const dialog = page.getByRole("dialog", { name: "Save a picture" });
    await dialog.getByRole("radio", { name: what }).click();
    await dialog.getByRole("radio", { name: form }).click();
    const field = dialog.getByRole("textbox", { name: "Resolution" });
    await field.fill("5000");
    await field.press("Enter");
    await expect(dialog.getByRole("alert")).toContainText("a number from 72 to 1200");
    await field.fill(dpi);
    await field.press("Enter");
    const download = page.waitForEvent("download");
    await dialog.getByRole("button", { name: "Save", exact: true }).click();
    const file = await download;
    return { name: file.suggestedFilename(), bytes: await readFile(await file.path()) };
  };
  const strip = await save(/^The draft's strip, Press ramp/, /^PNG/, "600");
  expect(strip.name).toBe("Vine charcoal, side of stick, Press ramp.png");
  // IHDR begins at byte 16: 80 × 14 mm at 600 dpi. pHYs: pixels a metre.
  expect([strip.bytes.readUInt32BE(16), strip.bytes.readUInt32BE(20)]).toEqual([1890, 331]);
  expect(strip.bytes.readUInt32BE(strip.bytes.indexOf("pHYs") + 4)).toBe(Math.round(600 / 0.0254));
  await draw(bench, page);
  await bench.settled();
  const page1 = await save(/^The proof sheet/, /^PDF/, "150");
  const text = page1.bytes.toString("latin1");
  // Three gestures, two columns, the free row.
  expect(text.match(/\/Subtype \/Image/g)).toHaveLength(7);
  expect(text).toContain("/Width 472");
});

test("a phone and a window at 200 % cut nothing off, and what is tuned stays in sight", async ({ bench, page }) => {
  const fits = () => page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth);
  for (const [width, height] of [[360, 740], [640, 400]] as const) {
    await page.setViewportSize({ width, height });
    for (const name of ["Hand", "Touch", "Tip", "Load", "Mix", "Ground", "Relief"]) {
      await bench.station(name).click();
      await expect.poll(fits, `${name} at ${width}`).toBe(true);
    }
  }
  await bench.station("Tip").click();
  await page.getByRole("slider", { name: "Follow, slider" }).or(page.getByRole("slider").last()).scrollIntoViewIfNeeded();
  await expect(page.getByRole("img", { name: "Watched: Press ramp, draft" })).toBeInViewport();
  // A finger that scrolls the page over a slider changes nothing.
  const fingers = await page.context().newCDPSession(page);
  const slider = page.getByRole("slider", { name: "Side on the paper, slider" });
  await slider.evaluate((thumb) => thumb.scrollIntoView({ block: "center" }));
  const side = await slider.getAttribute("aria-valuetext");
  const rail = await railOf(slider);
  const finger = (type: "touchStart" | "touchMove" | "touchEnd", y?: number) =>
    fingers.send("Input.dispatchTouchEvent", { type, touchPoints: y === undefined ? [] : [{ x: rail.x + 0.8 * rail.width, y }] });
  await finger("touchStart", rail.y + 12);
  await expect.poll(() => slider.getAttribute("aria-valuetext")).not.toBe(side);
  for (let i = 1; i <= 10; i++) await finger("touchMove", rail.y + 12 - 12 * i);
  await finger("touchEnd");
  await expect.poll(() => slider.getAttribute("aria-valuetext")).toBe(side);
  await expect(page.getByRole("button", { name: "Undo" })).toBeDisabled();
  for (const name of ["Rack", "Hand", "Grounds", "Gestures"]) {
    await page.getByRole("link", { name, exact: true }).click();
    await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
    await expect.poll(fits, name).toBe(true);
  }
  // A large screen has no empty half: strips are as large as their rows allow.
  await page.setViewportSize({ width: 1920, height: 1080 });
  await page.getByRole("link", { name: "Bench", exact: true }).click();
  await bench.settled();
  expect((await bench.strip("Press ramp", "draft").boundingBox())?.width).toBeGreaterThan(500);
});

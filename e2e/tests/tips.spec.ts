/** The Tip station: shapes, images taken in, captured and chosen, grain, mask, compass and jitter. */

import { readFileSync } from "node:fs";
import { resolve } from "node:path";
import { crc32 } from "node:zlib";
import type { Page } from "@playwright/test";
import { Pen, expect, test } from "../bench";

const marked = (page: Page, name: RegExp) =>
  page.getByRole("img", { name }).evaluate((element) => {
    const c = element as HTMLCanvasElement;
    const data = c.getContext("2d")?.getImageData(0, 0, c.width, c.height).data ?? new Uint8ClampedArray();
    let dark = 0;
    for (let i = 0; i < data.length; i += 4) if ((data[i] ?? 255) < 200 && (data[i + 3] ?? 0) > 60) dark++;
    return dark / Math.max(1, data.length / 4);
  });

test("an image becomes a tip, is kept with the tool, and stays while the tool needs it", async ({ bench, page }) => {
  await bench.station("Tip").click();
  await page.getByRole("radio", { name: "image" }).click();
  // Without an image the shelf opens at once.
  await expect(page.getByRole("dialog", { name: "Image" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(bench.controls).toContainText("there is no image yet");
  await page.getByRole("button", { name: "Image: none" }).click();
  const files = page.getByLabel("Image files (PNG, JPEG, WebP)");
  const data = (name: string) => resolve(import.meta.dirname, `../../crates/formats/tests/data/${name}`);
  await files.setInputFiles(data("pictures/grey.tif"));
  await expect(page.getByRole("status")).toContainText("PNG, JPEG or WebP");
  await files.setInputFiles(data("maps/map_p5_worn_plateau.png"));
  await expect(page.getByRole("status")).toContainText("256 × 256 px, is on the shelf");
  await page.getByRole("textbox", { name: /^Tags of/ }).fill("plateau, grit");
  await page.getByRole("textbox", { name: /^Tags of/ }).press("Enter");
  await page.getByRole("searchbox", { name: "Find images" }).fill("grit");
  await page.getByRole("button", { name: /^Use map_p5/ }).click();
  await bench.settled();
  // Its rim is not black: pointed out, and mended in one click.
  await expect(page.getByRole("status").filter({ hasText: "at its rim" })).toBeVisible();
  await page.getByRole("button", { name: "Feather it" }).click();
  await expect(page.getByRole("status").filter({ hasText: "at its rim" })).toHaveCount(0);
  await bench.keep.click();
  await expect(bench.status).toContainText("as kept");
  await page.getByRole("button", { name: /^Image: map_p5/ }).click();
  await expect(page.getByRole("list", { name: "Images" })).toContainText("in Vine charcoal");
  await expect(page.getByRole("button", { name: "Take away" })).toBeDisabled();
  // Another takes its place in the kept tool, and goes again.
  await files.setInputFiles(data("pictures/colour.png"));
  await expect(page.getByRole("status")).toContainText("is on the shelf");
  await page.getByRole("button", { name: /^Replace map_p5/ }).click();
  await page.getByRole("button", { name: /^Put colour in the place of map_p5/ }).click();
  await expect(page.getByRole("status").filter({ hasText: "stands in" })).toContainText("Vine charcoal");
  await expect(bench.status).toContainText("as kept in v3");
  await page.getByRole("button", { name: "Put back" }).click();
  await expect(page.getByRole("status").filter({ hasText: "stands in" })).toContainText(/map_p5\S* stands in for colour/);
  await expect(bench.status).toContainText("as kept in v4");
  await page.keyboard.press("Escape");
  // The picture is the same when the page comes back.
  await page.reload();
  await bench.settled();
  await bench.station("Tip").click();
  await expect.poll(() => marked(page, /^Tip, /)).toBeGreaterThan(0.02);
});

test("a piece of the sheet is captured as grain", async ({ bench, page }) => {
  const pen = await Pen.of(page);
  const box = await bench.pad.boundingBox();
  if (!box) throw new Error("there is no free row");
  await pen.stroke(Array.from({ length: 40 }, (_, i) => ({ x: box.x + 40 + 6 * i, y: box.y + box.height / 2, force: 0.7, tiltX: 40, tiltY: 0 })));
  await bench.settled();
  await bench.station("Tip").click();
  await expect.poll(() => marked(page, /^Tip, /)).toBeGreaterThan(0.01);
  const before = await marked(page, /^Tip, /);
  await page.getByRole("button", { name: "Grain image", exact: true }).click();
  await page.getByRole("button", { name: "Grain image: none" }).click();
  await page.getByRole("button", { name: "Capture from the free row" }).click();
  await page.getByRole("button", { name: "Take this piece" }).click();
  await expect(page.getByRole("status")).toContainText("From the sheet");
  await page.getByRole("button", { name: "Use From the sheet" }).click();
  await bench.settled();
  await expect.poll(() => marked(page, /^Tip, /)).not.toBeCloseTo(before, 3);
  await expect(page.getByRole("button", { name: "Grain image: From the sheet" })).toBeVisible();
});

test("a tip is shaped, and images come onto the shelf", async ({ bench, page }) => {
  await test.step("a shape is chosen, turned on the compass, masked and jittered, and undo takes it back", async () => {
    await bench.station("Tip").click();
    await bench.setParameter("Side on the paper", "0");
    await bench.setParameter("Aspect", "3");
    await page.getByRole("radio", { name: "flat" }).click();
    const tip = page.getByRole("img", { name: /^Tip, / });
    await expect.poll(() => marked(page, /^Tip, /)).toBeGreaterThan(0.1);
    // Drawn to its end: a machine that is busy shows the shape before for a while.
    let [flat, before] = [await marked(page, /^Tip, /), -1];
    while (flat !== before) {
      before = flat;
      await page.waitForTimeout(500);
      flat = await marked(page, /^Tip, /);
    }
    await page.getByRole("radio", { name: "pointed" }).click();
    await expect.poll(() => marked(page, /^Tip, /)).toBeLessThan(0.8 * flat);
    const compass = page.getByRole("slider", { name: "Angle, compass" });
    await compass.focus();
    for (let i = 0; i < 9; i++) await page.keyboard.press("ArrowRight");
    await expect(bench.parameter("Angle")).toHaveValue("45");
    await page.getByRole("button", { name: "Mask", exact: true }).click();
    await page.getByRole("combobox", { name: "Masked by" }).click();
    await page.getByRole("option", { name: "round" }).click();
    await bench.setParameter("Mask size", "0.3");
    await expect.poll(() => marked(page, /^Tip, /)).toBeLessThan(0.3 * flat);
    await bench.setParameter("Angle strays by ±", "30");
    await expect(bench.parameter("Angle strays by ±")).toHaveValue("30");
    for (let i = 0; i < 3; i++) await page.getByRole("button", { name: "Undo" }).click();
    await expect(bench.parameter("Angle strays by ±")).toHaveValue("0");
    await expect(page.getByRole("combobox", { name: "Masked by" })).toHaveText(/nothing/);
    await expect(tip).toBeVisible();
  });

  await test.step("images are pasted and dropped onto the shelf, and one that would do harm is refused in words", async () => {
    await bench.station("Tip").click();
    await page.getByRole("radio", { name: "image" }).click();
    const shelf = page.getByRole("list", { name: "Images" }).getByRole("listitem");
    const file = (name: string) => readFileSync(resolve(import.meta.dirname, `../../crates/formats/tests/data/pictures/${name}`));
    const give = (way: "paste" | "drop", name: string, type: string, content = file(name)) => {
      const bytes = Array.from(content);
      return page.getByRole("searchbox", { name: "Find images" }).evaluate(
        (element, [way, name, type, bytes]) => {
          const data = new DataTransfer();
          data.items.add(new File([Uint8Array.from(bytes)], name, { type }));
          const event = way === "paste" ? new ClipboardEvent("paste", { clipboardData: data, bubbles: true }) : new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true });
          element.dispatchEvent(event);
        },
        [way, name, type, bytes] as const,
      );
    };
    await give("paste", "colour.png", "image/png");
    await expect(page.getByRole("status")).toContainText("is on the shelf");
    await expect(shelf).toHaveCount(1);
    await give("drop", "grey.jpg", "image/jpeg");
    await expect(shelf).toHaveCount(2);
    // A header that promises 65,535 pixels a side.
    const huge = file("grey8.png");
    huge.writeUInt32BE(65535, 16);
    huge.writeUInt32BE(65535, 20);
    huge.writeUInt32BE(crc32(huge.subarray(12, 29)), 29);
    await give("drop", "huge.png", "image/png", huge);
    await expect(page.getByRole("status")).toContainText(/4096/);
    await expect(shelf).toHaveCount(2);
  });
});

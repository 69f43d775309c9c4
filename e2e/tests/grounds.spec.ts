/** The Grounds screen: made, measured, filled from both sides, brought in, chosen for a tool, and always back again. */

import { resolve } from "node:path";
import type { Page } from "@playwright/test";
import { expect, railOf, test } from "../bench";

interface Ground {
  id: string;
  name: string;
  version: number;
  recipe: { surface: string; image?: string; numbers: Record<string, number> };
}

async function groundsScreen(page: Page) {
  await page.getByRole("link", { name: "Grounds", exact: true }).click();
  await expect(page.getByRole("list", { name: "Grounds" }).getByRole("listitem")).toHaveCount(10);
}
const choose = (page: Page, name: RegExp) => page.getByRole("list", { name: "Grounds" }).getByRole("button", { name }).click();
const controls = (page: Page) => page.getByRole("region", { name: "Controls" });
const figure = async (page: Page, name: string) => {
  const text = await page.getByTestId("ground-figures").innerText();
  return Number(new RegExp(`^${name}\\n([-\\d.]+)`, "m").exec(text)?.[1]);
};
/** Levels of the picture's pixels: how far they spread, and the share that is much redder than blue. */
const pictured = (page: Page, name: RegExp) =>
  page.getByRole("img", { name }).evaluate((element) => {
    const c = element as HTMLCanvasElement;
    const data = c.getContext("2d")?.getImageData(0, 0, c.width, c.height).data ?? new Uint8ClampedArray();
    let [sum, squares, red, dark] = [0, 0, 0, 0];
    for (let i = 0; i < data.length; i += 4) {
      const [r, g, b] = [data[i] ?? 0, data[i + 1] ?? 0, data[i + 2] ?? 0];
      sum += g;
      squares += g * g;
      if (r > b + 60) red++;
      else if (g < 130) dark++;
    }
    const n = data.length / 4;
    return { spread: Math.sqrt(squares / n - (sum / n) ** 2), red: red / n, dark: dark / n };
  });

// No strip is laid that no test here looks at.
test.use({ start: "/grounds" });

test("a ground is made from physical numbers, measured, kept, and put under a tool", async ({ bench, page }) => {
  await groundsScreen(page);
  await choose(page, /^Linen/);
  await expect.poll(() => figure(page, "Sa")).toBeCloseTo(27.1, 0);
  const rough = controls(page).getByRole("textbox", { name: "Roughness Sa", exact: true });
  await rough.fill("12");
  await rough.press("Enter");
  await expect.poll(() => figure(page, "Sa")).toBeCloseTo(12, 0);
  // A drag is one step, and is over when the pointer lets go: then it is measured.
  const slider = controls(page).getByRole("slider", { name: "Roughness Sa, slider" });
  const box = await railOf(slider);
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.8, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect.poll(() => figure(page, "Sa")).toBeGreaterThan(20);
  await expect(page.getByTestId("ground-figures")).toHaveAttribute("aria-busy", "false");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(() => figure(page, "Sa")).toBeCloseTo(12, 0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(() => figure(page, "Sa")).toBeCloseTo(27.1, 0);
  await page.getByRole("button", { name: "Redo" }).click();
  // Choosing another drops nothing that is not kept yet, nor does a reload.
  await choose(page, /^Rough/);
  await expect(page.getByRole("button", { name: /^Linen.*changed, not kept/ })).toBeVisible();
  await page.reload();
  await choose(page, /^Linen/);
  await expect.poll(() => figure(page, "Sa")).toBeCloseTo(12, 0);
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect.poll(async () => (await bench.ask<Ground[]>("/grounds")).find((g) => g.name.startsWith("Linen"))).toMatchObject({ version: 2, recipe: { numbers: { sa_um: 12 } } });
  // Out of its limits: said by name, and nothing is changed.
  await rough.fill("500");
  await rough.press("Enter");
  await expect(page.getByRole("alert")).toContainText("Roughness Sa: a number from 2 to 60");
  await rough.press("Escape");
  await expect(page.getByRole("alert")).toHaveCount(0);

  await page.getByRole("button", { name: /^Try .* on it$/ }).click();
  await page.getByRole("link", { name: "Bench", exact: true }).click();
  await bench.settled();
  await bench.station("Ground").click();
  await expect(page.getByRole("combobox", { name: "Ground", exact: true })).toHaveText(/Linen, clear sized/);
  await expect.poll(async () => Number(/Sa ([\d.]+)/.exec(await page.getByTestId("texture").innerText())?.[1])).toBeCloseTo(12, 0);
});

test("raking light shows the tooth, and peaks and hollows fill each other's gaps", async ({ bench: _, page }) => {
  await groundsScreen(page);
  const spread = async () => (await pictured(page, /^The ground under light/)).spread;
  await choose(page, /^Rough/);
  await expect.poll(() => figure(page, "Sa")).toBeGreaterThan(20);
  // Its picture may come after its figures: the cold-pressed one that was there before spreads by 7.6.
  await expect.poll(spread).toBeGreaterThan(10);
  const near = await spread();
  await choose(page, /^Hot-pressed/);
  await expect.poll(spread).toBeLessThan(near / 4);
  await choose(page, /^Rough/);
  await expect.poll(spread).toBeCloseTo(near, 3);
  // From 2 m away most of it is gone.
  await page.getByRole("combobox", { name: "Shown" }).click();
  await page.getByRole("option", { name: "from 2 m away" }).click();
  await expect.poll(spread).toBeLessThan(0.6 * near);
  await page.getByRole("combobox", { name: "Shown" }).click();
  await page.getByRole("option", { name: "close up" }).click();

  await page.getByRole("button", { name: "Peaks, then hollows" }).click();
  await expect.poll(async () => (await pictured(page, /^Peaks filled/)).red, { timeout: 20_000 }).toBeGreaterThan(0.15);
  const filled = await page.getByRole("img", { name: /^Peaks filled/ }).evaluate((element) => {
    // A window where both passes went, away from the edges of their strokes.
    const c = element as HTMLCanvasElement;
    const data = c.getContext("2d")?.getImageData(Math.round(c.width * 0.42), 50, Math.round(c.width * 0.16), 45).data ?? new Uint8ClampedArray();
    let bare = 0;
    for (let i = 0; i < data.length; i += 4) if ((data[i + 2] ?? 0) > 190) bare++;
    return bare / (data.length / 4);
  });
  expect(filled, "bare between peaks and hollows").toBeLessThan(0.03);
});

test("a height map is brought in, tiles, and is refused when it would do harm", async ({ bench, page }) => {
  await groundsScreen(page);
  const data = (name: string) => resolve(import.meta.dirname, `../../crates/formats/tests/data/${name}`);
  const file = page.getByLabel("Height map (PNG, JPEG, WebP)");
  await file.setInputFiles(data("pictures/animated.png"));
  await expect(page.getByRole("alert")).toContainText("animation");
  await page.getByRole("button", { name: "Close" }).click();
  await file.setInputFiles(data("maps/map_p2_gaussian_field.png"));
  await expect(page.getByText("256 × 256 pixels were taken in").first()).toBeVisible();
  await expect(controls(page).getByRole("textbox", { name: "Name" })).toHaveValue("map_p2_gaussian_field");
  const depth = controls(page).getByRole("textbox", { name: "Depth", exact: true });
  await depth.fill("70");
  await depth.press("Enter");
  // The map's own Sa at 70 µm over all its levels is 7.2 µm (its data sheet); fine roughness and the join add a little.
  await expect.poll(async () => Math.abs((await figure(page, "Sa")) - 7.55)).toBeLessThan(1.05);
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  const made = async () => (await bench.ask<Ground[]>("/grounds")).find((g) => g.recipe.surface === "image");
  await expect.poll(made).toMatchObject({ recipe: { numbers: { depth_um: 70 } } });
  await page.getByRole("button", { name: "Take away" }).click();
  await expect.poll(made).toBeUndefined();
  await page.getByRole("button", { name: "Bring back" }).last().click();
  await expect.poll(made).toMatchObject({ recipe: { numbers: { depth_um: 70 } } });
});

/** The stations: every number of a tool has its row, and sticks and films do what they say. */

import type { Locator } from "@playwright/test";
import { expect, test, type Bench } from "../bench";

interface Tool {
  kept: { document: { medium: string; parameters: Record<string, unknown> } };
}

/** Mean level of a strip's pixels, 0..255 in red, green and blue. */
const tone = (strip: Locator) =>
  strip.evaluate((element) => {
    const c = element as HTMLCanvasElement;
    const data = c.getContext("2d")?.getImageData(0, 0, c.width, c.height).data ?? new Uint8ClampedArray();
    const sums = [0, 0, 0];
    for (let i = 0; i < data.length; i++) if (i % 4 < 3) sums[i % 4] = (sums[i % 4] ?? 0) + (data[i] ?? 0);
    return sums.map((s) => s / (data.length / 4));
  });

const choose = async (bench: Bench, label: string, option: RegExp) => {
  await bench.controls.getByRole("combobox", { name: label, exact: true }).click();
  await bench.page.getByRole("option", { name: option }).click();
};

test("stations hold every number, sticks and films do what they say", async ({ bench, page }) => {
  await test.step("every number of a tool has a row on some station", async () => {
    const tools = await bench.tools<Tool>();
    const wanted = Object.keys(tools.find((t) => t.kept.document.medium === "dry")?.kept.document.parameters ?? {});
    expect(wanted.length).toBeGreaterThan(60);
    const rows = new Set<string>(["tip.shape"]);
    const look = async () => {
      for (const id of await page.locator("[data-parameter]").evaluateAll((all) => all.map((e) => e.getAttribute("data-parameter") ?? ""))) rows.add(id);
    };
    for (const station of ["Touch", "Tip", "Load", "Ground"]) {
      await bench.station(station).click();
      if (station === "Tip") {
        for (const group of ["Image", "Specks", "Grain image", "Mask"]) {
          const open = bench.controls.getByRole("button", { name: new RegExp(`${group}$`), expanded: false });
          if ((await open.count()) > 0) await open.click();
          await expect(bench.controls.getByRole("region", { name: group }).locator("[data-parameter]").first()).toBeVisible();
        }
      }
      await look();
    }
    // What moves powder has other rows at Mix.
    await bench.choose("Finger");
    await bench.station("Mix").click();
    await expect(bench.controls.locator("[data-parameter]").first()).toBeVisible();
    await look();
    expect(wanted.filter((id) => !rows.has(id))).toEqual([]);
    await bench.choose(/^Vine charcoal, side/);
  });

  await test.step("a stick is taken with its own nature, and a film is laid by the mode that was chosen", async () => {
    const strip = bench.strip("Scrub", "draft");
    const vine = await tone(strip);
    await bench.station("Load").click();
    await choose(bench, "Stick", /pastel, umber/);
    await bench.controls.getByRole("button", { name: "Take the stick's own" }).click();
    await expect(bench.controls).toContainText("as this stick is by nature");
    await bench.settled();
    const umber = await tone(strip);
    expect((umber[0] ?? 0) - (umber[2] ?? 0), "umber is warmer than charcoal").toBeGreaterThan((vine[0] ?? 0) - (vine[2] ?? 0) + 10);

    // Powder first: a film needs the ground as an image, and the row says so.
    await expect(bench.controls.locator("[data-parameter='load.film']")).toContainText("Does not act");
    await bench.station("Ground").click();
    await choose(bench, "Ground enters", /^multiplied/);
    await bench.setParameter("Depth", "0");
    await bench.station("Load").click();
    await expect(bench.controls.locator("[data-parameter='load.film']")).not.toContainText("Does not act");
    await choose(bench, "Laid as", /multiply$/);
    await bench.settled();
    const multiplied = await tone(strip);
    const shown = await bench.shown(strip);
    await choose(bench, "Laid as", /screen$/);
    await bench.settled();
    const screened = await tone(strip);
    // Over white paper multiplying darkens, and screening leaves hardly a mark.
    expect((screened[2] ?? 0) - (multiplied[2] ?? 0)).toBeGreaterThan(20);
    await page.keyboard.press("Control+z");
    await bench.settled();
    await expect.poll(() => bench.shown(strip)).toEqual(shown);
  });
});

/** Gestures in and out as InkML, finding things by typing, and what the browser remembers. */

import { readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, test } from "../bench";
import { repository } from "../server";

const file = (name: string, text: string) => ({ name, mimeType: "application/inkml+xml", buffer: Buffer.from(text) });

test("what is typed and brought in is taken or refused in words, and anything is found", async ({ bench, page }) => {
  await test.step("a number out of range is refused with its limits and changes nothing", async () => {
    await bench.station("Tip").click();
    const side = bench.parameter("Side on the paper");
    for (const wrong of ["61", "-1", "wide", ""]) {
      await side.fill(wrong);
      await side.press("Enter");
      await expect(page.getByRole("alert")).toContainText("Side on the paper: a number from 0 to 60");
      await expect(side).toHaveAttribute("aria-invalid", "true");
      await side.press("Escape");
      await expect(side).toHaveValue("9.0");
    }
    await expect(bench.status).toContainText("as kept in v1");
  });

  await test.step("gestures come in, go out and come off the proof sheet", async () => {
    await bench.station("Hand").click();
    const input = page.getByLabel("InkML file");
    const ink = readFileSync(join(repository, "demo/gestures/flicks.inkml"), "utf8");
    await input.setInputFiles(file("Brisk flicks.inkml", ink));
    await expect(bench.strip("Brisk flicks", "draft")).toBeVisible();

    // What is refused says what and why, and the proof sheet stays as it is.
    const refused: [string, string, RegExp][] = [
      ["Cut off", ink.slice(0, 2000), /cut off/],
      ["Bomb", '<!DOCTYPE ink [<!ENTITY a "aaaa">]><ink><trace>&a;</trace></ink>', /document type/],
      ["No place", '<ink><context><traceFormat><channel name="X"/></traceFormat></context><trace>1,2</trace></ink>', /Y: the trace has no such channel/],
      ["Brisk flicks", ink, /already in use/],
    ];
    for (const [name, text, message] of refused) {
      await input.setInputFiles(file(`${name}.inkml`, text));
      await expect(page.getByRole("alert")).toContainText(message);
      await page.getByRole("alert").getByRole("button", { name: "Close" }).click();
    }
    await expect(page.locator("[data-gesture]")).toHaveCount(4);

    const [download] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("link", { name: "Save Brisk flicks as InkML" }).click(),
    ]);
    expect(download.suggestedFilename()).toBe("Brisk-flicks.inkml");
    expect(readFileSync(await download.path(), "utf8")).toBe(ink);

    await page.getByRole("button", { name: "Take Brisk flicks off the proof sheet" }).click();
    await expect(page.locator("[data-gesture]")).toHaveCount(3);
    await page.getByRole("button", { name: "Bring back" }).click();
    await expect(bench.strip("Brisk flicks", "draft")).toBeVisible();
  });

  await test.step("anything is found by typing, and the theme is remembered", async () => {
    const choose = async (text: string) => {
      await page.keyboard.press("Control+k");
      await page.keyboard.type(text);
      await page.keyboard.press("Enter");
    };
    await choose("Sanguine");
    await expect(page.getByRole("combobox", { name: "Tool" })).toContainText("Sanguine");
    await choose("Scrub");
    await expect(page.getByRole("button", { name: /^Scrub/ })).toHaveAttribute("aria-pressed", "true");
    await choose("Edge hardness");
    await expect(bench.parameter("Edge hardness")).toBeVisible();
    await choose("Dark theme");
    await page.reload();
    await bench.settled();
    await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
    // The tool that was on the bench is on it again.
    await expect(page.getByRole("combobox", { name: "Tool" })).toContainText("Sanguine");
  });
});

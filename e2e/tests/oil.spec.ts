/** A painter loads a brush: mixes its paint from pigments, sees the strips follow, lays them on wet paint, and keeps the tool. */

import { expect, Pen, test } from "../bench";
import { looker } from "../axe";

test("a brush is loaded with a mixture, laid over wet paint, and kept", async ({ bench, page }) => {
  await bench.choose(/^Hog round 10 mm/);
  const draft = bench.strip("Slow pull", "draft");
  const blue = await bench.shown(draft);
  expect(blue).toEqual(await bench.shown(bench.strip("Slow pull", "kept")));

  // Three pigments to begin with; one more, and less of another.
  await bench.station("Load").click();
  const paint = page.getByRole("group", { name: "Paint", exact: true });
  await expect(paint.getByRole("textbox")).toHaveCount(3);
  await expect(paint.getByRole("img", { name: /^How Paint looks/ })).toBeVisible();
  await paint.getByRole("combobox", { name: "Add a pigment to Paint" }).click();
  await page.getByRole("option", { name: /^Cadmium orange/ }).click();
  await expect(paint.getByRole("textbox")).toHaveCount(4);
  await expect.poll(() => bench.shown(draft)).not.toEqual(blue);
  const parts = paint.getByRole("textbox", { name: "Paint: parts of Cadmium orange" });
  await parts.fill("5000");
  await parts.press("Enter");
  await expect(page.getByRole("alert")).toContainText("0 to 1000");
  await parts.fill("6");
  await parts.press("Enter");
  await paint.getByRole("button", { name: "Take Ultramarine blue out of Paint" }).click();
  await expect(paint.getByRole("textbox")).toHaveCount(3);
  await expect(bench.status).toContainText("draft of v1, 1 change");
  await looker(page)("controls", "[aria-label=Controls]");

  // The balance of a stroke, and what it lies on.
  await bench.station("Mix").click();
  await expect(page.getByTestId("balance")).toContainText("In the tip now");
  await bench.settled();
  const bare = await bench.shown(draft);
  await page.getByRole("combobox", { name: "Strips lie on" }).click();
  await page.getByRole("option", { name: "three wet stripes" }).click();
  await expect.poll(() => bench.shown(draft)).not.toEqual(bare);

  await bench.keep.click();
  await expect(bench.status).toContainText("as kept in v2");
  const tools = await bench.tools<{ id: string; name: string }>();
  const mine = tools.find((t) => t.name === "Hog round 10 mm");
  const kept = await bench.ask<{ kept: { document: { parameters: Record<string, unknown> } } }>(`/tools/${mine?.id}`);
  expect(kept.kept.document.parameters["load.paint"]).toEqual({ PBr7bu: 1, PO20: 6, PW6: 5 });
});

test("a knife bends nothing, a brush is dipped and washed, and paint dries and is looked at", async ({ bench, page }) => {
  await bench.choose(/^Hog flat 8 mm/);
  const draft = bench.strip("Slow pull", "draft");

  // The tip bends under the gesture that plays; a blade does not.
  await bench.station("Tip").click();
  const live = page.getByTestId("live-tip");
  await expect(live).toContainText(/mm down, \d+ % of the hairs touch/);
  const bent = (await live.locator("polyline").first().getAttribute("points")) ?? "";
  await expect.poll(async () => (await live.locator("polyline").first().getAttribute("points")) ?? "").not.toBe(bent);
  const hairs = await bench.shown(draft);
  await looker(page)("controls", "[aria-label=Controls]");
  await bench.controls.getByRole("combobox", { name: "Ferrule", exact: true }).click();
  await page.getByRole("option", { name: /^blade/ }).click();
  await expect(live).toContainText(/Gap \d+ µm/);
  await expect(bench.controls).toContainText("a blade has no hairs");
  await expect.poll(() => bench.shown(draft)).not.toEqual(hairs);
  await page.keyboard.press("Control+z");
  await expect.poll(() => bench.shown(draft)).toEqual(hairs);

  // How sheets are looked at changes no tool.
  await bench.station("Relief").click();
  await expect(page.getByTestId("section")).toContainText("wet");
  await expect(page.getByTestId("granulation")).toContainText(/× \d\.\d\d/);
  await looker(page)("controls", "[aria-label=Controls]");
  // Any row's stroke is cut, wherever it lies on the paper.
  await draft.click();
  await expect(page.getByTestId("mark-draft")).toBeVisible();
  const marked = await bench.shown(draft);
  await expect(page.getByTestId("section").getByRole("img")).toHaveAccessibleName(/: [1-9]\d* µm of paint at most/);
  await page.getByRole("combobox", { name: "What you see" }).click();
  await page.getByRole("option", { name: "height", exact: true }).click();
  await expect.poll(() => bench.shown(draft)).not.toEqual(marked);
  await page.getByRole("combobox", { name: "What you see" }).click();
  await page.getByRole("option", { name: /^as it is/ }).click();
  await expect.poll(() => bench.shown(draft)).toEqual(marked);
  await page.getByRole("textbox", { name: "Height of light" }).fill("3");
  await page.getByRole("textbox", { name: "Height of light" }).press("Enter");
  await expect(page.getByRole("alert")).toContainText("5 to 90");
  await expect(bench.status).toContainText("as kept in v1");

  // Strips lie on the strokes of another tool.
  await page.getByRole("combobox", { name: "Strips lie on" }).click();
  await page.getByRole("option", { name: "strokes of" }).click();
  await page.getByRole("combobox", { name: "Tool that laid them" }).click();
  await page.getByRole("option", { name: /^Knife, broad/ }).click();
  await bench.settled();
  await expect.poll(() => bench.shown(draft)).not.toEqual(marked);
  await bench.station("Mix").click();
  await expect(page.getByTestId("balance")).toContainText(/of it found0\.0[1-9] mm³/);

  // The brush runs out, is dipped, and gives what it found only while that is wet.
  await page.getByRole("button", { name: "Open", exact: true }).click();
  const held = page.getByTestId("held");
  const share = async () => Number(/(\d+) %/.exec((await held.getAttribute("aria-label")) ?? "")?.[1]);
  await expect.poll(share).toBeGreaterThan(70);
  const full = await share();
  const pen = await Pen.of(page);
  // The tip's outline goes with the pen.
  await pen.hover({ ...(await bench.onPad(0.4, 0.6)), force: 0 });
  await pen.hover({ ...(await bench.onPad(0.45, 0.6)), force: 0 });
  await expect(page.getByTestId("pad").getByTestId("footprint").locator("polygon").first()).toBeVisible();
  const pull = async (y: number) => {
    const places = Array.from({ length: 24 }, (_, i) => bench.onPad(0.1 + (0.7 * i) / 23, y));
    await pen.stroke((await Promise.all(places)).map((p) => ({ ...p, force: 0.5 })));
    await bench.settled();
    // The tip's outline goes with the pen: off the sheet.
    await pen.hover({ ...(await bench.onPad(0.5, -0.2)), force: 0 });
    await expect(page.getByTestId("pad").getByTestId("footprint").locator("polygon")).toHaveCount(0);
  };
  await pull(0.3);
  await expect.poll(share).toBeLessThan(full);
  const given = await bench.shown(bench.pad);
  const act = (name: string) => page.getByRole("button", { name, exact: true });
  await act("Dip").click();
  await expect.poll(share).toBe(full);
  await act("Wipe off").click();
  await expect.poll(share).toBe(0);
  await page.keyboard.press("Control+z");
  await expect.poll(share).toBe(full);
  await act("Dry now").click();
  await expect.poll(() => bench.shown(bench.pad)).not.toEqual(given);
  await act("All wet again").click();
  await expect.poll(() => bench.shown(bench.pad)).toEqual(given);
  // Oil is still open after an hour, and dry after a week.
  const wait = async (time: string) => {
    await page.getByRole("combobox", { name: "Wait" }).click();
    await page.getByRole("option", { name: time }).click();
  };
  await wait("an hour");
  await bench.settled();
  expect(await bench.shown(bench.pad)).toEqual(given);
  await wait("a week");
  await expect.poll(() => bench.shown(bench.pad)).not.toEqual(given);
  await page.getByTestId("pad").getByRole("button", { name: "Close", exact: true }).click();

  // Another medium says first what is lost.
  await page.getByRole("combobox", { name: "Medium" }).click();
  await page.getByRole("option", { name: /^dry/ }).click();
  await expect(page.getByRole("list", { name: "What does not carry over" })).toContainText("Paint");
  await act("Change the medium").click();
  await bench.station("Load").click();
  await expect(bench.controls.getByRole("combobox", { name: "Stick", exact: true })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(bench.status).toContainText("as kept in v1");
});

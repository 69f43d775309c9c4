/** The Gestures screen: recorded, named, changed, ordered, on and off the proof sheet, and always back again. */

import type { Page } from "@playwright/test";
import { Pen, expect, slideTo, test } from "../bench";
import { DEMO_ROWS } from "../server";

test.use({ rows: DEMO_ROWS });

const list = (page: Page) => page.getByRole("list", { name: "Gestures" });
/** The first six. */
const names = async (page: Page) => (await list(page).getByRole("listitem").allInnerTexts()).map((t) => t.split("\n")[0]).slice(0, 6);

async function gesturesScreen(page: Page) {
  await page.getByRole("link", { name: "Gestures", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Gestures", exact: true })).toBeVisible();
}

// No strip is laid that no test here looks at.
test.use({ start: "/gestures" });

const MOORING = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="10mm" viewBox="0 0 600 100">
  <path d="M0 50C100 0 200 100 300 50"/><polyline points="400,0 500,0 500,100"/></svg>`;

test("gestures are changed, ordered, go out together, and always come back", async ({ bench, page }) => {
  await test.step("a gesture is turned, scaled, trimmed and taken away, and each can be brought back", async () => {
    await gesturesScreen(page);
    const inkml = () => bench.wayOf("Press ramp");
    const before = await inkml();
    const one = page.getByRole("region", { name: "Press ramp" });
    await one.getByRole("button", { name: "Reverse" }).click();
    await expect.poll(inkml).not.toEqual(before);
    await page.getByRole("button", { name: "Bring back" }).last().click();
    await expect.poll(inkml).toEqual(before);
    // The page has it back too.
    await expect(page.getByRole("alert")).toHaveCount(0);

    // What was typed is lost where the gesture that was brought back reaches the page only now.
    await expect(async () => {
      await one.getByRole("textbox", { name: "Trim to" }).fill("0.5");
      await one.getByRole("textbox", { name: "Trim to" }).press("Enter");
      await one.getByRole("button", { name: "Trim", exact: true }).click({ timeout: 3000 });
    }).toPass();
    await expect(one.getByTestId("gesture-size")).toContainText("0.50 s, 101 reports");
    await one.getByRole("textbox", { name: "Scale by" }).fill("99");
    await one.getByRole("textbox", { name: "Scale by" }).press("Enter");
    await expect(page.getByRole("alert")).toContainText("a number from 0.05 to 20");

    await one.getByRole("button", { name: "Take away" }).click();
    await expect(list(page).getByRole("listitem")).toHaveCount(18);
    await page.getByRole("button", { name: "Bring back" }).last().click();
    const order = ["Press ramp", "Slow pull", "Flicks", "Hatching", "Scrub", "Lean fan"];
    await expect.poll(() => names(page)).toEqual(order);

    // One history: steps go back and forth, and a gesture that came back is the one that later steps know.
    await page.keyboard.press("Control+z");
    await expect.poll(inkml).toEqual(before);
    await page.getByRole("button", { name: "Redo" }).click();
    await expect(one.getByTestId("gesture-size")).toContainText("0.50 s, 101 reports");
    await page.keyboard.press("Control+Shift+z");
    await expect(list(page).getByRole("listitem")).toHaveCount(18);
    await page.getByRole("button", { name: "Undo" }).click();
    await expect.poll(() => names(page)).toEqual(order);
    await page.getByRole("button", { name: "Undo" }).click();
    await expect.poll(inkml).toEqual(before);
    await page.getByRole("button", { name: "Redo" }).click();
    await expect(one.getByTestId("gesture-size")).toContainText("0.50 s, 101 reports");
    await expect(page.getByRole("button", { name: "Undo" })).toHaveAttribute("aria-description", /^Press ramp was trimmed\. /);
  });

  await test.step("order and choice of the proof sheet are the painter's", async () => {
    await gesturesScreen(page);
    await page.getByRole("button", { name: "Move Slow pull up" }).click();
    await expect.poll(() => names(page)).toEqual(["Slow pull", "Press ramp", "Flicks", "Hatching", "Scrub", "Lean fan"]);
    await page.getByRole("switch", { name: "Hatching on the proof sheet" }).click();
    await expect(page.getByRole("main")).toContainText("5 of 19 on the proof sheet");
    await page.getByRole("link", { name: "Bench", exact: true }).click();
    await bench.settled();
    await expect(bench.strip("Hatching", "draft")).toHaveCount(0);
    const tops = await Promise.all(["Slow pull", "Press ramp"].map(async (g) => (await bench.strip(g, "draft").boundingBox())?.y ?? NaN));
    expect(tops[0]).toBeLessThan(Number(tops[1]));
  });

  await test.step("all gestures go out in one file and come back under their names", async () => {
    await gesturesScreen(page);
    const download = page.waitForEvent("download");
    await page.getByRole("button", { name: "Save all" }).click();
    const file = await (await download).path();
    const before = await bench.ask<{ name: string; content_hash: string }[]>("/gestures");
    await page.getByRole("searchbox", { name: "Find gestures" }).fill("ramp");
    await expect(page.getByRole("button", { name: "Save these 1" })).toBeVisible();
    await page.getByRole("searchbox", { name: "Find gestures" }).fill("");
    await page.getByLabel("InkML files").setInputFiles(file);
    await expect(list(page).getByRole("listitem")).toHaveCount(38);
    const after = await bench.ask<typeof before>("/gestures");
    for (const g of before) expect(after.find((a) => a.name === `${g.name}, 2`)?.content_hash).toEqual(g.content_hash);
  });
});

test("gestures come in: by a pen, by numbers, out of a drawing, by a mouse with stand-ins", async ({ bench, page }) => {
  await test.step("a gesture is recorded with a pen, named, tagged and found, and joins the proof sheet", async () => {
    await gesturesScreen(page);
    const box = await page.getByRole("img", { name: /^Recording sheet/ }).boundingBox();
    if (!box) throw new Error("there is no recording sheet");
    const pen = await Pen.of(page);
    await pen.stroke(Array.from({ length: 30 }, (_, i) => ({ x: box.x + 60 + 8 * i, y: box.y + 60 + 20 * Math.sin(i / 5), force: 0.2 + 0.02 * i, tiltX: 20, tiltY: 10 })));
    await page.getByRole("textbox", { name: "Name of the recorded gesture" }).fill("Reed bend");
    await page.getByRole("button", { name: "Keep gesture" }).click();
    await expect(list(page).getByRole("listitem")).toHaveCount(20);
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

  await test.step("a gesture is generated by its numbers", async () => {
    await gesturesScreen(page);
    await page.getByRole("button", { name: "Generate…" }).click();
    const dialog = page.getByRole("dialog", { name: "Generate a gesture" });
    await dialog.getByRole("combobox", { name: "Way" }).click();
    await page.getByRole("option", { name: "zigzag" }).click();
    for (const [label, value] of [["Length", "64"], ["Mean speed", "64"], ["Force in the middle", "300"]] as const) {
      await dialog.getByRole("textbox", { name: label }).fill(value);
      await dialog.getByRole("textbox", { name: label }).press("Enter");
    }
    await dialog.getByRole("textbox", { name: "Name" }).fill("Mud zigzag");
    await dialog.getByRole("button", { name: "Keep gesture" }).click();
    await list(page).getByRole("button", { name: /^Mud zigzag/ }).click();
    // 64 mm at 64 mm/s, 200 reports a second.
    await expect(page.getByTestId("gesture-size")).toContainText("1.00 s, 201 reports");
    const made = await bench.wayOf("Mud zigzag");
    const forces = [...made.matchAll(/[,>]\S+ \S+ (\S+) /g)].map((m) => 4 + 396 * Number(m[1]));
    expect(Math.abs(Math.max(...forces) - 300)).toBeLessThan(2);
  });

  await test.step("the outlines of a drawing are stroked, and a harmful one is refused in words", async () => {
    await gesturesScreen(page);
    await page.getByRole("button", { name: "Generate…" }).click();
    const dialog = page.getByRole("dialog", { name: "Generate a gesture" });
    const give = (name: string, text: string) => dialog.getByLabel("SVG file").setInputFiles({ name, mimeType: "image/svg+xml", buffer: Buffer.from(text) });
    await give("bomb.svg", `<!DOCTYPE svg [<!ENTITY a "&a;&a;">]><svg><path d="&a;"/></svg>`);
    await expect(dialog.getByRole("alert")).toContainText("bomb.svg: svg has a document type");
    await give("Mooring.svg", MOORING);
    await expect(dialog.getByRole("combobox", { name: "Way" })).toContainText("Mooring.svg");
    await expect(dialog.getByRole("textbox", { name: "Name" })).toHaveValue("Mooring");
    // 20 mm of polyline and a curve that is a little longer than its 30 mm, as large as they were drawn.
    const length = Number(await dialog.getByRole("textbox", { name: "Length" }).inputValue());
    expect(length).toBeGreaterThan(50.5);
    expect(length).toBeLessThan(54);
    await dialog.getByRole("button", { name: "Keep gesture" }).click();
    await expect(list(page).getByRole("button", { name: /^Mooring/ })).toBeVisible();
    expect((await bench.wayOf("Mooring")).match(/<trace /g)).toHaveLength(2);
  });

  await test.step("a mouse tapers its strokes, leans by a dial, and eases off with speed", async () => {
    await gesturesScreen(page);
    await page.getByRole("button", { name: "Stand-ins for force, tilt, lean and barrel" }).click();
    const dial = page.getByRole("slider", { name: "Stand-in lean" });
    const round = await dial.boundingBox();
    if (!round) throw new Error("there is no dial");
    // Towards the painter, more than half of the way out.
    await page.mouse.click(round.x + round.width / 2, round.y + round.height * 0.8);
    await expect(dial).toHaveAttribute("aria-valuenow", "90");
    await dial.press("ArrowRight");
    await expect(dial).toHaveAttribute("aria-valuetext", /leans 95°/);
    await slideTo(page.getByRole("slider", { name: "Stand-in taper in" }), 12);
    await slideTo(page.getByRole("slider", { name: "Stand-in taper out" }), 20);
    await page.keyboard.press("Escape");
    const draw = async (name: string, steps: number) => {
      const box = await page.getByRole("img", { name: /^Recording sheet/ }).boundingBox();
      if (!box) throw new Error("there is no recording sheet");
      await page.mouse.move(box.x + 40, box.y + 60);
      await page.mouse.down();
      await page.mouse.move(box.x + 440, box.y + 60, { steps });
      await page.mouse.up();
      await page.getByRole("textbox", { name: "Name of the recorded gesture" }).fill(name);
      await page.getByRole("button", { name: "Keep gesture" }).click();
      await expect(list(page).getByRole("button", { name: new RegExp(`^${name}`) })).toBeVisible();
      const made = (await bench.ask<{ name: string; stylus: { name: string } | null }[]>("/gestures")).find((g) => g.name === name);
      expect(made?.stylus?.name).toEqual("Plain pen");
      return [...(await bench.wayOf(name)).matchAll(/[,>](\S+) \S+ (\S+) (\S+) (\S+)/g)].map((m) => m.slice(1).map(Number) as [number, number, number, number]);
    };
    const tapered = await draw("Tapered", 80);
    const start = tapered[0]?.[0] ?? 0;
    const end = tapered.at(-1)?.[0] ?? 0;
    const force = (mm: number) => tapered.reduce((best, s) => (Math.abs(s[0] - start - mm) < Math.abs(best[0] - start - mm) ? s : best))[1];
    expect(end - start).toBeCloseTo(80, 0);
    expect(force(0)).toBeLessThan(0.01);
    expect(force(6) / 0.35).toBeCloseTo(0.5, 1);
    for (const mm of [14, 40, 58]) expect(force(mm)).toBeCloseTo(0.35, 5);
    expect(force(70) / 0.35).toBeCloseTo(0.5, 1);
    expect(force(80)).toBeLessThan(0.01);
    // Leans towards the painter, a little to the left.
    const [, , tiltX, tiltY] = tapered[40] ?? [0, 0, 0, 0];
    expect(tiltY).toBeGreaterThan(30);
    expect(tiltX).toBeLessThan(0);

    await page.getByRole("button", { name: "Stand-ins for force, tilt, lean and barrel" }).click();
    await slideTo(page.getByRole("slider", { name: "Stand-in taper in" }), 0);
    await slideTo(page.getByRole("slider", { name: "Stand-in taper out" }), 0);
    await page.getByRole("combobox", { name: "What speed does to the stand-in force" }).click();
    await page.getByRole("option", { name: "lighter when fast" }).click();
    await page.keyboard.press("Escape");
    const eased = (await draw("Eased", 12)).map((s) => s[1]);
    expect(eased[0]).toBeCloseTo(0.35, 5);
    expect(Math.min(...eased)).toBeLessThan(0.3);
  });
});

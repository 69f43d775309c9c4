/** A painter lays watercolour: it goes on after the hand lifts, dries, and is loaded stronger. */

import { expect, Pen, test } from "../bench";
import { looker } from "../axe";
import { DEMO_ROWS } from "../server";

test.use({ rows: DEMO_ROWS });

test("a wash moves while the hand rests, dries, and follows what it is loaded with", async ({ bench, page }) => {
  await bench.choose("Mop");
  // The strips are there at once, and come again as they dry.
  await expect(page.getByTestId("drying")).toBeVisible();
  // Which row is the last to dry depends on how they are shared out.
  const draft = bench.strip("Lean fan", "draft");
  const drafts = () => Promise.all(["Press ramp", "Slow pull", "Flicks", "Hatching", "Scrub", "Lean fan"].map((row) => bench.shown(bench.strip(row, "draft"))));
  const laid = await drafts();
  await expect.poll(drafts, { timeout: 60_000 }).not.toEqual(laid);

  // Strokes tell of their water, while strips still dry.
  await draft.click();
  await expect(page.getByText(/brings \d+ µm of water/).first()).toBeVisible();

  await bench.station("Load").click();
  const before = await bench.shown(bench.strip("Lean fan", "kept"));
  await bench.setParameter("Paint to water", "0.2");
  await bench.settled();
  await expect.poll(() => bench.shown(draft)).not.toEqual(before);
  await bench.setParameter("Water", "700");
  await expect(page.getByRole("alert")).toContainText("0 to 600");
  await page.keyboard.press("Escape");
  // The board is tilted, and all is laid anew: what was laid on a level one lay otherwise.
  await bench.settled();
  const level = await bench.shown(bench.strip("Press ramp", "kept"));
  await page.getByRole("button", { name: "Room and board" }).click();
  const tilt = page.getByRole("textbox", { name: "Board tilted" });
  await tilt.fill("90");
  await tilt.press("Enter");
  await expect(page.getByRole("alert")).toContainText("0 to 75");
  await tilt.fill("35");
  await tilt.press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Room and board" })).toContainText("tilted 35°");
  await bench.settled();
  await expect.poll(() => bench.shown(bench.strip("Press ramp", "kept"))).not.toEqual(level);
  for (const station of ["Tip", "Load", "Mix", "Ground"]) {
    await bench.station(station).click();
    await looker(page)(station, "[aria-label=Controls]");
  }
  // Across the stroke it is told how far paint has settled into hollows, in a lower row too.
  await bench.station("Relief").click();
  await expect(page.getByTestId("granulation")).toContainText(/× \d\.\d\d/);

  // On the free row water goes on by itself: nothing is touched, and the picture changes.
  const pen = await Pen.of(page);
  const box = await bench.pad.boundingBox();
  if (!box) throw new Error("no free row");
  const y = box.y + box.height / 2;
  await pen.stroke(Array.from({ length: 20 }, (_, i) => ({ x: box.x + 40 + 8 * i, y, force: 0.6 })));
  await bench.settled();
  const wet = await bench.shown(bench.pad);
  await expect.poll(() => bench.shown(bench.pad)).not.toEqual(wet);
});

test("strips are looked at while they are wet, time over the free row stands still and is stepped, a nib draws", async ({ bench, page }) => {
  test.setTimeout(180_000);
  await bench.choose("Brush pen");
  const clock = page.getByRole("button", { name: "Clock over the sheet" });
  await expect(clock).toContainText("dry");
  await clock.click();
  await page.getByRole("radio", { name: "so long after the hand:" }).click();
  await page.getByRole("slider", { name: "Seconds after the hand" }).press("End");
  await expect(clock).toContainText("at 240 s");
  const seconds = page.getByRole("textbox", { name: "Seconds after the hand, number" });
  await seconds.fill("0");
  await seconds.press("Enter");
  await expect(clock).toContainText("at 0 s");
  await expect(page.getByText("What is tuned on the wet looks otherwise")).toBeVisible();
  await page.getByRole("radio", { name: "stands still" }).click();
  await looker(page)("clock", "[aria-label='Clock over the sheet']");
  await page.keyboard.press("Escape");
  await bench.settled();
  // Nothing dries: it is as the hand left it.
  await expect(page.getByTestId("drying")).toBeHidden();
  const draft = bench.strip("Press ramp", "draft");
  const wet = await bench.shown(draft);

  // A row whose clock stands still stays as it is until it is stepped.
  const pen = await Pen.of(page);
  const box = await bench.pad.boundingBox();
  if (!box) throw new Error("no free row");
  const y = box.y + box.height / 2;
  await pen.stroke(Array.from({ length: 20 }, (_, i) => ({ x: box.x + 40 + 8 * i, y, force: 0.6 })));
  await bench.settled();
  const standsStill = async () => {
    const before = await bench.shown(bench.pad);
    await page.waitForTimeout(500);
    return (await bench.shown(bench.pad)) === before;
  };
  await expect.poll(standsStill).toBe(true);
  const still = await bench.shown(bench.pad);
  await clock.click();
  const step = page.getByRole("button", { name: "Let 0.25 s go by" });
  for (let i = 0; i < 8; i++) await step.click();
  await page.keyboard.press("Escape");
  await expect.poll(() => bench.shown(bench.pad)).not.toEqual(still);
  // And stands again.
  await expect.poll(standsStill).toBe(true);
  await clock.click();
  await page.getByRole("radio", { name: "once they are dry" }).click();
  await page.keyboard.press("Escape");
  await expect.poll(() => bench.shown(draft)).not.toEqual(wet);

  // Strokes over wet paper, between which time goes as far as the machine lets it: opened anew, the row dries to the same picture.
  const goes = async (how: string) => {
    await clock.click();
    await page.getByRole("radio", { name: how }).click();
    await page.keyboard.press("Escape");
  };
  await goes("as on the wall");
  await pen.stroke(Array.from({ length: 60 }, (_, i) => ({ x: box.x + 30 + 3 * i, y: y + 14 * Math.sin(i), force: 0.7 })));
  await page.waitForTimeout(300);
  await pen.stroke(Array.from({ length: 40 }, (_, i) => ({ x: box.x + 200 - 4 * i, y: y + 8 * Math.cos(i), force: 0.5 })));
  await goes("as fast as it goes");
  await bench.settled();
  await expect.poll(standsStill).toBe(true);
  const dried = await bench.shown(bench.pad);
  await page.reload();
  await bench.settled();
  await goes("as fast as it goes");
  await expect.poll(() => bench.shown(bench.pad)).toEqual(dried);

  // The line is the nib's: its parameters say why.
  await bench.choose("Pointed nib");
  await bench.station("Tip").click();
  await bench.setParameter("Opens", "60");
  await expect(page.getByRole("alert")).toContainText("0 to 40");
  await page.keyboard.press("Escape");
  await bench.strip("Press ramp", "draft").click();
  await expect(page.getByText(/brings \d+ µm of ink/).first()).toBeVisible();

  // A ground is measured with it too, though it stands on no peaks.
  await page.getByRole("link", { name: "Grounds", exact: true }).click();
  await expect(page.getByTestId("ground-figures")).toHaveAttribute("aria-busy", "false");
});

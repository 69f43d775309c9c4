/** A painter tunes a stick: bends the curve, sees the same hand with both tools, keeps it, and finds it again. */

import { expect, test } from "../bench";
import { DEMO_ROWS } from "../server";

test.use({ rows: DEMO_ROWS });

test("a tool is kept, and found again after reload and restart", async ({ bench, page, studio }) => {
  await bench.station("Tip").click();
  await bench.setParameter("Width", "3.1");
  // Where a response decides, the row says so instead of doing nothing.
  await expect(bench.controls.locator("[data-parameter='tip.width_mm']")).toContainText("pressure gives it");
  await bench.setParameter("Side on the paper", "14");
  await expect(bench.status).toContainText("2 changes");
  await expect(bench.controls.getByRole("button", { name: "Put Side on the paper back to 9" })).toBeVisible();
  await expect(bench.saving).toHaveText("saved");

  await page.reload();
  await bench.settled();
  await expect(bench.status).toContainText("draft of v1, 2 changes");
  await bench.station("Tip").click();
  await expect(bench.parameter("Side on the paper")).toHaveValue("14.0");

  await bench.keep.click();
  await expect(bench.status).toContainText("as kept in v2");
  await bench.setParameter("Side on the paper", "4");
  await page.getByRole("button", { name: "Put back" }).click();
  await expect(bench.parameter("Side on the paper")).toHaveValue("14.0");

  await page.getByRole("button", { name: "Keep as new…" }).click();
  await page.getByRole("dialog").getByRole("textbox", { name: "Name" }).fill("Mudflat block");
  await page.getByRole("dialog").getByRole("button", { name: "Keep v1" }).click();
  await expect(page.getByRole("combobox", { name: "Tool" })).toContainText("Mudflat block");

  await studio.stop();
  await studio.start();
  await page.goto(studio.url);
  await bench.settled();
  await expect(page.getByRole("combobox", { name: "Tool" })).toContainText("Mudflat block");
  await page.getByRole("combobox", { name: "Tool" }).click();
  await page.getByRole("option", { name: "Vine charcoal, side of stick" }).click();
  await expect(bench.status).toContainText("as kept in v2");
});

test("what is tuned is seen at once", async ({ bench, page }) => {
  await test.step("a newer change takes the place of an unfinished re-run", async () => {
    await bench.station("Load").click();
    const kept = await bench.shown(bench.strip("Scrub", "kept"));
    for (const value of ["20", "40", "60", "80", "120", "16"]) await bench.setParameter("Hardness", value);
    // The last change is back to what is kept: whatever was under way, the strokes end as the kept ones.
    await expect.poll(() => bench.shown(bench.strip("Scrub", "draft"))).toEqual(kept);
    await bench.setParameter("Hardness", "200");
    await expect.poll(() => bench.shown(bench.strip("Scrub", "draft"))).not.toEqual(kept);
    await page.keyboard.press("Control+z");
    await expect.poll(() => bench.shown(bench.strip("Scrub", "draft"))).toEqual(kept);
  });

  await test.step("the Bench shows ribbon, controls, proof sheet and trace at once", async () => {
    const stations = page.getByRole("navigation", { name: "Stations" }).getByRole("button");
    await expect(stations).toHaveCount(7);
    for (const gesture of ["Press ramp", "Slow pull", "Flicks", "Hatching", "Scrub", "Lean fan"]) {
      await expect(bench.strip(gesture, "kept")).toBeInViewport({ ratio: 1 });
      await expect(bench.strip(gesture, "draft")).toBeInViewport({ ratio: 1 });
    }
    await expect(bench.pad).toBeInViewport({ ratio: 1 });
    await expect(page.getByTestId("trace")).toBeInViewport({ ratio: 1 });
    await expect(page.getByTestId("reason")).toContainText("%");
    for (const width of [1280, 1100]) {
      await page.setViewportSize({ width, height: 800 });
      const overflow = () =>
        page.evaluate(() => {
          const e = document.documentElement;
          return [e.scrollWidth - e.clientWidth, e.scrollHeight - e.clientHeight];
        });
      // Plots take their new size a frame after the page does.
      await expect.poll(overflow, `nothing to scroll at ${width}×800`).toEqual([0, 0]);
    }
  });

  await test.step("bending the curve re-runs the draft and leaves the kept strokes", async () => {
    await page.setViewportSize({ width: 1280, height: 800 });
    // A tool whose force is straight.
    await bench.choose(/^Sanguine/);
    await bench.station("Touch").click();
    const editor = page.getByRole("group", { name: "Curve from pressure to force on the sheet" });
    const points = editor.getByRole("button", { name: /^Point/ });
    await expect(points).toHaveCount(2);
    const [kept, draft] = [bench.strip("Press ramp", "kept"), bench.strip("Press ramp", "draft")];
    // In a row without the cursor's marks, which are drawn over a strip and smoothed by where they fall on the screen.
    expect(await bench.shown(bench.strip("Slow pull", "kept"))).toEqual(await bench.shown(bench.strip("Slow pull", "draft")));
    const before = [await bench.shown(kept), await bench.shown(draft)];

    // A click on the line adds a point; dragging it down makes a light hand lighter.
    const box = await page.getByTestId("curve-line").boundingBox();
    if (!box) throw new Error("the curve is not drawn");
    const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    await page.mouse.click(middle.x, middle.y);
    await expect(points).toHaveCount(3);
    await page.mouse.move(middle.x, middle.y);
    await page.mouse.down();
    await page.mouse.move(middle.x, middle.y + 60, { steps: 6 });
    await page.mouse.up();
    await expect.poll(() => bench.shown(draft)).not.toEqual(before[1]);
    expect(await bench.shown(kept)).toEqual(before[0]);
    await expect(bench.status).toContainText("draft of v1, 1 change");
    await expect(bench.station("Touch").getByRole("img", { name: "changed" })).toBeVisible();
    await expect(bench.station("Tip").getByRole("img", { name: "changed" })).toHaveCount(0);

    // Exact values, arrow keys, and removing.
    const output = page.getByRole("textbox", { name: "Point, output share" });
    await output.fill("0.1");
    await output.press("Enter");
    await expect(points.nth(1)).toHaveAccessibleName(/ to 22\b/);
    await points.nth(1).focus();
    await page.keyboard.press("ArrowUp");
    await expect(output).toHaveValue("0.105");
    await output.fill("7");
    await output.press("Enter");
    await expect(page.getByRole("alert")).toContainText("0 to 1");
    await output.press("Escape");
    // The ends clip input and output.
    await points.nth(2).focus();
    await page.keyboard.press("Shift+ArrowLeft");
    await expect(points.nth(2)).toHaveAccessibleName(/right end, 380 gf/);
    await points.nth(1).focus();
    await page.keyboard.press("Delete");
    await expect(points).toHaveCount(2);
    await page.getByRole("button", { name: "Invert" }).click();
    await expect(points.first()).toHaveAccessibleName(/left end, 0 gf to 220/);
    await page.getByRole("button", { name: "Straight" }).click();
    await expect(points.first()).toHaveAccessibleName(/left end, 0 gf to 0/);

    // Undo goes back through every step; the strokes are the kept ones again.
    const undo = page.getByRole("button", { name: "Undo" });
    while (await undo.isEnabled()) await undo.click();
    await expect(bench.status).toContainText("as kept in v1");
    await expect.poll(() => bench.shown(draft)).toEqual(before[1]);
    await page.keyboard.press("Control+Shift+Z");
    await expect(bench.status).toContainText("1 change");
  });
});

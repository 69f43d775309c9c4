/** Touch and trace whole: the matrix of signals and qualities, advice with its remedies, comparison, the trace as a file. */

import { readFile } from "node:fs/promises";
import { expect, test } from "../bench";

test("traces are compared and go out", async ({ bench, page }) => {
  await test.step("two places and two tools are compared, differences first", async () => {
    const differences = page.getByTestId("differences");
    await page.getByRole("button", { name: "Kept", exact: true }).click();
    await expect(differences).toContainText("Nothing differs");
    await bench.station("Load").click();
    await bench.setParameter("Hardness", "64");
    await expect(differences.locator("tbody tr").first()).toContainText(/load on the tooth|touched|powder|full|film/);

    await page.getByRole("button", { name: "Pin", exact: true }).click();
    await page.getByTestId("trace").focus();
    await page.keyboard.press("End");
    await expect(differences).toContainText("force of the hand");
    const row = differences.getByRole("row", { name: /force of the hand/ });
    const [pinned, here] = (await row.innerText()).split("\t").slice(1).map(Number);
    expect(here).toBeGreaterThan(Number(pinned));
  });

  await test.step("a trace goes out as comma-separated values, and steadying tells its lag", async () => {
    await bench.station("Touch").click();
    await bench.controls.getByRole("switch", { name: "Steadying" }).click();
    await bench.settled();
    await page.getByTestId("reason").getByText("Every factor").click();
    await expect(page.getByTestId("reason")).toContainText(/pressure → force on the sheet\s*[\d.]+ +→ [\d.]+ → [\d.]+ gf/);
    await expect(page.getByTestId("reason")).toContainText(/Lag of steadying\s*[\d.]+ mm\s*Lag of steadying, in time\s*[\d.]+ ms/);
    const download = page.waitForEvent("download");
    await page.getByRole("button", { name: "CSV", exact: true }).click();
    const [head, ...lines] = (await readFile(await (await download).path(), "utf8")).trimEnd().split("\r\n");
    const column = (name: string) => (head ?? "").split(",").indexOf(name);
    expect(lines.length).toBeGreaterThan(100);
    const at = lines.map((l) => Number(l.split(",")[column("at_mm")]));
    expect(at).toEqual([...at].sort((a, b) => a - b));
    const lags = lines.map((l) => Number(l.split(",")[column("lag_mm")]));
    expect(Math.max(...lags)).toBeGreaterThan(0);
  });
});

test("what drives what: chance beside signals, and the matrix with its traps", async ({ bench, page }) => {
  await test.step("a quality strays by chance, the same again from the same seed, and is no signal beside the others", async () => {
    await expect(bench.controls.getByRole("combobox", { name: "Response", exact: true })).toContainText("pressure");
    const strays = bench.controls.getByRole("region", { name: "Strays by chance" });
    const kept = await bench.shown(bench.strip("Slow pull", "draft"));
    await strays.getByRole("combobox", { name: "Let something stray" }).click();
    await page.getByRole("option", { name: "Width", exact: true }).click();
    const spread = strays.getByRole("textbox", { name: "Width strays by ±" });
    await expect(spread).toHaveValue("10.0");
    await spread.fill("130");
    await spread.press("Enter");
    await expect(page.getByRole("alert")).toContainText("a number from 0 to 100");
    await spread.fill("40");
    await spread.press("Enter");
    await bench.settled();
    const strip = () => bench.shown(bench.strip("Slow pull", "draft"));
    const first = await strip();
    expect(first).not.toEqual(kept);
    const seed = bench.controls.getByRole("textbox", { name: "Seed of chance" });
    const before = await seed.inputValue();
    await strays.getByRole("button", { name: "New", exact: true }).click();
    await expect.poll(strip).not.toEqual(first);
    await seed.fill(before);
    await seed.press("Enter");
    await expect.poll(strip).toEqual(first);
    // One throw a stroke: another stroke again.
    await strays.getByRole("combobox", { name: "Width is thrown" }).click();
    await page.getByRole("option", { name: "each stroke" }).click();
    await expect.poll(strip).not.toEqual(first);
    // Signals stand by what they come from; chance is none of them.
    await bench.controls.getByRole("combobox", { name: "Signal", exact: true }).click();
    await expect(page.getByRole("group", { name: "the hand" }).getByRole("option", { name: "tilt", exact: true })).toBeVisible();
    await expect(page.getByRole("option", { name: /chance/ })).toHaveCount(0);
    await page.keyboard.press("Escape");
    await strays.getByRole("button", { name: "Width strays no more" }).click();
    await expect.poll(strip).toEqual(kept);
  });

  await test.step("the matrix shows what drives what, and a trap is noticed and mended with one click", async () => {
    await expect(page.getByTestId("advice")).toHaveCount(0);
    await bench.controls.getByRole("button", { name: "All", exact: true }).click();
    const matrix = bench.controls.getByRole("table", { name: "Signals and the qualities they drive" });
    await expect(matrix.getByRole("button", { name: /, open$/ })).toHaveCount(3);
    // Width hangs on pressure already; opacity beside it is a trap.
    await matrix.getByRole("button", { name: "pressure → opacity, add" }).click();
    await expect(bench.controls.getByRole("combobox", { name: "Response", exact: true })).toContainText("pressure → opacity");
    await expect(page.getByTestId("advice")).toContainText("1 thing noticed");
    const trapped = await bench.shown(bench.strip("Press ramp", "draft"));
    await page.getByTestId("advice").click();
    await page.getByRole("button", { name: "Take opacity off pressure" }).click();
    await expect(page.getByTestId("advice")).toHaveCount(0);
    await bench.settled();
    expect(await bench.shown(bench.strip("Press ramp", "draft"))).not.toEqual(trapped);
    // It is off, not gone: one step back brings the trap back.
    await page.keyboard.press("Control+z");
    await expect(page.getByTestId("advice")).toContainText("1 thing noticed");
  });
});

test("another tool stands beside the draft, and takes curves and responses of it", async ({ bench, page }) => {
  await test.step("the draft is run beside any other tool, and their traces compared", async () => {
    const kept = await bench.shown(bench.strip("Press ramp", "kept"));
    await page.getByRole("combobox", { name: "Beside the draft" }).click();
    await page.getByRole("option", { name: /^Compressed/ }).click();
    await bench.settled();
    await expect.poll(() => bench.shown(page.getByRole("img", { name: "Press ramp, Compressed charcoal, edge of block" }))).not.toEqual(kept);
    await page.getByRole("button", { name: "Beside", exact: true }).click();
    const differences = page.getByTestId("differences");
    await expect(differences.locator("thead")).toContainText("Compressed");
    await expect(differences.locator("tbody tr").first()).toContainText(/\d/);
    // The draft itself is as it was, though the kept column's strips were its own as long as nothing differed.
    expect(await bench.shown(bench.strip("Press ramp", "draft"))).toEqual(kept);
    await expect(bench.status).toContainText("as kept");
  });

  await test.step("a curve is kept and taken elsewhere, a response copied to another quality and another tool", async () => {
    const { controls } = bench;
    await controls.getByRole("button", { name: "Invert" }).click();
    await controls.getByRole("button", { name: "Curves", exact: true }).click();
    const library = page.getByRole("dialog", { name: "Your own curves" });
    await library.getByRole("textbox", { name: "Name of the curve" }).fill("falling");
    await library.getByRole("button", { name: "Keep this curve" }).click();
    await expect(library.getByRole("button", { name: "falling", exact: true })).toBeVisible();
    await page.keyboard.press("Escape");

    await controls.getByRole("button", { name: "Copy…" }).click();
    await page.getByRole("combobox", { name: "Quality of the copy" }).click();
    await page.getByRole("option", { name: "Scatter", exact: true }).click();
    await page.getByRole("button", { name: "Copy", exact: true }).click();
    await expect(controls.getByRole("combobox", { name: "Response", exact: true })).toContainText("pressure → scatter");

    const others = await bench.tools<{ id: string; name: string; draft: { document: { responses: { signal: string; quality: string }[] } } | null }>();
    const [mine, other] = [others.find((t) => t.name.startsWith("Vine charcoal, side"))?.id, others.find((t) => t.name.startsWith("Compressed"))];
    expect(mine).toBeTruthy();
    await controls.getByRole("button", { name: "Copy…" }).click();
    await page.getByRole("combobox", { name: "Tool of the copy" }).click();
    await page.getByRole("option", { name: other?.name ?? "" }).click();
    await page.getByRole("button", { name: "Copy", exact: true }).click();
    await expect(page.getByText(`Copied to the draft of ${other?.name}`, { exact: false }).first()).toBeVisible();
    const draft = async () => (await bench.tools<(typeof others)[number]>()).find((t) => t.id === other?.id)?.draft ?? null;
    expect((await draft())?.document.responses.filter((r) => r.quality === "scatter")).toHaveLength(1);
    await page.getByRole("button", { name: "Bring back" }).last().click();
    await expect.poll(draft).toBeNull();

    // The Hand screen has the same curves.
    await page.getByRole("link", { name: "Hand", exact: true }).click();
    await page.getByRole("region", { name: "Calibration" }).getByRole("button", { name: "Curves", exact: true }).click();
    await page.getByRole("dialog", { name: "Your own curves" }).getByRole("button", { name: "falling", exact: true }).click();
    // No force reaches full output any more behind a curve that falls.
    await expect(page.locator("[data-figure=forces]")).not.toContainText("400 gf");
  });
});

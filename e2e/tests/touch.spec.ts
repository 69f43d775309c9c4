/** Touch and trace whole: the matrix of signals and qualities, advice with its remedies, comparison, the trace as a file. */

import { readFile } from "node:fs/promises";
import { expect, test } from "../bench";

test("the matrix shows what drives what, and a trap is noticed and mended with one click", async ({ bench, page }) => {
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

test("two places and two tools are compared, differences first", async ({ bench, page }) => {
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

test("a trace goes out as comma-separated values, and steadying tells its lag", async ({ bench, page }) => {
  await bench.controls.getByRole("switch", { name: "Steadying" }).click();
  await bench.settled();
  await page.getByTestId("reason").getByText("Every factor").click();
  await expect(page.getByTestId("reason")).toContainText(/Lag of steadying\s*[\d.]+ mm, \d+ ms/);
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

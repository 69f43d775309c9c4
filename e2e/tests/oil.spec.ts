/** A painter loads a brush: mixes its paint from pigments, sees the strips follow, lays them on wet paint, and keeps the tool. */

import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "../bench";

test("a brush is loaded with a mixture, laid over wet paint, and kept", async ({ bench, page }) => {
  await page.getByRole("combobox", { name: "Tool", exact: true }).click();
  await page.getByRole("option", { name: /^Hog round 10 mm/ }).click();
  await bench.settled();
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
  expect((await new AxeBuilder({ page }).include("[aria-label=Controls]").analyze()).violations).toEqual([]);

  // The balance of a stroke, and what it lies on.
  await bench.station("Mix").click();
  await expect(page.getByTestId("balance")).toContainText("In the brush");
  await bench.settled();
  const bare = await bench.shown(draft);
  await page.getByRole("combobox", { name: "Strips lie on" }).click();
  await page.getByRole("option", { name: "three wet stripes" }).click();
  await expect.poll(() => bench.shown(draft)).not.toEqual(bare);

  await bench.keep.click();
  await expect(bench.status).toContainText("as kept in v2");
  const tools = await bench.ask<{ id: string; name: string }[]>("/tools");
  const mine = tools.find((t) => t.name === "Hog round 10 mm");
  const kept = await bench.ask<{ kept: { document: { parameters: Record<string, unknown> } } }>(`/tools/${mine?.id}`);
  expect(kept.kept.document.parameters["load.paint"]).toEqual({ PBr7bu: 1, PO20: 6, PW6: 5 });
});

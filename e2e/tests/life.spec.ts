/** A tool's whole life: made, named, kept with a note, compared, taken back, copied, saved and read, taken away and brought back. */

import { readFile } from "node:fs/promises";
import { expect, test, type Bench } from "../bench";

interface Tool {
  id: string;
  name: string;
  kept: { number: number; note: string; document: { intent: string; parameters: Record<string, number> } };
}

const about = (bench: Bench) => bench.page.getByRole("dialog", { name: "This tool" });

test("versions have notes, are compared and taken back; steps outlive a reload and another tool", async ({ bench, page }) => {
  await bench.station("Tip").click();
  const side = bench.parameter("Side on the paper");
  const first = await bench.shown(bench.strip("Press ramp", "draft"));
  await bench.setParameter("Side on the paper", "25");
  await page.getByRole("button", { name: "Tool…", exact: true }).click();
  await about(bench).getByRole("textbox", { name: "What it is for" }).fill("broad grounds");
  await about(bench).getByRole("textbox", { name: "What it is for" }).press("Enter");
  await about(bench).getByRole("textbox", { name: "Note to the next version" }).fill("broader, for the sky");
  await about(bench).getByRole("button", { name: "Keep v2" }).click();
  const versions = about(bench).getByRole("list", { name: "Versions" }).getByRole("listitem");
  await expect(versions).toHaveCount(2);
  await expect(versions.first()).toContainText("broader, for the sky");
  await expect(versions.last()).toContainText("as it came");
  const mine = async () => (await bench.tools<Tool>()).find((t) => t.name.startsWith("Vine charcoal, side"));
  await expect.poll(async () => (await mine())?.kept.note).toBe("broader, for the sky");
  expect((await mine())?.kept.document.intent).toBe("broad grounds");

  // Beside the draft stands the first version: its strip is what the tool was before.
  await versions.last().getByRole("button", { name: "Compare" }).click();
  await expect(page.getByRole("combobox", { name: "Beside the draft" })).toContainText("v1");
  await bench.settled();
  await expect.poll(() => bench.shown(bench.strip("Press ramp", "v1" as "kept"))).toEqual(first);

  await page.getByRole("button", { name: "Tool…", exact: true }).click();
  await versions.last().getByRole("button", { name: "Take back" }).click();
  await expect(versions.last()).toContainText("as the draft is");
  await page.keyboard.press("Escape");
  await expect(side).toHaveValue("9.0");

  // Undo is still there after a reload, and after another tool was open.
  await bench.settled();
  await page.reload();
  await bench.settled();
  await bench.station("Tip").click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(side).toHaveValue("25.0");
  const list = page.getByRole("combobox", { name: "Tool", exact: true });
  await list.click();
  await page.getByRole("option", { name: /^Soft pastel/ }).click();
  await bench.settled();
  await list.click();
  await page.getByRole("option", { name: /^Vine charcoal, side/ }).click();
  await bench.settled();
  await page.getByRole("button", { name: "Tool…", exact: true }).click();
  const steps = about(bench).getByRole("list", { name: "Steps" });
  await expect(steps.getByRole("button", { name: "Side on the paper" }).first()).toBeVisible();
  await steps.getByRole("button", { name: "as it was opened" }).click();
  await page.keyboard.press("Escape");
  await expect(side).toHaveValue("9.0");
});

test("tools are made, copied, saved, read, taken away and brought back", async ({ bench, page }) => {
  await page.getByRole("link", { name: "Rack", exact: true }).click();
  const cards = page.getByRole("list", { name: "Tools" }).getByRole("listitem");
  await expect(cards.first()).toBeVisible();
  const count = await cards.count();
  const does = async (tool: string, what: string) => {
    await page.getByRole("button", { name: `More with ${tool}`, exact: true }).click();
    await page.getByRole("menuitem", { name: what }).click();
  };
  await page.getByRole("button", { name: "Make a tool…" }).click();
  await page.getByRole("combobox", { name: "Medium of the new tool" }).click();
  await page.getByRole("option", { name: /^paste/ }).click();
  await page.getByRole("textbox", { name: "What it is for" }).fill("first trials");
  await page.getByRole("textbox", { name: "Name" }).fill("My own brush");
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("combobox", { name: "Tool", exact: true })).toContainText("My own brush");
  await bench.settled();

  await page.getByRole("link", { name: "Rack", exact: true }).click();
  await does("My own brush", "Duplicate");
  await expect(cards).toHaveCount(count + 2);
  const [saved] = await Promise.all([page.waitForEvent("download"), does("My own brush", "Save as file")]);
  const text = await readFile(await saved.path(), "utf8");
  await does("My own brush", "Take away");
  await expect(cards).toHaveCount(count + 1);
  const file = (name: string, content: string) => ({ name, mimeType: "application/json", buffer: Buffer.from(content) });
  await page.getByLabel("Tools (JSON)").setInputFiles([file("torn.json", text.replace('"paste"', '"plasma"'))]);
  await expect(page.getByRole("alert")).toContainText("medium");
  await page.getByLabel("Tools (JSON)").setInputFiles([file("mine.json", text)]);
  await expect(cards).toHaveCount(count + 2);
  // Its name is another's by now: it stays away until that one has gone.
  await page.getByRole("button", { name: "Taken away (1)" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Bring back" }).click();
  await expect(page.getByRole("alert")).toContainText("already in use");
  await page.keyboard.press("Escape");
  await does("My own brush", "Take away");
  await page.getByRole("button", { name: "Bring back" }).last().click();
  await expect(cards).toHaveCount(count + 2);
});

test("where nothing is left in the rack, a first tool can be made", async ({ bench, page }) => {
  const tools = await bench.tools<Tool>();
  for (const { id } of tools) await page.request.delete(new URL(`/api/v1/tools/${id}`, bench.studio.url).href);
  await page.goto(bench.studio.url);
  await expect(page.getByRole("heading", { name: "The rack is empty" })).toBeVisible();
  await page.getByRole("button", { name: "Make a tool…" }).click();
  await page.getByRole("textbox", { name: "Name" }).fill("First");
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("combobox", { name: "Tool", exact: true })).toContainText("First");
  await bench.settled();
});

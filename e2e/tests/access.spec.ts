/** Keyboard, screen readers, contrast: every station in both themes. */

import type { Page } from "@playwright/test";
import { looker } from "../axe";
import { expect, railOf, test } from "../bench";

const SCREENS = ["Rack", "Hand", "Grounds", "Gestures"];

/** Goes to a screen and waits until it is there: the one before it stays while the next is loaded. */
async function goTo(page: Page, name: string) {
  await page.getByRole("link", { name, exact: true }).click();
  await expect(page.getByRole("heading", { level: 1, name, exact: true })).toBeVisible();
}

const STATIONS = ["Hand", "Touch", "Tip", "Load", "Mix", "Ground", "Relief"];

/** What lies over the page at a time. */
const DIALOG = '[role="dialog"]';

test("no accessibility violations on the Bench, in both themes", async ({ bench, page }) => {
  const look = looker(page);
  for (const [i, name] of STATIONS.entries()) {
    await bench.station(name).click();
    // What lies around a station's controls stays as it is.
    await look(name, i === 0 ? "html" : '[aria-label="Controls"]');
  }
  await page.keyboard.press("o");
  await look("free row, open");
});

test("no accessibility violations over it, in both themes", async ({ bench: _, page }) => {
  const look = looker(page);
  await page.keyboard.press("Control+k");
  await look("find or do");
  await page.keyboard.press("Escape");
  for (const name of ["Keep as new…", "Tool…", "Words", "Keys"]) {
    await page.getByRole("button", { name: new RegExp(`^${name}`) }).click();
    await expect(page.locator(DIALOG)).toBeVisible();
    await look(name, DIALOG);
    await page.keyboard.press("Escape");
  }
  await page.getByRole("button", { name: "Proof sheet: how it is looked at" }).click();
  await look("how it is looked at", DIALOG);
  await page.getByRole("button", { name: "Save a picture…" }).click();
  await expect(page.locator(DIALOG)).toHaveAccessibleName("Save a picture");
  await look("save a picture", DIALOG);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Opacity: what it is" }).click();
  await expect(page.getByTestId("more").or(page.getByText(/does not act/))).toBeVisible();
  await look("a word");
});

test("no accessibility violations beside it, in both themes", async ({ bench: _, page }) => {
  const look = looker(page);
  for (const name of SCREENS) {
    await goTo(page, name);
    await look(`${name} screen`);
  }
  await goTo(page, "Rack");
  await page.getByRole("button", { name: "Techniques" }).click();
  await look("techniques");
});

test("everything is done by keyboard", async ({ bench, page }) => {
  await page.keyboard.press("3");
  await expect(bench.station("Tip")).toHaveAttribute("aria-current", "true");
  const slider = bench.controls.getByRole("slider", { name: "Side on the paper, slider" });
  await slider.focus();
  await page.keyboard.press("ArrowRight");
  await expect(bench.status).toContainText("1 change");
  // With Shift a key moves by the number's own step, and a drag is ten times finer.
  const side = bench.parameter("Side on the paper");
  const before = Number(await side.inputValue());
  await page.keyboard.press("Shift+ArrowRight");
  await expect.poll(async () => Number(await side.inputValue())).toBeCloseTo(before + 0.1, 5);
  const box = await railOf(slider);
  const dragged = async (fine: boolean) => {
    const from = Number(await side.inputValue());
    if (fine) await page.keyboard.down("Shift");
    await page.mouse.move(box.x + (box.width * from) / 60, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + (box.width * (from + 30)) / 60, box.y + box.height / 2, { steps: 5 });
    await page.mouse.up();
    if (fine) await page.keyboard.up("Shift");
    return Number(await side.inputValue()) - from;
  };
  expect(await dragged(true)).toBeCloseTo(3, 0);
  expect(await dragged(false)).toBeGreaterThan(25);
  await page.keyboard.press("Control+Enter");
  await expect(bench.status).toContainText("as kept in v2");

  await page.keyboard.press("Control+k");
  await page.keyboard.type("ground");
  await page.keyboard.press("Enter");
  await expect(bench.station("Ground")).toHaveAttribute("aria-current", "true");
  await expect(page.getByTestId("texture")).toContainText("Sa");

  // Keys rest while a list has the keyboard: letters go to its rows, and nothing on the sheet changes.
  await page.getByRole("combobox", { name: "Tool", exact: true }).focus();
  await page.keyboard.press("o");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Close", exact: true })).toHaveCount(0);
  await bench.station("Tip").focus();

  // They are listed, can be given others, and those of one letter can be turned off.
  await page.keyboard.press("?");
  const keys = page.getByRole("dialog", { name: "Keys" });
  const row = keys.getByRole("button", { name: /^Key of Open or close the free row/ });
  await row.click();
  await page.keyboard.press("2");
  await expect(keys.getByRole("status")).toContainText("2 is the key of “Station Touch” already");
  await row.click();
  await page.keyboard.press("f");
  await expect(row).toHaveText("F");
  await page.keyboard.press("Escape");
  await page.keyboard.press("f");
  const close = page.getByRole("button", { name: "Close", exact: true });
  await expect(close).toBeVisible();
  await page.reload();
  await bench.settled();
  await page.keyboard.press("f");
  await expect(close).toBeVisible();
  await page.keyboard.press("?");
  await keys.getByRole("switch", { name: "One-letter keys" }).click();
  await page.keyboard.press("Escape");
  await page.keyboard.press("f");
  await expect(close).toBeVisible();
  await close.click();

  // Tab reaches every kind of control, and what is reached can be seen.
  const seen = new Set<string>();
  for (let i = 0; i < 90; i++) {
    await page.keyboard.press("Tab");
    const at = await page.evaluate(() => {
      const e = document.activeElement;
      const box = e?.getBoundingClientRect();
      return { name: e?.getAttribute("aria-label") ?? e?.textContent ?? "", shown: !!box && box.width > 0 && box.height > 0 };
    });
    expect(at.shown, at.name).toBe(true);
    seen.add(at.name);
  }
  for (const name of ["Cursor along the stroke", "Tool"]) expect([...seen]).toContain(name);
});

test("hit areas are large enough for a pen", async ({ bench, page }) => {
  // WCAG 2.2, success criterion 2.5.8: 24 by 24 CSS pixels.
  for (const name of [...STATIONS, ...SCREENS.map((s) => `${s} screen`)]) {
    if (name.endsWith(" screen")) await goTo(page, name.replace(" screen", ""));
    else await bench.station(name).click();
    const small = await page.locator("button:visible, [role=combobox]:visible, [role=switch]:visible").evaluateAll((all) =>
      all
        .map((e) => ({ name: e.getAttribute("aria-label") ?? e.textContent, box: e.getBoundingClientRect() }))
        .filter(({ box }) => box.height < 24 || box.width < 24)
        .map(({ name, box }) => `${name} ${box.width.toFixed(0)}×${box.height.toFixed(0)}`),
    );
    expect(small, name).toEqual([]);
  }
});

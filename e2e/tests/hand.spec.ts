/** The Hand screen: the stylus seen, calibrated from the painter's own marks, simulated, kept and exchanged. */

import { readFile } from "node:fs/promises";
import type { Page } from "@playwright/test";
import { Pen, expect, test, type Touch } from "../bench";

const pad = (page: Page) => page.getByRole("img", { name: /^Test pad/ });
const signal = (page: Page, label: string) => page.locator(`[data-signal="${label}"]`);
const forces = (page: Page) => page.locator("[data-figure=forces]");

async function handScreen(page: Page) {
  await page.getByRole("link", { name: "Hand", exact: true }).click();
  await expect(pad(page)).toHaveAttribute("aria-busy", "false");
  const box = await pad(page).boundingBox();
  if (!box) throw new Error("there is no test pad");
  return box;
}

/** A mark that lands, holds a force and lifts; levels of an 8,192-level pen. */
function mark(box: { x: number; y: number }, lane: number, force: number): Touch[] {
  return Array.from({ length: 50 }, (_, i) => {
    const t = i / 49;
    const held = force * Math.min(1, t / 0.2, (1 - t) / 0.15) * (1 + 0.03 * Math.sin(40 * t + lane));
    return { x: box.x + 40 + 380 * t, y: box.y + 24 + 34 * lane, force: Math.max(0.001, Math.round(held * 8191) / 8191), tiltX: 25, tiltY: 20 + 10 * t, twist: 80 };
  });
}

// No strip is laid that no test here looks at.
test.use({ start: "/hand" });

test("charts follow the pen, and a calibration is proposed from marks, kept, and used by every tool", async ({ bench, page }) => {
  await page.getByRole("link", { name: "Bench", exact: true }).click();
  await bench.settled();
  const plain = await bench.shown(bench.strip("Press ramp", "draft"));
  const box = await handScreen(page);
  const pen = await Pen.of(page);
  await expect(forces(page)).toHaveText("44 gf / 202 gf / 400 gf");

  // 0.5 of full scale is 4 + 0.5·396 gf; tilts of 30° and 30° lean arctan √(2·tan²30°) = 39° from upright, towards 45°.
  const held: Touch = { x: box.x + 200, y: box.y + 120, force: 0.5, tiltX: 30, tiltY: 30, twist: 75 };
  await pen.hover(held);
  await pen.down(held);
  for (let i = 0; i < 20; i++) await pen.move({ ...held, x: held.x + 3 * i });
  await expect(signal(page, "Force of the hand")).toContainText("202 gf");
  await expect(signal(page, "Tilt from upright")).toContainText("39 °");
  await expect(signal(page, "Lean")).toContainText("45 °");
  await expect(signal(page, "Barrel")).toContainText("75 °");
  await pen.up(held);
  await page.getByRole("button", { name: "Wipe" }).click();

  const propose = page.getByRole("button", { name: "Propose" });
  let lane = 0;
  for (const [kind, force] of [["light", 0.15], ["normal", 0.33], ["firm", 0.6]] as const) {
    await expect(propose).toBeDisabled();
    await page.getByRole("button", { name: new RegExp(`^${kind}`) }).click();
    for (let i = 0; i < 2; i++) await pen.stroke(mark(box, lane++, force));
  }
  await propose.click();
  await expect(page.getByTestId("proposal")).toContainText("Your firm marks stay near");
  const full = Number(/([\d.]+) gf, \d+ %/.exec(await page.getByTestId("proposal").innerText())?.[1]);
  expect(Math.abs(full / (4 + 0.6 * 396) - 1)).toBeLessThan(0.05);

  // Discarded, nothing is left of it; accepted, it can be taken back.
  await page.getByRole("button", { name: "Discard" }).click();
  await expect(forces(page)).toHaveText("44 gf / 202 gf / 400 gf");
  await propose.click();
  // What is changed while it is on trial adjusts it: one step, and one back.
  await page.getByRole("region", { name: "Calibration" }).getByRole("button", { name: /^Point 1,/ }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("button", { name: "Accept" })).toHaveCount(0);
  await expect(forces(page)).toContainText(`/ ${full.toFixed(0)} gf`);
  await page.keyboard.press("Control+z");
  await expect(forces(page)).toHaveText("44 gf / 202 gf / 400 gf");
  await propose.click();
  await page.getByRole("button", { name: "Accept" }).click();
  await expect(forces(page)).toContainText(`/ ${full.toFixed(0)} gf`);
  await page.keyboard.press("Control+z");
  await expect(forces(page)).toHaveText("44 gf / 202 gf / 400 gf");
  await page.keyboard.press("Control+Shift+z");
  await expect(forces(page)).toContainText(`/ ${full.toFixed(0)} gf`);
  await expect(page.getByTestId("hand-saving")).toHaveText("saved");

  // Every tool feels it, also after a reload.
  await page.reload();
  await expect(forces(page)).toContainText(`/ ${full.toFixed(0)} gf`);
  await page.getByRole("link", { name: "Bench", exact: true }).click();
  await bench.settled();
  expect(await bench.shown(bench.strip("Press ramp", "draft"))).not.toEqual(plain);
  await bench.station("Hand").click();
  await expect(bench.controls).toContainText("My pen");
});

test("a gesture played through a poor stylus shows what the stylus lacks", async ({ bench, page }) => {
  await handScreen(page);
  const blank = await bench.shown(pad(page));
  await page.getByRole("combobox", { name: "Gesture to play" }).click();
  await page.getByRole("option", { name: /^Scrub(?! into)/ }).click();
  await page.getByRole("combobox", { name: "Simulated stylus" }).click();
  await page.getByRole("option", { name: "Coarse pen without tilt" }).click();
  await page.getByRole("button", { name: "Play", exact: true }).click();
  await expect(page.locator("[data-warning=no-tilt]")).toBeVisible();
  await expect(page.locator("[data-warning=no-barrel]")).toBeVisible();
  await expect(page.getByTestId("seen")).toContainText(/Reports a second\s*1[12]\d/);
  await expect.poll(() => bench.shown(pad(page))).not.toEqual(blank);
  // A simulated stylus is not taken for the painter's own.
  await expect(page.getByRole("main")).toContainText("at hand: mouse or finger");
});

test("a stylus goes out to a file and comes in from one; a bad one is refused by field and changes nothing", async ({ bench, page }) => {
  await handScreen(page);
  const profile = page.getByRole("region", { name: "Stylus" });
  await profile.getByRole("textbox", { name: "Force at full scale" }).fill("350");
  await profile.getByRole("textbox", { name: "Force at full scale" }).press("Enter");
  await expect(page.getByTestId("hand-saving")).toHaveText("saved");
  const download = page.waitForEvent("download");
  await profile.getByRole("button", { name: "Write" }).click();
  const text = await readFile(await (await download).path(), "utf8");
  const document = JSON.parse(text) as { profile: Record<string, unknown> };
  expect(document.profile.full_gf).toBe(350);

  const give = (json: unknown) =>
    profile.getByLabel("Stylus file").setInputFiles({ name: "pen.json", mimeType: "application/json", buffer: Buffer.from(JSON.stringify(json)) });
  await give({ ...document, profile: { ...document.profile, rate_hz: 1e9 } });
  await expect(page.getByRole("alert")).toContainText("profile.rate_hz");
  expect(await bench.ask<unknown[]>("/styluses")).toHaveLength(1);
  await give({ ...document, profile: { ...document.profile, name: "Reed pen", full_gf: 280 } });
  await expect(profile.getByRole("combobox", { name: "Stylus" })).toHaveText(/Reed pen/);
  await expect(forces(page)).toContainText("/ 280 gf");
  // Taking it away can be taken back.
  await profile.getByRole("button", { name: "Take away" }).click();
  await expect.poll(async () => (await bench.ask<unknown[]>("/styluses")).length).toBe(1);
  await page.getByRole("button", { name: "Bring back" }).last().click();
  await expect.poll(async () => (await bench.ask<unknown[]>("/styluses")).length).toBe(2);
});

/** Force at full scale of the stylus that the browser remembers; `gf`: as if it had been told that. */
const remembered = (page: Page, gf?: number) =>
  page.evaluate(async (gf) => {
    const done = <T>(asked: IDBRequest<T>) => new Promise<T>((ok, failed) => Object.assign(asked, { onsuccess: () => ok(asked.result), onerror: () => failed(asked.error ?? new Error()) }));
    const store = (await done(indexedDB.open("keyval-store"))).transaction("keyval", "readwrite").objectStore("keyval");
    type Told = { clientState: { queries: { queryKey: string[]; state: { data: { document: { profile: { full_gf: number } } }[] } }[] } };
    const told = (await done(store.get("saltmarsh.told-last"))) as Told | undefined;
    const profile = told?.clientState.queries.find((q) => q.queryKey[0] === "styluses")?.state.data[0]?.document.profile;
    if (profile && gf !== undefined) {
      profile.full_gf = gf;
      await done(store.put(told, "saltmarsh.told-last"));
    }
    return profile?.full_gf;
  }, gf);

test("a stylus outlives a server that goes away, and two windows do not overwrite each other", async ({ bench, context, page, studio }) => {
  await handScreen(page);
  const saving = page.getByTestId("hand-saving");
  const full = (p: Page) => p.getByRole("textbox", { name: "Force at full scale" });
  const set = async (p: Page, gf: string) => {
    await full(p).fill(gf);
    await full(p).press("Enter");
  };
  const kept = async () => (await bench.ask<{ document: { profile: { full_gf: number } } }[]>("/styluses")).map((s) => s.document.profile.full_gf);
  await set(page, "350");
  await expect.poll(kept).toEqual([350]);
  await studio.stop();
  await set(page, "360");
  await expect(page.getByRole("alert")).toContainText("kept in this browser");
  await expect(saving).toHaveText("not saved");
  await set(page, "370");
  await studio.start();
  await expect(saving).toHaveText("saved");
  expect(await kept()).toEqual([370]);

  // Whoever asks in vain first begins with what this browser remembers, older here than what is kept, and takes what is told then.
  await expect.poll(() => remembered(page)).toBe(370);
  await remembered(page, 340);
  const other = await context.newPage();
  await other.route("**/api/v1/styluses", (route) => route.abort(), { times: 3 });
  await other.goto(`${studio.url}hand`);
  await expect(full(other)).toHaveValue("370");
  await set(other, "300");
  await expect.poll(kept).toEqual([300]);
  await set(page, "380");
  await expect(page.getByRole("alert")).toContainText("changed in another window");
  await expect(full(page)).toHaveValue("380");
  expect(await kept()).toEqual([300]);
  await page.getByRole("button", { name: "Take the other" }).click();
  await expect(full(page)).toHaveValue("300");
  await expect(saving).toHaveText("saved");
});

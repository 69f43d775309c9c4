/** How long a painter waits for the page: visits, other tools, sliders, grounds. */

import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium as browsers, type BrowserContext, type Page } from "@playwright/test";
import { chromium } from "../playwright.config";
import type { Bench } from "../bench";

export interface Visit {
  /** s from the address to the Bench, to the first strip of the draft, to the whole sheet. */
  page: number;
  strip: number;
  whole: number;
}

/** Visits one after another with one browser's storage: the first has nothing, the next what it kept. */
export async function visits(url: string, count: number): Promise<Visit[]> {
  const folder = mkdtempSync(join(tmpdir(), "saltmarsh-visits-"));
  const out: Visit[] = [];
  try {
    for (let i = 0; i < count; i++) {
      const context: BrowserContext = await browsers.launchPersistentContext(folder, { ...chromium.launchOptions, viewport: chromium.viewport });
      const page = context.pages()[0] ?? (await context.newPage());
      const started = performance.now();
      const since = () => (performance.now() - started) / 1000;
      await page.goto(url, { waitUntil: "commit" });
      await page.getByRole("region", { name: "Proof sheet" }).waitFor();
      const shown = since();
      // A canvas is 300 pixels wide until something is painted on it.
      await page.waitForFunction(() => [...document.querySelectorAll<HTMLCanvasElement>("canvas[data-column=draft]")].some((c) => c.width > 300));
      const strip = since();
      await page.locator("section[aria-label='Proof sheet'][aria-busy=false]").waitFor();
      out.push({ page: shown, strip, whole: since() });
      // Paper is stored a little later, and the rest of it made first.
      await page.waitForTimeout(i === 0 ? 12_000 : 3000);
      await context.close();
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return out;
}

/** s from choosing a tool to its whole proof sheet. */
export async function switching(page: Page, bench: Bench, tool: RegExp): Promise<number> {
  await page.getByRole("combobox", { name: "Tool", exact: true }).click();
  const option = page.getByRole("option", { name: tool });
  await option.waitFor();
  const before = await page.evaluate(() => performance.now());
  await option.click();
  await page.waitForFunction((name) => new RegExp(name).test(document.querySelector("h1 [role=combobox]")?.textContent ?? ""), tool.source);
  await bench.settled();
  return ((await page.evaluate(() => performance.now())) - before) / 1000;
}

/** Moves a slider to and fro as a hand does. */
async function slide(page: Page, label: string, steps: number, pauseMs: number) {
  const slider = page.getByRole("slider", { name: label, exact: true });
  await slider.scrollIntoViewIfNeeded();
  const box = await slider.boundingBox();
  if (!box) throw new Error(`there is no ${label}`);
  const at = (i: number) => box.x + box.width * (0.35 + 0.3 * Math.abs(Math.sin(i / 20)));
  await page.mouse.move(at(0), box.y + box.height / 2);
  await page.mouse.down();
  for (let i = 1; i <= steps; i++) {
    await page.mouse.move(at(i), box.y + box.height / 2);
    await page.waitForTimeout(pauseMs);
  }
  await page.mouse.up();
}

/** ms between the page's frames while a slider is dragged. */
export async function framesWhileDragging(page: Page, label: string): Promise<number[]> {
  await page.evaluate(() => {
    const kept = window as unknown as { frames: number[]; last: number };
    [kept.frames, kept.last] = [[], performance.now()];
    const frame = (now: number) => {
      kept.frames.push(now - kept.last);
      kept.last = now;
      requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
  });
  await slide(page, label, 90, 12);
  return page.evaluate(() => (window as unknown as { frames: number[] }).frames.slice(2));
}

/** ms from a step of a ground's slider to the next picture of the ground, and to the figures after letting go. */
export async function groundWhileDragging(page: Page, label: string): Promise<{ pictures: number[]; figures: number }> {
  await page.evaluate(() => {
    const kept = window as unknown as { step: number | null; pictures: number[] };
    [kept.step, kept.pictures] = [null, []];
    document.addEventListener("input", () => (kept.step ??= performance.now()), true);
    const put = CanvasRenderingContext2D.prototype.putImageData;
    CanvasRenderingContext2D.prototype.putImageData = function (this: CanvasRenderingContext2D, ...args: Parameters<typeof put>) {
      put.apply(this, args);
      // The ground's own picture is the large one.
      if (kept.step !== null && args[0].width > 200) {
        kept.pictures.push(performance.now() - kept.step);
        kept.step = null;
      }
    } as typeof put;
  });
  await slide(page, label, 20, 60);
  const letGo = performance.now();
  await page.locator("section[aria-label=Measured][aria-busy=false]").waitFor();
  const figures = performance.now() - letGo;
  return { pictures: await page.evaluate(() => (window as unknown as { pictures: number[] }).pictures), figures };
}

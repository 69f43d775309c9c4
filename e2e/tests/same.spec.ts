/** One computation everywhere: the sheet that Chromium makes is bit for bit the sheet that the command line makes. */

import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { expect, test } from "../bench";
import { program, repository } from "../server";

const STICKS = ["vine-charcoal-side", "compressed-charcoal-edge", "sanguine-stick", "chalk-side", "dust-spatter", "pencil-ochre", "graphite-block", "toning-film"];
/** What moves powder does so on a bed of charcoal: one gesture of each is enough. */
const MOVING = ["finger", "stump", "kneaded-eraser", "hard-eraser", "fixative"];
const GESTURES = ["press-ramp", "slow-pull", "flicks", "hatching", "scrub", "lean-fan"];
const DPI = 150;

const tool = (name: string) => join(repository, "demo/tools", `${name}.json`);
const gesture = (name: string) => join(repository, "demo/gestures", `${name}.inkml`);

/** Lets the page import the module that the front end is built from, by itself. */
async function serveModule(page: Page, origin: string) {
  const folder = join(repository, "web/src/engine/wasm");
  await page.route(`${origin}module/*`, (route) => {
    const file = new URL(route.request().url()).pathname.replace("/module/", "");
    const contentType = file.endsWith(".wasm") ? "application/wasm" : "text/javascript";
    return route.fulfill({ body: readFileSync(join(folder, file)), contentType });
  });
}

test("sheets are bit-identical natively and in Chromium", async ({ studio, page }) => {
  test.setTimeout(240_000);
  await page.goto(studio.url);
  await serveModule(page, studio.url);
  for (const t of [...STICKS, ...MOVING]) {
    for (const g of STICKS.includes(t) ? GESTURES : ["scrub"]) {
      const native = execFileSync(program, [
        "render", "--tool", tool(t), "--gesture", gesture(g), "--dpi", String(DPI), "--sheet-mm", "0,0,80,14", "--checksum",
      ]);
      const inBrowser = await page.evaluate(
        async ([document, ink, dpi]) => {
          const path = "/module/saltmarsh_browser.js";
          const module = await import(path);
          await module.default({ module_or_path: "/module/saltmarsh_browser_bg.wasm" });
          const pixel = 25.4 / Number(dpi);
          // One studio for all: it keeps the paper that it made.
          const kept = globalThis as unknown as { studio?: InstanceType<typeof module.Studio> };
          const studio = (kept.studio ??= new module.Studio());
          const ground = JSON.stringify(JSON.parse(module.checkTool(document)).ground);
          const surface = studio.surface(ground, Math.round(80 / pixel), Math.round(14 / pixel), pixel, 0, 0);
          const recording = module.Recording.read(ink);
          surface.makeReady(document);
          surface.begin(document, "{}", 0);
          for (let i = 0; i < recording.passCount; i++) {
            surface.hear(recording.pass(i));
            surface.hearLift();
            // In pieces, as the Bench does; the command line lays whole strokes.
            while (surface.waits) surface.work(1000);
          }
          surface.end();
          return surface.checksum() as string;
        },
        [readFileSync(tool(t), "utf8"), readFileSync(gesture(g), "utf8"), String(DPI)] as const,
      );
      expect(inBrowser, `${t}, ${g}`).toBe(native.toString().trim());
    }
  }
});

test("the strip on the Bench is the picture that the command line renders", async ({ bench, page }) => {
  const canvas = bench.strip("Press ramp", "kept");
  const shown = await canvas.evaluate((element) => {
    const c = element as HTMLCanvasElement;
    const data = c.getContext("2d")?.getImageData(0, 0, c.width, c.height).data ?? [];
    return { width: c.width, height: c.height, pixels: Array.from(data) };
  });
  const pixel = 80 / shown.width;
  const png = execFileSync(program, [
    "render", "--tool", tool("vine-charcoal-side"), "--gesture", gesture("press-ramp"),
    "--dpi", String(25.4 / pixel), "--sheet-mm", `0,0,80,${shown.height * pixel}`, "--out", "-",
  ]);
  const rendered = await page.evaluate(async (base64) => {
    const image = await createImageBitmap(await (await fetch(`data:image/png;base64,${base64}`)).blob());
    const c = new OffscreenCanvas(image.width, image.height);
    const context = c.getContext("2d");
    context?.drawImage(image, 0, 0);
    return { width: image.width, height: image.height, pixels: Array.from(context?.getImageData(0, 0, image.width, image.height).data ?? []) };
  }, png.toString("base64"));
  expect([rendered.width, rendered.height]).toEqual([shown.width, shown.height]);
  const differing = shown.pixels.filter((v, i) => v !== rendered.pixels[i]).length;
  expect(differing, "channel values that differ").toBe(0);
});

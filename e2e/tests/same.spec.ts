/** One computation everywhere: the sheet that Chromium makes is bit for bit the sheet that the command line makes. */

import { execFile, execFileSync } from "node:child_process";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { promisify } from "node:util";
import type { Page } from "@playwright/test";
import { expect, test } from "../bench";
import { program, repository } from "../server";

const run = promisify(execFile);

/** Every ground that is made from numbers, under a point that meets its tooth, and one over another. */
const GROUNDS = ["hot-pressed", "cold-pressed", "rough", "laid", "canvas-fine", "canvas-coarse", "linen", "sanded", "gesso"];
/** Changes of a tool that go ways which no ready tool goes: an image as tip with a grain, steadying, a ground that enters as an image. */
const CHANGED: [string, Record<string, unknown>][] = [
  ["steadied", { "touch.steady": true }],
  ["swapped, scaled and followed", { "ground.swap": true, "ground.scale": 1.7, "ground.follow": 0.6 }],
  ["subtracted", { "ground.enters": "subtracted", "ground.depth": 0.7 }],
  ["limited by height", { "ground.enters": "height" }],
  ["speckled and masked", { "tip.shape": "speckled", "tip.mask": "filbert", "tip.scatter_mm": 1, "tip.count": 3 }],
];

const STICKS = ["vine-charcoal-side", "compressed-charcoal-edge", "sanguine-stick", "chalk-side", "dust-spatter", "pencil-ochre", "graphite-block", "toning-film"];
/** What moves powder does so on a bed of charcoal: one gesture of each is enough. */
const MOVING = ["finger", "stump", "kneaded-eraser", "hard-eraser", "fixative"];
/** Brushes of oil; those that bring no paint meet wet paint. */
const BRUSHES = ["hog-filbert", "sable-round", "soft-blender", "lifting-brush", "knife-broad", "furrow"];
/** Wet brushes: the narrowest, one that hardly wets the paper, and one whose water runs down a board in narrow fingers; more would be waited for. And a nib. */
const WET = [["wash-rigger", "press-ramp", 0], ["wash-dry-brush", "slow-pull", 0], ["wash-round-8", "flicks", 30], ["ink-pointed-nib", "scrub", 0]] as const;
const GESTURES = ["press-ramp", "slow-pull", "flicks", "hatching", "scrub", "lean-fan"];
const DPI = 150;

const tool = (name: string) => join(repository, "demo/tools", `${name}.json`);
const gesture = (name: string) => join(repository, "demo/gestures", `${name}.inkml`);

/** A page of the server's with nothing on it that may import a module, by itself: the one that the front end is built from, or another. */
async function serveModule(page: Page, origin: string, folder = join(repository, "web/src/engine/wasm"), at = "module") {
  await page.route(`${origin}empty`, (route) => route.fulfill({ body: "<!doctype html>", contentType: "text/html" }));
  await page.goto(`${origin}empty`);
  await page.route(`${origin}${at}/*`, (route) => {
    const file = new URL(route.request().url()).pathname.replace(`/${at}/`, "");
    const contentType = file.endsWith(".wasm") ? "application/wasm" : "text/javascript";
    return route.fulfill({ body: readFileSync(join(folder, file)), contentType });
  });
}

/** What is laid: a tool document, a gesture as InkML, an image that the tool needs (a grey PNG, base64), and how far the board is tilted. */
interface Laid {
  document: string;
  ink: string;
  image: string | null;
  tilt?: number;
}

/** The checksum of a sheet of 80 × 14 mm in Chromium, laid in pieces as the Bench does; the command line lays whole strokes. */
function inBrowser(page: Page, laid: Laid): Promise<string> {
  return page.evaluate(
    async ({ document, ink, dpi, tilt }) => {
      const path = "/module/saltmarsh_browser.js";
      const module = await import(path);
      await module.default({ module_or_path: "/module/saltmarsh_browser_bg.wasm" });
      const pixel = 25.4 / dpi;
      // One studio for all: it keeps the paper that it made.
      const kept = globalThis as unknown as { studio?: InstanceType<typeof module.Studio> };
      const studio = (kept.studio ??= new module.Studio());
      studio.bringInto(JSON.stringify({ tilt_deg: tilt ?? 0, falls_deg: 90 }));
      const ground = JSON.stringify(JSON.parse(module.checkTool(document)).ground);
      const surface = studio.surface(ground, Math.round(80 / pixel), Math.round(14 / pixel), pixel, 0, 0);
      const recording = module.Recording.read(ink);
      surface.makeReady(document, undefined);
      surface.begin(document, "{}", true);
      for (let i = 0; i < recording.passCount; i++) {
        surface.hear(recording.pass(i));
        surface.hearLift();
        while (surface.waits) surface.work(1000);
      }
      surface.end();
      // What is wet dries, as the command line lets it.
      surface.advance(surface.longestRest);
      return surface.checksum() as string;
    },
    { ...laid, dpi: DPI },
  );
}

/** The same on the command line. */
async function natively(folder: string, { document, ink, image, tilt }: Laid): Promise<string> {
  const files = { tool: join(folder, "tool.json"), gesture: join(folder, "gesture.inkml"), image: join(folder, "image.png") };
  writeFileSync(files.tool, document);
  writeFileSync(files.gesture, ink);
  if (image) writeFileSync(files.image, Buffer.from(image, "base64"));
  const images = image ? ["--image", files.image] : [];
  const options = ["--dpi", String(DPI), "--sheet-mm", "0,0,80,14", "--tilt-deg", String(tilt ?? 0), "--checksum"];
  const { stdout } = await run(program, ["render", "--tool", files.tool, "--gesture", files.gesture, ...images, ...options]);
  return stdout.trim();
}

const read = (path: string) => readFileSync(path, "utf8");

test("sheets are bit-identical natively and in Chromium", async ({ studio, page }, info) => {
  test.setTimeout(360_000);
  await serveModule(page, studio.url);
  // Both at once: there are two processors.
  const same = async (name: string, laid: Laid) => {
    const [shown, told] = await Promise.all([inBrowser(page, laid), natively(info.outputPath(), laid)]);
    expect(shown, name).toBe(told);
  };
  const with_ = (name: string, change: (document: { ground?: unknown; parameters: Record<string, unknown> }) => void) => {
    const document = JSON.parse(read(tool(name)));
    change(document);
    return JSON.stringify(document);
  };
  mkdirSync(info.outputPath(), { recursive: true });
  // Each stick in two gestures, so that every gesture is met by two or three of them.
  for (const [i, t] of STICKS.entries()) {
    for (const g of [0, 3].map((n) => GESTURES[(i + n) % GESTURES.length] ?? "")) await same(`${t}, ${g}`, { document: read(tool(t)), ink: read(gesture(g)), image: null });
  }
  for (const t of MOVING) await same(`${t}, scrub`, { document: read(tool(t)), ink: read(gesture("scrub")), image: null });
  for (const t of BRUSHES) {
    for (const g of ["press-ramp", "scrub"]) await same(`${t}, ${g}`, { document: read(tool(t)), ink: read(gesture(g)), image: null });
  }
  for (const [t, g, tilt] of WET) await same(`${t}, ${g}, ${tilt}°`, { document: read(tool(t)), ink: read(gesture(g)), image: null, tilt });
  const scrub = read(gesture("scrub"));
  for (const surface of GROUNDS) {
    await same(surface, { document: with_("graphite-2b-point", (d) => (d.ground = { surface })), ink: scrub, image: null });
  }
  const over = { surface: "canvas-coarse", tint: "umber", over: { recipe: { surface: "gesso" }, hides: 0.5 } };
  await same("gesso over canvas", { document: with_("chalk-side", (d) => (d.ground = over)), ink: scrub, image: null });
  for (const [name, parameters] of CHANGED) {
    await same(name, { document: with_("vine-charcoal-side", (d) => Object.assign(d.parameters, parameters)), ink: scrub, image: null });
  }
  // An image as tip and as grain.
  const image = readFileSync(join(repository, "crates/formats/tests/data/maps/map_p5_worn_plateau.png")).toString("base64");
  const hash = await page.evaluate((base64) => {
    const { studio } = globalThis as unknown as { studio: { giveImage(png: Uint8Array): string } };
    return studio.giveImage(Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)));
  }, image);
  const stamped = { "tip.shape": "image", "tip.image": hash, "tip.grain": hash, "tip.grain_mm": 6, "tip.grain_on": "tip", "tip.grain_turn_deg": 30 };
  await same("an image", { document: with_("vine-charcoal-side", (d) => Object.assign(d.parameters, stamped)), ink: scrub, image });
});

test("time goes over a sheet in the same steps natively and in Chromium, however a stroke is batched", async ({ studio, page }) => {
  await serveModule(page, studio.url, join(repository, "target/trial-wasm"), "trial");
  const native = (batch: number, pixels: number) =>
    execFileSync(join(repository, "target", process.env.SALTMARSH_PROFILE ?? "debug", "saltmarsh-trial"), [batch, pixels, 45].map(String)).toString().trim();
  for (const [batch, pixels] of [[1, 1], [9, 500], [1000, 100000]] as const) {
    const shown = await page.evaluate(
      async ([batch, pixels]) => {
        const path = "/trial/saltmarsh_trial.js";
        const module = await import(path);
        await module.default({ module_or_path: "/trial/saltmarsh_trial_bg.wasm" });
        return module.laid(batch, pixels, 45) as string;
      },
      [batch, pixels] as const,
    );
    expect(shown, `${batch} reports, ${pixels} pixels at a time`).toBe(native(64, 64));
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
    const image = await createImageBitmap(new Blob([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))]));
    const c = new OffscreenCanvas(image.width, image.height);
    const context = c.getContext("2d");
    context?.drawImage(image, 0, 0);
    return { width: image.width, height: image.height, pixels: Array.from(context?.getImageData(0, 0, image.width, image.height).data ?? []) };
  }, png.toString("base64"));
  expect([rendered.width, rendered.height]).toEqual([shown.width, shown.height]);
  const differing = shown.pixels.filter((v, i) => v !== rendered.pixels[i]).length;
  expect(differing, "channel values that differ").toBe(0);
});

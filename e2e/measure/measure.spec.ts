/** Speed and memory in Chromium, written with the native measures to docs/performance.md. */

import { cpus } from "node:os";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { Bench, expect, test, railOf } from "../bench";
import { repository } from "../server";
import { ROUNDS, inTurn, measuresOf, type Brush, type Figures, type Refusal, type Wash } from "./core";
import { penToPixel } from "./pen";

const lines: string[] = [];
const percentile = (values: number[], share: number) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN;
};
const spread = (values: number[], unit: string) =>
  `p50 ${percentile(values, 0.5).toFixed(1)}, p95 ${percentile(values, 0.95).toFixed(1)} ${unit} (${values.length} measures)`;

test.afterAll(() => {
  const text = [
    "# Performance",
    "",
    "Written by `./run bench`; figures of one run on one machine, where other work may run beside. Trust the ratios before the",
    "times: both sides of a ratio are measured in the same run. What bounds them, and what was tried: [bounds](bounds.md).",
    "",
    `${new Date().toISOString().slice(0, 10)}, ${cpus().length} × ${cpus()[0]?.model ?? "unknown"}; no graphics processor: Chromium draws in software.`,
    "",
    ...lines,
  ].join("\n");
  mkdirSync(join(repository, "docs"), { recursive: true });
  writeFileSync(join(repository, "docs/performance.md"), text);
});

test("pen to pixel", async ({ browser, studio }) => {
  const stick = await penToPixel(browser, studio, null);
  const brush = await penToPixel(browser, studio, /^Hog round 6 mm/);
  const wash = await penToPixel(browser, studio, /^Round 12/, true);
  lines.push(
    "## Pen to pixel",
    "",
    `From a pen's report (the event's own time) to the frame that shows it, on a sheet of ${stick.sheet} pixels; real pointer events through the`,
    "DevTools protocol:",
    "",
    `- a stick of 5 mm (60 pixels) on its side: ${spread(stick.all, "ms")}; all its paper was made ${stick.paper.toFixed(0)} s after the row was opened`,
    `- oil, a hog round of 6 mm (70 pixels): ${spread(brush.all, "ms")}; all its canvas ${brush.paper.toFixed(0)} s after`,
    `- watercolour, a round 12 (60 pixels), firm and dipped for each stroke, nine side by side while all before them are wet, on ${wash.sheet} pixels: ${spread(wash.all, "ms")};`,
    `  nine more over them, while most of the sheet is wet: ${spread(wash.over, "ms")}`,
    "",
  );
});

/** A tool, one of its numbers, its station and where it begins: what is changed to run every strip anew. */
interface Rerun {
  tool: RegExp;
  station: string;
  number: string;
  from: number;
  step: number;
}

/** Times of changes of a tool's number, from which every strip is run anew. */
async function rerun(bench: Bench, { tool, station, number, from, step }: Rerun) {
  await bench.open();
  await bench.choose(tool);
  await bench.station(station).click();
  const times: number[] = [];
  for (let i = 0; i < 24; i++) {
    const shown = bench.page.getByTestId("run-time");
    const before = await shown.innerText();
    await bench.setParameter(number, String(from + step * i));
    await bench.settled();
    await expect(shown).not.toHaveText(before, { timeout: 2000 }).catch(() => undefined);
    if (i > 3) times.push(Number((await shown.innerText()).replace(" ms", "")));
    await bench.page.waitForTimeout(250);
  }
  return times;
}

test("re-run of the proof sheet", async ({ bench, page }) => {
  await bench.station("Load").click();
  const blocked = page.evaluate(
    () =>
      new Promise<number>((done) => {
        let longest = 0;
        new PerformanceObserver((list) => list.getEntries().forEach((e) => (longest = Math.max(longest, e.duration)))).observe({ type: "longtask" });
        window.addEventListener("measured", () => done(longest), { once: true });
      }),
  );
  const times: number[] = [];
  for (let i = 0; i < 24; i++) {
    const before = await page.getByTestId("run-time").innerText();
    await bench.setParameter("Hardness", String(17 + (i % 12)));
    await bench.settled();
    await expect(page.getByTestId("run-time")).not.toHaveText(before, { timeout: 2000 }).catch(() => undefined);
    const ms = Number((await page.getByTestId("run-time").innerText()).replace(" ms", ""));
    if (i > 3) times.push(ms);
    await page.waitForTimeout(250);
  }
  const finger = await bench.page.context().newPage();
  const other = new Bench(finger, bench.studio);
  const moved = await rerun(other, { tool: /^Finger$/, station: "Mix", number: "Release over", from: 20, step: 1 });
  const round = await rerun(other, { tool: /^Hog round 6 mm/, station: "Relief", number: "Lays at most", from: 50, step: 1 });
  const flat = await rerun(other, { tool: /^Hog flat 18 mm/, station: "Relief", number: "Lays at most", from: 50, step: 1 });
  await finger.close();
  const slider = bench.controls.getByRole("slider", { name: "Hardness, slider" });
  const box = await railOf(slider);
  const dragged: number[] = [];
  await page.mouse.move(box.x + 60, box.y + box.height / 2);
  await page.mouse.down();
  for (let i = 0; i < 24; i++) {
    await page.mouse.move(box.x + 70 + 6 * i, box.y + box.height / 2);
    await bench.settled();
    await page.waitForTimeout(300);
    if (i > 3) dragged.push(Number((await page.getByTestId("run-time").innerText()).replace(" ms", "")));
  }
  await page.mouse.up();
  await page.evaluate(() => window.dispatchEvent(new Event("measured")));
  lines.push(
    "## Re-run",
    "",
    "From a change of a parameter to the whole draft column (six gestures at the resolution of the screen, 1280×800) on the page:",
    "",
    `- a change at once: ${spread(times, "ms")}`,
    `- the same with a large tool that moves powder, a finger on a bed of charcoal: ${spread(moved, "ms")}`,
    `- oil, a hog round of 6 mm: ${spread(round, "ms")}`,
    `- oil, a hog flat of 18 mm: ${spread(flat, "ms")}`,
    `- while a slider is dragged, at half the resolution: ${spread(dragged, "ms")}`,
    `- longest task of the page meanwhile: ${(await blocked).toFixed(0)} ms (0: none over 50 ms)`,
    "",
  );
});

/** What the page notes of itself: when a picture was put that holds more than one colour (a laid strip), ms of its clock. */
function noteStrips() {
  const put = CanvasRenderingContext2D.prototype.putImageData;
  const page = window as unknown as { firstStrip?: number; lastPicture?: number };
  CanvasRenderingContext2D.prototype.putImageData = function (this: CanvasRenderingContext2D, ...rest: [ImageData, number, number]) {
    const { data, width } = rest[0];
    page.lastPicture = performance.now();
    if (width > 200 && page.firstStrip === undefined && data.some((v, i) => i % 4 === 0 && Math.abs(v - (data[0] ?? 0)) > 60)) page.firstStrip = performance.now();
    put.apply(this, rest as unknown as Parameters<typeof put>);
  } as typeof put;
}

/** Opens the page: when a first strip was shown and when the whole sheet was, s from the navigation's start. */
async function untilLaid(bench: Bench, open: () => Promise<unknown>) {
  await open();
  await bench.settled();
  const [first, whole] = await bench.page.evaluate(() => [(window as unknown as { firstStrip?: number }).firstStrip ?? NaN, performance.now()] as const);
  return { first: first / 1000, whole: whole / 1000 };
}

test("visits, other tools, grounds", async ({ browser, studio }) => {
  const seconds = (values: number[]) => `${percentile(values, 0.5).toFixed(2)} (${Math.min(...values).toFixed(2)} to ${Math.max(...values).toFixed(2)})`;
  const visits = { first: [] as number[], whole: [] as number[], again: [] as number[] };
  for (let i = 0; i < 5; i++) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    await context.addInitScript(noteStrips);
    const bench = new Bench(await context.newPage(), studio);
    const { first, whole } = await untilLaid(bench, () => bench.page.goto(studio.url));
    visits.first.push(first);
    visits.whole.push(whole);
    // Paper is stored a little after it was made.
    await bench.page.waitForTimeout(4000);
    visits.again.push((await untilLaid(bench, () => bench.page.reload())).whole);
    await context.close();
  }
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(noteStrips);
  const bench = new Bench(page, studio);
  await bench.open();
  // A painter looks and draws first: papers of the rack's other tools are made while nothing is done.
  await page.waitForTimeout(45_000);
  const tools = [/^Chalk, side of stick/, /^Hog flat 18 mm/, /^Round 8/];
  const switches: string[] = [];
  for (const tool of tools) {
    const first = await bench.choose(tool);
    await bench.choose(/^Vine charcoal, side/);
    const again = await bench.choose(tool);
    switches.push(`${String(tool).slice(2, -1)} ${(first / 1000).toFixed(2)}, again ${(again / 1000).toFixed(2)}`);
  }
  // A ground's slider is dragged; each step shows a picture.
  await page.goto(new URL("/grounds", studio.url).href);
  await page.getByRole("button", { name: /^Linen/ }).click();
  const figures = page.getByTestId("ground-figures");
  await expect(figures).toHaveAttribute("aria-busy", "false");
  const slider = page.getByRole("slider", { name: "Roughness Sa, slider" });
  const box = await railOf(slider);
  const pictures: number[] = [];
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height / 2);
  await page.mouse.down();
  for (let i = 0; i < 24; i++) {
    const since = await page.evaluate(() => performance.now());
    await page.mouse.move(box.x + box.width * (0.3 + 0.02 * i), box.y + box.height / 2);
    await page.waitForTimeout(600);
    const at = await page.evaluate(() => (window as unknown as { lastPicture?: number }).lastPicture ?? 0);
    if (i > 3 && at > since) pictures.push(at - since);
  }
  const letGo = Date.now();
  await page.mouse.up();
  await expect(figures).toHaveAttribute("aria-busy", "false");
  const measured = Date.now() - letGo;
  await page.close();
  lines.push(
    "## Visits, other tools, grounds",
    "",
    "In Chromium, 1280×800; seconds, the middle of 5 visits (from the least to the most):",
    "",
    `- first visit: a first strip after ${seconds(visits.first)}, the whole sheet after ${seconds(visits.whole)}`,
    `- the same page opened again: the whole sheet after ${seconds(visits.again)}`,
    `- another tool, until both columns are laid, after a rest of 45 s, the first time and once more: ${switches.join("; ")}`,
    `- a ground's slider is dragged: a picture ${spread(pictures, "ms")} after each step; figures ${measured} ms after it is let go`,
    "",
  );
});

test("frames while a slider is dragged", async ({ bench, page }) => {
  const told: string[] = [];
  for (const [station, name] of [["Tip", "Side on the paper"], ["Load", "Hardness"], ["Ground", "Tooth"]] as const) {
    await bench.station(station).click();
    const slider = bench.controls.getByRole("slider", { name: `${name}, slider` });
    await slider.scrollIntoViewIfNeeded();
    const rail = await railOf(slider);
    await bench.settled();
    // Whatever is asked for once the strokes are there is over.
    await page.waitForTimeout(1500);
    const frames = page.evaluate(
      () =>
        new Promise<number[]>((done) => {
          const gaps: number[] = [];
          let [last, over] = [performance.now(), false];
          const next = (now: number) => {
            gaps.push(now - last);
            last = now;
            if (over) done(gaps);
            else requestAnimationFrame(next);
          };
          requestAnimationFrame(next);
          window.addEventListener("measured", () => (over = true), { once: true });
        }),
    );
    await page.mouse.move(rail.x + rail.width * 0.3, rail.y + rail.height / 2);
    await page.mouse.down();
    for (let i = 0; i < 60; i++) {
      await page.mouse.move(rail.x + rail.width * (0.3 + 0.006 * i), rail.y + rail.height / 2);
      await page.waitForTimeout(16);
    }
    await page.evaluate(() => window.dispatchEvent(new Event("measured")));
    await page.mouse.up();
    told.push(`- ${station}, ${name}: ${spread((await frames).slice(1), "ms")}`);
  }
  lines.push("## Frames while a slider is dragged", "", "From one frame of the page to the next, 60 moves each; 33 ms are asked:", "", ...told, "");
});

/** So long a page that is measured is left alone, ms: longer than a wash takes to dry. */
const UNSEEN_MS = 3000;

/** A stroke of a wash as it goes: the first picture of it, all six laid, and until they are dry. */
test("washes on the page", async ({ bench, page }) => {
  await bench.choose(/^Round 8/);
  const dry = () => expect(page.getByText("drying…")).toHaveCount(0, { timeout: 120_000 });
  await dry();
  await bench.station("Load").click();
  await page.evaluate(() => {
    const put = CanvasRenderingContext2D.prototype.putImageData;
    const seen = Object.assign(window, { puts: [] as number[], changed: 0 });
    CanvasRenderingContext2D.prototype.putImageData = function (this: CanvasRenderingContext2D, ...picture: unknown[]) {
      seen.puts.push(performance.now());
      (put as (...all: unknown[]) => void).apply(this, picture);
    } as typeof put;
    // From the key on that takes what was typed: until then nothing is changed.
    window.addEventListener("keydown", (event) => event.key === "Enter" && (seen.changed = performance.now()), true);
  });
  const [first, laid, whole]: [number[], number[], number[]] = [[], [], []];
  for (let i = 0; i < 6; i++) {
    await page.evaluate(() => void Object.assign(window, { puts: [], changed: 0 }));
    await bench.setParameter("Water", String(100 + 2 * i));
    // Nobody looks through the page meanwhile: that takes a tenth of both processors.
    await page.waitForTimeout(UNSEEN_MS);
    await bench.settled();
    await dry();
    const [soonest, last] = await page.evaluate(() => {
      const { puts, changed } = window as unknown as { puts: number[]; changed: number };
      const after = puts.map((t) => t - changed).filter((t) => t > 0);
      return [Math.min(...after), Math.max(...after)] as const;
    });
    first.push(soonest);
    whole.push(last / 1000);
    // Said once nothing dries any more: how long the strokes took to be laid.
    laid.push(Number((await page.getByTestId("run-time").innerText()).replace(" ms", "")));
  }
  lines.push(
    "## Washes on the page",
    "",
    `A round 8, six gestures: after a change the first of them is seen laid within ${spread(first, "ms")}, all six within ${spread(laid, "ms")};`,
    `the last picture, dry, comes ${percentile(whole, 0.5).toFixed(2)} s after the change (p50; ${Math.min(...whole).toFixed(2)} to ${Math.max(...whole).toFixed(2)}).`,
    "",
  );
});

test("dabs", async ({ page, studio }) => {
  const measured = await measuresOf(page, studio);
  const inBrowser = (await measured("measure")) as Figures;
  const [brushes, washes] = [await inTurn<Brush>("brushes", measured), await inTurn<Wash>("washes", measured)];
  const native: Figures & { hostile: Refusal[] } = JSON.parse(readFileSync(join(repository, ".state/bench-native.json"), "utf8"));
  const row = (name: string, of: (f: Figures) => string) => `| ${name} | ${of(native)} | ${of(inBrowser)} |`;
  lines.push(
    "## Dabs",
    "",
    `A stroke of ${native.dabs} dabs of vine charcoal, footprint ${native.footprint_px.toFixed(0)} pixels long on average, ${(native.pixels / 1e6).toFixed(2)} million`,
    "footprint pixels in all, on cold-pressed paper at 300 dpi; medians of 9. The stamp is a plain alpha stamp of the same footprint by",
    "tiny-skia at the same places; the copy is a memcpy of the bytes the dabs touch (80 a pixel).",
    "",
    "| | native | WebAssembly |",
    "| --- | --- | --- |",
    row("ns a footprint pixel", (f) => f.ns_per_pixel.toFixed(0)),
    row("over a plain stamp", (f) => `× ${f.to_stamp.toFixed(1)}`),
    row("over a memcpy", (f) => `× ${f.to_copy.toFixed(1)}`),
    row("the same stroke, sheet of 8192² over 2048²", (f) => `× ${f.large_to_small.toFixed(2)}`),
    row("MB a painted megapixel", (f) => (f.bytes_per_painted_megapixel / 1e6).toFixed(0)),
    row("ms for a snapshot of a painted sheet of 2048²", (f) => f.snapshot.toFixed(3)),
    row("s to make the paper under the stroke, once", (f) => (f.paper / 1000).toFixed(1)),
    "",
    "Paper that was made is kept (at most 72 MB a ground, and 36 MB as the pixels of sheets see it).",
    "",
    "## Actions and sizes",
    "",
    "Reports of 16 ms at a time (two, at 125 Hz), a hand that wanders at about 90 mm/s, cold-pressed paper at 300 dpi; what moves powder acts on",
    "the bed of charcoal. ms of work a frame, of which a large dab takes several; late: frames until all of it is laid, p95.",
    "",
    "| | px under the tip | ns a pixel, native | p50 | p95 | late | ns a pixel, WebAssembly | p50 | p95 | late |",
    "| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |",
    ...native.frames.map((f, i) => {
      const b = inBrowser.frames[i] ?? f;
      return `| ${f.what} | ${f.footprint_px.toFixed(0)} | ${f.ns_per_pixel.toFixed(0)} | ${f.p50.toFixed(2)} | ${f.p95.toFixed(2)} | ${f.late} | ${b.ns_per_pixel.toFixed(0)} | ${b.p50.toFixed(2)} | ${b.p95.toFixed(2)} | ${b.late} |`;
    }),
    "",
    "## Brushes",
    "",
    `100 mm of fresh oil at 300 dpi and 80 mm/s on fine canvas; medians of 7, the least of ${ROUNDS} rounds, natively and in the browser in turn. The copy is a memcpy of all that paste keeps of the painted pixels,`,
    "152 bytes each.",
    "",
    "| | painted megapixels | ms, native | over a memcpy | 8192² over 2048² | ms, WebAssembly | over native |",
    "| --- | ---: | ---: | ---: | ---: | ---: | ---: |",
    ...brushes.map(([f, b]) => `| ${f.what} | ${f.megapixels.toFixed(2)} | ${f.ms.toFixed(0)} | × ${f.to_copy.toFixed(0)} | × ${f.large_to_small.toFixed(2)} | ${b.ms.toFixed(0)} | × ${(b.ms / f.ms).toFixed(1)} |`),
    "",
    `200 × 200 pixels of it under light: ${native.lit.toFixed(1)} ms natively, ${inBrowser.lit.toFixed(1)} ms in WebAssembly.`,
    "",
    "## Water",
    "",
    `A step on 512² pixels of 0.085 mm, wet all over or in their upper part; medians of 9 of the quickest of ${ROUNDS} rounds, natively and in the browser in turn; over native the fastest of all. The copy is a memcpy of the wet pixels' bytes; the study's is one of 77 bytes a wet pixel,`,
    "whatever is painted: what its own ratios (2.7 with one pigment, 3.8 with four) are over.",
    "",
    "| pigments | wet | ms, native | over a memcpy | over the study's | bytes a wet pixel | ms, WebAssembly | over native |",
    "| ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |",
    ...washes.map(([f, b]) => `| ${f.pigments} | ${(100 * f.wet).toFixed(0)} % | ${f.ms.toFixed(1)} | × ${f.to_copy.toFixed(1)} | × ${f.to_study_copy.toFixed(1)} | ${f.bytes_a_cell.toFixed(0)} | ${b.ms.toFixed(1)} | × ${(b.fastest_ms / f.fastest_ms).toFixed(2)} |`),
    "",
    "## Hostile documents and pictures",
    "",
    "Until they are refused, natively, each in a process of its own; memory beyond the document itself:",
    "",
    "| document | MB | ms | MiB | answer |",
    "| --- | ---: | ---: | ---: | --- |",
    ...native.hostile.map((h) => `| ${h.name} | ${(h.bytes / 1e6).toFixed(1)} | ${h.ms.toFixed(1)} | ${h.mib.toFixed(0)} | ${h.said.replaceAll("|", "/")} |`),
    "",
  );
});

/** The pictures in docs/screenshots: the demo as it is, the Bench in both themes and at each station that has a picture. */

import { execFileSync } from "node:child_process";
import { mkdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, Pen, test, type Bench } from "../bench";
import { program, repository } from "../server";
import type { Page } from "@playwright/test";

const folder = join(repository, "docs/screenshots");
mkdirSync(folder, { recursive: true });

/** Bends the curve, shortens the side, and draws on the free row. */
async function work(bench: Bench, page: Page) {
  await bench.station("Tip").click();
  await bench.setParameter("Side on the paper", "6");
  await bench.station("Touch").click();
  const line = await page.getByTestId("curve-line").boundingBox();
  if (!line) throw new Error("the curve is not drawn");
  const [x, y] = [line.x + line.width * 0.5, line.y + line.height * 0.5];
  await page.mouse.click(x, y);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y + 46, { steps: 4 });
  await page.mouse.up();
  const pen = await Pen.of(page);
  for (let k = 0; k < 4; k++) {
    const touches = [];
    for (let i = 0; i <= 24; i++) {
      const f = i / 24;
      touches.push({ ...(await bench.onPad(0.04 + 0.24 * k + 0.2 * f, 0.5 + 0.25 * Math.sin(6 * f + k))), force: 0.15 + 0.6 * f * (1 - f * 0.4), tiltX: 12 * k, tiltY: 30 });
    }
    await pen.stroke(touches);
  }
  const strip = await bench.strip("Press ramp", "draft").boundingBox();
  if (strip) await page.mouse.move(strip.x + strip.width * 0.42, strip.y + strip.height / 2);
  await bench.settled();
  await page.waitForTimeout(900);
}

test("the Bench in both themes", async ({ bench, page }) => {
  await work(bench, page);
  await page.screenshot({ path: join(folder, "bench-light.png") });
  await page.getByRole("button", { name: "Dark", exact: true }).click();
  await page.waitForTimeout(300);
  await page.screenshot({ path: join(folder, "bench-dark.png") });
});

test("stations", async ({ bench, page }) => {
  await work(bench, page);
  for (const name of ["Load", "Ground"]) {
    await bench.station(name).click();
    await page.waitForTimeout(700);
    await page.screenshot({ path: join(folder, `station-${name.toLowerCase()}.png`) });
  }
});

test("a brush as it bends", async ({ bench, page }) => {
  await bench.choose(/^Loaded edge, hog flat 16 mm/);
  await page.getByRole("combobox", { name: "Strips lie on" }).click();
  await page.getByRole("option", { name: "three wet stripes" }).click();
  await bench.station("Tip").click();
  const pen = await Pen.of(page);
  for (let k = 0; k < 3; k++) {
    const places = Array.from({ length: 24 }, (_, i) => bench.onPad(0.04 + 0.3 * k + (0.24 * i) / 23, 0.5 + 0.2 * Math.sin(i / 5)));
    await pen.stroke((await Promise.all(places)).map((p) => ({ ...p, force: 0.45, tiltY: 25 })));
  }
  await bench.settled();
  await page.waitForTimeout(2500);
  await page.screenshot({ path: join(folder, "station-tip.png") });
});

test("all of Touch, and the trace beside the kept tool", async ({ bench, page }) => {
  await work(bench, page);
  await page.mouse.move(700, 60);
  await bench.controls.getByRole("button", { name: "All", exact: true }).click();
  await page.getByRole("button", { name: "Kept", exact: true }).click();
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(folder, "touch-all.png") });
});

test("the Hand and the Gestures", async ({ page, bench: _ }) => {
  await page.getByRole("link", { name: "Hand", exact: true }).click();
  const box = await page.getByRole("img", { name: /^Test pad/ }).boundingBox();
  if (!box) throw new Error("there is no test pad");
  const pen = await Pen.of(page);
  let lane = 0;
  for (const [kind, force] of [["light", 0.14], ["normal", 0.32], ["firm", 0.62]] as const) {
    await page.getByRole("button", { name: new RegExp(`^${kind}`) }).click();
    for (let i = 0; i < 2; i++, lane++) {
      const touches = Array.from({ length: 60 }, (_, k) => {
        const t = k / 59;
        const held = force * Math.min(1, t / 0.2, (1 - t) / 0.15) * (1 + 0.04 * Math.sin(31 * t + lane));
        return { x: box.x + 30 + 420 * t, y: box.y + 26 + 36 * lane + 5 * Math.sin(6 * t), force: Math.max(0.001, held), tiltX: 20 + 10 * t, tiltY: 30, twist: Math.round(40 + 60 * t) };
      });
      await pen.stroke(touches);
    }
  }
  await page.getByRole("button", { name: "Propose" }).click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(folder, "hand.png") });
  await page.getByRole("button", { name: "Discard" }).click();
  await page.getByRole("link", { name: "Gestures", exact: true }).click();
  await page.getByRole("button", { name: /^Hatching/ }).click();
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(folder, "gestures.png") });
});

test("the Rack", async ({ page, bench }) => {
  await bench.settled();
  await page.getByRole("link", { name: "Rack", exact: true }).click();
  // Washes dry before they are shown.
  test.setTimeout(240_000);
  await page.waitForTimeout(60_000);
  await page.screenshot({ path: join(folder, "rack.png") });
  await page.getByRole("button", { name: "Techniques" }).click();
  await page.waitForTimeout(15_000);
  await page.screenshot({ path: join(folder, "techniques.png") });
});

test("the Grounds", async ({ page, bench }) => {
  await bench.settled();
  await page.getByRole("link", { name: "Grounds", exact: true }).click();
  await page.getByRole("button", { name: "Linen, clear sized" }).click();
  await page.waitForTimeout(6000);
  await page.screenshot({ path: join(folder, "grounds.png") });
});

test("watercolour", async ({ bench, page }) => {
  test.setTimeout(240_000);
  await page.getByRole("combobox", { name: "Tool", exact: true }).click();
  await page.getByRole("option", { name: "Granulating mop", exact: true }).click();
  await expect(page.getByTestId("drying")).toBeVisible();
  await bench.station("Load").click();
  await expect(page.getByTestId("drying")).toBeHidden({ timeout: 120_000 });
  await page.screenshot({ path: join(folder, "watercolour.png") });
});

test("nine grounds under raking light", async ({ page }) => {
  const picture = (arguments_: string[]) => `data:image/png;base64,${execFileSync(program, arguments_).toString("base64")}`;
  const surfaces = ["hot-pressed", "cold-pressed", "rough", "laid", "canvas-fine", "canvas-coarse", "linen", "sanded", "gesso"];
  const cells = surfaces.map((surface) => {
    const recipe = join(repository, `demo/grounds/${surface}.json`);
    const src = picture(["ground", "--ground", recipe, "--width-mm", "20", "--height-mm", "12", "--out", "-"]);
    const { name } = JSON.parse(readFileSync(recipe, "utf8")) as { name: string };
    return `<figure style="margin:0"><img src="${src}" style="display:block"><figcaption>${name}, 20 × 12 mm</figcaption></figure>`;
  });
  await page.setContent(`<body style="margin:0;padding:10px;background:#e9e9e9;font:13px sans-serif"><div style="display:grid;grid-template-columns:400px 400px 400px;gap:10px">${cells.join("")}</div></body>`);
  await page.setViewportSize({ width: 1240, height: 800 });
  await page.screenshot({ path: join(folder, "grounds-sheet.png"), fullPage: true });
});

test("the free row, open", async ({ bench, page }) => {
  await bench.choose(/^Compressed/);
  await page.getByRole("button", { name: "Open", exact: true }).click();
  await page.waitForTimeout(1500);
  const pen = await Pen.of(page);
  for (let k = 0; k < 14; k++) {
    const touches = [];
    for (let i = 0; i <= 30; i++) {
      const f = i / 30;
      const bend = 0.07 * Math.sin(2.2 * f + 0.5 * k);
      touches.push({ ...(await bench.onPad(0.06 + 0.064 * k + bend * f, 0.92 - (0.55 + 0.2 * Math.sin(k * 1.7)) * f)), force: 0.75 * (1 - f) + 0.05, tiltX: 10, tiltY: 12 + 3 * (k % 5) });
    }
    await pen.stroke(touches);
  }
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(folder, "free-row.png") });
});

test("a wash chart on three papers", async ({ page }) => {
  // Twenty-four washes are laid and dried.
  test.setTimeout(600_000);
  const techniques = ["flat", "graded", "wet-in-wet", "glaze", "backrun", "lifting", "dry-brush"];
  const papers = ["hot-pressed", "cold-pressed", "rough"];
  const png = execFileSync(program, [
    "sheet", "--tools", join(repository, "demo/tools"), "--dpi", "150", "--out", "-",
    ...techniques.flatMap((t) => ["--technique", `wash-${t}`]), ...papers.flatMap((p) => ["--ground", p]),
  ], { maxBuffer: 64 << 20 });
  // A bead on a board that stands up runs down it.
  const runs = papers.map((paper) => execFileSync(program, [
    "render", "--tool", join(repository, "demo/tools/wash-round-8.json"), "--gesture", join(repository, "demo/gestures/bead.inkml"), "--ground", paper,
    "--tilt-deg", "30", "--sheet-mm", "2,0,78,40", "--dpi", "119", "--out", "-",
  ], { maxBuffer: 64 << 20 }));
  const picture = (png: Buffer, style: string) => `<img style="${style}" src="data:image/png;base64,${png.toString("base64")}">`;
  const heads = papers.map((p) => `<span>${p}</span>`).join("");
  const rows = techniques.map((t) => `<span>${t.replaceAll("-", " ")}</span>`).join("");
  await page.setContent(`<body style="margin:0;padding:10px;background:#e9e9e9;font:13px sans-serif"><div style="display:grid;grid-template-columns:80px 1100px">
    <span></span><div style="display:grid;grid-template-columns:repeat(3,1fr)">${heads}</div>
    <div style="display:grid;grid-auto-rows:1fr">${rows}</div>${picture(png, "width:1100px")}
    <span>run down a board of 30°</span><div style="display:grid;grid-template-columns:repeat(3,1fr);gap:10px;padding-top:10px;background:#fff">${runs.map((r) => picture(r, "width:100%")).join("")}</div></div></body>`);
  await page.setViewportSize({ width: 1200, height: 800 });
  await page.screenshot({ path: join(folder, "wash-chart.png"), fullPage: true });
});

test("charcoal, enlarged", async ({ page }) => {
  const demo = (path: string) => join(repository, "demo", path);
  const strip = (tool: string, gesture: string, ground: string) => {
    const png = execFileSync(program, [
      "render", "--tool", demo(`tools/${tool}.json`), "--gesture", demo(`gestures/${gesture}.inkml`),
      "--ground", ground, "--sheet-mm", "0,0,80,14", "--dpi", "300", "--out", "-",
    ]);
    return `data:image/png;base64,${png.toString("base64")}`;
  };
  const rows = [
    ["Vine charcoal on cold-pressed, light to firm, 1:1 at 300 dpi", strip("vine-charcoal-side", "press-ramp", "cold-pressed"), 1, 0],
    ["the same, a light touch, × 3", strip("vine-charcoal-side", "press-ramp", "cold-pressed"), 3, -120],
    ["Compressed charcoal on rough, × 3", strip("compressed-charcoal-edge", "press-ramp", "rough"), 3, -1300],
    ["Vine charcoal, scrubbed back and forth, × 3", strip("vine-charcoal-side", "scrub", "cold-pressed"), 3, -1200],
  ] as const;
  const body = rows
    .map(([label, src, scale, left]) => {
      const image = `<img src="${src}" style="position:absolute;left:${left}px;top:${scale > 1 ? -100 : 0}px;width:${945 * scale}px;image-rendering:pixelated">`;
      return `<p>${label}</p><div style="position:relative;overflow:hidden;height:${scale > 1 ? 210 : 165}px">${image}</div>`;
    })
    .join("");
  await page.setContent(`<body style="margin:0;padding:8px 16px;width:945px;background:#f3f1ec;font:13px sans-serif">${body}</body>`);
  await page.setViewportSize({ width: 977, height: 960 });
  await page.screenshot({ path: join(folder, "charcoal-enlarged.png") });
});

test("oil, enlarged", async ({ page }) => {
  const demo = (path: string) => join(repository, "demo", path);
  const strip = (tool: string, gesture: string, on: string, mm: string, dpi: number) => {
    const png = execFileSync(program, [
      "render", "--tool", demo(`tools/${tool}.json`), "--gesture", demo(`gestures/${gesture}.inkml`),
      "--on", on, "--lit", "--sheet-mm", mm, "--dpi", String(dpi), "--out", "-",
    ]);
    return `data:image/png;base64,${png.toString("base64")}`;
  };
  const rows = [
    ["Hog flat 18 mm, light to firm, on fine canvas", strip("hog-flat", "press-ramp", "bare", "0,-3,80,20", 300)],
    ["Dry brush over coarse canvas", strip("dry-brush", "slow-pull", "bare", "0,-3,80,20", 300)],
    ["Hog round 10 mm over three wet stripes, × 2", strip("hog-round", "press-ramp", "stripes", "28,0,40,14", 600)],
    ["A blender over three wet stripes, × 2", strip("soft-blender", "press-ramp", "stripes", "28,0,40,14", 600)],
  ];
  const body = rows.map(([label, src]) => `<p style="margin:6px 0">${label}</p><img src="${src}" style="width:945px;display:block">`).join("");
  await page.setContent(`<body style="margin:0;padding:8px 16px;width:945px;background:#f3f1ec;font:13px sans-serif">${body}</body>`);
  await page.setViewportSize({ width: 977, height: 800 });
  await page.screenshot({ path: join(folder, "oil-enlarged.png"), fullPage: true });
});

test("what moves powder, and its balance", async ({ bench, page }) => {
  await bench.choose("Finger");
  await bench.station("Mix").click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(folder, "station-mix.png") });
});

test("every tool of the demo, enlarged", async ({ page }) => {
  // Each is laid until it is dry.
  test.setTimeout(900_000);
  const demo = (path: string) => join(repository, "demo", path);
  const { tools } = JSON.parse(readFileSync(demo("demo.json"), "utf8")) as { tools: string[] };
  const cells = tools.map((file) => {
    const { name, intent, medium } = JSON.parse(readFileSync(demo(file), "utf8")) as { name: string; intent: string; medium: string };
    const gesture = /point|edge|thin|pencil|corner/.test(file) ? "hatching" : "scrub";
    const png = execFileSync(program, ["render", "--tool", demo(file), "--gesture", demo(`gestures/${gesture}.inkml`), "--sheet-mm", "0,0,42,14", "--dpi", "300", "--out", "-", ...(medium === "paste" ? ["--lit"] : [])]);
    const src = `data:image/png;base64,${png.toString("base64")}`;
    return `<figure style="margin:0"><img src="${src}" style="width:620px;image-rendering:pixelated;display:block"><figcaption><b>${name}</b> ${intent}</figcaption></figure>`;
  });
  await page.setContent(`<body style="margin:0;padding:10px;background:#f3f1ec;font:13px sans-serif"><div style="display:grid;grid-template-columns:620px 620px;gap:10px">${cells.join("")}</div></body>`);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.screenshot({ path: join(folder, "tools.png"), fullPage: true });
});

/** The Bench as a painter finds it, and a hand that draws on it with a pen through real pointer events. */

import { createHash } from "node:crypto";
import { expect, test as base, type CDPSession, type Locator, type Page } from "@playwright/test";
import { FEW_ROWS, Studio } from "./server";

export interface Touch {
  x: number;
  y: number;
  force: number;
  tiltX?: number;
  tiltY?: number;
  twist?: number;
}

/** A pen: the DevTools protocol's mouse events of pointer type "pen" become true pointer events with all channels. */
export class Pen {
  private constructor(
    private session: CDPSession,
    private page: Page,
  ) {}

  static async of(page: Page) {
    return new Pen(await page.context().newCDPSession(page), page);
  }

  /** A stroke of its other end: a page hears of it as of a button of its own (Pointer Events, chorded buttons). */
  async otherEnd(touches: Touch[]) {
    await this.page.evaluate((way) => {
      const sheet = document.elementFromPoint(way[0]?.x ?? 0, way[0]?.y ?? 0);
      const tell = (type: string, t: { x: number; y: number; force: number } | undefined, buttons: number) =>
        sheet?.dispatchEvent(
          new PointerEvent(type, { pointerId: 71, pointerType: "pen", bubbles: true, cancelable: true, clientX: t?.x ?? 0, clientY: t?.y ?? 0, pressure: buttons ? (t?.force ?? 0) : 0, button: type === "pointermove" || type === "pointerrawupdate" ? -1 : 5, buttons }),
        );
      // A pointer that no device has cannot be captured.
      Object.assign(sheet ?? {}, { setPointerCapture: () => undefined });
      tell("pointerdown", way[0], 32);
      for (const t of way.slice(1)) tell("pointerrawupdate", t, 32);
      tell("pointerup", way.at(-1), 0);
    }, touches);
  }

  private send(type: "mousePressed" | "mouseMoved" | "mouseReleased", t: Touch, buttons: number) {
    return this.session.send("Input.dispatchMouseEvent", {
      type,
      x: t.x,
      y: t.y,
      button: "left",
      buttons,
      clickCount: 1,
      pointerType: "pen",
      force: t.force,
      tiltX: t.tiltX ?? 0,
      tiltY: t.tiltY ?? 0,
      twist: t.twist ?? 0,
    });
  }

  hover(t: Touch) {
    return this.send("mouseMoved", { ...t, force: 0 }, 0);
  }

  down(t: Touch) {
    return this.send("mousePressed", t, 1);
  }

  move(t: Touch) {
    return this.send("mouseMoved", t, 1);
  }

  async up(t: Touch) {
    await this.send("mouseReleased", { ...t, force: 0 }, 0);
  }

  async stroke(touches: Touch[]) {
    const [first, ...rest] = touches;
    if (!first) return;
    await this.hover(first);
    await this.down(first);
    for (const t of rest) await this.move(t);
    await this.up(rest.at(-1) ?? first);
  }
}

/** The rail that a slider's thumb moves on. */
export async function railOf(slider: Locator) {
  const box = await slider.locator("xpath=ancestor::*[@data-rail]").boundingBox();
  if (!box) throw new Error("no slider");
  return box;
}

/** Moves a slider to a number by pressing its rail there. */
export async function slideTo(slider: Locator, value: number) {
  const [low, high] = await Promise.all(["aria-valuemin", "aria-valuemax"].map(async (name) => Number(await slider.getAttribute(name))));
  const rail = await railOf(slider);
  await slider.page().mouse.click(rail.x + (rail.width * (value - (low ?? 0))) / ((high ?? 1) - (low ?? 0)), rail.y + rail.height / 2);
  await expect(slider).toHaveAttribute("aria-valuenow", String(value));
}

export class Bench {
  /** How long strips may take to be laid, ms. */
  patience = 30_000;

  constructor(
    readonly page: Page,
    readonly studio: Studio,
  ) {}

  /** `at`: the address of the screen that a test is about; the Bench is laid only where it is looked at. */
  async open(at = "/") {
    // The three steps of the first minute were put away; buttons stay as large as they are, also after a pen was seen: strips do.
    await this.page.addInitScript(() => {
      localStorage.setItem("saltmarsh.first-minute", "away");
      localStorage.setItem("saltmarsh.large-buttons", "off");
    });
    await this.page.goto(new URL(at, this.studio.url).href);
    if (at === "/") await this.settled();
    else await expect(this.page.getByRole("heading", { level: 1 })).toBeVisible();
  }

  /**
   * The whole proof sheet is laid, the free row too. Looked at from within the page: an assertion that has to wait describes the whole
   * page each time and looks again only after up to a second, and tests wait for strokes more than for anything else.
   */
  async settled() {
    const at = ['[role="img"][aria-label^="Free row"]', 'section[aria-label="Proof sheet"]'];
    await this.page.waitForFunction((all) => all.every((each) => document.querySelector(each)?.getAttribute("aria-busy") === "false"), at, { polling: 50, timeout: this.patience });
  }

  /** Takes a tool out of the list, and waits until it is there and laid; how long that took, ms. */
  async choose(tool: string | RegExp): Promise<number> {
    const shown = this.page.getByRole("combobox", { name: "Tool", exact: true });
    await shown.click();
    const started = Date.now();
    await this.page.getByRole("option", { name: tool, exact: true }).click();
    // Until the tool has come nothing says that strokes are to be laid anew.
    await expect(shown).toContainText(tool instanceof RegExp ? new RegExp(tool.source.replace(/\$$/, "")) : tool);
    await this.settled();
    return Date.now() - started;
  }

  /** What the API answers to the signed-in page. */
  ask<T>(path: string): Promise<T> {
    return this.page.request.get(new URL(`/api/v1${path}`, this.studio.url).href).then((r) => r.json() as Promise<T>);
  }
  /** All tools with their documents; a demo has fewer than a page of them. */
  async tools<T>(): Promise<T[]> {
    const { tools } = await this.ask<{ tools: { id: string }[] }>("/tools");
    return tools.length === 0 ? [] : this.ask<T[]>(`/tools/whole?ids=${tools.map((t) => t.id).join(",")}`);
  }

  /** A gesture's way, as InkML. */
  async wayOf(gesture: string): Promise<string> {
    const found = (await this.ask<{ id: string; name: string }[]>("/gestures")).find((g) => g.name === gesture);
    return found ? this.page.request.get(new URL(`/api/v1/gestures/${found.id}/inkml`, this.studio.url).href).then((r) => r.text()) : "";
  }

  station(name: string) {
    return this.page.getByRole("navigation", { name: "Stations" }).getByRole("button", { name: new RegExp(`^${name}`) });
  }

  get controls() {
    return this.page.getByRole("region", { name: "Controls" });
  }

  parameter(label: string) {
    return this.controls.getByRole("textbox", { name: label, exact: true });
  }

  async setParameter(label: string, value: string) {
    await this.parameter(label).fill(value);
    await this.parameter(label).press("Enter");
  }

  get status() {
    return this.page.getByTestId("draft-status");
  }

  get saving() {
    return this.page.getByTestId("saving");
  }

  get keep() {
    return this.page.getByRole("button", { name: /^Keep v/ });
  }

  strip(gesture: string, column: "kept" | "draft") {
    return this.page.getByRole("img", { name: `${gesture}, ${column}` });
  }

  get pad() {
    return this.page.getByRole("img", { name: /^Free row/ });
  }

  /** A point of the pad, share of its size. */
  async onPad(x: number, y: number) {
    const box = await this.pad.boundingBox();
    if (!box) throw new Error("the pad is not on the page");
    return { x: box.x + box.width * x, y: box.y + box.height * y };
  }

  /** A hash of the pixels that the page shows, to compare: a strip's own; of the free row what is seen, without the tip's outline at the pen and the trace's. */
  async shown(locator: Locator) {
    const own = await locator.evaluate((element) => {
      if (!(element instanceof HTMLCanvasElement)) return null;
      const { width, height } = element;
      let data;
      try {
        data = element.getContext("2d")?.getImageData(0, 0, width, height).data ?? new Uint8ClampedArray();
      } catch {
        // A canvas that is drawn on was given to the engine.
        return null;
      }
      return `${width} × ${height}: ${data.reduce((sum, v) => Math.imul(sum ^ v, 0x01000193), 0x811c9dc5)}`;
    });
    return own ?? locator.screenshot({ animations: "disabled", style: "[data-testid=footprint], [data-testid=pad] [data-testid=mark-draft] { visibility: hidden }" }).then((png) => createHash("sha256").update(png).digest("hex"));
  }
}

/** A Bench of its own for every test, on a server of its own. */
export const test = base.extend<{ start: string; rows: string[]; studio: Studio; bench: Bench }>({
  start: ["/", { option: true }],
  rows: [FEW_ROWS, { option: true }],
  studio: async ({ rows }, use) => {
    const studio = new Studio(false, [], rows);
    await studio.open();
    await use(studio);
    await studio.close();
  },
  bench: async ({ page, start, studio }, use) => {
    const bench = new Bench(page, studio);
    await bench.open(start);
    await use(bench);
  },
});

export { expect };

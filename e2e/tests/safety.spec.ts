/** Nothing is lost: two windows, a server or database that goes away, a page that crashes. */

import { execFileSync } from "node:child_process";
import { readdirSync } from "node:fs";
import { Bench, Pen, expect, test } from "../bench";

interface Tool {
  name: string;
  kept: { number: number; document: { parameters: Record<string, number> } };
  draft: { document: { parameters: Record<string, number> } } | null;
}

test("two windows keep the same tool: the second is told, and loses nothing", async ({ bench, context, studio }) => {
  const second = new Bench(await context.newPage(), studio);
  await second.open();
  for (const b of [bench, second]) await b.station("Tip").click();
  // What is not changed there follows, a draft and what is kept.
  await bench.setParameter("Side on the paper", "11");
  await expect(second.parameter("Side on the paper")).toHaveValue("11.0");
  await expect(second.saving).toHaveText("saved");
  // What is changed there and not saved does not.
  await second.page.route("**/draft", (route) => route.abort());
  await second.setParameter("Side on the paper", "3");
  await expect(second.page.getByRole("alert")).toContainText("cannot be reached");
  await bench.setParameter("Side on the paper", "12");
  await bench.keep.click();
  await expect(bench.status).toContainText("as kept in v2");
  await expect(second.page.getByRole("alert")).toContainText("changed elsewhere");
  await second.page.unroute("**/draft");
  await expect(second.saving).toHaveText("not saved");
  await expect(second.parameter("Side on the paper")).toHaveValue("3.0");
  await second.keep.click();
  await expect(second.page.getByRole("alert")).toContainText("changed in another window");

  await second.page.getByRole("button", { name: "Keep mine as new…" }).click();
  await second.page.getByRole("textbox", { name: "Name" }).fill("Narrow side");
  await second.page.getByRole("dialog").getByRole("button", { name: "Keep v1" }).click();
  await expect(second.page.getByRole("combobox", { name: "Tool" })).toContainText("Narrow side");
  await expect(second.parameter("Side on the paper")).toHaveValue("3.0");
  const tools = await bench.tools<Tool>();
  const vine = tools.find((t) => t.name.startsWith("Vine charcoal, side"));
  expect([vine?.kept.number, vine?.kept.document.parameters["tip.side_mm"]]).toEqual([2, 12]);
});

test("server, database and page go away while a draft is edited", async ({ bench, page, context, studio }) => {
  await test.step("the server goes away while a draft is edited", async () => {
    await bench.station("Tip").click();
    await studio.stop();
    await bench.setParameter("Side on the paper", "11");
    await expect(page.getByRole("alert")).toContainText("cannot be reached");
    await expect(page.getByRole("alert")).toContainText("kept in this browser");
    await bench.setParameter("Side on the paper", "13");
    await studio.start();
    await expect(bench.saving).toHaveText("saved");
    await expect(page.getByRole("alert")).toHaveCount(0);
    await page.reload();
    await bench.settled();
    await bench.station("Tip").click();
    await expect(bench.parameter("Side on the paper")).toHaveValue("13.0");
  });

  await test.step("the database goes away while a draft is edited", async () => {
    await bench.station("Tip").click();
    await studio.door.shut();
    await bench.setParameter("Side on the paper", "6");
    await expect(page.getByRole("alert")).toContainText("database cannot be reached");
    await studio.door.open();
    await expect(bench.saving).toHaveText("saved");
    const tools = await bench.tools<Tool>();
    expect(tools.filter((t) => t.draft).map((t) => t.draft?.document.parameters["tip.side_mm"])).toEqual([6]);
  });

  await test.step("a page that crashes before it could save finds its work again", async () => {
    await bench.station("Tip").click();
    await studio.stop();
    await bench.setParameter("Side on the paper", "17");
    // Gone without a word: no unload handlers run.
    const session = await context.newCDPSession(page);
    const crashed = page.waitForEvent("crash");
    session.send("Page.crash").catch(() => undefined);
    await crashed;
    await studio.start();
    const after = new Bench(await context.newPage(), studio);
    await after.open();
    await after.station("Tip").click();
    await expect(after.parameter("Side on the paper")).toHaveValue("17.0");
    await expect(after.saving).toHaveText("saved");
  });
});

/** Runs SQL on the test database, as somebody did who kept rows before this program was written. */
function sql(text: string) {
  const versions = readdirSync("/usr/lib/postgresql").sort();
  execFileSync(`/usr/lib/postgresql/${versions.at(-1)}/bin/psql`, [process.env.DATABASE_URL ?? "", "-v", "ON_ERROR_STOP=1", "-q", "-c", text]);
}

test("killed workers are replaced, and old tools are tuned like any other", async ({ bench, page, studio }) => {
  await test.step("workers that are killed are replaced and lay anew, a place that is not there is told, nothing is lost", async () => {
    const pen = await Pen.of(page);
    await pen.stroke([{ ...(await bench.onPad(0.1, 0.5)), force: 0.5 }, { ...(await bench.onPad(0.3, 0.4)), force: 0.7 }, { ...(await bench.onPad(0.5, 0.5)), force: 0.5 }]);
    await bench.settled();
    const [row, strip] = [await bench.shown(bench.pad), await bench.shown(bench.strip("Press ramp", "draft"))];
    const before = page.workers();
    await Promise.all(before.map((worker) => worker.evaluate(() => self.close()).catch(() => undefined)));
    await expect.poll(() => page.workers().filter((w) => !before.includes(w)).length).toBe(before.length);
    await bench.settled();
    await expect.poll(() => bench.shown(bench.pad)).toEqual(row);
    await expect.poll(() => bench.shown(bench.strip("Press ramp", "draft"))).toEqual(strip);
    // What was laid by the fresh ones answers: the sheet can be drawn on, strokes be changed.
    await pen.stroke([{ ...(await bench.onPad(0.6, 0.5)), force: 0.5 }, { ...(await bench.onPad(0.7, 0.4)), force: 0.7 }, { ...(await bench.onPad(0.9, 0.5)), force: 0.5 }]);
    await expect.poll(() => bench.shown(bench.pad)).not.toEqual(row);
    await expect(page.getByRole("alert")).toHaveCount(0);

    await page.goto(new URL("/no/such/place", bench.studio.url).href);
    await expect(page.getByRole("heading", { name: "Nothing lies here" })).toBeVisible();
    await page.getByRole("link", { name: "To the Bench" }).click();
    await bench.settled();
  });

  await test.step("tools that an older program kept are tuned like any other", async () => {
    const old = { format: "saltmarsh.tool", version: 1, name: "Aged charcoal", medium: "dry", action: "lay", parameters: { "ground.paper": "rough", "tip.width_mm": 3 } };
    sql(`WITH me AS (SELECT id FROM painters WHERE name = '${studio.painter}'),
      tool AS (INSERT INTO tools (id, owner_id, name, newest) SELECT gen_random_uuid(), id, 'Aged charcoal', 1 FROM me RETURNING id, owner_id)
      INSERT INTO tool_versions (tool_id, owner_id, number, document, content_hash) SELECT id, owner_id, 1, '${JSON.stringify(old)}', 'old' FROM tool`);
    await page.reload();
    await bench.settled();
    await bench.choose(/^Aged charcoal/);
    await bench.station("Ground").click();
    await expect(bench.controls).toContainText("Rough");
    await bench.station("Tip").click();
    await expect(bench.parameter("Width")).toHaveValue("3.0");
    await bench.setParameter("Width", "5");
    await expect(bench.saving).toHaveText("saved");
    await bench.keep.click();
    await expect(bench.status).toContainText("as kept in v2");
  });
});

test("the page starts with what it had where the server is away, says so, and saves once it is back", async ({ browser, studio }) => {
  const context = await browser.newContext({ serviceWorkers: "allow" });
  const page = await context.newPage();
  const bench = new Bench(page, studio);
  const first = await page.goto(studio.url);
  expect(first?.headers()["cache-control"]).toBe("no-cache");
  await bench.settled();
  // Files whose names tell their content stay for ever, and come packed.
  const script = await page.evaluate(async () => {
    const answer = await fetch(document.querySelector<HTMLScriptElement>("script[src^='/assets/']")?.src ?? "", { cache: "reload" });
    return { cache: answer.headers.get("cache-control"), coding: answer.headers.get("content-encoding") };
  });
  expect(script).toEqual({ cache: "public, max-age=31536000, immutable", coding: "br" });
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => true));
  await bench.station("Tip").click();
  await bench.setParameter("Side on the paper", "14");
  await expect(bench.saving).toHaveText("saved");
  // What was told last is written a little later.
  await page.waitForTimeout(3000);

  await studio.stop();
  await page.reload();
  await bench.settled();
  await expect(page.getByText("The server is away: this is what was here last.")).toBeVisible();
  await bench.station("Tip").click();
  await expect(bench.parameter("Side on the paper")).toHaveValue("14.0");
  await bench.setParameter("Side on the paper", "8");
  await expect(bench.saving).toHaveText("not saved");
  await studio.start();
  await expect(bench.saving).toHaveText("saved");
  await expect(page.getByText("The server is away: this is what was here last.")).toHaveCount(0);
  const tools = await bench.tools<Tool>();
  expect(tools.filter((t) => t.draft).map((t) => t.draft?.document.parameters["tip.side_mm"])).toEqual([8]);
  await context.close();
});

/** Several painters on one server: each signs in by name and password, finds their own work, and leaves none of it behind. */

import { execFileSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { join } from "node:path";
import { looker } from "../axe";
import { Bench, expect, test } from "../bench";
import { Studio, program, repository } from "../server";

test("two painters share a browser and a server, and neither sees the other's work", async ({ page }) => {
  const studio = new Studio(true);
  await studio.open();
  const [reed, mira] = [`Reed ${randomUUID()}`, `Mira ${randomUUID()}`];
  const words = "salt and reeds";
  const make = (...more: string[]) => execFileSync(program, ["painter", ...more], { input: `${words}\n` });
  make(reed, "--owner", "--with", join(repository, "demo"));
  make(mira);
  const bench = new Bench(page, studio);
  const enter = async (name: string, password: string) => {
    await page.getByLabel("Name").fill(name);
    await page.getByLabel("Password").fill(password);
    await page.getByRole("button", { name: "Sign in" }).click();
  };
  const leave = async (name: string, how: string) => {
    await page.getByRole("button", { name }).click();
    await page.getByRole("button", { name: how, exact: true }).click();
    await expect(page.getByRole("heading", { name: "Whose bench is this?" })).toBeVisible();
  };

  await page.goto(studio.url);
  await expect(page.getByRole("heading", { name: "Whose bench is this?" })).toBeVisible();
  await expect(page).toHaveTitle("Sign in · Saltmarsh");
  const refused: string[] = [];
  page.on("console", (said) => said.text().includes("Content Security Policy") && refused.push(said.text()));
  await looker(page)("signing in");
  await enter(reed, "salt and reed");
  await expect(page.getByRole("alert")).toContainText("do not belong together");
  await enter(reed, words);
  await bench.station("Tip").click();
  await bench.setParameter("Side on the paper", "12");
  await expect(bench.saving).toHaveText("saved");

  // A way back in where the session ended meanwhile: nothing is lost.
  await page.context().clearCookies();
  await page.reload();
  await expect(page.getByLabel("Name")).toHaveValue(reed);
  await enter(reed, words);
  await bench.station("Tip").click();
  await expect(bench.parameter("Side on the paper")).toHaveValue("12.0");

  expect(refused, "the page needs nothing that its policy forbids").toEqual([]);
  const ran = await page.evaluate(() => {
    const script = document.createElement("script");
    script.textContent = "document.documentElement.dataset.ran = 'yes'";
    document.head.append(script);
    return document.documentElement.dataset.ran;
  });
  expect(ran, "no script of text runs in it").toBeUndefined();
  // What was changed a moment ago is saved first; then nothing of it is left here.
  await bench.setParameter("Side on the paper", "14");
  await leave(reed, "Sign out");
  const left = await page.evaluate(async () => {
    const done = <T>(request: IDBRequest<T>) => new Promise<T>((tell, refuse) => ((request.onsuccess = () => tell(request.result)), (request.onerror = refuse)));
    const all: unknown[] = [Object.entries(localStorage)];
    for (const { name } of await indexedDB.databases()) {
      if (!name || name === "saltmarsh-paper") continue;
      const db = await done(indexedDB.open(name));
      for (const store of db.objectStoreNames) all.push(name, await done(db.transaction(store).objectStore(store).getAll()));
      db.close();
    }
    return JSON.stringify(all);
  });
  for (const trace of ["Vine charcoal", "<ink", "saltmarsh.work", reed]) expect(left, "nothing of reed's is left").not.toContain(trace);
  await enter(mira, words);
  await expect(page.getByRole("heading", { name: "The rack is empty" })).toBeVisible();
  expect(await page.evaluate(async () => (await fetch("/api/v1/tools")).json())).toMatchObject({ tools: [] });
  await leave(mira, "Sign out everywhere");
  expect(await page.evaluate(async () => (await fetch("/api/v1/tools")).status)).toBe(401);
  await enter(reed, words);
  await bench.station("Tip").click();
  await expect(bench.parameter("Side on the paper")).toHaveValue("14.0");

  // An owner sees who paints here, and invites; whoever is invited gets a bench of their own.
  await page.getByRole("button", { name: reed }).click();
  await expect(page.getByText(/You keep \d+ of 100,000 things, \d+\.\d of 1,024 MiB\./)).toBeVisible();
  await page.getByRole("button", { name: "The studio…" }).click();
  await expect(page.getByRole("row", { name: new RegExp(`${reed}, owner`) })).toBeVisible();
  await expect(page.getByRole("row", { name: mira })).toBeVisible();
  await page.getByRole("button", { name: "Invite a painter" }).click();
  const link = await page.getByLabel("Give this link to whom you invite").inputValue();
  await expect(page.getByText(/^Invitation of/)).toHaveCount(1);
  await looker(page)("the studio", "[role=dialog]");
  await page.keyboard.press("Escape");
  await leave(reed, "Sign out");
  await page.goto(link);
  await page.reload();
  await expect(page.getByRole("heading", { name: "You are invited to a bench here" })).toBeVisible();
  const invited = `Fen ${randomUUID()}`;
  const accepts = async (name: string, password: string) => {
    await page.getByLabel("Name to sign in with").fill(name);
    await page.getByLabel("Password").fill(password);
    await page.getByRole("button", { name: "Begin" }).click();
  };
  await accepts(invited, "short");
  await expect(page.getByRole("alert")).toContainText("10 to 200 characters");
  await accepts(mira, words);
  await expect(page.getByRole("alert")).toContainText("already in use");
  await accepts(invited, words);
  await expect(page.getByRole("heading", { name: "The rack is empty" })).toBeVisible();
  expect(page.url()).not.toContain("invitation");
  await page.getByRole("button", { name: invited }).click();
  await expect(page.getByRole("button", { name: "The studio…" })).toHaveCount(0);
  await studio.close();
});

/** Nothing that was acknowledged is lost: eight painters save while the server is killed, told to end, and cut off from its database. */

import { execFile, execFileSync, spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { promisify } from "node:util";
import { expect, test } from "@playwright/test";
import { Studio, program, repository } from "../server";

const PAINTERS = 8;
const ROUNDS = Number(process.env.KILLS ?? 200);
const PASSWORD = "salt and reeds";
const TOOL = JSON.parse(readFileSync(join(repository, "demo/tools/vine-charcoal-side.json"), "utf8")) as { name: string; parameters: Record<string, number> };
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

const run = promisify(execFile);

/** Ends every process of the private database at once, as a fault of the machine would; it comes back by what it has written. */
async function abortDatabase() {
  const programs = join("/usr/lib/postgresql", readdirSync("/usr/lib/postgresql").sort().at(-1) ?? "", "bin");
  const { stdout } = await run(join(programs, "psql"), ["-At", process.env.DATABASE_URL ?? "", "-c", "SHOW data_directory"]);
  const data = stdout.trim();
  const restart = [join(programs, "pg_ctl"), "-D", data, "-m", "immediate", "-w", "-s", "-l", join(data, "server.log"), "restart"];
  const [command = "", ...rest] = process.getuid?.() === 0 ? ["runuser", "-u", "postgres", "--", ...restart] : restart;
  // What it starts goes on, and holds the output of whoever started it.
  await new Promise<void>((done, refuse) => spawn(command, rest, { cwd: "/", stdio: "ignore" }).on("exit", (code) => (code === 0 ? done() : refuse(new Error(`pg_ctl ended with ${code}`)))));
}

/** A painter who saves the same draft over and over, each time with another number in it. */
class Saver {
  private cookie = "";
  private tool = "";
  /** What the server has acknowledged last, and what is on its way. */
  kept = { version: 0, number: 0 };
  private sent = 0;
  count = 0;
  refusals: string[] = [];

  constructor(
    readonly name: string,
    private url: () => string,
  ) {}

  private async ask(method: string, path: string, body?: object) {
    const headers = { "content-type": "application/json", cookie: this.cookie };
    return fetch(new URL(`/api/v1${path}`, this.url()), { method, headers, body: body && JSON.stringify(body), signal: AbortSignal.timeout(10_000) });
  }

  private document = (number: number) => ({ ...TOOL, parameters: { ...TOOL.parameters, "tip.side_mm": 2 + number / 1e6 } });

  async begin() {
    const entered = await this.ask("POST", "/session", { name: this.name, password: PASSWORD });
    this.cookie = entered.headers.get("set-cookie")?.split(";")[0] ?? "";
    const made = (await (await this.ask("POST", "/tools", { document: TOOL })).json()) as { id: string };
    this.tool = made.id;
  }

  /** Saves once; whatever came in between is no answer. */
  async save() {
    // What was never answered is sent again as it was.
    if (this.sent === this.kept.number) this.sent++;
    try {
      const answer = await this.ask("PUT", `/tools/${this.tool}/draft`, { seen: this.kept.version, based_on: 1, document: this.document(this.sent) });
      if (answer.status === 200) {
        this.kept = { version: ((await answer.json()) as { version: number }).version, number: this.sent };
        this.count++;
      } else if (answer.status !== 503) this.refusals.push(`${answer.status} ${await answer.text()}`);
    } catch {
      await pause(20);
    }
  }

  /** Whether what was acknowledged is there, whole: it, or what was on its way. */
  async check(): Promise<"there" | "lost" | "half"> {
    let answer = await this.ask("GET", `/tools/${this.tool}`);
    // A connection that broke is found out by whoever asks next: asked again, as the page does.
    for (let tries = 0; answer.status === 503 && tries < 20; tries++) {
      await pause(50);
      answer = await this.ask("GET", `/tools/${this.tool}`);
    }
    if (answer.status !== 200) throw new Error(`what was saved cannot be read: ${answer.status} ${await answer.text()}`);
    const { draft } = (await answer.json()) as { draft: { version: number; document: typeof TOOL } | null };
    if (this.kept.number === 0 && draft === null) return "there";
    if (!draft || Object.keys(draft.document.parameters).length < Object.keys(TOOL.parameters).length) return "half";
    const found = Math.round(((draft.document.parameters["tip.side_mm"] ?? 0) - 2) * 1e6);
    return (found === this.kept.number && draft.version === this.kept.version) || found === this.sent ? "there" : "lost";
  }
}

test("what is acknowledged outlives the server and its way to the database", async () => {
  test.setTimeout(0);
  const studio = new Studio(true);
  await studio.open();
  const savers = Array.from({ length: PAINTERS }, (_, k) => new Saver(`Painter ${k} ${randomUUID()}`, () => studio.url));
  for (const saver of savers) {
    execFileSync(program, ["painter", saver.name], { input: `${PASSWORD}\n` });
    await saver.begin();
  }
  const faults = {
    killed: { rounds: ROUNDS, strike: () => studio.kill(), mend: () => studio.start() },
    "told to end": { rounds: Math.ceil(ROUNDS / 4), strike: () => studio.stop(), mend: () => studio.start() },
    "cut off from its database": { rounds: Math.ceil(ROUNDS / 2), strike: () => studio.door.shut(), mend: () => studio.door.open() },
    "its database aborted": { rounds: Math.ceil(ROUNDS / 2), strike: abortDatabase, mend: () => undefined },
  };
  for (const [what, { rounds, strike, mend }] of Object.entries(faults)) {
    const told = { acknowledged: 0, lost: 0, half: 0, refused: 0 };
    const back: number[] = [];
    for (let round = 0; round < rounds; round++) {
      let going = true;
      const before = savers.reduce((n, s) => n + s.count, 0);
      const saving = savers.map(async (s) => {
        while (going) await s.save();
      });
      await pause(60 + 240 * Math.random());
      await strike();
      const start = performance.now();
      await mend();
      // Back once one of them has saved again.
      const struck = savers.reduce((n, s) => n + s.count, 0);
      while (savers.reduce((n, s) => n + s.count, 0) === struck) await pause(5);
      back.push(performance.now() - start);
      going = false;
      await Promise.all(saving);
      told.acknowledged += savers.reduce((n, s) => n + s.count, 0) - before;
      for (const found of await Promise.all(savers.map((s) => s.check()))) if (found !== "there") told[found]++;
      const refusals = savers.flatMap((s) => s.refusals.splice(0));
      if (refusals[0]) console.log(refusals[0]);
      told.refused += refusals.length;
    }
    back.sort((a, b) => a - b);
    console.log(`${what}, ${rounds} times: ${told.acknowledged} saves acknowledged, ${told.lost} lost, ${told.half} half-written, ${told.refused} refused; back after ${Math.round(back[Math.floor(rounds / 2)] ?? 0)} ms (at most ${Math.round(back.at(-1) ?? 0)})`);
    expect([told.lost, told.half, told.refused]).toEqual([0, 0, 0]);
  }
  await studio.close();
});

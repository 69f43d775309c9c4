/** How much a server answers, beside how often its database alone does as much: lists, reads and saves, of 1 to 1,000 connections. */

import { execFileSync, spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, readFileSync, readdirSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { program, repository } from "../server";

const SECONDS = Number(process.env.LOAD_S ?? 6);
const CONNECTIONS = [1, 16, 128, 1000];
/** More than are saved at once. */
const TOOLS = 1500;
const PASSWORD = "salt and reeds";
const TOOL = JSON.parse(readFileSync(join(repository, "demo/tools/vine-charcoal-side.json"), "utf8")) as { name: string; parameters: Record<string, number> };

const postgres = (name: string) => {
  const versions = readdirSync("/usr/lib/postgresql").sort();
  return join("/usr/lib/postgresql", versions.at(-1) ?? "", "bin", name);
};

/** Updates a second of rows as large as a draft, by as many connections, of the database alone. */
function bare(folder: string, connections: number): number {
  const database = process.env.DATABASE_URL ?? "";
  const script = join(folder, "update.sql");
  writeFileSync(script, `\\set id random(1, ${TOOLS})\nUPDATE load_drafts SET document = jsonb_set(document, '{parameters,tip.side_mm}', to_jsonb(:id)), version = version + 1 WHERE id = :id;\n`);
  const sql = `DROP TABLE IF EXISTS load_drafts; CREATE TABLE load_drafts (id int PRIMARY KEY, document jsonb NOT NULL, version int NOT NULL); INSERT INTO load_drafts SELECT i, '${JSON.stringify(TOOL).replaceAll("'", "''")}', 0 FROM generate_series(1, ${TOOLS}) i;`;
  execFileSync(postgres("psql"), ["-q", database, "-c", sql], { stdio: ["ignore", "ignore", "ignore"] });
  const told = execFileSync(postgres("pgbench"), ["-n", "-f", script, "-c", String(connections), "-j", "2", "-T", String(SECONDS), database], { stdio: ["ignore", "pipe", "ignore"] }).toString();
  execFileSync(postgres("psql"), ["-q", database, "-c", "DROP TABLE load_drafts"]);
  return Number(/tps = ([\d.]+)/.exec(told)?.[1]);
}

test("how much a server answers beside its database", async () => {
  test.setTimeout(0);
  const folder = mkdtempSync(join(tmpdir(), "load-"));
  const server = spawn(program, ["serve", "--listen", "127.0.0.1:0"], { stdio: ["ignore", "pipe", "inherit"] });
  const url = await new Promise<string>((ready) => server.stdout.on("data", (data: Buffer) => ready(/http:\/\/\S+/.exec(data.toString())?.[0] ?? "")));
  /** A painter who is signed in: the cookie, and how to ask. */
  const painter = async (...more: string[]) => {
    const name = `Load ${randomUUID()}`;
    execFileSync(program, ["painter", name, ...more], { input: `${PASSWORD}\n` });
    const send = (method: string, path: string, cookie: string, body: object) => fetch(new URL(`/api/v1${path}`, url), { method, headers: { "content-type": "application/json", connection: "close", cookie }, body: JSON.stringify(body) });
    const entered = await send("POST", "/session", "", { name, password: PASSWORD });
    const cookie = entered.headers.get("set-cookie")?.split(";")[0] ?? "";
    return { cookie, send: (method: string, path: string, body: object) => send(method, path, cookie, body).then((r) => r.json() as Promise<{ id: string; version: number }>) };
  };
  const reader = await painter("--with", join(repository, "demo"));
  const saver = await painter();
  const heads = (await (await fetch(new URL("/api/v1/tools", url), { headers: { cookie: reader.cookie } })).json()) as { tools: { id: string }[] };
  const files = { read: join(folder, "read"), save: join(folder, "save") };
  writeFileSync(files.read, heads.tools.map((t) => `${t.id}\n`).join(""));
  const ids: string[] = [];
  for (let i = 0; i < TOOLS; i += 10) {
    const made = await Promise.all(Array.from({ length: 10 }, (_, k) => saver.send("POST", "/tools", { document: { ...TOOL, name: `load ${i + k + 1}` } })));
    ids.push(...made.map((t) => t.id));
  }
  /** Saves a first draft of each tool, so that what is measured are drafts that follow another, as the rows beside are there already. */
  const begin = async () => {
    // Versions of an earlier one are not known here.
    execFileSync(postgres("psql"), ["-q", process.env.DATABASE_URL ?? "", "-c", "DELETE FROM drafts USING painters WHERE painters.id = drafts.owner_id AND painters.name LIKE 'Load %'"]);
    const lines: string[] = [];
    for (let i = 0; i < ids.length; i += 10) {
      const drafts = await Promise.all(ids.slice(i, i + 10).map((id, k) => saver.send("PUT", `/tools/${id}/draft`, { seen: 0, based_on: 1, document: { ...TOOL, name: `load ${i + k + 1}` } })));
      lines.push(...drafts.map((draft, k) => `${ids[i + k] ?? ""} ${draft.version}\n`));
    }
    writeFileSync(files.save, lines.join(""));
  };
  const document = JSON.stringify({ ...TOOL, name: "NAME", parameters: { ...TOOL.parameters, "tip.side_mm": 12345.5 } });

  const lines: string[] = [];
  for (const asks of ["list", "read", "save"]) {
    for (const connections of CONNECTIONS) {
      const { cookie } = asks === "save" ? saver : reader;
      const env = { ...process.env, ASKS: asks, COOKIE: cookie, TOOLS: asks === "save" ? files.save : files.read, DOCUMENT: document };
      if (asks === "save") await begin();
      const told = execFileSync("wrk", ["-t1", `-c${connections}`, `-d${SECONDS}s`, "--timeout", "20s", "-s", join(repository, "e2e/measure/load.lua"), url], { env }).toString();
      const [, rate = "", p50 = "", p99 = "", refused = "", broken = "", statuses = ""] = /RESULT (\S+) (\S+) (\S+) (\d+) (\d+) ?(.*)/.exec(told) ?? [];
      const beside = asks === "save" ? bare(folder, Math.min(connections, 80)) : null;
      lines.push(`| ${asks} | ${connections} | ${Number(rate).toFixed(0)} | ${p50} | ${p99} | ${refused} | ${broken} | ${beside === null ? "" : `${beside.toFixed(0)} (× ${(Number(rate) / beside).toFixed(2)})`} |`);
      if (statuses) console.log(asks, connections, statuses);
    }
  }
  const peak = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid ?? 0}/status`, "utf8"))?.[1];
  console.log(["| asked | connections | answers a second | p50 ms | p99 ms | refused | broken off | database alone |", "| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: |", ...lines].join("\n"));
  console.log(`memory at most ${(Number(peak) / 1024).toFixed(0)} MiB`);
  server.kill();
  expect(lines).toHaveLength(12);
});

/** A Saltmarsh server of a test's own: its own painter in the shared test database, which can be cut off and come back. */

import { spawn, type ChildProcess } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer, connect, type AddressInfo, type Server, type Socket } from "node:net";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const root = join(dirname(fileURLToPath(import.meta.url)), "..");
export const program = join(root, "target", process.env.SALTMARSH_PROFILE ?? "debug", "saltmarsh");
export const repository = root;

/** The demo's own rows on the proof sheet; and as many as most tests look at: each costs a visit, and every change, as much again. */
export const DEMO_ROWS = ["Press ramp", "Slow pull", "Flicks", "Hatching", "Scrub", "Lean fan"];
export const FEW_ROWS = ["Press ramp", "Slow pull", "Scrub"];

const demos = new Map<string, string>();
process.on("exit", () => demos.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

/** The demo scenario with these gestures on the proof sheet, all others beside it: its folder. */
function demoOf(rows: string[]): string {
  const folder = join(root, "demo");
  if (rows.join() === DEMO_ROWS.join()) return folder;
  let made = demos.get(rows.join());
  if (!made) {
    made = mkdtempSync(join(tmpdir(), "saltmarsh-demo-"));
    const scenario = JSON.parse(readFileSync(join(folder, "demo.json"), "utf8")) as { tools: string[]; grounds: { file: string }[]; gestures: { file: string; name: string; aside?: boolean }[] };
    const there = (file: string) => join(folder, file);
    scenario.tools = scenario.tools.map(there);
    scenario.grounds = scenario.grounds.map((g) => ({ ...g, file: there(g.file) }));
    scenario.gestures = scenario.gestures.map((g) => ({ ...g, file: there(g.file), ...(rows.includes(g.name) ? {} : { aside: true }) }));
    writeFileSync(join(made, "demo.json"), JSON.stringify(scenario));
    demos.set(rows.join(), made);
  }
  return made;
}

/** A door between server and database that can be shut. */
export class Door {
  private server: Server | null = null;
  private sockets = new Set<Socket>();
  port = 0;

  constructor(private database: URL) {}

  async open() {
    this.server = createServer((from) => {
      const to = connect(Number(this.database.port || 5432), this.database.hostname);
      for (const socket of [from, to]) {
        this.sockets.add(socket);
        socket.on("error", () => undefined);
        socket.on("close", () => {
          this.sockets.delete(socket);
          from.destroy();
          to.destroy();
        });
      }
      from.pipe(to).pipe(from);
    });
    await new Promise<void>((ready) => this.server?.listen(this.port, "127.0.0.1", ready));
    this.port = (this.server.address() as AddressInfo).port;
  }

  async shut() {
    const closed = new Promise<void>((done) => this.server?.close(() => done()));
    this.sockets.forEach((s) => s.destroy());
    await closed;
  }
}

export class Studio {
  readonly painter = `Studio ${randomUUID()}`;
  readonly door: Door;
  url = "";
  private child: ChildProcess | null = null;

  /** `closed`: it signs nobody in without name and password; `more`: what else it is started with; `rows`: what the proof sheet shows. */
  constructor(
    private closed = false,
    private more: string[] = [],
    private rows = FEW_ROWS,
  ) {
    const url = process.env.DATABASE_URL;
    if (!url) throw new Error("DATABASE_URL names the test database; ./run test sets it");
    this.door = new Door(new URL(url));
  }

  async open() {
    await this.door.open();
    await this.start();
  }

  /** Starts the server; after a stop, on the port it had. */
  async start() {
    const database = new URL(process.env.DATABASE_URL ?? "");
    database.port = String(this.door.port);
    database.hostname = "127.0.0.1";
    const port = this.url ? new URL(this.url).port : "0";
    const child = spawn(
      program,
      ["serve", "--listen", `127.0.0.1:${port}`, "--web", join(root, "web/dist"), ...(this.closed ? [] : ["--painter", this.painter, "--demo", demoOf(this.rows)]), ...this.more],
      { env: { ...process.env, DATABASE_URL: database.href }, stdio: ["ignore", "pipe", "inherit"] },
    );
    this.child = child;
    this.url = await new Promise<string>((resolve, reject) => {
      let text = "";
      child.stdout.on("data", (data: Buffer) => {
        text += data.toString();
        const found = /http:\/\/\S+/.exec(text);
        if (found) resolve(found[0]);
      });
      child.on("exit", (code) => reject(new Error(`the server ended with ${code}: ${text}`)));
    });
  }

  async stop() {
    const child = this.child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((done) => child.on("exit", done));
    child.kill();
    // It may wait for an answer that nobody takes any more.
    const impatient = setTimeout(() => child.kill("SIGKILL"), 15_000);
    await gone;
    clearTimeout(impatient);
  }

  /** Ends the server as a fault of the machine would. */
  async kill() {
    this.child?.kill("SIGKILL");
    await this.stop();
  }

  async close() {
    // Nobody is left to be answered: it need not wait for what is still open.
    await this.kill();
    await this.door.shut();
  }
}

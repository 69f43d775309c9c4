/** Two copies of the server behind a proxy that ends TLS, as the documents say: one is killed, and the page goes on with the other. */

import { execFileSync, spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { once } from "node:events";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer, connect, type AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Bench, expect, test } from "../bench";
import { Studio, program, repository } from "../server";

const free = () =>
  new Promise<number>((found) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => found(port));
    });
  });
const answers = (port: number) =>
  new Promise<boolean>((told) => {
    const socket = connect(port, "127.0.0.1", () => (socket.destroy(), told(true)));
    socket.on("error", () => told(false));
  });

/** nginx with the configuration of the documents, before these ports. */
async function proxy(folder: string, copies: [string, string]) {
  const [key, certificate] = [join(folder, "key.pem"), join(folder, "certificate.pem")];
  execFileSync("openssl", ["req", "-x509", "-newkey", "rsa:2048", "-nodes", "-keyout", key, "-out", certificate, "-days", "2", "-subj", "/CN=127.0.0.1"], { stdio: "ignore" });
  const port = await free();
  const told = readFileSync(join(repository, "docs/nginx.conf"), "utf8")
    .replace("127.0.0.1:8710", new URL(copies[0]).host)
    .replace("127.0.0.1:8711", new URL(copies[1]).host)
    .replace("listen 443", `listen 127.0.0.1:${port}`)
    .replace("/etc/ssl/studio.pem", certificate)
    .replace("/etc/ssl/studio.key", key);
  const own = ["client_body", "proxy", "fastcgi", "uwsgi", "scgi"].map((name) => `${name}_temp_path ${join(folder, name)};`).join("\n");
  const file = join(folder, "nginx.conf");
  writeFileSync(file, `daemon off;\npid ${join(folder, "pid")};\nerror_log ${join(folder, "errors")};\nevents {}\nhttp {\naccess_log off;\n${own}\n${told}}\n`);
  const child = spawn("/usr/sbin/nginx", ["-c", file, "-p", folder], { stdio: "inherit" });
  await expect.poll(() => answers(port)).toBe(true);
  return { url: `https://127.0.0.1:${port}/`, end: () => (child.kill(), once(child, "exit")) };
}

interface Behind {
  copies: readonly [Studio, Studio];
  url: string;
}
const behind = test.extend<{ behind: Behind }>({
  behind: async ({}, use) => {
    const copies = [new Studio(true, ["--tls"]), new Studio(true, ["--tls"])] as const;
    for (const copy of copies) await copy.open();
    const folder = mkdtempSync(join(tmpdir(), "proxy-"));
    const { url, end } = await proxy(folder, [copies[0].url, copies[1].url]);
    await use({ copies, url });
    await end();
    for (const copy of copies) await copy.close();
    rmSync(folder, { recursive: true });
  },
});

behind.use({ ignoreHTTPSErrors: true });

behind("one of two copies is killed behind a proxy: nothing is lost, and the page goes on with the other", async ({ page, behind: { copies, url } }) => {
  const [painter, words] = [`Reed ${randomUUID()}`, "salt and reeds"];
  execFileSync(program, ["painter", painter, "--with", join(repository, "demo")], { input: `${words}\n` });
  const bench = new Bench(page, copies[0]);

  await page.goto(url);
  await page.getByLabel("Name").fill(painter);
  await page.getByLabel("Password").fill(words);
  await page.getByRole("button", { name: "Sign in" }).click();
  await bench.settled();
  const [cookie] = await page.context().cookies();
  expect(cookie?.name).toMatch(/^__Host-/);
  expect(cookie).toMatchObject({ secure: true, httpOnly: true, sameSite: "Strict" });
  const answer = await page.request.get(url);
  expect(answer.headers()["strict-transport-security"]).toContain("max-age");

  /** The side of the open tool's draft, as the server has it. */
  const side = async () => {
    const { tools } = (await (await page.request.get(`${url}api/v1/tools`)).json()) as { tools: { id: string; name: string }[] };
    const { id = "" } = tools.find((t) => t.name.startsWith("Vine charcoal, side")) ?? {};
    const tool = (await (await page.request.get(`${url}api/v1/tools/${id}`)).json()) as { draft: { document: { parameters: Record<string, number> } } | null };
    return tool.draft?.document.parameters["tip.side_mm"];
  };
  await bench.station("Tip").click();
  let value = 11;
  for (const copy of copies) {
    for (const killed of [false, true]) {
      if (killed) await copy.kill();
      value++;
      await bench.setParameter("Side on the paper", String(value));
      await expect.poll(side).toBe(value);
      await expect(bench.saving).toHaveText("saved");
    }
    await copy.start();
  }
  // Both copies know who is signed in, and the window hears of what another one does through either.
  const other = await page.context().newPage();
  await other.goto(url);
  await new Bench(other, copies[1]).settled();
  await new Bench(other, copies[1]).station("Tip").click();
  await new Bench(other, copies[1]).setParameter("Side on the paper", "20");
  await expect(bench.parameter("Side on the paper")).toHaveValue("20.0");
  await expect(page.getByRole("alert")).toHaveCount(0);
});

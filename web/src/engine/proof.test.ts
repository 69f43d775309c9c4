import { expect, test, vi } from "vitest";
import type { ProofJob } from "./types";

vi.mock("./wasm/saltmarsh_browser", () => ({
  Recording: { read: () => ({ passCount: 1, pass: () => new Float64Array(24), free: () => undefined }) },
  standsAlone: () => true,
}));
vi.mock("./images", () => ({ imagesFor: () => Promise.resolve() }));
const { Proof } = await import("./proof");

/** A surface that has work for a while; like the engine's, it is not to be used once it is freed. */
class FakeSurface {
  waits = false;
  busy = false;
  private freed = false;
  private pieces = 0;
  private owner = "";
  /** The tool of every stroke that was laid whole. */
  laid: string[] = [];
  private used() {
    if (this.freed) throw new Error("null pointer passed to rust");
  }
  lookAt() {
    this.used();
  }
  makeReady(tool: string) {
    this.used();
    this.owner = tool;
  }
  begin(tool: string) {
    this.used();
    expect(tool, "nobody else's stroke is under way").toBe(this.owner);
  }
  hear() {
    this.used();
    [this.pieces, this.waits] = [6, true];
  }
  hearLift() {
    this.used();
  }
  work() {
    this.used();
    // Longer than a slice, so that it rests after each.
    const until = performance.now() + 9;
    while (performance.now() < until);
    this.waits = --this.pieces > 0;
  }
  end() {
    this.used();
    this.laid.push(this.owner);
  }
  wipe() {
    this.used();
    [this.waits, this.owner] = [false, "wiped"];
  }
  pixels() {
    this.used();
    return new Uint8Array(4);
  }
  free() {
    this.used();
    this.freed = true;
  }
}

test("a run that rests while a newer one comes spoils nothing of it, at the same resolution or another", async () => {
  const made: FakeSurface[] = [];
  const studio = { surface: () => made[made.push(new FakeSurface()) - 1] };
  const proof = new Proof(studio as never, { bring: () => Promise.resolve(), keep: () => undefined } as never);
  proof.readGesture("g", "<ink/>");
  const job = (name: string, width: number) =>
    ({ column: "draft", also: null, tool: { name, ground: {} }, hand: {}, width, height: 1, pixelMm: 80 / width, rows: [{ id: "g", originY: 0, recorder: null }], under: null, seenS: null, view: {}, half: true }) as unknown as ProofJob;
  const shown: number[] = [];
  const run = (name: string, width: number) => proof.run(job(name, width), (strip) => shown.push(strip.width));
  const soon = () => new Promise((go) => setTimeout(go, 30));
  const first = run("first", 100);
  await soon();
  const second = run("second", 100);
  await soon();
  const third = run("third", 200);
  expect(await Promise.all([first, second, third])).toEqual([false, false, true]);
  expect(shown).toEqual([200]);
  expect(made.flatMap((s) => s.laid).map((tool) => (JSON.parse(tool) as { name: string }).name)).toEqual(["third"]);
});

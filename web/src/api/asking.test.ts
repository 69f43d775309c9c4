import { afterEach, expect, test, vi } from "vitest";
import { Refused } from "../model/refused";
import { once } from "./once";
import { within } from "./within";

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test("what was never answered is sent again under the same id, what was refused or kept under a new one", async () => {
  const ids: string[] = [];
  const send = (answer: () => Promise<string>) => (id: string) => {
    ids.push(id);
    return answer();
  };
  const away = () => Promise.reject(new Refused("away", "the server cannot be reached"));
  await expect(once({ name: "reed" }, send(away))).rejects.toThrow();
  await expect(once({ name: "quill" }, send(() => Promise.resolve("kept")))).resolves.toBe("kept");
  await expect(once({ name: "reed" }, send(() => Promise.reject(new Refused("taken", "in use"))))).rejects.toThrow();
  await expect(once({ name: "reed" }, send(() => Promise.resolve("kept")))).resolves.toBe("kept");
  await expect(once({ name: "reed" }, send(() => Promise.resolve("kept")))).resolves.toBe("kept");
  expect(ids[2]).toBe(ids[0]);
  expect(new Set(ids).size).toBe(4);
});

test("a server that does not answer, or does not end its answer, is away after the time it has", async () => {
  vi.useFakeTimers();
  const never = (signal: AbortSignal) => new Promise<never>((_, reject) => signal.addEventListener("abort", () => reject(new Error("given up"))));
  const silent = vi.fn((_: Request, { signal }: { signal: AbortSignal }) => never(signal));
  const half = vi.fn((_: Request, { signal }: { signal: AbortSignal }) => Promise.resolve({ status: 200, arrayBuffer: () => never(signal) }));
  for (const fetching of [silent, half]) {
    vi.stubGlobal("fetch", fetching);
    let ended = "";
    const asked = within(10_000)(new Request("http://localhost/api/v1/tools")).catch((e: Error) => (ended = e.message));
    await vi.advanceTimersByTimeAsync(9_900);
    expect(ended).toBe("");
    await vi.advanceTimersByTimeAsync(200);
    await asked;
    expect(ended).toBe("given up");
  }
});

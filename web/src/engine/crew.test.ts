import { expose } from "comlink";
import { expect, test, vi } from "vitest";
import { Crew, EngineLost } from "./crew";

// A page without locks, as on plain HTTP.
vi.stubGlobal("navigator", {});

/** Workers of this thread: each counts what it is asked, and traps where it is told to. */
function workshop() {
  const made: { terminated: boolean }[] = [];
  const make = () => {
    const { port1, port2 } = new MessageChannel();
    const state = { terminated: false };
    const index = made.push(state) - 1;
    expose(
      {
        start: () => ({ worker: index }),
        relevance: (what: string) => {
          if (what !== "trap") return `${index}: ${what}`;
          const trap = new Error("unreachable");
          trap.name = "RuntimeError";
          throw trap;
        },
        swatches: () => new Promise(() => undefined),
        curve: () => {
          throw new Error('{"field": "curve", "message": "is none"}');
        },
      },
      port2,
    );
    return Object.assign(port1, { terminate: () => void (state.terminated = true) }) as unknown as Worker;
  };
  return { made, crew: new Crew(1, make, () => Promise.resolve({} as WebAssembly.Module), "") };
}

interface Asked {
  relevance: (what: string) => Promise<string>;
  swatches: () => Promise<string>;
  curve: () => Promise<string>;
}

test("a worker that traps is replaced, whoever waits is told, and a refusal is no trap", async () => {
  const { made, crew } = workshop();
  await crew.start();
  const at = crew.at(0) as unknown as Asked;
  expect(await at.relevance("hello")).toBe("0: hello");
  await expect(at.curve()).rejects.toThrow("is none");
  expect(made).toHaveLength(1);

  const replaced = new Promise<number>((told) => crew.onReplaced(told));
  const waiting = at.swatches();
  await expect(at.relevance("trap")).rejects.toThrow(EngineLost);
  await expect(waiting).rejects.toThrow(EngineLost);
  expect(await replaced).toBe(0);
  expect(made.map((m) => m.terminated)).toEqual([true, false]);
  expect(await at.relevance("again")).toBe("1: again");
});

test("a worker that traps again and again is given up, and says so", async () => {
  const { made, crew } = workshop();
  await crew.start();
  const at = crew.at(0) as unknown as Asked;
  for (let i = 0; i < 12; i++) {
    const replaced = new Promise<number>((told) => crew.onReplaced(told));
    await expect(at.relevance("trap")).rejects.toThrow(EngineLost);
    await replaced;
  }
  await expect(at.relevance("trap")).rejects.toThrow();
  await expect(at.relevance("hello")).rejects.toThrow("load the page anew");
  expect(made).toHaveLength(13);
});

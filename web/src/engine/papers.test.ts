import { expect, test, vi } from "vitest";
import type { Studio } from "./wasm/saltmarsh_browser";

// A browser that keeps nothing.
vi.mock("idb-keyval", () => ({ createStore: () => null, get: () => Promise.reject(new Error("none")), set: vi.fn(), del: vi.fn() }));
const { Papers } = await import("./papers");

function papers() {
  const given: string[] = [];
  const studio = { hasGround: (recipe: string) => given.includes(recipe), giveGround: (recipe: string) => void given.push(recipe) } as unknown as Studio;
  return { given, papers: new Papers(studio, 0, "program") };
}
/** Whether a promise has resolved by now. */
const done = async (promise: Promise<unknown>) => {
  let is = false;
  void promise.then(() => (is = true));
  await new Promise((soon) => setTimeout(soon));
  return is;
};

test("whoever needs a ground that another worker begins waits until it is given", async () => {
  const { papers: here, given } = papers();
  here.expect("paper");
  const waits = here.bring("paper");
  expect(await done(here.bring("linen"))).toBe(true);
  expect(await done(waits)).toBe(false);
  here.give("paper", new Uint8Array(1));
  expect(await done(waits)).toBe(true);
  expect(given).toEqual(["paper"]);
});

test("a ground that could not be begun there is begun here", async () => {
  const { papers: here, given } = papers();
  here.expect("paper");
  const waits = here.bring("paper");
  here.give("paper", null);
  expect(await done(waits)).toBe(true);
  expect(given).toEqual([]);
  // Nobody waits for it any more.
  expect(await done(here.bring("paper"))).toBe(true);
});

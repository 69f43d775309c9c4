import { expect, test, vi } from "vitest";
import type { Gesture } from "../api/client";

const { changeGesture } = vi.hoisted(() => ({ changeGesture: vi.fn() }));
vi.mock("../session/changing", () => ({ changeGesture, forgetGesture: () => undefined }));
vi.mock("../api/client", () => ({}));
vi.mock("../api/ways", () => ({}));
const { changed, turned } = await import("./steps");

let now = { id: "g", name: "pull", note: "", tags: ["slow"], on_proof: true, content_hash: "a" } as unknown as Gesture;
const all = () => [now];
changeGesture.mockImplementation((shown: Gesture, to: Partial<Gesture> & { inkml?: string }) => {
  const { inkml, ...rest } = to;
  now = { ...shown, ...rest, ...(inkml && { content_hash: inkml }) };
  return Promise.resolve(now);
});

test("a step is taken back and done again, but not over what was changed elsewhere since", async () => {
  const tagged = changed(all, now, { tags: ["slow", "long"] }, "tagged");
  await tagged.again();
  // Another of its fields is nobody's concern.
  now = { ...now, note: "theirs" };
  await tagged.back();
  expect(now).toMatchObject({ tags: ["slow"], note: "theirs" });
  await tagged.again();
  now = { ...now, tags: ["theirs"] };
  await expect(tagged.back()).rejects.toThrow("stays as it is");
  expect(now.tags).toEqual(["theirs"]);

  const reversed = turned(all, now, "a", (way) => Promise.resolve(`${way} reversed`), "was reversed");
  await reversed.again();
  await reversed.back();
  await reversed.again();
  expect(now.content_hash).toBe("a reversed");
  now = { ...now, content_hash: "theirs" };
  await expect(reversed.back()).rejects.toThrow("stays as it is");
  expect(now.content_hash).toBe("theirs");
});

import { expect, test, vi } from "vitest";
import type { Gesture } from "../api/client";
import { changeGesture } from "./changing";

const server = vi.hoisted(() => ({ now: { id: "g", name: "pull", note: "", tags: [] as string[], on_proof: true, version: 1 }, sent: [] as object[] }));
vi.mock("../api/client", () => ({
  changeOf: ({ name, note, tags, on_proof }: Gesture) => ({ name, note, tags, on_proof }),
  renameImage: () => Promise.reject(new Error("not asked")),
  putGesture: async (_: string, { seen, ...to }: { seen: number }) => {
    await Promise.resolve();
    if (seen !== server.now.version) throw new Error(`moved on to version ${server.now.version}`);
    server.sent.push(to);
    return (server.now = { ...server.now, ...to, version: seen + 1 });
  },
}));

test("two fields that are filled in quickly are both kept, and another window's change is not overwritten", async () => {
  const shown = { ...server.now } as unknown as Gesture;
  await Promise.all([changeGesture(shown, { name: "long pull" }), changeGesture(shown, { note: "slow" })]);
  expect(server.now).toMatchObject({ name: "long pull", note: "slow", version: 3 });
  server.now = { ...server.now, name: "theirs", version: 4 };
  await expect(changeGesture(shown, { name: "mine" })).rejects.toThrow("version 4");
  expect(server.now.name).toBe("theirs");
  // What was told since is what the next change is made on.
  await changeGesture({ ...server.now } as unknown as Gesture, { note: "" });
  expect(server.now).toMatchObject({ name: "theirs", note: "", version: 5 });
});

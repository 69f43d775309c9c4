/** The ways of gestures, as InkML: asked for when something follows them, and kept in this browser by what they hold. */

import { clear, createStore, get, keys, del, set } from "idb-keyval";
import { downloadWay, type Gesture } from "./client";

const store = createStore("saltmarsh-ways", "inkml");
const coming = new Map<string, Promise<string>>();

/** InkML of a gesture. */
export function wayOf({ id, content_hash: hash }: Pick<Gesture, "id" | "content_hash">): Promise<string> {
  const there = coming.get(hash) ?? bring(id, hash);
  coming.set(hash, there);
  there.catch(() => coming.delete(hash));
  return there;
}

async function bring(id: string, hash: string): Promise<string> {
  // A browser that keeps nothing asks the server each time.
  const kept = await get<string>(hash, store).catch(() => undefined);
  if (kept !== undefined) return kept;
  const way = await downloadWay(id);
  void set(hash, way, store).catch(() => undefined);
  return way;
}

/** Lets go of all of them. */
export const forgetWays = () => clear(store);

/** Lets go of ways that no gesture follows any more. */
export async function keepWaysOf(gestures: Gesture[]) {
  const used = new Set(gestures.map((g) => g.content_hash));
  const all = await keys<string>(store).catch(() => []);
  await Promise.all(all.filter((hash) => !used.has(hash)).map((hash) => del(hash, store).catch(() => undefined)));
}

/** A step of the work on a tool, in words. */

import { sameGround } from "../model/ground";
import { changedParameters, changedResponses, type Parameter } from "../model/tool";
import type { Snapshot } from "./store";

const several = (words: string[]) => (words.length <= 2 ? words.join(", ") : `${words.slice(0, 2).join(", ")} and ${words.length - 2} more`);

/** What a step changed, in words. */
export function toldStep(before: Snapshot, after: Snapshot, parameters: Pick<Parameter, "id" | "label">[]): string {
  const [a, b] = [before.document, after.document];
  const words: string[] = [];
  if (a.medium !== b.medium) words.push("medium");
  if (a.action !== b.action) words.push("action");
  if (a.name !== b.name) words.push("name");
  if (a.intent !== b.intent) words.push("what it is for");
  if (!sameGround(a.ground, b.ground)) words.push("ground");
  words.push(...changedParameters(a, b).map((id) => parameters.find((p) => p.id === id)?.label ?? id));
  const responses = changedResponses(a, b).map((id) => (b.responses.find((r) => r.id === id) ?? a.responses.find((r) => r.id === id))?.quality ?? id);
  words.push(...responses.map((quality) => `response on ${quality}`));
  if (words.length > 0) return several([...new Set(words)]);
  if (before.pad.length > 0 && after.pad.length === 0) return "free row wiped";
  if (after.pad.length !== before.pad.length) return `stroke ${after.pad.length} on the free row`;
  const done = after.between.at(-1);
  if (after.between.length !== before.between.length) return done ? `free row: ${done.what}` : "free row";
  return "how responses combine";
}

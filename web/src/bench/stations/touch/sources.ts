import type { Source } from "../../../generated/core";

/** What signals come from, in the order in which they are told. */
export const SOURCES: [Source, string][] = [
  ["hand", "the hand"],
  ["way", "the way"],
  ["tool", "the tool"],
];

/** How the responses of one quality come together, in words. */

import type { Combine } from "../../../generated/core";

/** What joins two, in words and as a sign; and what it is called where it is chosen. */
export const WAYS: Record<Combine, { words: string; sign: string; chosen: string }> = {
  product: { words: "times what", sign: "×", chosen: "multiplied" },
  sum: { words: "and what", sign: "+", chosen: "added" },
  smallest: { words: "or what", sign: ",", chosen: "the smallest counts" },
  largest: { words: "or what", sign: ",", chosen: "the largest counts" },
};

/** "Flow is what pressure gives, times what speed gives", and "f(pressure) × f(speed)"; an angle is turned from its own by each. */
export function toldTogether(quality: string, signals: string[], how: Combine | "turned"): [string, string] {
  const all = signals.map((s) => `f(${s})`);
  const given = signals.map((s) => `what ${s} gives`);
  if (how === "turned") return [`${quality} is its own value, turned by ${given.join(" and by ")}.`, ["own", ...all].join(" + ")];
  const { words, sign } = WAYS[how];
  const [first = "", ...rest] = signals;
  const which = { smallest: ", whichever is least", largest: ", whichever is most", product: "", sum: "" }[how];
  const sentence = `${quality} is what ${first} gives${rest.map((s) => `, ${words} ${s} gives`).join("")}${which}.`;
  const least = { smallest: "min", largest: "max", product: "", sum: "" }[how];
  return [sentence, least ? `${least}(${all.join(", ")})` : all.join(` ${sign} `)];
}

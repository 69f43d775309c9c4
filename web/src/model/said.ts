/**
 * What the page says, ready to be said in another language: the English sentence is the key under which a catalogue would hold its
 * translation. There is no second language yet.
 */

import i18next from "i18next";
import type { Said } from "../generated/core";
import { fixed, LOCALE } from "./number";

void i18next.init({ lng: LOCALE, keySeparator: false, nsSeparator: false, interpolation: { escapeValue: false }, initAsync: false });

/** Whether there is any catalogue: without one a text stands for itself, and looking it up would cost a first visit a tenth of a second. */
const hasCatalogue = () => Object.keys(i18next.store.data).length > 0;

/** A text of the page; `{{name}}` stands for what `values` gives. */
export const t = (text: string, values?: Record<string, unknown>): string => (values || hasCatalogue() ? i18next.t(text, values ?? {}) : text);

/** What the core says, as the page says it: the sentence, the phrases in it and its numbers each by themselves. */
export function worded({ text, values }: Said): string {
  const parts = Object.entries(values).map(([name, part]) => [name, "number" in part ? fixed(part.number, part.digits) : worded(part)]);
  return t(text, parts.length > 0 ? Object.fromEntries(parts) : undefined);
}

/** What of the core's declarations is read by people; of its options, pairs of a name and a text, the text. */
const READ = new Set(["label", "help", "word"]);

/** Declarations of the core as the page says them: every label, option and explanation in its words. */
export function declaredIn<T>(declared: T): T {
  if (!hasCatalogue()) return declared;
  const inWords = (value: unknown, key: string): unknown => {
    if (typeof value === "string") return READ.has(key) ? t(value) : value;
    if (key === "options") return (value as [string, string][]).map(([name, text]) => [name, t(text)]);
    if (Array.isArray(value)) return value.map((each) => inWords(each, ""));
    if (typeof value !== "object" || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([name, of]) => [name, inWords(of, name)]));
  };
  return inWords(declared, "") as T;
}

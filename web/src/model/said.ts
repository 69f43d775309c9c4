/**
 * What the page says, ready to be said in another language: the English sentence is the key under which a catalogue would hold its
 * translation. There is no second language yet.
 */

import i18next from "i18next";
import { LOCALE } from "./number";

void i18next.init({ lng: LOCALE, keySeparator: false, nsSeparator: false, interpolation: { escapeValue: false }, initAsync: false });

/** A text of the page; `{{name}}` stands for what `values` gives. */
export const t = (text: string, values?: Record<string, unknown>): string => i18next.t(text, values ?? {});

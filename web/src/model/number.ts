/** How numbers are written, in one place: another language changes it here. */

export const LOCALE = "en";

const formats = new Map<number, Intl.NumberFormat>();

/** With so many digits after the point; no sign on a nought, no grouping: it stands in columns beside others. */
export function fixed(value: number, digits = 0): string {
  let format = formats.get(digits);
  if (!format) {
    format = new Intl.NumberFormat(LOCALE, { minimumFractionDigits: digits, maximumFractionDigits: digits, useGrouping: false, signDisplay: "negative" });
    formats.set(digits, format);
  }
  return format.format(value);
}

const counts = new Intl.NumberFormat(LOCALE);

/** A count, in groups of three digits. */
export const counted = (value: number): string => counts.format(value);

const times = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });

/** A time as the painter's own system writes it. */
export const timeSaid = (iso: string): string => times.format(new Date(iso));

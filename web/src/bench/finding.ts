/** How well something is what was typed: forgiving of order, of other words for it, and of a slip. */

const wordsOf = (text: string) => text.toLowerCase().split(/[^\p{L}\p{N}]+/u).filter(Boolean);

/** Slips between two words: letters that are another, missing, too many, or swapped with their neighbour (Damerau 1964, restricted). */
export function slips(a: string, b: string): number {
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, j) => j)];
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const at = (di: number, dj: number) => (di === 0 ? row[j - dj] : rows[i - di]?.[j - dj]) ?? 0;
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1] ? at(2, 2) + 1 : Infinity;
      row.push(Math.min(at(1, 0) + 1, at(0, 1) + 1, at(1, 1) + same, swapped));
    }
    rows.push(row);
  }
  return rows[a.length]?.[b.length] ?? 0;
}

/** Slips that are forgiven in a word of so many letters. */
const forgiven = (letters: number) => (letters >= 8 ? 2 : letters >= 4 ? 1 : 0);

/** 1 for the very word, 0 for nothing of the kind. `others`: other words for it, and what is said of it. */
export function found(value: string, typed: string, others: string[] = []): number {
  const sought = wordsOf(typed);
  const words = wordsOf(value);
  if (sought.length === 0) return 1;
  const begins = (all: string[], word: string) => all.some((w) => w.startsWith(word));
  if (words.join(" ").startsWith(sought.join(" "))) return sought.every((word, i) => words[i] === word) ? 1 : 0.95;
  if (sought.every((word) => words.includes(word))) return 0.9;
  if (sought.every((word) => begins(words, word))) return 0.85;
  const said = others.flatMap(wordsOf);
  if (sought.every((word) => begins(words, word) || begins(said, word))) return 0.5;
  const near = (all: string[], word: string) => all.some((w) => slips(word, w.slice(0, Math.max(word.length, w.length - 1))) <= forgiven(word.length) || slips(word, w) <= forgiven(word.length));
  if (sought.every((word) => begins(words, word) || near(words, word))) return 0.4;
  return sought.every((word) => begins(words, word) || near([...words, ...said], word)) ? 0.2 : 0;
}

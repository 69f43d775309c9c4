/** Names that are not in use yet. */

/** So long a name leaves room for what is put after it. */
export const LONGEST = 74;

/** A name that no tool has. */
export function freeName(wanted: string, tools: { name: string }[]): string {
  let name = wanted;
  for (let n = 2; tools.some((t) => t.name === name); n++) name = `${wanted.slice(0, LONGEST)}, ${n}`;
  return name;
}

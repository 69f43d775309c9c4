/** What is usual of a number for the kind of stick or hair that was chosen: its own by nature, within those of all kinds. */

import type { Usual } from "../ui/Slider";
import { useDeclared } from "../session/context";
import { documentOf, useBench } from "../session/store";

export function useUsual(id: string): Usual | null {
  const { medium, parameter } = useDeclared();
  const telling = medium.natures.filter((n) => n.values.some(([of]) => of === id));
  const choice = telling[0]?.parameter;
  const chosen = useBench((s) => (choice ? documentOf(s)?.parameters[choice] : undefined));
  const numberOf = (n: (typeof telling)[number]) => Number(n.values.find(([of]) => of === id)?.[1]);
  const nature = telling.find((n) => n.parameter === choice && n.option === chosen);
  if (!choice || !nature) return null;
  const all = telling.filter((n) => n.parameter === choice).map(numberOf);
  const kinds = parameter(choice);
  const of = (kinds?.kind === "choice" && kinds.options.find(([option]) => option === chosen)?.[1]) || String(chosen);
  return { low: Math.min(...all), high: Math.max(...all), own: numberOf(nature), of };
}

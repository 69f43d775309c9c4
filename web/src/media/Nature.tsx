/** What the chosen option of a parameter is by nature, where the tool has other numbers: taken in one step. */

import { withParameter } from "../model/tool";
import { useDeclared } from "../session/context";
import { edit, useDocument } from "../session/store";
import { useRelevance } from "../session/useEngine";
import { Button } from "../ui/controls";

export function Nature({ parameter }: { parameter: string }) {
  const document = useDocument();
  const { medium, parameter: declared } = useDeclared();
  const reasons = useRelevance(document);
  const chosen = document?.parameters[parameter];
  const nature = medium.natures.find((n) => n.parameter === parameter && n.option === chosen);
  // Where none of these numbers acts there is nothing to take.
  const acts = nature?.values.some(([id]) => reasons?.some((r) => r.id === id && r.acts));
  if (!document || !nature || !acts) return null;
  const other = nature.values.filter(([id, v]) => document.parameters[id] !== v);
  const names = nature.values.map(([id]) => declared(id)?.label.toLowerCase() ?? id).join(", ");
  const what = (declared(parameter)?.label ?? parameter).toLowerCase();
  return (
    <div className="flex items-center gap-2 pb-1 text-[12px] text-muted">
      <span>{other.length === 0 ? `All as this ${what} is by nature.` : `${other.length} of its numbers are not this ${what}'s own.`}</span>
      {other.length > 0 && (
        <Button className="ml-auto shrink-0 !px-2" title={`Its own ${names}`} onClick={() => edit((d) => other.reduce((doc, [id, v]) => withParameter(doc, id, v), d))}>
          Take the {what}'s own
        </Button>
      )}
    </div>
  );
}

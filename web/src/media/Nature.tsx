/** What the chosen option of a parameter is by nature, where the tool has other numbers: taken in one step. */

import { withParameter } from "../model/tool";
import { useDeclared } from "../session/context";
import { useAnyActs } from "../session/relevance";
import { documentOf, edit, useBench } from "../session/store";
import { Button } from "../ui/controls";
import { t } from "../model/said";

export function Nature({ parameter }: { parameter: string }) {
  const { medium, parameter: declared } = useDeclared();
  const chosen = useBench((s) => documentOf(s)?.parameters[parameter]);
  const nature = medium.natures.find((n) => n.parameter === parameter && n.option === chosen);
  // Where none of these numbers acts there is nothing to take.
  const acts = useAnyActs(nature?.values.map(([id]) => id) ?? []);
  const differ = useBench((s) => nature?.values.filter(([id, v]) => documentOf(s)?.parameters[id] !== v).length ?? 0);
  if (!nature || !acts) return null;
  const names = nature.values.map(([id]) => declared(id)?.label.toLowerCase() ?? id).join(", ");
  const what = (declared(parameter)?.label ?? parameter).toLowerCase();
  return (
    <div className="flex items-center gap-2 pb-1 text-[12px] text-muted">
      <span>{differ === 0 ? t("All as this {{what}} is by nature.", { what }) : t("{{differ}} of its numbers are not this {{what}}'s own.", { differ, what })}</span>
      {differ > 0 && (
        <Button className="ml-auto shrink-0 !px-2" title={t("Its own {{names}}", { names })} onClick={() => edit((d) => nature.values.reduce((doc, [id, v]) => withParameter(doc, id, v), d))}>
          {t("Take the")}{" "}{what}{t("'s own")}
        </Button>
      )}
    </div>
  );
}

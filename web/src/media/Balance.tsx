/** Mix: where what the selected stroke moved came from and went, with what it looks like: nothing appears or vanishes. */

import type { Balance as Amounts } from "../generated/core";
import { useBench } from "../session/store";
import { useTrace } from "../session/useEngine";
import { fixed } from "../model/number";
import { t } from "../model/said";

/** What a medium calls the places where its stuff can be, in the order in which they are shown. */
export type Places = Partial<Record<keyof Amounts, string>>;

export function Balance({ of, places, digits }: { of: string; places: Places; digits: number }) {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  if (!trace) return null;
  const rows: Places = { ...places, sheet: "On the sheet now" };
  return (
    <dl aria-label={t("{{of}} of this stroke", { of })} className="grid grid-cols-[auto_1fr_auto] gap-x-2 border-t border-hair py-1" data-testid="balance">
      {(Object.keys(rows) as (keyof Amounts)[]).map((key) => {
        const { mm3, rgb } = trace.balance[key];
        return (
          <div key={key} className="contents">
            <span aria-hidden className="mt-1 size-3 rounded-sm border border-hair" style={rgb ? { background: `rgb(${rgb.join(" ")})` } : undefined} />
            <dt>{rows[key]}</dt>
            <dd className="num text-right">{fixed(mm3, digits)}{" "}{t("mm³")}</dd>
          </div>
        );
      })}
    </dl>
  );
}

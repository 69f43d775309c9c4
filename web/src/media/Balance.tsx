/** Mix: where what the selected stroke moved came from and went: nothing appears or vanishes. */

import type { Balance as Amounts } from "../generated/core";
import { useBench } from "../session/store";
import { useTrace } from "../session/useEngine";

/** What a medium calls the places where its stuff can be. */
export type Places = Partial<Record<keyof Amounts, string>>;

export function Balance({ of, places, digits }: { of: string; places: Places; digits: number }) {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  if (!trace) return null;
  const rows = (Object.keys(places) as (keyof Amounts)[]).map((key): [string, number] => [places[key] ?? key, trace.balance[key].mm3]);
  return (
    <dl aria-label={`${of} of this stroke`} className="grid grid-cols-[1fr_auto] border-t border-hair py-1" data-testid="balance">
      {[...rows, ["On the sheet now", trace.sheet.mm3] as const].map(([label, mm3]) => (
        <div key={label} className="contents">
          <dt>{label}</dt>
          <dd className="num text-right">{mm3.toFixed(digits)} mm³</dd>
        </div>
      ))}
    </dl>
  );
}

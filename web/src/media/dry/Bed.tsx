/** Mix: what a dry tool has to move, and where the powder of the selected stroke went: nothing is lost. */

import { useBench, useDocument } from "../../session/store";
import { useTrace } from "../../session/useEngine";

export function Bed() {
  const document = useDocument();
  return (
    <div>
      <p className="pb-2">
        {document?.action === "lay"
          ? "Nothing on a dry sheet is wet, so there is nothing to mix: a stick lays its powder over what is there. A finger, a stump or an eraser moves it; what the tool does is chosen beside its name."
          : "What the strips lie on is chosen above the proof sheet: a bed of charcoal with bare paper between gives the tool something to move."}
      </p>
      <Balance />
    </div>
  );
}

function Balance() {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  if (!trace) return null;
  const { brought, held, gone } = trace.balance;
  const rows: [string, number][] = [
    ["From the stick", brought.mm3],
    ["In the tool", held.mm3],
    ["Gone as crumbs", gone.mm3],
    ["On the sheet now", trace.sheet.mm3],
  ];
  return (
    <dl aria-label="Powder of this stroke" className="grid grid-cols-[1fr_auto] border-t border-hair py-1" data-testid="balance">
      {rows.map(([label, mm3]) => (
        <div key={label} className="contents">
          <dt>{label}</dt>
          <dd className="num text-right">{mm3.toFixed(4)} mm³</dd>
        </div>
      ))}
    </dl>
  );
}

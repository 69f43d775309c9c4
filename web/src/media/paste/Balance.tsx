/** Mix: where the paint of the selected stroke came from and went: none appears or vanishes. */

import { useBench } from "../../session/store";
import { useTrace } from "../../session/useEngine";

export function Balance() {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  if (!trace) return null;
  const { brought, held } = trace.balance;
  const rows: [string, number][] = [
    ["Loaded", brought.mm3],
    ["In the brush", held.mm3],
    ["On the sheet now", trace.sheet.mm3],
  ];
  return (
    <dl aria-label="Paint of this stroke" className="grid grid-cols-[1fr_auto] pb-2" data-testid="balance">
      {rows.map(([label, mm3]) => (
        <div key={label} className="contents">
          <dt>{label}</dt>
          <dd className="num text-right">{mm3.toFixed(2)} mm³</dd>
        </div>
      ))}
    </dl>
  );
}

/** How the responses of one quality come together: told in a sentence, with its formula, and chosen. */

import type { Combine } from "../../../generated/core";
import { isChance, type Response, type ToolDocument } from "../../../model/tool";
import { Choice } from "../../../ui/controls";
import { useDeclared } from "../../../session/context";
import { edit } from "../../../session/store";
import { Line } from "./Line";
import { WAYS, toldTogether } from "./together";
import { t } from "../../../model/said";

const HOWS = Object.keys(WAYS) as Combine[];

export function Together({ document, kept, response }: { document: ToolDocument; kept: ToolDocument | null; response: Response }) {
  const { signal, ownParameter } = useDeclared();
  const { quality } = response;
  const all = document.responses.filter((r) => r.on && r.quality === quality && !r.around && !isChance(r.signal));
  if (response.around || all.length < 2) return null;
  const label = ownParameter(quality)?.label ?? quality;
  const how = document.combine[quality] ?? "product";
  const [sentence, formula] = toldTogether(label, all.map((r) => signal(r.signal)?.label ?? r.signal), quality === "angle" ? "turned" : how);
  const put = (to: Combine) => edit((d) => ({ ...d, combine: { ...d.combine, [quality]: to } }));
  const before = kept?.combine[quality] ?? "product";
  return (
    <div className="border-t border-hair py-1" data-testid="together">
      <p>{sentence}</p>
      <p className="num text-muted">
        {label.toLowerCase()} = {formula}
      </p>
      {quality !== "angle" && (
        <Line label={t("Together")} kept={kept && before !== how ? WAYS[before].chosen : null} onPutBack={() => put(before)}>
          <Choice label={t("How responses combine")} value={how} options={HOWS.map((h) => [h, WAYS[h].chosen])} onChange={put} />
        </Line>
      )}
    </div>
  );
}

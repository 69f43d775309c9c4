/** Chance: how far each quality strays around its value, anew at every dab or once a stroke. */

import { freeId, isChance, withResponse, type Response, type ToolDocument } from "../../../model/tool";
import { Button, Choice, NumberField } from "../../../ui/controls";
import { useDeclared } from "../../../session/context";
import { edit, useBench } from "../../../session/store";
import type { Quality } from "../../../generated/core";
import { Spread } from "./Spread";
import { t } from "../../../model/said";

const BY: [string, string][] = [
  ["chance-per-dab", "every dab"],
  ["chance-per-stroke", "each stroke"],
];
/** What a quality strays by when it begins to, share or °. */
const FIRST = 0.1;
const FIRST_DEG = 10;

export function Strays({ document }: { document: ToolDocument }) {
  const { qualities, ownParameter } = useDeclared();
  const labelOf = (quality: string) => ownParameter(quality)?.label ?? quality;
  const straying = document.responses.filter((r) => isChance(r.signal));
  const change = (id: string, to: Partial<Response>) => edit((d) => withResponse(d, id, to));
  const add = (quality: Quality) => {
    const by = quality === "angle" ? FIRST_DEG : FIRST;
    const added: Response = { id: freeId(document), quality, signal: "chance-per-dab", input: [0, 1], curve: [[0, 0], [1, 1]], output: [-by, by], amount: 1, on: true, around: true };
    edit((d) => ({ ...d, responses: [...d.responses, added] }));
  };
  return (
    <section aria-label={t("Strays by chance")} className="border-t border-line pt-1">
      <div className="flex min-h-8 items-center gap-2">
        <h3 className="font-semibold">{t("Strays by chance")}</h3>
        <span className="ml-auto" />
        <Choice label={t("Let something stray")} value="" asks={t("Let stray…")} options={qualities.map((q) => [q, labelOf(q)])} onChange={(q) => add(q as Quality)} />
      </div>
      {straying.map((r) => (
        <div key={r.id} className="flex min-h-8 flex-wrap items-center gap-1 border-t border-hair">
          <span className={r.on ? "" : "text-muted"}>{labelOf(r.quality)}</span>
          <span className="ml-auto" />
          {r.around ? (
            <Spread response={r} of={labelOf(r.quality)} onChange={(output) => change(r.id, { output })} />
          ) : (
            <span className="num text-muted">
              {r.output[0]}{" "}{t("to")}{" "}{r.output[1]}
            </span>
          )}
          <Choice label={t("{{v0}} is thrown", { v0: labelOf(r.quality) })} className="!min-h-6 !px-1" value={r.signal} options={BY} onChange={(signal) => change(r.id, { signal: signal as Response["signal"] })} />
          <Button className="!min-h-6 !px-1.5 !py-0" title={t("Which throws are likelier: its curve")} onClick={() => useBench.setState({ response: r.id })}>
            {t("Curve")}
          </Button>
          <Button className="!min-h-6 !px-1.5 !py-0" aria-label={t("{{v0}} strays no more", { v0: labelOf(r.quality) })} onClick={() => edit((d) => ({ ...d, responses: d.responses.filter((other) => other.id !== r.id) }))}>
            ×
          </Button>
        </div>
      ))}
      {straying.some((r) => r.on) ? <Seed document={document} /> : <p className="pb-1 text-[12px] text-muted">{t("Nothing strays: the same gesture gives the same stroke.")}</p>}
    </section>
  );
}

/** The seed that gives the same stroke again, and another. */
function Seed({ document }: { document: ToolDocument }) {
  const set = (seed: number) => edit((d) => ({ ...d, seed }));
  return (
    <div className="flex min-h-8 items-center gap-1.5 border-t border-hair">
      {t("Seed of chance")}
      <span className="ml-auto" />
      <NumberField label={t("Seed of chance")} value={document.seed} low={0} high={4294967295} step={1} width="w-28" onCommit={set} />
      <Button className="!min-h-6 !px-2 !py-0" title={t("Throw anew: the same gesture gives another stroke")} onClick={() => set(crypto.getRandomValues(new Uint32Array(1))[0] ?? 0)}>
        {t("New")}
      </Button>
    </div>
  );
}

/** A spread around a value: how far down and up, as a share of it or in degrees. */

import type { Response } from "../../../model/tool";
import { Button, NumberField } from "../../../ui/controls";
import { t } from "../../../model/said";

/** `of`: names its fields where several spreads are in sight. */
export function Spread({ response, of, onChange }: { response: Response; of?: string; onChange: (output: [number, number]) => void }) {
  const angle = response.quality === "angle";
  const [scale, most, unit] = angle ? [1, 180, "°"] : [100, 100, "%"];
  const [down, up] = [-response.output[0] * scale, response.output[1] * scale];
  const to = (d: number, u: number) => onChange([-d / scale, u / scale]);
  const one = Math.abs(down - up) < 1e-9;
  const step = angle ? 1 : 0.5;
  const name = (what: string) => (of ? `${of} strays ${what}` : `Spread ${what} the value`);
  return (
    <>
      {one ? (
        <>
          <span aria-hidden>±</span>
          <NumberField label={of ? t("{{of}} strays by ±", { of }) : t("Spread around the value")} value={up} low={0} high={most} step={step} width="w-12" onCommit={(v) => to(v, v)} />
        </>
      ) : (
        <>
          <NumberField label={name("below")} value={down} low={-most} high={most} step={step} width="w-12" onCommit={(v) => to(v, up)} />
          <span aria-hidden>{t("to")}</span>
          <NumberField label={name("above")} value={up} low={-most} high={most} step={step} width="w-12" onCommit={(v) => to(down, v)} />
        </>
      )}
      <span className="w-4 text-muted">{unit}</span>
      <Button
        className="!min-h-6 !px-1.5 !py-0"
        title={one ? t("Set down and up apart") : t("As far down as up")}
        onClick={() => (one ? to(0, up) : to(Math.max(Math.abs(down), Math.abs(up)), Math.max(Math.abs(down), Math.abs(up))))}
      >
        {one ? t("apart") : t("alike")}
      </Button>
    </>
  );
}

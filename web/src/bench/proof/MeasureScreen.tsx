/** Measures the screen with a card of known size: then true size is true. */

import { useState } from "react";
import { LEAST_PITCH, MOST_PITCH, measureScreen, useLooking } from "../../session/looking";
import { Button, Dialog } from "../../ui/controls";
import { Rail } from "../../ui/Rail";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

/** A bank or identity card (ISO/IEC 7810, ID-1), mm. */
const CARD = { width: 85.6, height: 53.98 };

export function MeasureScreen() {
  const open = useLooking((s) => s.open === "measure");
  const close = () => useLooking.setState({ open: null });
  return (
    <Dialog open={open} title={t("Measure this screen")} onClose={close}>
      {open && <Card onDone={close} />}
    </Dialog>
  );
}

function Card({ onDone }: { onDone: () => void }) {
  const [pitch, setPitch] = useState(useLooking.getState().pxPerMm);
  return (
    <div className="grid gap-3">
      <p>{t("Hold a bank or identity card against the screen and move the slider until the outline is as wide as the card. Once for each screen.")}</p>
      <div className="grid place-items-start overflow-auto">
        <div className="rounded-lg border-2 border-draft bg-raised" style={{ width: CARD.width * pitch, height: CARD.height * pitch }} role="img" aria-label={t("Outline of a card")} />
      </div>
      <div className="grid gap-1">
        <span>
          {t("A millimetre is")}{" "}<span className="num">{fixed(pitch, 2)}</span>{" "}{t("of the page’s pixels")}
        </span>
        <Rail tall label={t("Width of the card on this screen")} low={LEAST_PITCH} high={MOST_PITCH} step={0.01} value={pitch} onChange={setPitch} />
      </div>
      <div className="flex justify-end gap-2">
        <Button onClick={onDone}>{t("Cancel")}</Button>
        <Button
          primary
          onClick={() => {
            measureScreen(pitch);
            onDone();
          }}
        >
          {t("It is as wide")}
        </Button>
      </div>
    </div>
  );
}

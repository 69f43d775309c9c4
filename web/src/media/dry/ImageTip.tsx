/** What is to be known of a tip that is an image: its own proportions and spacing, and what would show as a fault. */

import { engine, quiet } from "../../engine/client";
import { useImage } from "../../images/useImage";
import { withParameter, type ToolDocument } from "../../model/tool";
import { edit } from "../../session/store";
import { useAnswer } from "../../session/useEngine";
import { Button } from "../../ui/controls";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

/** Over this share at the rim, dabs end in a line that shows. */
const HARD_RIM = 0.15;
/** Proportions that differ by less are not seen to be stretched. */
const STRETCHED = 0.04;
/** Aspects that a tip may have: along its length. */
const MOST_ASPECT = 10;
/** Dabs that lie beside each other, and do not overlap. */
const BESIDE = 1;

/** What of a document its tip depends on. */
const tipOf = (d: ToolDocument) => Object.entries(d.parameters).filter(([id]) => id.startsWith("tip."));
const ratio = (value: number) => `${Number(value.toFixed(2))} : 1`;

export function ImageTip({ document }: { document: ToolDocument }) {
  const hash = String(document.parameters["tip.image"] ?? "");
  const rim = useAnswer(hash ? `rim:${JSON.stringify(tipOf(document))}` : null, () => quiet().then(() => engine.hardRim(document)));
  const image = useImage(hash);
  const own = image ? image.width / image.height : null;
  const aspect = Number(document.parameters["tip.aspect"] ?? 1);
  const stretched = own !== null && Math.abs(own / aspect - 1) > STRETCHED;
  const fits = own !== null && own >= 1 && own <= MOST_ASPECT;
  const apart = document.parameters["tip.spacing_auto"] === true || Number(document.parameters["tip.spacing"] ?? 0) < BESIDE;
  return (
    <div role="status" data-testid="image-tip">
      {stretched && (
        <Said text={t("The picture is {{v0}}, the tip {{v1}}: it is {{v2}} its length.{{v3}}", { v0: ratio(own), v1: ratio(aspect), v2: own > aspect ? "squeezed along" : "stretched along", v3: fits ? "" : " No tip is higher than it is long: turn the picture before it is brought in." })}>
          {fits && <Button className="shrink-0 !px-2" onClick={() => edit((d) => withParameter(d, "tip.aspect", Number(own.toFixed(2))))}>{t("Take its proportions")}</Button>}
        </Said>
      )}
      {image && apart && (
        <Said text={t("Its dabs overlap: the picture is not seen by itself.")}>
          <Button className="shrink-0 !px-2" onClick={() => edit((d) => withParameter(withParameter(d, "tip.spacing_auto", false), "tip.spacing", BESIDE))}>
            {t("Dab beside dab")}
          </Button>
        </Said>
      )}
      {rim !== null && rim > HARD_RIM && (
        <Said warns text={t("The image lays {{v0}} % at its rim: each dab will end in a line.", { v0: fixed(100 * rim) })}>
          <Button className="shrink-0 !px-2" onClick={() => edit((d) => withParameter(d, "tip.image_feather", 0.15))}>
            {t("Feather it")}
          </Button>
        </Said>
      )}
    </div>
  );
}

function Said({ text, warns = false, children }: { text: string; warns?: boolean; children: React.ReactNode }) {
  return (
    <p className={`flex items-center gap-2 border-t border-hair py-1 ${warns ? "text-warn" : ""}`}>
      <span className="mr-auto">{text}</span>
      {children}
    </p>
  );
}

/** Relief: how little a dry stroke stands up. */

import { useDeclared } from "../../session/context";
import { useFollowed } from "../../session/followed";
import { useBench } from "../../session/store";
import { useTrace } from "../../session/useEngine";
import { laysFilm } from "./film";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

export function ReliefNote() {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  const document = useFollowed();
  const { columnOf } = useDeclared();
  if (!trace?.dabs.length) return <p className="text-muted">{t("No stroke is selected.")}</p>;
  if (document && laysFilm(document)) return <p>{t("An even film has no height: it is shown flat.")}</p>;
  const film = Math.max(...trace.dabs.map((d) => columnOf(d, "film_um")));
  return (
    <p>
      {t("Powder lies")}{" "}<span className="num">{fixed(film, 1)} µm</span>{" "}{t("high at most on the selected stroke: far below the paper's tooth, so dry tools are shown flat. It still raises the surface under the next dab.")}
    </p>
  );
}

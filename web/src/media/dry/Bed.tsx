/** Mix: what a dry tool has to move, and where the powder of the selected stroke went: nothing is lost. */

import { useFollowed } from "../../session/followed";
import { Balance } from "../Balance";
import { t } from "../../model/said";

export function Bed() {
  const document = useFollowed();
  return (
    <div>
      <p className="pb-2">
        {document?.action === "lay"
          ? t("Nothing on a dry sheet is wet, so there is nothing to mix: a stick lays its powder over what is there. A finger, a stump or an eraser moves it; what the tool does is chosen beside its name.")
          : t("What the strips lie on is chosen above the proof sheet: a bed of charcoal with bare paper between gives the tool something to move.")}
      </p>
      <Balance of="Powder" digits={4} places={{ brought: "From the stick", held: "In the tool", gone: "Gone as crumbs" }} />
    </div>
  );
}

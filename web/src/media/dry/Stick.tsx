/** Load: what a stick is to a dry tool. */

import { useFollowed } from "../../session/followed";
import { t } from "../../model/said";

export function Stick() {
  const lays = useFollowed()?.action === "lay";
  return (
    <p className="pb-1">
      {lays
        ? t("A stick is its own load: it does not run out along a stroke. What it is made of decides how it meets the tooth and how much powder stays.")
        : t("This tool brings no powder of its own. How hard it is and how far it gives decide how it meets the tooth.")}
    </p>
  );
}

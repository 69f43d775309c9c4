/** What a wet brush's stations do to the selected stroke. */

import type { Dab } from "../../engine/types";
import type { Station } from "../../model/tool";
import { rangeOf, type RibbonOf, type RibbonView } from "../views";
import { fixed } from "../../model/number";

export function ribbon(station: Station, { document, kept, draft, column, ground }: RibbonOf): RibbonView {
  const dabs = draft?.dabs ?? [];
  const [first, last] = [dabs[0], dabs[dabs.length - 1]];
  const of = (name: string) => (dab: Dab) => column(dab, name);
  switch (station) {
    case "load": {
      if (document.action === "lift" || !first || !last) return { figure: "–", idle: "brings no water" };
      const left = (dab: Dab) => `${fixed(100 * column(dab, "water_left"))} %`;
      return { figure: `${left(first)} → ${left(last)}`, of: of("water_left"), kept, draft };
    }
    case "mix":
      return document.action === "lay"
        ? { figure: rangeOf(draft, of("paint_nm"), 0, "nm"), of: of("paint_nm"), kept, draft }
        : { figure: rangeOf(draft, of("lifted_nm"), 0, "nm"), of: of("lifted_nm"), kept, draft };
    case "ground":
      return { figure: ground, of: of("touched"), kept, draft };
    default:
      return { figure: rangeOf(draft, of("water_um"), 0, "µm"), of: of("water_um"), kept, draft };
  }
}

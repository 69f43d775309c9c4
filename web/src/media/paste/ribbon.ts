/** What a brush's stations do to the selected stroke. */

import type { Dab } from "../../engine/types";
import type { Station } from "../../model/tool";
import { rangeOf, type RibbonOf, type RibbonView } from "../views";
import { fixed } from "../../model/number";

const percent = (dabs: Dab[], of: (dab: Dab) => number, at: "first" | "last") => `${fixed(100 * of(dabs[at === "first" ? 0 : dabs.length - 1] as Dab))} %`;

export function ribbon(station: Station, { document, kept, draft, column, ground }: RibbonOf): RibbonView {
  const dabs = draft?.dabs ?? [];
  const of = (name: string) => (dab: Dab) => column(dab, name);
  switch (station) {
    case "load":
      if (document.action !== "lay" || dabs.length === 0) return { figure: "–", idle: "brings no paint" };
      return { figure: `${percent(dabs, of("paint_left"), "first")} → ${percent(dabs, of("paint_left"), "last")}`, of: of("paint_left"), kept, draft };
    case "mix":
      return { figure: rangeOf(draft, of("taken_um"), 0, "µm"), of: of("taken_um"), kept, draft };
    case "ground":
      return { figure: ground, of: of("touched"), kept, draft };
    default:
      return { figure: rangeOf(draft, of("film_um"), 0, "µm"), of: of("film_um"), kept, draft };
  }
}

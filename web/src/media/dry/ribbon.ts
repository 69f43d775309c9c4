/** What a dry tool's stations do to the selected stroke. */

import type { Dab } from "../../engine/types";
import type { Station } from "../../model/tool";
import { rangeOf, type RibbonOf, type RibbonView } from "../views";
import { laysFilm } from "./film";
import { fixed } from "../../model/number";

export function ribbon(station: Station, { document, kept, draft, column, ground }: RibbonOf): RibbonView {
  const dabs = draft?.dabs ?? [];
  const film = laysFilm(document);
  const of = (name: string) => (dab: Dab) => column(dab, name);
  const shown = (name: string): RibbonView => ({ figure: rangeOf(draft, of(name), 1, "µm/mm"), of: of(name), kept, draft });
  switch (station) {
    case "load":
      if (dabs.every((d) => column(d, "laid_um_per_mm") === 0)) return { figure: "–", idle: film ? "an even film, no powder" : "lays no powder" };
      return shown("laid_um_per_mm");
    case "mix":
      if (dabs.some((d) => column(d, "pickup_um_per_mm") > 0)) return shown("pickup_um_per_mm");
      return { figure: "–", idle: "nothing is picked up: a stick only lays" };
    case "ground":
      return { figure: ground, of: of("covered"), kept, draft };
    default: {
      const thickest = Math.max(0, ...dabs.map(of("film_um")));
      return { figure: "flat", idle: film ? "an even film has no height" : `powder adds ${fixed(thickest, 1)} µm at most` };
    }
  }
}

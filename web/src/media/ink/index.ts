/** How ink shows itself: by what comes through the slit. */

import type { Dab } from "../../engine/types";
import { rangeOf, type MediumViews } from "../views";
import { ribbon } from "../wash/ribbon";

export const ink: MediumViews = {
  beginsOn: "hot-pressed",
  stations: {},
  ribbon: (station, of) => {
    if (station !== "tip") return ribbon(station, of);
    const wide = (dab: Dab) => Math.max(dab.length_mm, dab.width_mm);
    return { figure: rangeOf(of.draft, wide, 2, "mm"), of: wide, kept: of.kept, draft: of.draft, footprints: true };
  },
  traced: { column: "fed", label: "share that comes" },
};

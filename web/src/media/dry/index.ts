/** How dry media show themselves. */

import type { MediumViews } from "../views";
import { Bed } from "./Bed";
import { BearingPicture } from "./BearingPicture";
import { Stick } from "./Stick";
import { ReliefNote } from "./ReliefNote";
import { ribbon } from "./ribbon";
import { Tip } from "./Tip";

export const dry: MediumViews = {
  beginsOn: "cold-pressed",
  stations: {
    tip: { Picture: Tip, rows: () => false },
    load: { Picture: Stick },
    mix: { Picture: Bed, rows: (document) => document.action !== "lay" },
    ground: { Picture: BearingPicture },
    relief: { Picture: ReliefNote },
  },
  ribbon,
  traced: { column: "covered", label: "share covered" },
};

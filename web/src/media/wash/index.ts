/** How watercolour shows itself: water that goes on after the hand lifts. */

import type { MediumViews } from "../views";
import { ribbon } from "./ribbon";

export const wash: MediumViews = {
  beginsOn: "cold-pressed",
  stations: {},
  ribbon,
  traced: { column: "touched", label: "share touched" },
};

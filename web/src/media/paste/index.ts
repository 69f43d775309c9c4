/** How paste shows itself: oil and acrylic with bristles. */

import type { MediumViews } from "../views";
import { LiveTip } from "./LiveTip";
import { Moved } from "./Moved";
import { ribbon } from "./ribbon";

export const paste: MediumViews = {
  beginsOn: "canvas-fine",
  stations: { tip: { Picture: LiveTip }, mix: { Picture: Moved } },
  ribbon,
  traced: { column: "touched", label: "share touched" },
};

/** How paste shows itself: oil and acrylic with bristles. */

import type { MediumViews } from "../views";
import { Moved } from "./Moved";
import { ribbon } from "./ribbon";

export const paste: MediumViews = {
  stations: { mix: { Picture: Moved } },
  ribbon,
  traced: { column: "touched", label: "share touched" },
};

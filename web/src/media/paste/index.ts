/** How paste shows itself: oil and acrylic with bristles. */

import type { MediumViews } from "../views";
import { Balance } from "./Balance";
import { ribbon } from "./ribbon";

export const paste: MediumViews = {
  stations: { mix: { Picture: Balance } },
  ribbon,
  traced: { column: "touched", label: "share touched" },
};

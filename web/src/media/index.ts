/** The media's views: a new medium adds a folder and a line here; without one its stations are laid out from the declarations alone. */

import { dry } from "./dry";
import { ink } from "./ink";
import { paste } from "./paste";
import { wash } from "./wash";
import type { MediumViews } from "./views";

const VIEWS: Record<string, MediumViews> = { dry, ink, paste, wash };

const PLAIN: MediumViews = { beginsOn: "cold-pressed", stations: {}, ribbon: () => ({ figure: "–" }) };

export const viewsOf = (medium: string): MediumViews => VIEWS[medium] ?? PLAIN;

/** The samples of a gesture, from its InkML. */

import { useAnswer } from "../session/useEngine";
import type { Gesture } from "../api/client";
import { engine } from "../engine/client";

export const usePasses = (gesture: Gesture | null): Float64Array[] | null =>
  useAnswer(gesture ? `passes:${gesture.content_hash}` : null, () => engine.passesOf(gesture?.inkml ?? ""));

/** The samples of a gesture: from the InkML that comes with one that is not kept yet, or from its way. */

import { useAnswer } from "../session/useEngine";
import type { Gesture } from "../api/client";
import { wayOf } from "../api/ways";
import { engine } from "../engine/client";

/** A gesture, or one that is not kept yet, with its InkML. */
export type Way = Pick<Gesture, "id" | "content_hash"> | { inkml: string; content_hash: string };

export const usePasses = (gesture: Way | null): Float64Array[] | null =>
  useAnswer(gesture ? `passes:${gesture.content_hash}` : null, () => read(gesture as Way));

const read = async (gesture: Way) => engine.passesOf("inkml" in gesture ? gesture.inkml : await wayOf(gesture));

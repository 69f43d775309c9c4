import { useBench } from "./store";
import { useExplained } from "./useEngine";

/** The draft's dab under the cursor of the selected stroke. */
export function useCursorDab() {
  const gesture = useBench((s) => s.gesture);
  const cursor = useBench((s) => s.cursor);
  return useExplained("draft", gesture, cursor)?.dab ?? null;
}

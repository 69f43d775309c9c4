/** The draft's strip of the selected gesture, in sight while the page scrolls over controls. */

import { useBenchContext } from "../../session/context";
import { STRIP_MM } from "../../session/sheetSize";
import { useBench } from "../../session/store";
import { StripCanvas } from "./StripCanvas";
import { t } from "../../model/said";

export function Watched() {
  const { gestures } = useBenchContext();
  const selected = useBench((s) => s.gesture);
  const gesture = gestures.find((g) => g.id === selected) ?? gestures[0];
  if (!gesture) return null;
  return (
    <div className="sticky top-0 z-20 border-b border-line bg-pane px-2 py-1">
      <div className="h-14 max-w-full" style={{ aspectRatio: `${STRIP_MM.width} / ${STRIP_MM.height}` }}>
        <StripCanvas column="draft" id={gesture.id} label={t("Watched: {{name}}, draft", { name: gesture.name })} />
      </div>
    </div>
  );
}

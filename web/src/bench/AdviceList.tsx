/** Advice on the draft: a quiet count, and behind it what was noticed, each with one change that mends it. */

import { Popover } from "radix-ui";
import { Button } from "../ui/controls";
import { useBenchContext } from "../session/context";
import { withDifference } from "../model/tool";
import { useFollowed } from "../session/followed";
import { edit, useBench } from "../session/store";
import { useAdvice } from "../session/useEngine";
import { t, worded } from "../model/said";

const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

export function AdviceList() {
  const { gestures } = useBenchContext();
  const document = useFollowed();
  const dragging = useBench((s) => s.dragged !== null);
  const advice = useAdvice(dragging ? null : document, gestures.map((g) => g.id));
  if (!advice?.length) return null;
  return (
    <Popover.Root>
      <Popover.Trigger className="min-h-7 rounded border border-line bg-raised px-2 text-muted" data-testid="advice">
        <span className="num">{advice.length}</span> {advice.length === 1 ? t("thing noticed") : t("things noticed")}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} className="z-50 w-[26rem] max-w-[calc(100vw-1rem)] rounded border border-line bg-pane p-3 shadow-lg" aria-label={t("What was noticed")}>
          {advice.map((a) => (
            <div key={a.code + (a.response ?? "")} className="flex items-start gap-2 border-b border-hair py-1.5 last:border-0" data-advice={a.code}>
              <p className="flex-1">{worded(a.sentence)}</p>
              <Button className="shrink-0 !px-2" onClick={() => edit((d) => withDifference(d, a.of, a.tool))}>
                {capital(worded(a.remedy))}
              </Button>
            </div>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

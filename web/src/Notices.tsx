/** What the painter is told, on every screen. */

import { Toast } from "radix-ui";
import { hush, leave, useNotices } from "./session/notices";
import { Button, Notice } from "./ui/controls";
import { t } from "./model/said";

/** What was done stays in sight so long, ms; longer where it can be taken back. */
const STAYS_MS = 5000;
const STAYS_LONGER_MS = 12_000;

/** A problem, over what is below it: never over a screen's own title and what is done there. */
export function Problem() {
  const problem = useNotices((s) => s.problem);
  if (!problem) return null;
  return (
    <div className="absolute inset-x-0 top-[42px] z-20">
      <Notice>
        <span className="text-warn">{problem}</span>
        <Button className="ml-auto !min-h-6 !py-0" onClick={hush}>
          {t("Close")}
        </Button>
      </Notice>
    </div>
  );
}

export function DoneNotices() {
  const done = useNotices((s) => s.done);
  return (
    <Toast.Provider swipeDirection="right" label={t("What was done")}>
      {done.map(({ id, text, bringBack }) => (
        <Toast.Root
          key={id}
          type={bringBack ? "foreground" : "background"}
          duration={bringBack ? STAYS_LONGER_MS : STAYS_MS}
          onOpenChange={(open) => !open && leave(id)}
          className="flex items-center gap-3 rounded border border-line bg-raised px-3 py-2 shadow-lg"
        >
          <Toast.Description>{text}</Toast.Description>
          {bringBack && (
            <Toast.Action asChild altText={`Bring back: ${text}`} onClick={() => bringBack()}>
              <Button className="!min-h-7 !py-0">{t("Bring back")}</Button>
            </Toast.Action>
          )}
          <Toast.Close asChild>
            <Button className="ml-auto !min-h-7 !px-2 !py-0" aria-label={t("Close what was told")}>
              ✕
            </Button>
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed right-4 bottom-4 z-[60] grid w-96 max-w-[calc(100vw-2rem)] gap-2 outline-none" />
    </Toast.Provider>
  );
}

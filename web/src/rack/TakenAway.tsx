/** Tools that were taken away, and the way back for each. */

import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { listAway } from "../api/client";
import { Button } from "../ui/controls";
import { timeSaid } from "../model/number";
import { t } from "../model/said";

export function TakenAway({ onBringBack }: { onBringBack: (id: string, name: string) => Promise<unknown> }) {
  const away = useQuery({ queryKey: ["away"], queryFn: listAway }).data ?? [];
  if (away.length === 0) return null;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>{t("Taken away (")}{away.length})</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} collisionPadding={8} aria-label={t("Tools that were taken away")} className="z-50 max-h-96 w-96 max-w-[calc(100vw-1rem)] overflow-y-auto rounded border border-line bg-pane p-2 shadow-lg">
          <ul>
            {away.map(({ id, name, taken_away_at }) => (
              <li key={id} className="flex items-center gap-2 border-b border-hair py-1 last:border-0">
                <span className="min-w-0">
                  <span className="block truncate">{name}</span>
                  <span className="block text-[12px] text-muted">{timeSaid(taken_away_at)}</span>
                </span>
                <Button className="ml-auto !min-h-7 !py-0" onClick={() => void onBringBack(id, name)}>
                  {t("Bring back")}
                </Button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

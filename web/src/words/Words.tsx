/** The entry of a word beside what was pointed at, and the list of all. */

import { Popover } from "radix-ui";
import { useState } from "react";
import { useDeclared } from "../session/context";
import { closeWords, explainWord, useWords } from "../session/words";
import { Button, Dialog } from "../ui/controls";
import { entriesOf, type Entry } from "./entries";
import { Pictures } from "./Pictures";
import { t } from "../model/said";

export function Words() {
  const { open, at } = useWords();
  const { declarations, medium } = useDeclared();
  if (open === null) return null;
  const entries = entriesOf(declarations, medium);
  if (open === "list" || !at) return <List entries={entries} chosen={open === "list" ? null : open} />;
  const entry = entries.find((e) => e.id === open);
  if (!entry) return null;
  return (
    <Popover.Root open onOpenChange={(stays) => !stays && closeWords()}>
      <Popover.Anchor virtualRef={{ current: { getBoundingClientRect: () => at } }} />
      <Popover.Portal>
        <Popover.Content side="right" align="start" sideOffset={6} collisionPadding={8} aria-label={entry.name} className="z-50 w-[min(31rem,calc(100vw-1rem))] rounded border border-line bg-pane p-3 shadow-xl">
          <Told entry={entry} />
          <div className="mt-2 flex justify-end gap-2 border-t border-hair pt-2">
            <Button onClick={() => explainWord("list")}>{t("All words…")}</Button>
            <Button onClick={closeWords}>{t("Close")}</Button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Told({ entry }: { entry: Entry }) {
  const { parameter } = useDeclared();
  const declared = entry.id.startsWith("parameter:") ? parameter(entry.id.slice("parameter:".length)) : undefined;
  return (
    <div className="grid gap-1.5" data-testid="word">
      <h3 className="text-[15px] font-semibold">{entry.name}</h3>
      <p>{entry.what}</p>
      {entry.unit && <p className="text-muted">{t("Counted in")}{" "}{entry.unit}.</p>}
      {declared?.kind === "number" && (
        <p className="num text-muted">
          {declared.low}{" "}{t("to")}{" "}{declared.high} {declared.unit}
        </p>
      )}
      {entry.more && <p>{t("More of it:")}{" "}{entry.more}</p>}
      {declared && <Pictures key={declared.id} parameter={declared} />}
    </div>
  );
}

function List({ entries, chosen }: { entries: Entry[]; chosen: string | null }) {
  const [search, setSearch] = useState("");
  const [id, setId] = useState(chosen ?? entries[0]?.id ?? "");
  const wanted = search.trim().toLowerCase();
  const found = entries.filter((e) => `${e.name} ${e.what} ${e.kind}`.toLowerCase().includes(wanted));
  const entry = found.find((e) => e.id === id) ?? found[0];
  const kinds = [...new Set(found.map((e) => e.kind))];
  return (
    <Dialog open wide title={t("Words")} onClose={closeWords}>
      <div className="grid gap-4 wide:grid-cols-[18rem_minmax(0,1fr)]">
        <div className="grid grid-rows-[auto_minmax(0,1fr)] gap-2">
          <input type="search" aria-label={t("Find a word")} placeholder={t("Find a word")} className="rounded border border-line bg-raised px-2 py-1" value={search} onChange={(e) => setSearch(e.target.value)} />
          <div className="h-40 overflow-y-auto rounded border border-line bg-raised p-1 wide:h-[24rem]">
            {kinds.map((kind) => (
              <section key={kind} aria-label={kind}>
                <h3 className="px-2 pt-1 text-[12px] text-muted">{kind}</h3>
                {found
                  .filter((e) => e.kind === kind)
                  .map((e) => (
                    <button key={e.id} type="button" aria-pressed={e.id === entry?.id} className="block min-h-6 w-full truncate rounded px-2 text-left aria-pressed:bg-ground aria-pressed:font-semibold" onClick={() => setId(e.id)}>
                      {e.name}
                    </button>
                  ))}
              </section>
            ))}
            {found.length === 0 && <p className="p-2 text-muted">{t("No such word.")}</p>}
          </div>
        </div>
        <div className="min-h-60">{entry && <Told entry={entry} />}</div>
      </div>
    </Dialog>
  );
}

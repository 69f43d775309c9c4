/** The medium of the tool on the bench; changing it says first what does not carry over. */

import { useState } from "react";
import { engine } from "../engine/client";
import type { Turned } from "../generated/core";
import { refusalOf } from "../model/refused";
import { useBenchContext } from "../session/context";
import { useFollowed } from "../session/followed";
import { edit } from "../session/store";
import { say } from "../session/notices";
import { Button, Choice, Dialog } from "../ui/controls";
import { t, worded } from "../model/said";

export function WhichMedium() {
  const { declarations } = useBenchContext();
  const document = useFollowed();
  const [turned, setTurned] = useState<Turned | null>(null);
  if (!document) return null;
  const labelOf = (name: string) => declarations.media.find((m) => m.medium === name)?.label ?? name;
  const ask = (medium: string) => {
    engine.turnedTo(document, medium).then(setTurned, (error: unknown) => say(refusalOf(error).message));
  };
  const close = () => setTurned(null);
  return (
    <>
      <Choice label={t("Medium")} className="!min-h-6 !border-transparent !bg-transparent !px-0 text-muted" value={document.medium} options={declarations.media.map((m) => [m.medium, m.label])} onChange={ask} />
      {turned && (
        <Dialog open title={t("Make it a tool of {{v0}}", { v0: labelOf(turned.tool.medium) })} onClose={close}>
          <p>{t("Its name, ground, size and angle, the hand in front of it and the responses that both media know stay. Undo brings everything back.")}</p>
          {turned.lost.length > 0 && (
            <>
              <p className="pt-2 font-semibold">{t("What does not carry over")}</p>
              <ul className="max-h-60 list-disc overflow-auto pl-5" aria-label={t("What does not carry over")}>
                {turned.lost.map(worded).map((what) => (
                  <li key={what}>{what}</li>
                ))}
              </ul>
            </>
          )}
          <div className="flex justify-end gap-2 pt-3">
            <Button onClick={close}>{t("Leave it")}</Button>
            <Button
              primary
              onClick={() => {
                const { tool } = turned;
                edit(() => tool);
                close();
              }}
            >
              {t("Change the medium")}
            </Button>
          </div>
        </Dialog>
      )}
    </>
  );
}

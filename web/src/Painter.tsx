/** Who is signed in, and the way out. Nothing is there where the server signs everybody in. */

import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import { signOut, whoAmI } from "./api/session";
import { whatIKeep } from "./api/studio";
import { Studio } from "./Studio";
import { counted, fixed } from "./model/number";
import { Button } from "./ui/controls";
import { anyDrafted } from "./grounds/store";
import { saidOf } from "./model/refused";
import { leaveHere } from "./session/here";
import { say } from "./session/notices";
import { saveHandNow } from "./session/handSaving";
import { saveNow } from "./session/saving";
import { t } from "./model/said";

/** From this share of the room on it is said in the line itself. */
const NEARLY_FULL = 0.9;
const MIB = 2 ** 20;

/** How much of the painter's room is taken. */
function Room() {
  const holds = useQuery({ queryKey: ["kept"], queryFn: whatIKeep, staleTime: 0 });
  if (!holds.data) return null;
  const { rows, bytes, most } = holds.data;
  const nearly = Math.max(rows / most.rows, bytes / most.bytes) >= NEARLY_FULL;
  return (
    <p className={`max-w-64 ${nearly ? "text-warn" : "text-muted"}`}>
      {t("You keep {{rows}} of {{mostRows}} things, {{mib}} of {{mostMib}} MiB.", { rows: counted(rows), mostRows: counted(most.rows), mib: fixed(bytes / MIB, 1), mostMib: counted(Math.round(most.bytes / MIB)) })}
      {nearly && t(" There is little room left.")}
    </p>
  );
}

export function Painter() {
  const [studio, setStudio] = useState(false);
  const session = useQuery({ queryKey: ["session"], queryFn: whoAmI, staleTime: Infinity });
  if (!session.data || session.data.open) return null;
  const leave = async (everywhere: boolean) => {
    try {
      if (anyDrafted()) return say(t("A ground is changed and not kept: keep it or put it back, and sign out then."));
      const saved = await Promise.all([saveNow(), saveHandNow()]);
      if (saved.includes(false)) return say(t("Not everything is saved yet: nobody is signed out."));
      await signOut(everywhere);
      await leaveHere();
      location.reload();
    } catch (error) {
      say(saidOf(error));
    }
  };
  return (
    <>
      <Popover.Root>
        <Popover.Trigger className="min-h-7 px-1 text-muted">{session.data.painter}</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content align="end" sideOffset={4} collisionPadding={8} aria-label={t("Signed in")} className="z-50 grid gap-2 rounded border border-line bg-raised p-3 shadow-lg">
            <p className="max-w-64">{t("Signed in as {{painter}}. Signing out leaves nothing of yours in this browser: strokes on free rows and steps to undo go with it.", { painter: session.data.painter })}</p>
            <Room />
            {session.data.owner && <Button onClick={() => setStudio(true)}>{t("The studio…")}</Button>}
            <Button onClick={() => void leave(false)}>{t("Sign out")}</Button>
            <Button onClick={() => void leave(true)}>{t("Sign out everywhere")}</Button>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {studio && <Studio onClose={() => setStudio(false)} />}
    </>
  );
}

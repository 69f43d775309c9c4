/** Who is signed in, and the way out. Nothing is there where the server signs everybody in. */

import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { signOut, whoAmI } from "./api/session";
import { Button } from "./ui/controls";
import { anyDrafted } from "./grounds/store";
import { saidOf } from "./model/refused";
import { leaveHere } from "./session/here";
import { say } from "./session/notices";
import { saveHandNow } from "./session/handSaving";
import { saveNow } from "./session/saving";
import { t } from "./model/said";

export function Painter() {
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
    <Popover.Root>
      <Popover.Trigger className="min-h-7 px-1 text-muted">{session.data.painter}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} collisionPadding={8} aria-label={t("Signed in")} className="z-50 grid gap-2 rounded border border-line bg-raised p-3 shadow-lg">
          <p className="max-w-64">{t("Signed in as {{painter}}. Signing out leaves nothing of yours in this browser: strokes on free rows and steps to undo go with it.", { painter: session.data.painter })}</p>
          <Button onClick={() => void leave(false)}>{t("Sign out")}</Button>
          <Button onClick={() => void leave(true)}>{t("Sign out everywhere")}</Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Who is signed in, and the way out. Nothing is there where the server signs everybody in. */

import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { signOut, whoAmI } from "./api/session";
import { Button } from "./ui/controls";
import { saidOf } from "./model/refused";
import { leaveHere } from "./session/here";
import { say } from "./session/notices";
import { useBench } from "./session/store";
import { t } from "./model/said";

export function Painter() {
  const session = useQuery({ queryKey: ["session"], queryFn: whoAmI, staleTime: Infinity });
  if (!session.data || session.data.open) return null;
  const leave = async (everywhere: boolean) => {
    if (useBench.getState().saving.state !== "saved") {
      say(t("Not everything is saved yet: nobody is signed out."));
      return;
    }
    try {
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
          <p className="max-w-64">{t("Signed in as {{painter}}. Signing out leaves nothing of yours in this browser.", { painter: session.data.painter })}</p>
          <Button onClick={() => void leave(false)}>{t("Sign out")}</Button>
          <Button onClick={() => void leave(true)}>{t("Sign out everywhere")}</Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

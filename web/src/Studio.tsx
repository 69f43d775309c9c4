/** Who paints in this studio and whom its owner has invited. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { invite, listInvitations, listMembers, withdraw } from "./api/studio";
import { counted, fixed, timeSaid } from "./model/number";
import { saidOf } from "./model/refused";
import { t } from "./model/said";
import { say } from "./session/notices";
import { Button, Dialog } from "./ui/controls";
import { linkOf } from "./invitation";

const MIB = 2 ** 20;

export function Studio({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open title={t("The studio")} wide onClose={onClose}>
      <div className="grid gap-4">
        <Invitations />
        <Members />
        <Button className="justify-self-end" onClick={onClose}>
          {t("Close")}
        </Button>
      </div>
    </Dialog>
  );
}

function Members() {
  const members = useQuery({ queryKey: ["members"], queryFn: listMembers });
  return (
    <section aria-label={t("Painters")} className="overflow-x-auto">
      {members.error && <p role="alert" className="text-warn">{saidOf(members.error)}</p>}
      <table className="w-full">
        <thead>
          <tr className="border-b border-line text-left text-muted">
            <th className="py-1 font-normal">{t("Painter")}</th>
            <th className="py-1 font-normal">{t("Since")}</th>
            <th className="py-1 pl-4 text-right font-normal">{t("Things kept")}</th>
            <th className="py-1 pl-4 text-right font-normal">MiB</th>
          </tr>
        </thead>
        <tbody>
          {members.data?.map((m) => (
            <tr key={m.name} className="border-b border-hair">
              <td className="py-1">
                {m.name}
                {m.owner && <span className="text-muted">{t(", owner")}</span>}
              </td>
              <td className="num py-1">{timeSaid(m.since)}</td>
              <td className="num py-1 pl-4 text-right">{counted(m.rows)}</td>
              <td className="num py-1 pl-4 text-right">{fixed(m.bytes / MIB, 1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Invitations() {
  const queries = useQueryClient();
  const open = useQuery({ queryKey: ["invitations"], queryFn: listInvitations });
  const [link, setLink] = useState<string | null>(null);
  const does = async (what: () => Promise<unknown>) => {
    try {
      await what();
      await queries.invalidateQueries({ queryKey: ["invitations"] });
    } catch (error) {
      say(saidOf(error));
    }
  };
  return (
    <section aria-label={t("Invitations")} className="grid gap-2">
      <p className="flex flex-wrap items-center gap-2">
        <Button primary onClick={() => void does(async () => setLink(linkOf((await invite()).code)))}>
          {t("Invite a painter")}
        </Button>
        <span className="text-muted">{t("A link lets one painter in, once, within seven days.")}</span>
      </p>
      {link && (
        <label className="grid gap-1">
          {t("Give this link to whom you invite; it is shown this once.")}
          <input readOnly className="num min-h-8 rounded border border-line bg-raised px-2" value={link} onFocus={(e) => e.target.select()} />
        </label>
      )}
      <ul className="grid gap-1">
        {open.data?.map((i) => (
          <li key={i.id} className="flex flex-wrap items-center gap-2">
            <span>{t("Invitation of {{made}}, until {{ends}}", { made: timeSaid(i.made_at), ends: timeSaid(i.expires_at) })}</span>
            <Button className="!min-h-6 !py-0" onClick={() => void does(() => withdraw(i.id))}>
              {t("Take back")}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

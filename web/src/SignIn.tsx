/** Asks who is there, where the server signs nobody in by itself. */

import { useState } from "react";
import { signInAs } from "./api/session";
import { accept } from "./api/studio";
import { forgetInvitation, invitationHere } from "./invitation";
import { Button } from "./ui/controls";
import { saidOf } from "./model/refused";
import { painterHere, takeOver } from "./session/here";
import { t } from "./model/said";

const FIELD = "min-h-8 rounded border border-line bg-raised px-2 py-1";

export function SignIn() {
  const [invitation] = useState(invitationHere);
  const [name, setName] = useState((invitation === null && painterHere()) || "");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const enter = async () => {
    setAsking(true);
    try {
      const { painter } = invitation === null ? await signInAs(name.trim(), password) : await accept(invitation, name.trim(), password);
      await takeOver(painter);
      forgetInvitation();
      // Everything is asked for anew.
      location.reload();
    } catch (error) {
      setProblem(saidOf(error));
      setAsking(false);
    }
  };
  return (
    <main className="grid h-full place-content-center p-6">
      <title>{invitation === null ? t("Sign in · Saltmarsh") : t("Invited · Saltmarsh")}</title>
      <form
        className="grid w-72 gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void enter();
        }}
      >
        <h1 className="text-[17px] font-semibold">{invitation === null ? t("Whose bench is this?") : t("You are invited to a bench here")}</h1>
        <label className="grid gap-1">
          {invitation === null ? t("Name") : t("Name to sign in with")}
          <input className={FIELD} autoFocus={!name} autoComplete="username" required value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className="grid gap-1">
          {invitation === null ? t("Password") : t("Password, 10 characters at least")}
          <input className={FIELD} type="password" autoFocus={!!name} autoComplete={invitation === null ? "current-password" : "new-password"} required value={password} onChange={(e) => setPassword(e.target.value)} />
        </label>
        {problem && (
          <p role="alert" className="text-warn">
            {problem}
          </p>
        )}
        <Button primary type="submit" disabled={asking}>
          {invitation === null ? t("Sign in") : t("Begin")}
        </Button>
        <p className="text-[12px] text-muted">
          {invitation === null ? t("Whoever looks after this server gives painters their passwords, or an owner of the studio invites them.") : t("There is no way back to a forgotten password but a new one.")}
        </p>
      </form>
    </main>
  );
}

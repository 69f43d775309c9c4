/** Asks who is there, where the server signs nobody in by itself. */

import { useState } from "react";
import { signInAs } from "./api/session";
import { Button } from "./ui/controls";
import { saidOf } from "./model/refused";
import { painterHere, takeOver } from "./session/here";
import { t } from "./model/said";

const FIELD = "min-h-8 rounded border border-line bg-raised px-2 py-1";

export function SignIn() {
  const [name, setName] = useState(painterHere() ?? "");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const enter = async () => {
    setAsking(true);
    try {
      const { painter } = await signInAs(name.trim(), password);
      await takeOver(painter);
      // Everything is asked for anew.
      location.reload();
    } catch (error) {
      setProblem(saidOf(error));
      setAsking(false);
    }
  };
  return (
    <main className="grid h-full place-content-center p-6">
      <title>{t("Sign in · Saltmarsh")}</title>
      <form
        className="grid w-72 gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void enter();
        }}
      >
        <h1 className="text-[17px] font-semibold">{t("Whose bench is this?")}</h1>
        <label className="grid gap-1">
          {t("Name")}
          <input className={FIELD} autoFocus={!name} autoComplete="username" required value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className="grid gap-1">
          {t("Password")}
          <input className={FIELD} type="password" autoFocus={!!name} autoComplete="current-password" required value={password} onChange={(e) => setPassword(e.target.value)} />
        </label>
        {problem && (
          <p role="alert" className="text-warn">
            {problem}
          </p>
        )}
        <Button primary type="submit" disabled={asking}>
          {t("Sign in")}
        </Button>
        <p className="text-[12px] text-muted">{t("Whoever looks after this server gives painters their passwords.")}</p>
      </form>
    </main>
  );
}

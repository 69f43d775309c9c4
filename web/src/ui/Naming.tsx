/** Asks for a name in a dialog. Why a name is refused is told there, and nothing is lost. */

import { useState, type ReactNode } from "react";
import { Button, Dialog } from "./controls";
import { Refused, refusalOf } from "../model/refused";
import { t } from "../model/said";

interface NamingProps {
  title: string;
  /** The name to begin with. */
  start?: string;
  /** What the button says. */
  act: string;
  /** What else is chosen, above the name. */
  children?: ReactNode;
  onName: (name: string) => Promise<void>;
  onClose: () => void;
}

export function Naming({ title, start = "", act, children, onName, onClose }: NamingProps) {
  const [name, setName] = useState(start);
  const [problem, setProblem] = useState<string | null>(null);
  const submit = async () => {
    try {
      await onName(name.trim());
      onClose();
    } catch (error) {
      setProblem(error instanceof Refused ? error.message : refusalOf(error).message);
    }
  };
  return (
    <Dialog open title={title} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        {children}
        <label className="grid gap-1">
          {t("Name")}
          <input autoFocus className="rounded border border-line bg-raised px-2 py-1" value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        {problem && (
          <p role="alert" className="mt-2 text-warn">
            {problem}
          </p>
        )}
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={onClose}>{t("Not now")}</Button>
          <Button primary type="submit">
            {act}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Three steps for whoever is here for the first time: each leads to its place, is ticked when it was done, and all are put away for good. */

import { useState } from "react";
import { openRow } from "./useBenchKeys";
import { changes } from "../model/tool";
import { useDeclared } from "../session/context";
import { useFollowed } from "../session/followed";
import { useBench, useKept } from "../session/store";
import { Button } from "../ui/controls";
import { t } from "../model/said";

const AWAY = "saltmarsh.first-minute";

export function FirstMinute() {
  const [away, setAway] = useState(localStorage.getItem(AWAY) !== null);
  const drawn = useBench((s) => (s.now?.pad.length ?? 0) > 0);
  const { medium } = useDeclared();
  const [kept, draft] = [useKept(), useFollowed()];
  const changed = kept !== null && draft !== null && changes(kept, draft, medium.parameters).count > 0;
  const compared = useBench((s) => s.beside !== null || s.cursorHeld);
  if (away) return <span />;
  const steps: [string, boolean, () => void][] = [
    ["Draw on the free row", drawn, () => document.querySelector<HTMLElement>('[data-testid="pad"] canvas')?.focus()],
    ["Change something on the left", changed, () => document.querySelector<HTMLElement>('[aria-label="Controls"] :is(input, [role="slider"], button)')?.focus()],
    ["Click a stroke: why is it so, and what was it before?", compared, () => useBench.setState({ beside: "kept", cursorHeld: true })],
  ];
  const next = steps.findIndex(([, done]) => !done);
  const putAway = () => {
    localStorage.setItem(AWAY, "away");
    setAway(true);
  };
  return (
    <section aria-label={t("First minute")} className="mb-1 flex min-h-8 flex-wrap items-center gap-x-2 gap-y-0.5 rounded border border-draft bg-raised px-2">
      <ol className="m-0 flex list-none flex-wrap items-center gap-x-3 p-0">
        {steps.map(([text, done, go], i) => (
          <li key={text}>
            <button type="button" className={`min-h-7 text-left ${i === next ? "font-semibold text-draft" : "text-muted"}`} onClick={go}>
              <span className="num">{done ? "✓" : i + 1}</span> {text}
            </button>
          </li>
        ))}
      </ol>
      <span className="ml-auto flex gap-1">
        {next === 0 && (
          <Button className="!min-h-6 !px-2 !py-0" onClick={openRow}>
            {t("More room to draw")}
          </Button>
        )}
        <Button className="!min-h-6 !px-2 !py-0" onClick={putAway}>
          {next < 0 ? t("Done: put away") : t("Put away")}
        </Button>
      </span>
    </section>
  );
}

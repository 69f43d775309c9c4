/** Hand: the stylus known, tried and calibrated, in front of every tool. */

import { useShownKey } from "../keys/registry";
import { useKeys } from "../keys/useKeys";
import { useBench } from "../session/store";
import { Button, Notice } from "../ui/controls";
import { BeforeAfter } from "./BeforeAfter";
import { Calibration } from "./Calibration";
import { ProfilePanel } from "./ProfilePanel";
import { Propose } from "./Propose";
import { takeTheirs } from "../session/handSaving";
import { redo, undo, useHand } from "../session/handStore";
import { StripCharts } from "./StripCharts";
import { TestPad } from "./TestPad";
import { t } from "../model/said";

export function HandScreen() {
  useKeys({ "hand-undo": undo, "hand-redo": redo });
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] wide:h-full">
      <Title />
      <div className="relative grid min-h-0 grid-cols-[minmax(0,1fr)] rounded wide:grid-cols-[300px_minmax(0,1fr)_400px] border border-line bg-pane">
        <Notices />
        <ProfilePanel />
        <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[320px_420px] gap-2 wide:grid-rows-[minmax(0,1fr)_minmax(0,0.9fr)] px-3 py-2">
          <StripCharts />
          <TestPad />
        </div>
        <div className="min-h-0 border-line bg-raised wide:overflow-y-auto wide:border-l px-3 py-2">
          <Calibration />
          <Propose />
          <BeforeAfter />
        </div>
      </div>
    </div>
  );
}

function Title() {
  const name = useBench((s) => s.hand.profile.name);
  const device = useHand((s) => s.device);
  const saving = useHand((s) => s.saving);
  const canUndo = useHand((s) => s.past.length > 0 || s.trial !== null);
  const canRedo = useHand((s) => s.future.length > 0);
  const keys = [useShownKey("hand-undo"), useShownKey("hand-redo")];
  const safe = saving.state === "saved" || saving.state === "saving";
  return (
    <div className="flex min-h-[42px] flex-wrap items-center gap-2">
      <h1 className="text-[17px] font-semibold">{t("Hand")}</h1>
      <span className="truncate text-muted">
        {name}{t("; at hand:")}{" "}{device}
      </span>
      <span className="ml-auto" />
      <span role="status" className={safe ? "text-muted" : "font-semibold text-warn"} data-testid="hand-saving">
        {saving.state === "saving" ? t("saving…") : safe ? t("saved") : t("not saved")}
      </span>
      <Button onClick={undo} disabled={!canUndo} title={keys[0]}>
        {t("Undo")}
      </Button>
      <Button onClick={redo} disabled={!canRedo} title={keys[1]}>
        {t("Redo")}
      </Button>
    </div>
  );
}

function Notices() {
  const saving = useHand((s) => s.saving);
  if (saving.message) {
    return (
      <Notice>
        <span className="text-warn">{saving.message}</span>
        {saving.state === "conflict" && (
          <Button className="ml-auto !min-h-6 !py-0" onClick={() => void takeTheirs()}>
            {t("Take the other")}
          </Button>
        )}
      </Notice>
    );
  }
  return null;
}

/** The clock over the sheet: when strips are looked at, and how fast time goes over the free row. For media that go on by themselves. */

import { Popover } from "radix-ui";
import { useRef, useState } from "react";
import { useDeclared } from "../../session/context";
import { LATEST_S, PACES, STEP_S, seeAfter, setPace, stepClock, useClock, type Pace } from "../../session/clock";
import { Button, NumberField } from "../../ui/controls";
import { Radios } from "../../ui/Radios";
import { Slider } from "../../ui/Slider";
import { FASTEST } from "../../model/restClock";
import { fixed } from "../../model/number";
import { t } from "../../model/said";
import { useKeepsUp } from "./useKeepsUp";

const paceSaid = (pace: Pace): string => ({ 0: t("stands still"), 1: t("as on the wall"), 4: t("four times"), [FASTEST]: t("as fast as it goes") })[pace];

/** Where looking into the wet begins, s. */
const FIRST_S = 10;
/** Where the slider's end is: most washes are dry by then. */
const SLIDER_S = 240;

/** Where less than this share of the time that is due goes by, none does. */
const NONE = 0.005;

const slowSaid = (share: number) =>
  share < NONE
    ? t("Time over the row waits: what you draw comes first, or the paper under what is wet is still being made.")
    : t("So much of the row is wet that this machine lets {{share}} of the time go by: what you draw comes first.", { share: `${fixed(100 * share)} %` });

/** Says where time over the row is slower than its clock. */
export function Slow() {
  const { medium } = useDeclared();
  const share = useKeepsUp();
  if (!medium.moves) return null;
  return (
    <span className="num min-w-20 text-[12px] text-muted" title={share === null ? undefined : slowSaid(share)}>
      {share !== null && (share < NONE ? t("time waits") : t("time × {{share}}", { share: fixed(share, 2) }))}
    </span>
  );
}

export function Clock() {
  const { medium } = useDeclared();
  return medium.moves ? <ClockOver /> : null;
}

function ClockOver() {
  const { pace, seenS } = useClock();
  const share = useKeepsUp();
  const seen = seenS === null ? t("dry") : t("at {{s}} s", { s: fixed(seenS) });
  // What is tuned on it looks otherwise once it is dry: that is seen without opening anything.
  const wet = seenS !== null || pace === 0;
  return (
    <Popover.Root>
      <Popover.Trigger className={`ml-2 min-h-6 truncate text-left ${wet ? "text-warn" : "text-muted"}`} aria-label={t("Clock over the sheet")}>
        {seen}
        {pace === 0 && t(", still")}
        {share !== null && (share < NONE ? t(", free row waits") : t(", free row slow"))} <span aria-hidden>⌄</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content aria-label={t("Clock over the sheet")} align="start" sideOffset={4} collisionPadding={8} className="z-40 grid w-80 max-w-[calc(100vw-16px)] gap-2 rounded border border-line bg-pane p-3 shadow-lg">
          <div className="grid gap-1">
            <Radios
              label={t("Strips are shown")}
              value={seenS === null ? "dry" : "wet"}
              options={[
                ["dry", t("once they are dry")],
                ["wet", t("so long after the hand:")],
              ]}
              onChange={(to) => seeAfter(to === "dry" ? null : FIRST_S)}
            />
            {seenS !== null && <After seenS={seenS} />}
          </div>
          <div className="grid gap-1 border-t border-hair pt-2">
            <Radios label={t("Time over the free row")} value={String(pace)} options={PACES.map((p) => [String(p), paceSaid(p)])} onChange={(to) => setPace(PACES.find((p) => String(p) === to) ?? 1)} />
            <Button className="justify-self-start" disabled={pace !== 0} onClick={stepClock}>
              {t("Let {{s}} s go by", { s: fixed(STEP_S, 2) })}
            </Button>
            {share !== null && <p className="text-[12px] text-muted">{slowSaid(share)}</p>}
          </div>
          {wet && <p className="text-[12px] text-warn">{t("What is tuned on the wet looks otherwise once it has dried: paler, rimmed, settled into the tooth.")}</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The seconds: told while they are dragged, laid when they are let go. */
function After({ seenS }: { seenS: number }) {
  const [dragged, setDragged] = useState<number | null>(null);
  // A key is a drag and a letting go at once, before anything is drawn.
  const newest = useRef(seenS);
  const drag = (s: number) => {
    newest.current = s;
    setDragged(s);
  };
  const letGo = () => {
    seeAfter(newest.current);
    setDragged(null);
  };
  return (
    <span className="flex items-center gap-2">
      <Slider label={t("Seconds after the hand")} span={{ low: 0, high: SLIDER_S, step: 1, ratio: false }} value={Math.min(dragged ?? seenS, SLIDER_S)} onDrag={drag} onLetGo={letGo} />
      <NumberField label={t("Seconds after the hand, number")} value={dragged ?? seenS} low={0} high={LATEST_S} step={1} width="w-14" onCommit={seeAfter} />
      <span className="text-muted">s</span>
    </span>
  );
}

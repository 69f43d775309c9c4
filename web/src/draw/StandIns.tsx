/** What stands in for what a mouse, finger or plain pen does not report. */

import { Popover } from "radix-ui";
import { useBenchContext } from "../session/context";
import { fingersDraw, letFingersDraw, putOnOtherEnd } from "../session/choices";
import { useBench, within, type StandIn } from "../session/store";
import { largeButtons, useLooking } from "../session/looking";
import { forceOf } from "../model/hand";
import { Choice, Toggle } from "../ui/controls";
import { Rail } from "../ui/Rail";
import { LeanDial } from "./LeanDial";
import { fixed } from "../model/number";
import { t } from "../model/said";

interface Row {
  key: "pressure" | "tilt" | "barrel" | "taperIn" | "taperOut";
  label: string;
  low: number;
  high: number;
  step: number;
  unit: string;
}

const CHANNELS: Row[] = [
  { key: "pressure", label: "Force", low: 0.02, high: 1, step: 0.01, unit: "gf" },
  { key: "tilt", label: "Tilt", low: 0, high: 75, step: 1, unit: "°" },
  { key: "barrel", label: "Barrel", low: 0, high: 359, step: 1, unit: "°" },
];
const TAPERS: Row[] = [
  { key: "taperIn", label: "Taper in", low: 0, high: 40, step: 1, unit: "mm" },
  { key: "taperOut", label: "Taper out", low: 0, high: 40, step: 1, unit: "mm" },
];
const BY_SPEED: [StandIn["bySpeed"], string][] = [
  ["nothing", "as set"],
  ["lighter", "lighter when fast"],
  ["firmer", "firmer when fast"],
];

export function StandInSliders() {
  const standIn = useBench((s) => s.standIn);
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <div className="grid min-w-56 flex-1 gap-2">
          {CHANNELS.map((row) => (
            <Slider key={row.key} row={row} />
          ))}
        </div>
        <LeanDial />
      </div>
      <div className="flex items-center gap-1.5">
        <span className="w-14">{t("By speed")}</span>
        <Choice
          label={t("What speed does to the stand-in force")}
          value={standIn.bySpeed}
          options={BY_SPEED}
          onChange={(how) => useBench.setState((s) => ({ standIn: { ...s.standIn, bySpeed: how as StandIn["bySpeed"] } }))}
        />
      </div>
      {TAPERS.map((row) => (
        <Slider key={row.key} row={row} />
      ))}
      {standIn.taperOut > 0 && <p className="max-w-72 text-[12px] text-muted">{t("The last")}{" "}{standIn.taperOut}{" "}{t("mm appear when the hand lifts: only then is the end known.")}</p>}
    </div>
  );
}

function Slider({ row }: { row: Row }) {
  const value = useBench((s) => s.standIn[row.key]);
  const profile = useBench((s) => s.hand.profile);
  const shown = row.key === "pressure" ? forceOf(value, profile) : value;
  return (
    <div className="flex items-center gap-1.5">
      <span className="w-14">{row.label}</span>
      <Rail
        label={t("Stand-in {{v0}}", { v0: row.label.toLowerCase() })}
        said={`${fixed(shown)} ${row.unit}`}
        className="min-w-28 flex-1"
        low={row.low}
        high={row.high}
        step={row.step}
        value={value}
        onChange={(next) => useBench.setState((s) => ({ standIn: { ...s.standIn, [row.key]: next } }))}
      />
      <span className="num w-14 text-right">
        {fixed(shown)} {row.unit}
      </span>
    </div>
  );
}

/** What draws: whether fingers do, and which tool is on the pen's other end. */
function WhatDraws() {
  const fingers = useBench(fingersDraw);
  const penSeen = useBench((s) => s.penSeen);
  const otherEnd = useBench((s) => s.otherEnd);
  const large = useLooking((s) => s.forPen);
  const { tools } = useBenchContext();
  return (
    <div className="mt-3 grid gap-2 border-t border-hair pt-2">
      <label className="flex items-center gap-2">
        <Toggle label={t("Fingers draw")} on={fingers} onChange={letFingersDraw} />
        <span>
          {t("Fingers draw")}
          <span className="block max-w-60 text-[12px] text-muted">
            {fingers ? t("A touch is a stroke, except while a pen is near.") : penSeen ? t("A pen was seen here: a touch is a resting palm.") : t("Only pen and mouse draw.")}
          </span>
        </span>
      </label>
      <label className="flex items-center gap-2">
        <Toggle label={t("Large buttons beside the row")} on={large} onChange={largeButtons} />
        {t("Large buttons beside the row")}
      </label>
      <div className="flex items-center gap-1.5">
        <span>{t("Pen’s other end")}</span>
        <Choice
          label={t("Tool on the pen's other end")}
          className="max-w-44 min-w-0 flex-1"
          value={otherEnd?.id ?? NOTHING}
          options={[[NOTHING, "nothing"], ...tools.map((t): [string, string] => [t.id, t.name])]}
          onChange={(id) => putOnOtherEnd(tools.find((t) => t.id === id) ?? null)}
        />
      </div>
    </div>
  );
}

const NOTHING = "nothing";

/** A step of the force, share of the whole. */
const STEP = 0.04;

/** The same behind a button that shows the force, with less and more beside it. */
export function StandIns() {
  const pressure = useBench((s) => s.standIn.pressure);
  const profile = useBench((s) => s.hand.profile);
  const by = (step: number) => useBench.setState((s) => ({ standIn: { ...s.standIn, pressure: within(s.standIn.pressure + step, 0.02, 1) } }));
  const side = "min-h-6 w-6 border-line bg-raised hover:bg-ground";
  return (
    <span className="inline-flex items-stretch overflow-hidden rounded border border-line" role="group" aria-label={t("Stand-in force")}>
      <button type="button" aria-label={t("Less force")} className={`${side} border-r`} onClick={() => by(-STEP)}>
        −
      </button>
      <Popover.Root>
        <Popover.Trigger className="min-h-6 bg-raised px-0.5 text-[12px] whitespace-nowrap hover:bg-ground" aria-label={t("Stand-ins for force, tilt, lean and barrel")}>
          {t("Force")}{" "}{fixed(forceOf(pressure, profile))}{" "}{t("gf")}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content side="top" align="start" sideOffset={4} collisionPadding={8} className="z-50 rounded border border-line bg-pane p-3 shadow-lg">
            <p className="mb-2 max-w-64 text-muted">{t("What a mouse or finger does not report. Arrow up and down change the force while drawing.")}</p>
            <StandInSliders />
            <WhatDraws />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <button type="button" aria-label={t("More force")} className={`${side} border-l`} onClick={() => by(STEP)}>
        +
      </button>
    </span>
  );
}

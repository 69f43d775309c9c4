/** Sliders that stand in for what a mouse, finger or plain pen does not report. */

import { Popover } from "radix-ui";
import { useBench, type StandIn } from "../bench/store";
import { forceOf } from "../model/hand";

const ROWS: { key: keyof StandIn; label: string; high: number; step: number; unit: string }[] = [
  { key: "pressure", label: "Force", high: 1, step: 0.01, unit: "gf" },
  { key: "tilt", label: "Tilt", high: 75, step: 1, unit: "°" },
  { key: "lean", label: "Lean", high: 359, step: 1, unit: "°" },
  { key: "barrel", label: "Barrel", high: 359, step: 1, unit: "°" },
];

export function StandInSliders() {
  const standIn = useBench((s) => s.standIn);
  const profile = useBench((s) => s.hand.profile);
  return (
    <div className="grid gap-2">
      {ROWS.map((row) => {
        const value = standIn[row.key];
        const shown = row.key === "pressure" ? forceOf(value, profile) : value;
        return (
          <label key={row.key} className="flex items-center gap-1.5">
            <span className="w-14">{row.label}</span>
            <input
              type="range"
              aria-label={`Stand-in ${row.label.toLowerCase()}`}
              className="min-w-40 flex-1"
              min={row.key === "pressure" ? 0.02 : 0}
              max={row.high}
              step={row.step}
              value={value}
              onChange={(e) => {
                const next = Number(e.target.value);
                useBench.setState((s) => ({ standIn: { ...s.standIn, [row.key]: next } }));
              }}
            />
            <span className="num w-14 text-right">
              {shown.toFixed(0)} {row.unit}
            </span>
          </label>
        );
      })}
    </div>
  );
}

/** The same behind a button that shows the force. */
export function StandIns() {
  const pressure = useBench((s) => s.standIn.pressure);
  const profile = useBench((s) => s.hand.profile);
  return (
    <Popover.Root>
      <Popover.Trigger
        className="num min-h-6 rounded border border-line bg-raised px-1"
        aria-label="Stand-ins for force, tilt, lean and barrel"
        title="What a mouse or finger does not report"
      >
        {forceOf(pressure, profile).toFixed(0)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content side="top" align="start" sideOffset={4} className="z-50 rounded border border-line bg-pane p-3 shadow-lg">
          <p className="mb-2 max-w-64 text-muted">What a mouse or finger does not report. Arrow up and down change the force while drawing.</p>
          <StandInSliders />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The Bench: ribbon, controls, proof sheet and trace, all at once. */

import type { Tool } from "../api/client";
import { Proof } from "./Proof";
import { Ribbon } from "./Ribbon";
import { Hand } from "./stations/Hand";
import { Panel } from "./stations/Panel";
import { Touch } from "./stations/Touch";
import { useBench } from "../session/store";
import { Notices, TitleBar } from "./TitleBar";
import { Reason } from "./Reason";
import { TracePlot } from "./TracePlot";
import { useBenchKeys } from "./useBenchKeys";

export function Bench({ tools }: { tools: Tool[] }) {
  const station = useBench((s) => s.station);
  useBenchKeys();
  return (
    <div className="grid min-h-0 grid-rows-[42px_96px_minmax(0,1fr)_142px]">
      <TitleBar tools={tools} />
      <div className="relative min-h-0">
        <Notices />
        <Ribbon />
      </div>
      <main className="grid min-h-0 grid-cols-[400px_minmax(0,1fr)] border-x border-line bg-pane">
        <section aria-label="Controls" className="min-h-0 overflow-y-auto border-r border-line bg-raised px-3 py-2">
          {station === "hand" ? <Hand /> : station === "touch" ? <Touch /> : <Panel key={station} station={station} />}
        </section>
        <div className="min-h-0 min-w-0 px-3 py-1">
          <Proof />
        </div>
      </main>
      <footer className="grid min-h-0 grid-cols-[400px_minmax(0,1fr)] rounded-b border border-line bg-pane">
        <div className="min-h-0 min-w-0 border-r border-line">
          <Reason />
        </div>
        <div className="min-w-0 px-2">
          <TracePlot />
        </div>
      </footer>
    </div>
  );
}

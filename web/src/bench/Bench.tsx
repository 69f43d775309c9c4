/** The Bench: ribbon, controls, proof sheet and trace. All at once where there is room, else under each other. */

import { startTransition, useEffect, useState, type ReactNode } from "react";
import { Group, Panel as Pane, Separator, useDefaultLayout } from "react-resizable-panels";
import type { Tool } from "../api/client";
import { useMatch } from "../plot/useMatch";
import { FirstMinute } from "./FirstMinute";
import { Proof } from "./proof/Proof";
import { Watched } from "./proof/Watched";
import { Ribbon } from "./Ribbon";
import { Hand } from "./stations/Hand";
import { Panel } from "./stations/Panel";
import { Touch } from "./stations/touch/Touch";
import { STATIONS } from "../model/tool";
import { useBench } from "../session/store";
import { Notices, TitleBar } from "./TitleBar";
import { Reason } from "./Reason";
import { TracePlot } from "./TracePlot";
import { useBenchKeys } from "./useBenchKeys";
import { t } from "../model/said";

/** As `wide:` in the style sheet. */
const WIDE = "(min-width: 1060px) and (min-height: 540px)";

let wasDrawn = false;

/**
 * What is drawn after the rest where the page has just been opened: the proof sheet comes first, so that the engine can be at the strokes
 * while the page draws all else.
 */
function Later({ children }: { children: ReactNode }) {
  const [drawn, setDrawn] = useState(wasDrawn);
  useEffect(() => {
    wasDrawn = true;
    startTransition(() => setDrawn(true));
  }, []);
  return drawn && children;
}

export function Bench({ tools }: { tools: Tool[] }) {
  const wide = useMatch(WIDE);
  useBenchKeys();
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_auto_96px_minmax(0,1fr)]">
      <TitleBar tools={tools} />
      <FirstMinute />
      <div className="relative min-h-0 min-w-0">
        <Notices />
        <Later>
          <Ribbon />
        </Later>
      </div>
      {wide ? <Beside /> : <Stacked />}
    </div>
  );
}

/** Controls over the reason, proof sheet over the trace; the borders between can be moved, and stay where they were put. */
function Beside() {
  const across = useDefaultLayout({ id: "saltmarsh.bench", storage: localStorage, onlySaveAfterUserInteractions: true });
  const left = useDefaultLayout({ id: "saltmarsh.bench-left", storage: localStorage, onlySaveAfterUserInteractions: true });
  const right = useDefaultLayout({ id: "saltmarsh.bench-right", storage: localStorage, onlySaveAfterUserInteractions: true });
  return (
    <div className="min-h-0 rounded-b border border-line bg-pane">
      <Group orientation="horizontal" {...across}>
        <Pane id="pane-controls" defaultSize={400} minSize={300} groupResizeBehavior="preserve-pixel-size">
          <Group orientation="vertical" {...left}>
            <Pane id="pane-station" minSize={120}>
              <Controls />
            </Pane>
            <Border across />
            <Pane id="pane-reason" defaultSize={142} minSize={60} groupResizeBehavior="preserve-pixel-size">
              <Later>
                <Reason />
              </Later>
            </Pane>
          </Group>
        </Pane>
        <Border />
        <Pane id="pane-sheet" minSize={460}>
          <Group orientation="vertical" {...right}>
            <Pane id="pane-proof" minSize={140} className="px-3 py-1">
              <Proof />
            </Pane>
            <Border across />
            <Pane id="pane-trace" defaultSize={142} minSize={90} groupResizeBehavior="preserve-pixel-size" className="px-2">
              <Later>
                <TracePlot />
              </Later>
            </Pane>
          </Group>
        </Pane>
      </Group>
    </div>
  );
}

/** A border that can be moved with pointer or arrow keys. */
function Border({ across = false }: { across?: boolean }) {
  return (
    <Separator
      aria-label={across ? t("Move this border up or down") : t("Move this border left or right")}
      className={`relative bg-line after:absolute after:content-[''] hover:bg-draft data-[separator=active]:bg-draft ${across ? "h-px after:inset-x-0 after:-inset-y-1" : "w-px after:-inset-x-1 after:inset-y-0"}`}
    />
  );
}

function Stacked() {
  return (
    <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] rounded-b border border-line bg-pane">
      <Watched />
      <Controls />
      <div className="border-y border-line px-2 py-1">
        <Proof />
      </div>
      <Part height="h-44">
        <Later>
          <TracePlot />
        </Later>
      </Part>
      <Part>
        <Later>
          <Reason />
        </Later>
      </Part>
    </div>
  );
}

const Part = ({ height = "", children }: { height?: string; children: ReactNode }) => <div className={`min-w-0 border-b border-line px-2 py-1 ${height}`}>{children}</div>;

function Controls() {
  const station = useBench((s) => s.station);
  return (
    <section aria-label={t("Controls")} className="h-full min-h-0 min-w-0 overflow-y-auto bg-raised px-3 py-2">
      <h2 className="sr-only">{STATIONS.find((s) => s.id === station)?.label}</h2>
      <Later>{station === "hand" ? <Hand /> : station === "touch" ? <Touch /> : <Panel key={station} station={station} />}</Later>
    </section>
  );
}

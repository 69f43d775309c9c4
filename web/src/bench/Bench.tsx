/** The Bench: ribbon, controls, proof sheet and trace, all at once. */

import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { listGestures, listTools } from "../api/client";
import { start } from "../engine/client";
import type { Station } from "../model/tool";
import { watchColumns } from "./columns";
import { Context } from "./context";
import { Palette } from "./Palette";
import { Proof } from "./Proof";
import { Ribbon } from "./Ribbon";
import { openTool, watchDraft } from "./saving";
import { Hand } from "./stations/Hand";
import { Ground, Load, Mix, Relief, Tip } from "./stations/Others";
import { Touch } from "./stations/Touch";
import { setTheme, useBench } from "./store";
import { Notices, TitleBar } from "./TitleBar";
import { Reason, TracePlot } from "./TracePane";
import { useKeys } from "./useKeys";

const PANELS: Record<Station, () => React.ReactNode> = {
  hand: Hand,
  touch: Touch,
  tip: Tip,
  load: Load,
  mix: Mix,
  ground: Ground,
  relief: Relief,
};

export function Bench() {
  const declarations = useQuery({ queryKey: ["declarations"], queryFn: start, staleTime: Infinity });
  const tools = useQuery({ queryKey: ["tools"], queryFn: listTools });
  const gestures = useQuery({ queryKey: ["gestures"], queryFn: listGestures });
  const opened = useBench((s) => s.tool !== null);

  useEffect(() => {
    const all = tools.data;
    if (!all?.length || useBench.getState().tool) return;
    const last = localStorage.getItem("saltmarsh.tool");
    const tool = all.find((t) => t.id === last) ?? all.find((t) => t.name.startsWith("Vine")) ?? all[0];
    if (tool) openTool(tool);
  }, [tools.data]);
  useEffect(() => {
    const first = gestures.data?.[0];
    if (first && !useBench.getState().gesture) useBench.setState({ gesture: first.id });
  }, [gestures.data]);
  useEffect(() => watchDraft(), []);
  useEffect(() => watchColumns(), []);
  useKeys();

  const problem = declarations.error ?? tools.error ?? gestures.error;
  if (!declarations.data || !tools.data || !gestures.data || !opened) {
    return (
      <main className="grid h-full place-items-center">
        <p role={problem ? "alert" : "status"} className={problem ? "text-warn" : "text-muted"}>
          {problem ? `${problem.message}. Trying again…` : tools.data?.length === 0 ? "The rack is empty: load the demo with ./run demo." : "Laying out the bench…"}
        </p>
      </main>
    );
  }
  return (
    <Context.Provider value={{ declarations: declarations.data, gestures: gestures.data }}>
      <Layout />
      <Palette tools={tools.data} />
    </Context.Provider>
  );
}

function Layout() {
  const tools = useQuery({ queryKey: ["tools"], queryFn: listTools });
  const station = useBench((s) => s.station);
  const Panel = PANELS[station];
  return (
    <div className="grid h-full min-w-[1100px] grid-rows-[34px_42px_96px_minmax(0,1fr)_142px] px-4 pb-3">
      <TopLine />
      <TitleBar tools={tools.data ?? []} />
      <div className="relative min-h-0">
        <Notices />
        <Ribbon />
      </div>
      <main className="grid min-h-0 grid-cols-[400px_minmax(0,1fr)] border-x border-line bg-pane">
        <section aria-label="Controls" className="min-h-0 overflow-y-auto border-r border-line bg-raised px-3 py-2">
          <Panel />
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

function TopLine() {
  const theme = useBench((s) => s.theme);
  const live = useBench((s) => s.live);
  return (
    <div className="flex items-center gap-5">
      <strong className="text-[15px]">Saltmarsh</strong>
      <span className="font-semibold">Bench</span>
      <span className="ml-auto flex items-center gap-2 text-muted">
        <span aria-hidden className={`h-2 w-2 rounded-full ${live?.kind === "pen" ? "bg-draft" : "bg-kept"}`} />
        {live?.kind === "pen" ? "Pen, 4 to 400 gf" : "Stand-in for a pen"}
      </span>
      <button type="button" className="min-h-7 px-1 text-muted" onClick={() => setTheme(theme === "light" ? "dark" : "light")}>
        {theme === "light" ? "Dark" : "Light"}
      </button>
      <button type="button" className="min-h-7 px-1 text-muted" onClick={() => useBench.setState({ palette: true })}>
        Find or do <kbd className="num">Ctrl K</kbd>
      </button>
    </div>
  );
}

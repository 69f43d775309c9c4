/** The rack: every tool with the strokes it makes, and techniques to try tools in. */

import { useEffect, useState } from "react";
import type { Tool } from "../api/client";
import { engine } from "../engine/client";
import { useNavigate } from "react-router";
import { useBenchContext } from "../session/context";
import { STRAIGHT } from "../model/hand";
import { useBench } from "../session/store";
import { switchTo } from "../session/saving";
import { Button } from "../ui/controls";
import { FileButton } from "../ui/FileButton";
import { useToolDoings } from "./doings";
import { MakeTool } from "./MakeTool";
import { TakenAway } from "./TakenAway";
import { Techniques } from "./Techniques";
import { ToolCard } from "./ToolCard";
import { t } from "../model/said";

const VIEWS = [
  ["tools", "Tools"],
  ["techniques", "Techniques"],
] as const;

export function RackScreen({ tools }: { tools: Tool[] }) {
  const [view, setView] = useState<"tools" | "techniques">("tools");
  const [making, setMaking] = useState(false);
  const doings = useToolDoings(tools);
  const { declarations } = useBenchContext();
  const calibrated = useBench((s) => JSON.stringify(s.hand.calibration) !== JSON.stringify(STRAIGHT));
  const go = useNavigate();
  const [search, setSearch] = useState("");
  // Pictures that nobody looks at any more would hold up others.
  useEffect(() => () => void engine.dropSheets("rack:"), [view]);
  const wanted = search.trim().toLowerCase();
  const found = tools.filter(({ kept: { document: d } }) => [d.name, d.intent, d.medium, d.action].some((text) => text.toLowerCase().includes(wanted)));
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] wide:h-full">
      <div className="flex min-h-[42px] flex-wrap items-center gap-2">
        <h1 className="text-[17px] font-semibold">{t("Rack")}</h1>
        <span className="mr-3 text-muted">
          <span className="num">{tools.length}</span>{" "}{t("tools")}{calibrated && t(", drawn through your calibration")}
        </span>
        {VIEWS.map(([v, text]) => (
          <Button key={v} aria-pressed={view === v} onClick={() => setView(v)}>
            {text}
          </Button>
        ))}
        <span className="ml-auto" />
        <TakenAway onBringBack={doings.bringBack} />
        <Button onClick={() => setMaking(true)}>{t("Make a tool…")}</Button>
        <FileButton text={t("Add from files…")} label={t("Tools (JSON)")} accept=".json,application/json" multiple onFiles={(files) => void doings.readFiles(files)} />
        {making && <MakeTool declarations={declarations} make={doings.make} onMade={(tool) => void switchTo(tool).then(() => go("/"))} onClose={() => setMaking(false)} />}
        {view === "tools" && (
          <input
            type="search"
            aria-label={t("Find tools")}
            placeholder={t("Find by name, use or action")}
            className="w-60 rounded border border-line bg-raised px-2 py-1"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
          />
        )}
      </div>
      <div className="min-h-0 rounded border border-line bg-pane p-2.5 wide:overflow-y-auto">
        {view === "techniques" ? (
          <Techniques tools={tools} />
        ) : (
          <ul aria-label={t("Tools")} className="grid grid-cols-[repeat(auto-fill,minmax(min(290px,100%),1fr))] gap-2">
            {found.map((tool) => (
              <ToolCard key={tool.id} tool={tool} doings={doings} />
            ))}
            {found.length === 0 && <li className="p-2 text-muted">{t("No tool of that name or use.")}</li>}
          </ul>
        )}
      </div>
    </div>
  );
}

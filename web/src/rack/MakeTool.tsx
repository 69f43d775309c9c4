/** Makes a tool from nothing: a medium and what it does, with a plain hand on it to begin with. */

import { useState } from "react";
import type { Tool } from "../api/client";
import { engine } from "../engine/client";
import type { Action } from "../generated/core";
import { viewsOf } from "../media";
import { recipeOf } from "../model/ground";
import { defaultsOf, mediumOf, type Declarations, type ToolDocument } from "../model/tool";
import { Choice } from "../ui/controls";
import { Naming } from "../ui/Naming";
import { t } from "../model/said";

/** A sound beginning: as declared, firmer with pressure. */
function begun(declarations: Declarations, medium: string, action: Action, name: string, intent: string): ToolDocument {
  const declared = mediumOf(declarations, medium);
  const force = declared.parameters.find((p) => p.quality === "force");
  return {
    format: "saltmarsh.tool",
    version: declarations.tool_version,
    name,
    intent,
    medium,
    action,
    seed: 1,
    ground: recipeOf(declarations, viewsOf(medium).beginsOn),
    parameters: defaultsOf(declared),
    responses:
      force?.kind === "number"
        ? [{ id: "pressure", quality: "force", signal: "pressure", input: [0, 1], curve: [[0, 0], [1, 1]], output: [0, force.default], amount: 1, on: true }]
        : [],
    combine: {},
  };
}

interface MakeToolProps {
  declarations: Declarations;
  make: (document: ToolDocument) => Promise<Tool>;
  onMade: (tool: Tool) => void;
  onClose: () => void;
}

export function MakeTool({ declarations, make, onMade, onClose }: MakeToolProps) {
  const [medium, setMedium] = useState(declarations.media[0]?.medium ?? "");
  const { actions } = mediumOf(declarations, medium);
  const [chosen, setAction] = useState<Action>("lay");
  const [intent, setIntent] = useState("");
  const action = actions.some((a) => a.action === chosen) ? chosen : (actions[0]?.action ?? "lay");
  const name = async (wanted: string) => {
    const document = begun(declarations, medium, action, wanted, intent.trim());
    onMade(await make(JSON.parse(await engine.checkTool(JSON.stringify(document))) as ToolDocument));
  };
  return (
    <Naming title={t("Make a tool")} act={t("Make it")} onName={name} onClose={onClose}>
      <div className="mb-2 grid grid-cols-[6rem_minmax(0,1fr)] items-center gap-2">
        <span>{t("Medium")}</span>
        <Choice label={t("Medium of the new tool")} value={medium} options={declarations.media.map((m) => [m.medium, m.label])} onChange={setMedium} />
        <span>{t("It")}</span>
        <Choice label={t("What the new tool does")} value={action} options={actions.map((a) => [a.action, a.word])} onChange={setAction} />
        <span>{t("For")}</span>
        <input aria-label={t("What it is for")} className="rounded border border-line bg-raised px-2 py-1" placeholder={t("What it is for")} maxLength={400} value={intent} onChange={(e) => setIntent(e.target.value)} />
      </div>
    </Naming>
  );
}

/** A rack with no tool in it: one can be made, read from a file, or brought back. */

import { useState } from "react";
import type { Declarations } from "../model/tool";
import { openTool } from "../session/saving";
import { Button } from "../ui/controls";
import { FileButton } from "../ui/FileButton";
import { TakenAway } from "./TakenAway";
import { useToolDoings } from "./doings";
import { MakeTool } from "./MakeTool";
import { t } from "../model/said";

export function EmptyRack({ declarations }: { declarations: Declarations }) {
  const [making, setMaking] = useState(false);
  const doings = useToolDoings([]);
  return (
    <main className="grid h-full place-content-center gap-3 p-6">
      <h1 className="text-[17px] font-semibold">{t("The rack is empty")}</h1>
      <p className="max-w-prose">{t("Make a first tool, or read one from a file.")}</p>
      <div className="flex flex-wrap gap-2">
        <Button primary onClick={() => setMaking(true)}>
          {t("Make a tool…")}
        </Button>
        <FileButton text={t("Add from files…")} label={t("Tools (JSON)")} accept=".json,application/json" multiple onFiles={(files) => void doings.readFiles(files)} />
        <TakenAway onBringBack={doings.bringBack} />
      </div>
      {making && <MakeTool declarations={declarations} make={doings.make} onMade={(tool) => void openTool(tool)} onClose={() => setMaking(false)} />}
    </main>
  );
}

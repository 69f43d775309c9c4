/** Mix: where the paint of the selected stroke came from and went, and a starting point that painters ask for. */

import type { Response, ToolDocument } from "../../model/tool";
import { useFollowed } from "../../session/followed";
import { edit } from "../../session/store";
import { Button } from "../../ui/controls";
import { Balance } from "../Balance";
import { t } from "../../model/said";

type Driven = "own" | "flow";

/** At a light touch only what it finds, at a firm one its own; and hardly anything of its own before that. */
const CURVES: Record<Driven, [number, number][]> = {
  own: [[0, 0], [0.35, 0.05], [0.65, 1], [1, 1]],
  flow: [[0, 0.1], [0.35, 0.15], [0.65, 1], [1, 1]],
};

function pushLightLayFirm(document: ToolDocument): ToolDocument {
  const qualities = Object.keys(CURVES) as Driven[];
  const others = document.responses.filter((r) => !(qualities as string[]).includes(r.quality));
  const made = qualities.map((quality): Response => ({ id: `pressure-${quality}`, quality, signal: "pressure", input: [0, 1], curve: CURVES[quality], output: [0, 1], amount: 1, on: true, repeat: false, around: false }));
  return { ...document, responses: [...others, ...made] };
}

export function Moved() {
  const document = useFollowed();
  // A blade, and what brings no paint, has no share of its own colour.
  const has = document?.action === "lay" && document.parameters["tip.ferrule"] !== "blade";
  return (
    <div>
      {has && (
        <Button className="mb-1 w-full" title={t("Own colour and Flow follow the pressure; what drove them before is replaced")} onClick={() => edit(pushLightLayFirm)}>
          {t("Push at a light touch, lay at a firm one")}
        </Button>
      )}
      <Balance of="Paint" digits={2} places={{ brought: "Loaded", held_before: "In the tip before", held: "In the tip now", found: "of it found", gone: "Washed out" }} />
    </div>
  );
}

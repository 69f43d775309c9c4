/** A station's panel, laid out from what the tool's medium declares, with the medium's picture above where it has one. */

import { Rows } from "../../media/ParameterRow";
import { viewsOf } from "../../media";
import type { Station } from "../../model/tool";
import { useDeclared } from "../../session/context";
import { useDocument } from "../../session/store";
import { Light } from "./Light";
import { WhichGround } from "./WhichGround";

export function Panel({ station }: { station: Station }) {
  const document = useDocument();
  const { medium } = useDeclared();
  if (!document) return null;
  const { Picture, rows } = viewsOf(medium.medium).stations[station] ?? {};
  return (
    <div>
      {Picture && <Picture />}
      {station === "ground" && <WhichGround />}
      {station === "relief" && <Light />}
      {(rows?.(document) ?? true) && <Rows ids={medium.parameters.filter((p) => p.station === station).map((p) => p.id)} />}
    </div>
  );
}

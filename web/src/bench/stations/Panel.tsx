/** A station's panel, laid out from what the tool's medium declares, with the medium's picture above where it has one. */

import { Rows } from "../../media/ParameterRow";
import { viewsOf } from "../../media";
import type { Station } from "../../model/tool";
import { useDeclared } from "../../session/context";
import { documentOf, useBench } from "../../session/store";
import { Light } from "./Light";
import { WhichGround } from "./WhichGround";

export function Panel({ station }: { station: Station }) {
  const { medium } = useDeclared();
  const { Picture, rows } = viewsOf(medium.medium).stations[station] ?? {};
  const shown = useBench((s) => {
    const document = documentOf(s);
    return document !== null && (rows?.(document) ?? true);
  });
  return (
    <div>
      {Picture && <Picture />}
      {station === "ground" && <WhichGround />}
      {station === "relief" && <Light />}
      {shown && <Rows ids={medium.parameters.filter((p) => p.station === station).map((p) => p.id)} />}
    </div>
  );
}

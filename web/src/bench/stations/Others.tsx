/** Load, Mix, Ground and Relief: the picture first, then the rows. */

import { useSize } from "../../plot/useSize";
import { Bearing } from "../../plot/Bearing";
import { laysFilm, withParameter } from "../../model/tool";
import { Button } from "../../ui/controls";
import { useDeclared } from "../context";
import { edit, useBench, useDocument } from "../store";
import { useGround, useTrace } from "../useEngine";
import { Rows } from "./ParameterRow";
import { useCursorDab } from "./useCursorDab";
import { WhichGround } from "./WhichGround";

export function Load() {
  const lays = useDocument()?.action === "lay";
  return (
    <div>
      <p className="pb-1">
        {lays
          ? "A stick is its own load: it does not run out along a stroke. What it is made of decides how it meets the tooth and how much powder stays."
          : "This tool brings no powder of its own. How hard it is and how far it gives decide how it meets the tooth."}
      </p>
      <Rows ids={["load.stick"]} />
      <Nature />
      <Rows ids={["load.film"]} />
      <Rows
        ids={[
          "load.hardness_gf_mm2",
          "load.give_um",
          "load.deposit_um_mm",
          "load.fill_um",
          "load.grit_um",
          "load.grain",
          "load.face_um",
          "load.bound",
          "load.dust",
          "load.dust_mm",
          "load.blunt",
          "load.blunt_mm",
          "load.sharpen",
        ]}
      />
    </div>
  );
}

/** What the chosen stick is by nature, where the tool has other numbers: taken in one step. */
function Nature() {
  const document = useDocument();
  const { declarations } = useDeclared();
  if (!document || document.action !== "lay" || laysFilm(document)) return null;
  const nature = declarations.sticks.find((s) => s.stick === document.parameters["load.stick"])?.nature ?? {};
  const other = Object.entries(nature).filter(([id, v]) => document.parameters[id] !== v);
  return (
    <div className="flex items-center gap-2 pb-1 text-[12px] text-muted">
      <span>{other.length === 0 ? "Hard, friable and binding as this stick is by nature." : `${other.length} of its numbers are not this stick's own.`}</span>
      {other.length > 0 && (
        <Button className="ml-auto shrink-0 !px-2" title="Hardness, give, deposit, fill, grit, grain, streaks and held: a point of graphite and pencils, the side of other sticks" onClick={() => edit((d) => other.reduce((doc, [id, v]) => withParameter(doc, id, v), d))}>
          Take the stick's own
        </Button>
      )}
    </div>
  );
}

export function Mix() {
  const document = useDocument();
  if (document?.action === "lay") {
    return (
      <div>
        <p className="pb-2">
          Nothing on a dry sheet is wet, so there is nothing to mix: a stick lays its powder over what is there. A finger, a stump or an eraser moves it; what the
          tool does is chosen beside its name.
        </p>
        <Balance />
      </div>
    );
  }
  return (
    <div>
      <p className="pb-1">The proof sheet is a bed of charcoal with bare paper between, so that there is something to move.</p>
      <Balance />
      <Rows ids={["mix.pickup_mm", "mix.pickup_held", "mix.release_mm", "mix.holds_mm3", "mix.wear_um_mm"]} />
    </div>
  );
}

/** Where the powder of the selected stroke came from and went: nothing is lost. */
function Balance() {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  if (!trace) return null;
  const { from_stick_mm3, in_tool_mm3, dust_mm3 } = trace.balance;
  const rows: [string, number][] = [
    ["From the stick", from_stick_mm3],
    ["In the tool", in_tool_mm3],
    ["Gone as crumbs", dust_mm3],
    ["On the sheet now", trace.sheet_mm3],
  ];
  return (
    <dl aria-label="Powder of this stroke" className="grid grid-cols-[1fr_auto] border-t border-hair py-1" data-testid="balance">
      {rows.map(([label, mm3]) => (
        <div key={label} className="contents">
          <dt>{label}</dt>
          <dd className="num text-right">{mm3.toFixed(4)} mm³</dd>
        </div>
      ))}
    </dl>
  );
}

export function Relief() {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  const document = useDocument();
  if (!trace?.dabs.length) return <p className="text-muted">No stroke is selected.</p>;
  if (document && laysFilm(document)) return <p>An even film has no height: it is shown flat.</p>;
  const film = Math.max(...trace.dabs.map((d) => d.film_um));
  return (
    <p>
      Powder lies <span className="num">{film.toFixed(1)} µm</span> high at most on the selected stroke: far below the paper's tooth, so dry tools are shown flat. It
      still raises the surface under the next dab.
    </p>
  );
}

export function Ground() {
  const document = useDocument();
  const figures = useGround(document);
  const dab = useCursorDab();
  const { ref, size } = useSize<HTMLDivElement>();
  const width = size.width;
  return (
    <div>
      <div ref={ref}>{figures && width > 0 && <Bearing figures={figures} load={dab?.load ?? 0} width={width} />}</div>
      {figures && (
        <p className="num py-1 text-[12px] text-muted" data-testid="texture">
          Sa {figures.texture.sa_um.toFixed(1)} Sq {figures.texture.sq_um.toFixed(1)} Sz {figures.texture.sz_um.toFixed(0)} µm · Ssk {figures.texture.ssk.toFixed(2)} Sku{" "}
          {figures.texture.sku.toFixed(2)}
        </p>
      )}
      <WhichGround />
      <Rows ids={["ground.enters", "ground.depth", "ground.least", "ground.tooth", "ground.scale", "ground.swap", "ground.follow", "ground.follow_mm"]} />
    </div>
  );
}

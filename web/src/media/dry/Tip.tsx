/** Tip: its shape, how it presses and what one dab leaves; then what makes it. */

import { RadioGroup } from "radix-ui";
import { useState } from "react";
import type { Quality } from "../../generated/core";
import type { Dab, TipDab } from "../../engine/types";
import { withParameter, type ToolDocument } from "../../model/tool";
import { Compass } from "../../ui/Compass";
import { useDeclared } from "../../session/context";
import { useFollowed } from "../../session/followed";
import { drag, edit, letGo, useDocument } from "../../session/store";
import { Shelf } from "../../images/Shelf";
import { ImageTip } from "./ImageTip";
import { Jitter } from "./Jitter";
import { Rows } from "../ParameterRow";
import { DabOnGround, TipPicture } from "./TipPicture";
import { useCursorDab } from "../../session/useCursorDab";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

/** Parameters that belong together by how their names begin, and whether they are in use. */
const GROUPS: { name: string; begins: string; used: (d: ToolDocument) => boolean }[] = [
  { name: "Image", begins: "tip.image", used: (d) => d.parameters["tip.shape"] === "image" },
  { name: "Specks", begins: "tip.speck", used: (d) => d.parameters["tip.shape"] === "speckled" },
  { name: "Grain image", begins: "tip.grain", used: (d) => !!d.parameters["tip.grain"] },
  { name: "Mask", begins: "tip.mask", used: (d) => (d.parameters["tip.mask"] ?? "none") !== "none" },
];
/** How names of parameters begin that say where dabs lie. */
const PLACING = ["tip.spacing", "tip.scatter", "tip.count"];
/** Shown as pictures of its options. */
const SHAPE = "tip.shape";

export function Tip() {
  const dab = useCursorDab();
  const document = useFollowed();
  const { medium, qualityOf } = useDeclared();
  const ids = medium.parameters.filter((p) => p.station === "tip").map((p) => p.id);
  if (!document) return null;
  const shown = dab && dabOf(dab, qualityOf);
  return (
    <div>
      {/* The tip stays in sight while its rows are gone through. */}
      <div className="sticky -top-2 z-10 -mx-3 -mt-2 flex items-start gap-3 border-b border-hair bg-raised px-3 pt-2 pb-1">
        <figure>
          <figcaption className="pb-0.5 text-[12px] text-muted">{t("Tip at the cursor")}</figcaption>
          {shown && <TipPicture document={document} dab={shown} side={118} label={t("Tip, {{v0}} by {{v1}} mm", { v0: fixed(shown.length_mm, 1), v1: fixed(shown.width_mm, 1) })} />}
        </figure>
        <figure>
          <figcaption className="pb-0.5 text-[12px] text-muted">{t("One dab on the ground")}</figcaption>
          {dab && shown && <DabOnGround document={document} dab={dab} shown={shown} side={118} />}
        </figure>
        <figure className="ml-auto text-center">
          <figcaption className="pb-0.5 text-[12px] text-muted">{t("Angle")}</figcaption>
          <Angle now={dab ? dab.angle_deg : null} />
          {dab && <span className="num text-[12px] text-muted">{fixed(dab.angle_deg)}{t("° here")}</span>}
        </figure>
      </div>
      {dab && (
        <p className="num py-1 text-muted">
          {fixed(dab.length_mm, 1)} × {fixed(dab.width_mm, 1)}{" "}{t("mm ·")}{" "}{fixed(dab.area_mm2, 1)}{" "}{t("mm² · a dab every")}{" "}{fixed(dab.travel_mm, 2)}{" "}{t("mm")}
        </p>
      )}
      <Shapes document={document} />
      {document.parameters[SHAPE] === "image" && <ImageTip document={document} />}
      <Rows ids={ids.filter((id) => id !== SHAPE && ![...GROUPS.map((g) => g.begins), ...PLACING].some((begins) => id.startsWith(begins)))} />
      {GROUPS.map((g) => (
        <Group key={g.name} name={g.name} ids={ids.filter((id) => id.startsWith(g.begins))} used={g.used(document)} />
      ))}
      <h3 className="border-t border-line pt-1.5 font-semibold">{t("Placing")}</h3>
      <Rows ids={ids.filter((id) => PLACING.some((begins) => id.startsWith(begins)))} />
      <Jitter />
    </div>
  );
}

/** Its hand follows at once. */
function Angle({ now }: { now: number | null }) {
  const document = useDocument();
  if (!document) return null;
  return (
    <Compass
      label={t("Angle, compass")}
      value={Number(document.parameters["tip.angle_deg"] ?? 0)}
      now={now}
      onDrag={(v) => drag(withParameter(document, "tip.angle_deg", v))}
      onLetGo={letGo}
      onCommit={(v) => edit((d) => withParameter(d, "tip.angle_deg", v))}
    />
  );
}

function dabOf(dab: Dab, qualityOf: (dab: Dab, quality: Quality) => number): TipDab {
  return {
    length_mm: dab.length_mm,
    width_mm: dab.width_mm,
    side_mm: qualityOf(dab, "side") * Math.sin((dab.signals.tilt_deg * Math.PI) / 180),
    angle_deg: dab.angle_deg,
    hardness: qualityOf(dab, "hardness"),
    grain_depth: qualityOf(dab, "grain"),
  };
}

/** One of the shapes, each shown as it is. */
function Shapes({ document }: { document: ToolDocument }) {
  const { parameter } = useDeclared();
  const shape = parameter(SHAPE);
  const options = shape?.kind === "choice" ? shape.options : [];
  const now = String(document.parameters[SHAPE] ?? "round");
  const small: TipDab = { length_mm: 4, width_mm: 2, side_mm: 0, angle_deg: 0, hardness: 1, grain_depth: 1 };
  const [choosing, setChoosing] = useState(false);
  const choose = (shape: string) => {
    edit((d) => withParameter(d, SHAPE, shape));
    if (shape === "image" && !document.parameters["tip.image"]) setChoosing(true);
  };
  const plain = (shape: string): ToolDocument => ({ ...document, parameters: { ...document.parameters, [SHAPE]: shape, "tip.grain": "", "tip.mask": "none" } });
  return (
    <>
      <RadioGroup.Root aria-label={t("Shape")} value={now} onValueChange={choose} className="grid grid-cols-4 gap-1 border-t border-hair py-1.5">
        {options.map(([shape, label]) => (
          <RadioGroup.Item
            key={shape}
            value={shape}
            className={`flex min-h-8 items-center gap-1.5 rounded border px-1 text-left text-[12px] ${shape === now ? "border-draft font-semibold text-draft" : "border-line"}`}
          >
            {shape === "image" ? (
              <span aria-hidden className="block h-7 w-7 shrink-0 border border-line" />
            ) : (
              <TipPicture document={plain(shape)} dab={small} side={28} label="" />
            )}
            {label}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      {choosing && (
        <Shelf
          title={t("Image")}
          chosen=""
          onChoose={(image) => {
            edit((d) => withParameter(d, "tip.image", image.hash));
            setChoosing(false);
          }}
          onClose={() => setChoosing(false)}
        />
      )}
    </>
  );
}

/** Open while it is in use, unless the painter closed it; and where the painter opened it. */
function Group({ name, ids, used }: { name: string; ids: string[]; used: boolean }) {
  const [chosen, setChosen] = useState<boolean | null>(null);
  const open = chosen ?? used;
  return (
    <section aria-label={name} className="border-t border-line">
      <button type="button" aria-expanded={open} className="flex min-h-7 w-full items-center gap-2 text-left font-semibold" onClick={() => setChosen(!open)}>
        <span aria-hidden className="w-3 text-muted">
          {open ? "▾" : "▸"}
        </span>
        {name}
      </button>
      {open && <Rows ids={ids} />}
    </section>
  );
}

/** What a parameter does: the tool's own sample with little of it, as it is, and with much. */

import { useEffect } from "react";
import { engine, sheetPicture } from "../engine/client";
import { castOf } from "../media/cast";
import { withParameter, type Parameter, type ToolDocument, type Value } from "../model/tool";
import { useDeclared } from "../session/context";
import { useIdle } from "../session/relevance";
import { documentOf, useBench } from "../session/store";
import { useAnswer } from "../session/useEngine";
import { Canvas } from "../ui/Canvas";
import { seen, told } from "./difference";
import { t } from "../model/said";

const WIDTH = 150;
const MOST_OPTIONS = 3;

interface Shown {
  value: Value;
  caption: string;
}

/** From the middle of a number's range down and up by a share of it, by ratio where equal ratios feel alike. */
function around(p: Extract<Parameter, { kind: "number" }>, now: number): Shown[] {
  const at = (share: number) => (p.ratio && p.low > 0 ? p.low * (p.high / p.low) ** share : p.low + share * (p.high - p.low));
  const rounded = (v: number) => Number((Math.round(v / p.step) * p.step).toFixed(6));
  const values = [rounded(at(0.15)), rounded(at(0.85))];
  return [values[0] ?? now, now, values[1] ?? now].map((v, i) => ({ value: v, caption: `${v} ${p.unit}${i === 1 ? ", now" : ""}` }));
}

function variantsOf(p: Parameter, now: Value): Shown[] {
  if (p.kind === "number") return around(p, Number(now));
  if (p.kind === "switch") return [false, true].map((value) => ({ value, caption: value ? "on" : "off" }));
  if (p.kind !== "choice") return [];
  const others = p.options.filter(([v]) => v !== now && v !== "image").slice(0, MOST_OPTIONS - 1);
  const mine = p.options.find(([v]) => v === now);
  return [...(mine ? [mine] : []), ...others].map(([value, caption]) => ({ value, caption: value === now ? `${caption}, now` : caption }));
}

export function Pictures({ parameter }: { parameter: Parameter }) {
  const document = useBench(documentOf);
  const idle = useIdle(parameter.id);
  const now = document?.parameters[parameter.id];
  useEffect(() => () => void engine.dropSheets("word:"), []);
  if (!document || now === undefined) return null;
  if (idle) return <p className="text-muted">{t("In this tool it does not act:")}{" "}{idle}.</p>;
  const shown = variantsOf(parameter, now);
  return shown.length > 0 ? <Row parameter={parameter} document={document} shown={shown} /> : null;
}

function Row({ parameter, document, shown }: { parameter: Parameter; document: ToolDocument; shown: Shown[] }) {
  const { declarations } = useDeclared();
  const { calibration } = useBench((s) => s.hand);
  const sample = document.action === "lay" ? declarations.samples.lay : declarations.samples.move;
  const [widthMm, heightMm] = sample.size_mm;
  const height = Math.round((WIDTH * heightMm) / widthMm);
  const pictures = useAnswer(`word:${parameter.id}:${JSON.stringify([document, shown, calibration])}`, async () => {
    const made: Uint8Array<ArrayBuffer>[] = [];
    for (const [i, { value }] of shown.entries()) {
      const strokes = castOf(sample, calibration, () => withParameter(document, parameter.id, value)) ?? [];
      made.push(await sheetPicture({ place: `word:${parameter.id}:${i}`, ground: document.ground, width: WIDTH, height, pixelMm: widthMm / WIDTH, afarMm: 0, strokes }));
    }
    return made;
  });
  const [first, last] = [pictures?.[0], pictures?.at(-1)];
  const more = parameter.kind === "number" && first && last ? told(seen(first, WIDTH), seen(last, WIDTH)) : "";
  return (
    <>
      <ul aria-label={t("What {{label}} does", { label: parameter.label })} aria-busy={pictures === null} className="m-0 flex list-none flex-wrap gap-1.5 p-0">
        {shown.map(({ caption }, i) => (
          <li key={caption}>
            <Canvas rgba={pictures?.[i] ?? null} width={WIDTH} height={height} label={t("{{name}} with {{label}} {{caption}}", { name: document.name, label: parameter.label, caption })} />
            <span className="num text-muted">{caption}</span>
          </li>
        ))}
      </ul>
      {parameter.kind === "number" && pictures && (
        <p data-testid="more">{more ? t("More of it here: {{more}}.", { more }) : t("Here more of it is hardly seen in this sample.")}</p>
      )}
    </>
  );
}

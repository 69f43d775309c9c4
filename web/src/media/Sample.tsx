/** A tool at work: what it makes of a few strokes on its own ground, drawn by the engine. */

import { sheetPicture } from "../engine/client";
import type { ToolDocument } from "../model/tool";
import { useSize } from "../plot/useSize";
import { useDeclared } from "../session/context";
import { useBench } from "../session/store";
import { useAnswer } from "../session/useEngine";
import { Canvas } from "../ui/Canvas";
import { castOf } from "./cast";

/** A sample is dried where it is after so long: there are many of them, and most of what water does is done by then. */
const LONGEST_S = 15;

/** `id`: of its place, where a newer picture takes this one's; `hash`: of the document. */
export function Sample({ id, document, hash }: { id: string; document: ToolDocument; hash: string }) {
  const { declarations } = useDeclared();
  const { calibration } = useBench((s) => s.hand);
  const { ref, size } = useSize<HTMLSpanElement>();
  const sample = document.action === "lay" ? declarations.samples.lay : declarations.samples.move;
  const [widthMm, heightMm] = sample.size_mm;
  const width = Math.round(size.width);
  const height = Math.round((width * heightMm) / widthMm);
  const rgba = useAnswer(width > 0 ? `sample:${hash}:${width}:${JSON.stringify(calibration)}` : null, () =>
    sheetPicture({
      place: `rack:sample:${id}`,
      longestS: LONGEST_S,
      ground: document.ground,
      width,
      height,
      pixelMm: widthMm / width,
      afarMm: 0,
      strokes: castOf(sample, calibration, () => document) ?? [],
    }),
  );
  return (
    <span ref={ref} className="block w-full" style={{ aspectRatio: `${widthMm} / ${heightMm}` }} aria-busy={rgba === null}>
      {width > 0 && <Canvas rgba={rgba} width={width} height={height} label={`${document.name}: ${sample.note}`} />}
    </span>
  );
}

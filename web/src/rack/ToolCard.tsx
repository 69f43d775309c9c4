/** A tool in the rack: what it makes of a few strokes on its own ground, and what it is for. */

import { useNavigate } from "react-router";
import type { Tool } from "../api/client";
import { useDeclared } from "../session/context";
import { switchTo } from "../session/saving";
import { useBench } from "../session/store";
import { useAnswer } from "../session/useEngine";
import { sheetPicture } from "../engine/client";
import { Canvas } from "../ui/Canvas";
import { useSize } from "../plot/useSize";
import { castOf } from "./cast";

export function ToolCard({ tool }: { tool: Tool }) {
  const go = useNavigate();
  const onBench = useBench((s) => s.tool?.id === tool.id);
  const { name, intent } = tool.kept.document;
  return (
    <li>
      <button
        type="button"
        className={`block w-full overflow-hidden rounded border bg-raised text-left ${onBench ? "border-draft" : "border-line hover:border-muted"}`}
        onClick={() => void switchTo(tool).then(() => go("/"))}
      >
        <Sample tool={tool} />
        <span className="block px-2 pb-1.5 pt-1">
          <span className="flex items-baseline gap-2">
            <span className="truncate font-semibold">{name}</span>
            <span className="num ml-auto shrink-0 text-[12px] text-muted">
              {onBench ? "on the bench" : tool.draft ? `draft of v${tool.kept.number}` : `v${tool.kept.number}`}
            </span>
          </span>
          <span className="block truncate text-[12px] text-muted" title={intent}>
            {intent}
          </span>
        </span>
      </button>
    </li>
  );
}

/** The kept version at work, drawn by the engine. */
function Sample({ tool }: { tool: Tool }) {
  const { declarations } = useDeclared();
  const { ref, size } = useSize<HTMLSpanElement>();
  const document = tool.kept.document;
  const sample = document.action === "lay" ? declarations.samples.lay : declarations.samples.move;
  const [widthMm, heightMm] = sample.size_mm;
  const width = Math.round(size.width);
  const height = Math.round((width * heightMm) / widthMm);
  const rgba = useAnswer(width > 0 ? `sample:${tool.id}:${tool.kept.content_hash}:${width}` : null, () =>
    sheetPicture({
      place: `rack:sample:${tool.id}`,
      ground: document.ground,
      width,
      height,
      pixelMm: widthMm / width,
      afarMm: 0,
      strokes: castOf(sample, () => document) ?? [],
    }),
  );
  return (
    <span ref={ref} className="block w-full" style={{ aspectRatio: `${widthMm} / ${heightMm}` }} aria-busy={rgba === null}>
      {width > 0 && <Canvas rgba={rgba} width={width} height={height} label={`${document.name}: ${sample.note}`} />}
    </span>
  );
}

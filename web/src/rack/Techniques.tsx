/** Techniques on their sheets, each part played by a tool of the painter's choice. */

import { useState } from "react";
import type { Tool } from "../api/client";
import { useDeclared } from "../session/context";
import { documentOf, useBench } from "../session/store";
import { useAnswer } from "../session/useEngine";
import { sheetPicture } from "../engine/client";
import { Canvas } from "../ui/Canvas";
import { keyOf } from "../model/ground";
import type { Technique, ToolDocument } from "../model/tool";
import { useSize } from "../plot/useSize";
import { Choice } from "../ui/controls";
import { castOf } from "../media/cast";
import { t } from "../model/said";

const MEMORY = "saltmarsh.parts";
/** What was chosen, by technique and part: a tool's id. */
type Parts = Record<string, string>;

function remembered(): Parts {
  try {
    return JSON.parse(localStorage.getItem(MEMORY) ?? "{}") as Parts;
  } catch {
    return {};
  }
}

export function Techniques({ tools }: { tools: Tool[] }) {
  const { declarations } = useDeclared();
  const [parts, setParts] = useState(remembered);
  const onBench = useBench((s) => s.tool?.id);
  const draft = useBench(documentOf);
  const kept = tools.find((t) => t.id === onBench)?.kept.document;
  const changed = JSON.stringify(kept) !== JSON.stringify(draft);
  const choose = (part: string, id: string) => {
    const next = { ...parts, [part]: id };
    localStorage.setItem(MEMORY, JSON.stringify(next));
    setParts(next);
  };
  return (
    <ul aria-label={t("Techniques")} className="grid grid-cols-1 gap-2 wide:grid-cols-3">
      {declarations.techniques.map((technique) => {
        const players = new Map(
          technique.roles.map((role) => {
            const chosen = tools.find((t) => t.id === parts[`${technique.id}/${role.id}`]);
            return [role.id, chosen ?? tools.find((t) => t.kept.document.name === role.tool) ?? null];
          }),
        );
        return (
          <li key={technique.id} className={`overflow-hidden rounded border border-line bg-raised ${technique.size_mm[0] > 100 ? "wide:col-span-3" : ""}`}>
            <TechniqueSheet
              technique={technique}
              player={(role) => {
                const tool = players.get(role);
                return (tool && tool.id === onBench ? draft : tool?.kept.document) ?? null;
              }}
            />
            <div className={`px-2 pb-1 pt-1 ${technique.size_mm[0] > 100 ? "flex items-center gap-4" : ""}`}>
              <h2 className="shrink-0 font-semibold">{technique.name}</h2>
              <p className="truncate text-[12px] text-muted" title={technique.note}>
                {technique.note}
              </p>
              <div className="flex shrink-0 flex-wrap gap-x-3">
                {technique.roles.map((role) => {
                  const tool = players.get(role.id);
                  return (
                    <span key={role.id} className="flex min-w-0 items-center gap-1 text-[12px]">
                      <Choice
                        label={`${technique.name}: ${role.what}`}
                        className="!min-h-6 max-w-56 whitespace-nowrap !border-transparent !bg-transparent !px-0"
                        value={tool?.id ?? ""}
                        options={[...(tool ? [] : ([["", `no “${role.tool}”`]] as [string, string][])), ...tools.map((t): [string, string] => [t.id, t.id === onBench && changed ? `${t.name}, draft` : t.name])]}
                        onChange={(id) => choose(`${technique.id}/${role.id}`, id)}
                      />
                      <span className="text-muted">{role.what}</span>
                    </span>
                  );
                })}
              </div>
            </div>
          </li>
        );
      })}
    </ul>
  );
}

function TechniqueSheet({ technique, player }: { technique: Technique; player: (role: string) => ToolDocument | null }) {
  const { ref, size } = useSize<HTMLDivElement>();
  const [widthMm, heightMm] = technique.size_mm;
  const width = Math.round(size.width);
  const height = Math.round((width * heightMm) / widthMm);
  const { calibration } = useBench((s) => s.hand);
  const first = technique.roles[0] ? player(technique.roles[0].id) : null;
  const ground = technique.ground ?? first?.ground ?? null;
  const strokes = castOf(technique, calibration, player);
  const key = strokes && ground && width > 0 ? `technique:${technique.id}:${JSON.stringify([strokes.map((s) => s.tool), calibration, keyOf(ground), width])}` : null;
  const rgba = useAnswer(key, () =>
    sheetPicture({ place: `rack:technique:${technique.id}`, ground: ground!, width, height, pixelMm: widthMm / width, afarMm: 0, strokes: strokes!, bare: true }),
  );
  return (
    <div ref={ref} className="w-full bg-ground" style={{ aspectRatio: `${widthMm} / ${heightMm}` }} aria-busy={key !== null && rgba === null}>
      {width > 0 && <Canvas rgba={rgba} width={width} height={height} label={`${technique.name}: ${technique.note}`} />}
    </div>
  );
}

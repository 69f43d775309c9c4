/** The loupe: what lies under the pointer, laid anew in finer pixels. Until it is, what is there is shown larger. */

import { useEffect, useRef, useState } from "react";
import { engine, stripPart } from "../../engine/client";
import { EngineLost } from "../../engine/crew";
import { refusalOf } from "../../model/refused";
import { useLooking, type Loupe, type Spot } from "../../session/looking";
import { useRun } from "../../session/proofStore";
import { documentOf, useBench } from "../../session/store";
import type { Part } from "../../engine/types";
import { rowToLay } from "./rowToLay";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

const GLASS = { width: 320, height: 200 };
/** From the pointer to the glass, CSS pixels: the hand does not hide it. */
const AWAY = 36;
/** The pointer rests so long before anything is laid, ms; a part that gave way to a newer one is asked for again after so long. */
const SOON_MS = 70;
const AGAIN_MS = 250;
const MOST_TRIES = 40;

/** The part of a sheet under the glass, in its own device pixels; kept on the sheet where that is larger than the glass. */
function partOf(spot: Spot, zoom: Loupe, dpr: number): Part {
  const pixelMm = spot.mmPerPx / dpr / zoom;
  const [width, height] = [GLASS.width * dpr, GLASS.height * dpr];
  const corner = (at: number, size: number, whole: number) => Math.max(0, Math.min(at - (size * pixelMm) / 2, whole - size * pixelMm));
  const whole = { width: spot.canvas.clientWidth * spot.mmPerPx, height: spot.canvas.clientHeight * spot.mmPerPx };
  return { pixelMm, width, height, leftMm: corner(spot.x, width, whole.width), topMm: corner(spot.y, height, whole.height) };
}

async function lay(on: Spot["on"], part: Part): Promise<Uint8Array<ArrayBuffer> | null> {
  if (on !== "row") return stripPart(on.column, on.id, part);
  const row = rowToLay();
  return row && engine.padPart(row.tool, row.hand, row.strokes, row.between, part);
}

export function LoupeGlass() {
  const zoom = useLooking((s) => s.loupe);
  const spot = useLooking((s) => s.spot);
  return zoom && spot ? <Glass zoom={zoom} spot={spot} /> : null;
}

function Glass({ zoom, spot }: { zoom: Loupe; spot: Spot }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [laid, setLaid] = useState("");
  /** Why it is not laid anew, and of what that is told. */
  const [refused, setRefused] = useState({ key: "", why: "" });
  const dpr = window.devicePixelRatio || 1;
  const part = partOf(spot, zoom, dpr);
  const on = spot.on === "row" ? null : spot.on;
  const document = useBench(documentOf);
  const run = useRun(on?.column ?? "draft", on ? null : "row:0");
  const key = JSON.stringify([spot.on, part, run, on ? 0 : document]);

  useEffect(() => {
    const context = canvas.current?.getContext("2d", { alpha: false });
    if (!context) return;
    context.imageSmoothingEnabled = false;
    const shown = dpr / spot.mmPerPx;
    context.fillStyle = "#d2d2d2";
    context.fillRect(0, 0, part.width, part.height);
    context.drawImage(spot.canvas, part.leftMm * shown, part.topMm * shown, part.width * part.pixelMm * shown, part.height * part.pixelMm * shown, 0, 0, part.width, part.height);
    let current = true;
    const ask = async () => {
      for (let tries = 0; current && tries < MOST_TRIES; tries++) {
        await new Promise((go) => setTimeout(go, tries === 0 ? SOON_MS : AGAIN_MS));
        if (!current) return;
        let rgba: Uint8Array<ArrayBuffer> | null = null;
        try {
          rgba = await lay(spot.on, part);
        } catch (error) {
          // What is there stays in sight, larger. A lost worker is replaced.
          if (!(error instanceof EngineLost)) return setRefused({ key, why: refusalOf(error).message });
        }
        if (!current || !rgba) continue;
        // A part may end where the sheet does.
        const height = Math.floor(rgba.length / 4 / part.width);
        if (height > 0 && rgba.length === 4 * part.width * height) context.putImageData(new ImageData(new Uint8ClampedArray(rgba.buffer), part.width, height), 0, 0);
        setLaid(key);
        return;
      }
    };
    void ask();
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for all of it
  }, [key]);

  const above = spot.clientY > GLASS.height + AWAY + 20;
  const left = Math.max(4, Math.min(window.innerWidth - GLASS.width - 8, spot.clientX - GLASS.width / 2));
  return (
    <figure
      className="pointer-events-none fixed z-40 m-0 overflow-hidden rounded border-2 border-ink bg-pane shadow-xl"
      style={{ left, top: above ? spot.clientY - GLASS.height - AWAY : spot.clientY + AWAY, width: GLASS.width + 4 }}
      data-testid="loupe"
      data-laid={laid === key}
    >
      <canvas ref={canvas} width={part.width} height={part.height} className="block" style={{ width: GLASS.width, height: GLASS.height }} role="img" aria-label={t("Enlarged {{zoom}} times", { zoom })} />
      <figcaption className="num flex justify-between px-2 text-[12px] text-muted">
        <span>
          × {zoom}, {fixed(part.width * part.pixelMm, 1)}{" "}{t("mm across")}
        </span>
        <span>{refused.key === key ? refused.why : laid === key ? t("laid at {{v0}} dpi", { v0: Math.round(25.4 / part.pixelMm) }) : t("laying…")}</span>
      </figcaption>
    </figure>
  );
}

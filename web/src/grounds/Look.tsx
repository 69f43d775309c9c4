/** A ground to look at: under raking light, with strokes, or filled from both sides; at the size it will have. */

import { wayOf } from "../api/ways";
import { useState } from "react";
import { useBenchContext, useDeclared } from "../session/context";
import { documentOf, useBench } from "../session/store";
import { useAnswer, useNewest } from "../session/useEngine";
import { engine, grounds, quiet, sheetPicture } from "../engine/client";
import type { GroundFigures } from "../engine/types";
import { keyOf, type Recipe } from "../model/ground";
import { withGround } from "../model/tool";
import { useSize } from "../plot/useSize";
import { Button, Choice, NumberField } from "../ui/controls";
import { Canvas } from "../ui/Canvas";
import { useGrounds } from "./store";
import { flatStick, level, loadAt, strokesOf } from "./passes";
import { fixed } from "../model/number";
import { t } from "../model/said";

type View = "raking" | "strokes" | "both";
type Size = "close" | "print" | "pixels" | "afar";

const VIEWS: [View, string][] = [
  ["raking", "Raking light"],
  ["strokes", "With strokes"],
  ["both", "Peaks, then hollows"],
];
const SIZES: [Size, string][] = [
  ["close", "close up"],
  ["print", "print size"],
  ["pixels", "a pixel to a pixel"],
  ["afar", "from 2 m away"],
];
const INCH_MM = 25.4;
const CLOSE_MM = 0.05;
const AFAR_MM = 2000;
/** Room between the gestures laid under each other, mm. */
const ROW_MM = 15;

interface LookProps {
  recipe: Recipe;
  figures: GroundFigures | null;
}

export function Look({ recipe, figures }: LookProps) {
  const [view, setView] = useState<View>("raking");
  const [size, setSize] = useState<Size>("close");
  const [azimuth, setAzimuth] = useState(225);
  const [elevation, setElevation] = useState(25);
  const [depth, setDepth] = useState(1);
  const [screenPpi, setScreenPpi] = useState(96);
  const [printDpi, setPrintDpi] = useState(300);
  const { ref, size: room } = useSize<HTMLDivElement>();
  const pixelMm = size === "close" ? CLOSE_MM : INCH_MM / (size === "pixels" ? printDpi : screenPpi);
  const shown = { recipe, figures, width: room.width, height: room.height, pixelMm, afarMm: size === "afar" ? AFAR_MM : 0 };
  return (
    <section aria-label={t("The ground")} className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto]">
      <div className="flex flex-wrap items-center gap-1.5 px-3 py-1.5">
        {VIEWS.map(([v, text]) => (
          <Button key={v} aria-pressed={view === v} className="!px-2" onClick={() => {
              setView(v);
              if (v === "strokes" && size === "close") setSize("print");
            }}>
            {text}
          </Button>
        ))}
        <span className="ml-auto text-muted">{t("Shown")}</span>
        <Choice label={t("Shown")} value={size} options={SIZES} onChange={(v) => setSize(v as Size)} />
        {size === "pixels" ? (
          <>
            <NumberField label={t("Print resolution")} value={printDpi} low={20} high={1200} step={1} width="w-14" onCommit={setPrintDpi} />
            <span className="text-muted">{t("px/in in print")}</span>
          </>
        ) : (
          size !== "close" && (
            <>
              <NumberField label={t("Screen")} value={screenPpi} low={40} high={600} step={1} width="w-14" onCommit={setScreenPpi} />
              <span className="text-muted">{t("px/in here")}</span>
            </>
          )
        )}
      </div>
      <div ref={ref} className="relative min-h-0 min-w-0 overflow-hidden bg-[#7c7c7c]">
        {room.width > 8 && room.height > 8 && (
          <>
            {view === "raking" && <Raking {...shown} light={{ azimuth_deg: azimuth, elevation_deg: elevation, depth }} />}
            {view === "strokes" && <Strokes {...shown} />}
            {view === "both" && <Both {...shown} />}
            {view !== "raking" && <Ruler pixelMm={pixelMm} width={room.width} />}
          </>
        )}
      </div>
      <div className="flex min-h-9 min-w-0 flex-wrap items-center gap-2 px-3 py-1 text-muted">
        {view === "raking" ? (
          <>
            <span className="whitespace-nowrap">{t("Light from")}</span>
            <NumberField label={t("Light from")} value={azimuth} low={0} high={359} step={5} width="w-12" onCommit={setAzimuth} />
            <span>{t("°, at")}</span>
            <NumberField label={t("Light height")} value={elevation} low={5} high={85} step={1} width="w-12" onCommit={setElevation} />
            <span className="whitespace-nowrap">{t("°, depth ×")}</span>
            <NumberField label={t("Depth shown")} value={depth} low={0.2} high={10} step={0.1} width="w-12" onCommit={setDepth} />
          </>
        ) : view === "strokes" ? (
          <StrokesNote />
        ) : (
          <BothNote figures={figures} />
        )}
        <Reads figures={figures} />
      </div>
    </section>
  );
}

interface Shown {
  recipe: Recipe;
  figures: GroundFigures | null;
  width: number;
  height: number;
  pixelMm: number;
  afarMm: number;
}

/** While a number is dragged a part of the picture is made: it follows the hand, and the rest comes when that lets go. */
const DRAGGED_PART = 0.5;

function Raking({ recipe, width, height, pixelMm, afarMm, light }: Shown & { light: { azimuth_deg: number; elevation_deg: number; depth: number } }) {
  const dragged = useGrounds((s) => s.dragged !== null);
  const [w, h] = dragged ? [Math.round(width * DRAGGED_PART), Math.round(height * DRAGGED_PART)] : [width, height];
  const { answer, due } = useNewest(JSON.stringify([keyOf(recipe), w, h, pixelMm, afarMm, light]), async () => {
    await quiet();
    const rgba = await grounds.rakingLight({ ground: recipe, width: w, height: h, pixelMm, light, afarMm });
    return { rgba, width: w, height: h, pixelMm };
  });
  if (!answer) return <Making what="the ground" />;
  // Scale and picture are of one answer.
  const [mmWide, mmHigh] = [answer.width * answer.pixelMm, answer.height * answer.pixelMm];
  return (
    <>
      <Canvas rgba={answer.rgba} width={answer.width} height={answer.height} label={t("The ground under light from {{azimuth_deg}}°, {{v1}} by {{v2}} mm", { azimuth_deg: light.azimuth_deg, v1: fixed(mmWide), v2: fixed(mmHigh) })} />
      <Ruler pixelMm={answer.pixelMm} width={width} />
      {due && <Making what={dragged ? "" : "the ground"} />}
    </>
  );
}

/** Says that what is shown is not true any more, or not there yet. */
function Making({ what }: { what: string }) {
  if (!what) return null;
  return (
    <span role="status" className="absolute right-2 bottom-2 rounded bg-white/90 px-2 py-0.5 text-black">
      {t("making")}{" "}{what}…
    </span>
  );
}

function Strokes({ recipe, width, height, pixelMm, afarMm }: Shown) {
  const { gestures } = useBenchContext();
  const document = useBench(documentOf);
  const hand = useBench((s) => s.hand);
  const rows = gestures.slice(0, Math.max(1, Math.floor((height * pixelMm) / ROW_MM)));
  const key = document && `strokes:${JSON.stringify([keyOf(recipe), document, hand, rows.map((g) => g.content_hash), width, height, pixelMm, afarMm])}`;
  const rgba = useAnswer(key, () =>
    Promise.all(rows.map(wayOf)).then((ways) => sheetPicture({
      place: "strokes",
      ground: recipe,
      width,
      height,
      pixelMm,
      afarMm,
      // Each gesture with the pen that recorded it, as on the proof sheet.
      strokes: rows.map((g, i) => ({ tool: withGround(document!, recipe), hand: { ...hand, profile: g.stylus ?? hand.profile }, way: { inkml: ways[i] ?? "" }, shiftMm: [0, i * ROW_MM] as [number, number] })),
    })),
  );
  return <Canvas rgba={rgba} width={width} height={height} label={t("{{v0}} on this ground", { v0: document?.name ?? "A tool" })} />;
}

function StrokesNote() {
  const name = useBench((s) => documentOf(s)?.name ?? "");
  return <span className="truncate">{name}{t(", with the gestures of the proof sheet")}</span>;
}

/** Two thirds of the picture each, overlapping in the middle: what the first pass leaves bare the second fills. */
function Both({ recipe, figures, width, height, pixelMm, afarMm }: Shown) {
  const { declarations } = useDeclared();
  const stick = flatStick(declarations, recipe, "charcoal", false, 0.5);
  const planes = useAnswer(`planes:${keyOf(recipe)}`, async () => {
    const swapped = { ...stick, parameters: { ...stick.parameters, "ground.swap": true } };
    return [await grounds.ground(stick), await grounds.ground(swapped)] as const;
  });
  const level0 = middle(figures);
  const key = planes && figures && `both:${JSON.stringify([keyOf(recipe), width, height, pixelMm, afarMm, level0])}`;
  const rgba = useAnswer(key, async () => {
    const [w, h] = [width * pixelMm, height * pixelMm];
    const lines = async (from: number, to: number) => Promise.all(level(from * w, to * w, h).map((s) => engine.inkmlOf(s)));
    const [peaks, hollows] = [await lines(0.03, 0.67), await lines(0.33, 0.97)];
    const first = flatStick(declarations, recipe, "charcoal", false, loadAt(planes![0].plane, level0));
    const second = flatStick(declarations, recipe, "sanguine", true, loadAt(planes![1].plane, -level0));
    return sheetPicture({ place: "both", ground: recipe, width, height, pixelMm, afarMm, strokes: [...strokesOf(first, peaks), ...strokesOf(second, hollows)] });
  });
  return <Canvas rgba={rgba} width={width} height={height} label={t("Peaks filled with charcoal from the left, hollows with sanguine from the right")} />;
}

/** The height that half of the surface lies over. */
const middle = (figures: GroundFigures | null) => figures?.material_ratio.find((p) => p[0] >= 0.5)?.[1] ?? 0;

function BothNote({ figures }: { figures: GroundFigures | null }) {
  return <span className="truncate">{t("Charcoal on the peaks down to")}{" "}{fixed(middle(figures), 1)}{" "}{t("µm; then swapped, sanguine in the hollows up to it")}</span>;
}

/** What of the tooth is seen from 2 m. */
function Reads({ figures }: { figures: GroundFigures | null }) {
  if (!figures) return null;
  const lengths = figures.correlation_mm.filter((v) => v !== null);
  const finest = figures.finest_period_mm;
  // A wave's correlation falls to 0.2 after 0.218 of its length.
  const tooth = Math.min(...lengths) / 0.218;
  const reads = tooth >= finest;
  const scale = finest / tooth;
  return (
    <span className="ml-auto shrink-0 text-right text-[12px] leading-tight" data-testid="reads" title={t("Two minutes of arc: the shortest period a normal eye sees from 2 m")}>
      {t("From 2 m nothing shorter than")}{" "}{fixed(finest, 1)}{" "}{t("mm reads;")}
      <br />
      {Number.isFinite(tooth) ? (reads ? t("this tooth, about {{v0}} mm, does", { v0: fixed(tooth, 1) }) : t("this tooth, about {{v0}} mm, would at ×{{v1}}", { v0: fixed(tooth, 1), v1: fixed(scale, 1) })) : t("this tooth is longer than the sample")}
    </span>
  );
}

function Ruler({ pixelMm, width }: { pixelMm: number; width: number }) {
  const mm = [1, 2, 5, 10, 20, 50].find((v) => v / pixelMm > width / 10) ?? 100;
  return (
    <span className="num absolute bottom-2 left-2 flex items-center gap-1 bg-white/85 px-1 text-black" aria-hidden>
      <span className="block h-1.5 border-x border-b border-black" style={{ width: mm / pixelMm }} />
      {mm}{" "}{t("mm")}
    </span>
  );
}

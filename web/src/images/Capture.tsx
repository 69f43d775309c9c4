/** A piece of the free row, framed with the pointer or typed, as an image: what took the light becomes white. */

import { useEffect, useRef, useState } from "react";
import { engine } from "../engine/client";
import { Button, NumberField } from "../ui/controls";
import { t } from "../model/said";

interface Sheet {
  width: number;
  height: number;
}
type Frame = [left: number, top: number, right: number, bottom: number];

export function Capture({ onCapture }: { onCapture: (png: Blob) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [sheet, setSheet] = useState<Sheet | null>(null);
  const [frame, setFrame] = useState<Frame | null>(null);
  const [told, setTold] = useState("");
  const from = useRef<[number, number] | null>(null);
  useEffect(() => {
    void engine.padPicture().then((picture) => {
      const context = canvas.current?.getContext("2d");
      if (!picture || !context) return setTold("The free row is not laid yet: draw on it first.");
      const { width, height, rgba } = picture;
      context.canvas.width = width;
      context.canvas.height = height;
      context.putImageData(new ImageData(new Uint8ClampedArray(rgba.buffer), width, height), 0, 0);
      setSheet({ width, height });
      setFrame([Math.round(width * 0.1), Math.round(height * 0.15), Math.round(width * 0.3), Math.round(height * 0.85)]);
    });
  }, []);
  const at = (e: React.PointerEvent): [number, number] => {
    const box = canvas.current?.getBoundingClientRect();
    if (!box || !sheet) return [0, 0];
    const share = (v: number, size: number) => Math.min(size, Math.max(0, Math.round(v * size)));
    return [share((e.clientX - box.left) / box.width, sheet.width), share((e.clientY - box.top) / box.height, sheet.height)];
  };
  const drag = (e: React.PointerEvent) => {
    if (!from.current || e.buttons === 0) return;
    const [x, y] = at(e);
    const [x0, y0] = from.current;
    setFrame([Math.min(x, x0), Math.min(y, y0), Math.max(x, x0), Math.max(y, y0)]);
  };
  const take = async () => {
    if (!frame) return;
    try {
      onCapture(new Blob([await engine.padCapture(frame)], { type: "image/png" }));
    } catch {
      setTold("Frame at least a pixel of the sheet.");
    }
  };
  const sides: [string, 0 | 1 | 2 | 3, number][] = [["Left", 0, sheet?.width ?? 0], ["Top", 1, sheet?.height ?? 0], ["Right", 2, sheet?.width ?? 0], ["Bottom", 3, sheet?.height ?? 0]];
  const share = (v: number, size: number) => `${(100 * v) / Math.max(1, size)}%`;
  return (
    <section aria-label={t("Capture")} className="border-b border-hair pb-2">
      {told && <p role="alert">{told}</p>}
      <div
        className="relative cursor-crosshair touch-none"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          from.current = at(e);
        }}
        onPointerMove={drag}
        onPointerUp={() => (from.current = null)}
      >
        <canvas ref={canvas} role="img" aria-label={t("The free row")} className="block max-h-60 w-full object-fill" />
        {frame && sheet && (
          <span
            className="pointer-events-none absolute border-2 border-draft"
            style={{ left: share(frame[0], sheet.width), top: share(frame[1], sheet.height), width: share(frame[2] - frame[0], sheet.width), height: share(frame[3] - frame[1], sheet.height) }}
          />
        )}
      </div>
      {frame && (
        <div className="flex items-center gap-1.5 pt-1">
          {sides.map(([label, i, most]) => (
            <span key={label} className="flex items-center text-muted">
              {label}
              <NumberField label={t("{{label}} of the frame", { label })} value={frame[i]} low={0} high={most} step={1} width="w-12" onCommit={(v) => setFrame(frame.map((f, k) => (k === i ? v : f)) as Frame)} />
            </span>
          ))}
          <span className="text-muted">{t("px")}</span>
          <Button primary className="ml-auto" onClick={() => void take()}>
            {t("Take this piece")}
          </Button>
        </div>
      )}
    </section>
  );
}

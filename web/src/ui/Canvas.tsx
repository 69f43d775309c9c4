/** RGBA on a canvas, one pixel to a CSS pixel. */

import { useEffect, useRef } from "react";

export function Canvas({ rgba, width, height, label }: { rgba: Uint8Array<ArrayBuffer> | null; width: number; height: number; label: string }) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = ref.current?.getContext("2d");
    if (!context || !rgba || rgba.length !== width * height * 4) return;
    context.canvas.width = width;
    context.canvas.height = height;
    context.putImageData(new ImageData(new Uint8ClampedArray(rgba.buffer), width, height), 0, 0);
  }, [rgba, width, height]);
  return <canvas ref={ref} role="img" aria-label={label} className="block" style={{ width, height }} />;
}

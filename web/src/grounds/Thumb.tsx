/** A small raking-light picture of a ground. */

import { useAnswer } from "../session/useEngine";
import { grounds, quiet } from "../engine/client";
import { keyOf, type Recipe } from "../model/ground";
import { Canvas } from "../ui/Canvas";

const WIDTH = 76;
const HEIGHT = 44;
/** Wide enough to tell a weave from a felt. */
const PIXEL_MM = 0.11;
const LIGHT = { azimuth_deg: 225, elevation_deg: 25, depth: 1 };

export function Thumb({ recipe }: { recipe: Recipe }) {
  const rgba = useAnswer(`ground-thumb:${keyOf(recipe)}`, () =>
    quiet().then(() => grounds.rakingLight({ ground: recipe, width: WIDTH, height: HEIGHT, pixelMm: PIXEL_MM, light: LIGHT, afarMm: 0 })),
  );
  return (
    <span aria-hidden className="block shrink-0 bg-[#7c7c7c]" style={{ width: WIDTH, height: HEIGHT }}>
      <Canvas rgba={rgba} width={WIDTH} height={HEIGHT} label="" />
    </span>
  );
}

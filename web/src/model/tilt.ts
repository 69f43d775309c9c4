/** A pen's lean: as two tilts, or as how far it leans and where to. */

const DEGREE = Math.PI / 180;
/** A pen that lies down has no tilts. */
const LOWEST = 89;

const below = (degrees: number) => Math.min(LOWEST, Math.max(-LOWEST, degrees));

/** Tilts in degrees of a pen that leans `tilt` from upright towards `lean` (W3C Pointer Events 3, upright excepted). */
export function tilts(tilt: number, lean: number): [number, number] {
  if (tilt <= 0) return [0, 0];
  const t = Math.tan(below(tilt) * DEGREE);
  return [Math.atan(Math.cos(lean * DEGREE) * t) / DEGREE, Math.atan(Math.sin(lean * DEGREE) * t) / DEGREE];
}

/** Tilt from upright and lean, degrees, of a pair of tilts. */
export function leaning(tiltX: number, tiltY: number): { tilt: number; lean: number } {
  const x = Math.tan(below(tiltX) * DEGREE);
  const y = Math.tan(below(tiltY) * DEGREE);
  return { tilt: Math.atan(Math.hypot(x, y)) / DEGREE, lean: (Math.atan2(y, x) / DEGREE + 360) % 360 };
}

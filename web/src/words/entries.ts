/** Every word of the program: what it is, its unit, and what more of it does. Those that are declared come from the declarations. */

import type { Declarations, MediumDeclared } from "../model/tool";
import { STATIONS } from "../model/tool";
import type { WordId } from "../session/words";

export interface Entry {
  id: WordId;
  name: string;
  what: string;
  /** How it is counted, spelt out. */
  unit?: string;
  more?: string;
  kind: string;
}

/** Units as they are written, and spelt out. */
const UNITS: Record<string, string> = {
  gf: "gf, gram-force: the weight of a gram; a light touch is 20, leaning on the pen 300",
  "gf/mm²": "gf/mm², gram-force on a square millimetre",
  mm: "mm, millimetres",
  "µm": "µm, thousandths of a millimetre",
  nm: "nm, millionths of a millimetre",
  "°": "°, degrees",
  "mm/s": "mm/s, millimetres a second",
  s: "s, seconds",
  min: "min, minutes",
  ml: "ml, millilitres",
  "%": "%, of a hundred",
  "×": "×, times what it would be",
  Hz: "Hz, times a second",
  GPa: "GPa, thousands of newtons on a square millimetre",
};
const spelt = (unit: string): { unit?: string } => (unit ? { unit: UNITS[unit] ?? unit } : {});

const word = (id: string, name: string, what: string, rest: Pick<Entry, "unit" | "more"> = {}): Entry => ({ id: `word:${id}`, name, what, kind: "Words", ...rest });

/** Words of the trade and of the program. */
const WORDS: Entry[] = [
  word("gf", "gf (gram-force)", "How hard something presses, as the weight of so many grams. Pens report a share of what they can feel; a stylus's own numbers turn it into gram-force.", { unit: UNITS["gf"] ?? "", more: "A wider, darker or deeper mark, where the tool's responses or its stick let force do that." }),
  word("gesture", "Gesture", "What a hand did with a pen, kept as a signal: places, force, tilt, barrel and time. Every change runs the same gestures again, so two tools are compared by one hand."),
  word("stroke", "Stroke and dab", "A stroke is what a tool makes of a gesture. A dab is one placement of its tip along it; a brush's dabs lie so close that they are one sweep."),
  word("draft", "Draft and kept", "The draft is the tool as it is being changed; it is saved by itself. Kept versions are those you kept: they never change, and each can be taken back."),
  word("proof-sheet", "Proof sheet", "The gestures on which a tool is judged, a row each, with the kept version beside the draft. Which gestures, and in which order, is chosen at Gestures."),
  word("free-row", "Free row", "A row to draw on with the draft. What you drew is run again with every change, as the gestures are."),
  word("trace", "Trace", "Every factor along one stroke, over its length: from the force of the hand to what was left on the sheet."),
  word("response", "Response and curve", "What makes a signal of the hand drive a quality of the tool, through a curve: pressure to width, speed to flow. Several may drive one quality."),
  word("quality", "Quality", "A thing of the tool that the hand may drive: width, flow, angle, load."),
  word("strays", "Strays", "Chance on a quality: it lies so much below or above its value, anew at every dab or once a stroke. The same seed gives the same stroke again.", { unit: "± % of the value, or ± °", more: "A rougher, less even stroke." }),
  word("calibration", "Calibration", "A curve in front of every tool, for your hand and your pen: which force is nothing, and which is all."),
  word("share-covered", "Share covered", "How much of the ground under the tip carries material after the dab passed.", { unit: UNITS["%"] ?? "", more: "A closed, solid mark; less leaves the ground's hollows bare." }),
  word("tooth", "Ground and tooth", "The ground is paper, canvas or board as a height map; its tooth is how rough it is. Dry sticks catch its peaks, paste bridges its hollows.", { more: "A more broken mark, and powder that holds better." }),
  word("sa", "Sa", "Mean distance of the surface from its mean level (ISO 25178).", { unit: UNITS["µm"] ?? "", more: "A rougher ground." }),
  word("sq", "Sq", "Root mean square of the heights (ISO 25178): as Sa, but high and low places count for more.", { unit: UNITS["µm"] ?? "" }),
  word("sz", "Sz", "From the lowest to the highest place that was measured (ISO 25178).", { unit: UNITS["µm"] ?? "" }),
  word("sp", "Sp and Sv", "The highest peak over the mean level, and the deepest pit under it (ISO 25178).", { unit: UNITS["µm"] ?? "" }),
  word("ssk", "Ssk", "Skewness (ISO 25178): under nought the surface is a plain with pits, over nought a plain with peaks."),
  word("sku", "Sku", "Kurtosis (ISO 25178): 3 for heights like noise; more where few peaks or pits stand out."),
  word("sdr", "Sdr", "How much larger the surface is than the flat under it (ISO 25178).", { unit: UNITS["%"] ?? "" }),
  word("sal", "Sal", "How far one must go until heights no longer follow each other (ISO 25178): about the size of the tooth.", { unit: UNITS["mm"] ?? "", more: "A larger tooth." }),
  word("loupe", "Loupe", "What lies under the pointer, laid anew in finer pixels: not enlarged, but run again."),
  word("true-size", "True size", "A millimetre of paper is a millimetre of the screen, once the screen was measured with a card."),
  word("stand-in", "Stand-ins", "What stands in for what a mouse, finger or plain pen does not report: force, tilt, lean, barrel."),
  word("seed", "Seed", "Where chance begins. The same seed gives the same stroke; another seed, another."),
];

/** What each station of the chain decides. */
const OF_STATIONS: Record<string, string> = {
  hand: "The pen in the hand: what it reports, after calibration. The first link of the chain, the same for every tool.",
  touch: "What the hand's signals do to the tool: responses, their curves, and how the stroke builds.",
  tip: "The shape that meets the sheet: its size, outline, hairs or image, and how its dabs follow each other.",
  load: "What the tip carries: the stick's stuff or the paint, how much, and how it runs out.",
  mix: "What passes between tip and sheet: paint given, taken up, carried and dragged.",
  ground: "What is drawn on, and how the tool feels it.",
  relief: "How high the material lies, and how that is seen under light.",
};

/** Entries of the tool's medium, of signals, grounds and stations, and the words. */
export function entriesOf(declarations: Declarations, medium: MediumDeclared): Entry[] {
  const stations = STATIONS.map((s): Entry => ({ id: `station:${s.id}`, name: s.label, what: OF_STATIONS[s.id] ?? "", kind: "Stations" }));
  const parameters = medium.parameters.map((p): Entry => ({ id: `parameter:${p.id}`, name: p.label, what: p.help, kind: STATIONS.find((s) => s.id === p.station)?.label ?? "", ...(p.kind === "number" ? spelt(p.unit) : {}) }));
  const signals = declarations.signals.map((s): Entry => ({ id: `signal:${s.signal}`, name: s.label, what: s.help, kind: "Signals", ...spelt(s.unit) }));
  const grounds = declarations.ground_numbers.map((n): Entry => ({ id: `ground:${n.id}`, name: n.label, what: n.help, kind: "Grounds", ...spelt(n.unit) }));
  const over: Entry = { id: "ground:hides", name: "Hides", what: "How far a ground that lies over another levels the tooth under it.", kind: "Grounds", more: "Less of what is under it is felt." };
  return [...WORDS, ...stations, ...parameters, ...signals, ...grounds, over];
}

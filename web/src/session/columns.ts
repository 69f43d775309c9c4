/**
 * Runs a column of the proof sheet whenever its tool, or where it is shown, changes. Told by the store itself: the workers
 * are at the strokes while the page still draws the controls.
 */

import type { Gesture } from "../api/client";
import { crowded, lookProof, onReplaced, readGestures, runProof } from "../engine/client";
import { EngineLost } from "../engine/crew";
import type { Before, Column, ProofJob } from "../engine/types";
import type { Hand } from "../model/hand";
import type { View } from "../generated/core";
import type { ToolDocument } from "../model/tool";
import { useLooking } from "./looking";
import { useClock } from "./clock";
import { useRoom } from "./room";
import { begun, show, whole } from "./proofStore";
import { STRIP_MM } from "./sheetSize";
import { underOf } from "./choices";
import { besideOf, documentOf, useBench } from "./store";
import { say } from "./notices";
import { Refused, refusalOf } from "../model/refused";

/** Where the strips are shown. */
export interface Place {
  gestures: Gesture[];
  /** Size of a strip, CSS pixels. */
  strip: { width: number; height: number };
  /** Device pixels of one CSS pixel. */
  scale: number;
}

/** What a column shows. */
interface Ask {
  document: ToolDocument;
  hand: Hand;
  fineness: number;
  under: string | Before | null;
  view: View;
}

/** What a column was asked for last; `with`: the column whose strips it shows, since they are the same. */
interface Asked extends Ask {
  with: Column | null;
}

/** Where the server was away, it is asked again after so long. */
const RETRY_MS = 2500;

let place: Place | null = null;
let asked: Partial<Record<Column, Asked>> = {};

/** Tells where the strips are shown from now on; null: nowhere. */
export function showIn(next: Place | null) {
  place = next;
  forget();
  runChanged();
}

/** All is to be laid anew. */
function forget() {
  asked = {};
}

/** Watches the tool, and lays anew what a lost worker had laid; call once. */
export function watchColumns() {
  const stops = [
    useBench.subscribe(runChanged),
    useLooking.subscribe(runChanged),
    useRoom.subscribe(() => {
      forget();
      runChanged();
    }),
    useClock.subscribe(({ seenS }, before) => {
      if (seenS === before.seenS) return;
      forget();
      runChanged();
    }),
    onReplaced(() => {
      forget();
      runChanged();
    }),
  ];
  return () => stops.forEach((stop) => stop());
}

function runChanged() {
  const state = useBench.getState();
  const wanted = [
    // While a control is dragged strokes are laid at half the resolution: they have the same tone, and follow the hand.
    wantedOf("draft", documentOf(state), state.dragged ? 0.5 : 1),
    wantedOf("kept", besideOf(state), 1),
    wantedOf("third", useLooking.getState().third?.document ?? null, 1),
  ].filter((w) => w !== null);
  const toLay = wanted.filter((w) => w.toLay).map((w) => w.column);
  const [draft, kept] = [wanted.find((w) => w.column === "draft"), wanted.find((w) => w.column === "kept")];
  // Strips of the kept column served the draft as long as there was no change: they are to show something else now.
  if (draft && asked.draft?.with === "kept" && toLay.includes("kept") && !toLay.includes("draft")) toLay.push("draft");
  const together = draft && kept && toLay.includes("draft") && toLay.includes("kept") && alike(draft.ask, kept.ask);
  for (const { column, ask } of wanted) {
    const before = asked[column];
    const laid = toLay.includes(column);
    asked[column] = { ...ask, with: !laid ? (before?.with ?? null) : together && column === "draft" ? "kept" : null };
    if (!laid && before?.view !== ask.view) look(column, ask.view);
  }
  for (const { column, ask } of wanted) {
    if (!toLay.includes(column) || (together && column === "draft")) continue;
    run(column, ask, together && column === "kept" ? "draft" : null);
  }
}

/** The same strokes, on the same. */
const alike = (a: Ask, b: Ask) => a.fineness === b.fineness && a.hand === b.hand && JSON.stringify([a.document, a.under]) === JSON.stringify([b.document, b.under]);

/** What a column is asked for now; and whether strokes are to be laid for it. */
function wantedOf(column: Column, document: ToolDocument | null, fineness: number): { column: Column; ask: Ask; toLay: boolean } | null {
  if (!place || !document) return null;
  const state = useBench.getState();
  const { view, hand } = state;
  if (!view) return null;
  const under = underOf(state, document);
  const before = asked[column];
  const same = before?.hand === hand && before.fineness === fineness && before.under === under;
  const sameTool = before?.document === document || (same && JSON.stringify(before.document) === JSON.stringify(document));
  return { column, ask: { document, hand, fineness, under, view }, toLay: !same || !sameTool };
}

/** Lays a column; `also`: another that shows the same. */
function run(column: Column, { document, hand, fineness, under, view }: Ask, also: Column | null) {
  if (!place) return;
  lay(column, document, hand, place, fineness, { under, view }, also).catch((error: unknown) => {
    // It is laid anew.
    if (error instanceof EngineLost) return;
    if (error instanceof Refused && error.away) {
      // The gestures' ways could not be had.
      setTimeout(() => {
        asked = { ...asked, [column]: undefined, ...(also && { [also]: undefined }) };
        runChanged();
      }, RETRY_MS);
    }
    const { field, message } = refusalOf(error);
    say(field ? `${field}: ${message}` : message);
  });
}

/** How columns are being looked at, and what is asked for meanwhile: the newest alone. */
const looking = new Map<Column, View | null>();

/** Shows what is laid as it is looked at from now on. */
function look(column: Column, view: View) {
  if (looking.has(column)) {
    looking.set(column, view);
    return;
  }
  looking.set(column, null);
  lookProof(column, view, (s) => show(s, true))
    .catch((error: unknown) => say(refusalOf(error).message))
    .finally(() => {
      const next = looking.get(column);
      looking.delete(column);
      if (next) look(column, next);
    });
}

/** How often each column was asked to be laid. */
const runs: Partial<Record<Column, number>> = {};

/** Grounds on which a whole column was laid: their paper is there. */
const ready = new Set<string>();

/** Lays a column at a share of the screen's resolution; the selected gesture goes first. `also`: another column that shows the same. */
export async function lay(column: Column, tool: ToolDocument, hand: Hand, { gestures, strip, scale }: Place, fineness: number, { under, view }: { under: string | Before | null; view: View }, also: Column | null = null) {
  const started = performance.now();
  const width = Math.round(strip.width * scale * fineness);
  const selected = useBench.getState().gesture;
  const rows = gestures.map((g, row) => ({ id: g.id, originY: row * STRIP_MM.height, recorder: g.stylus }));
  rows.sort((a, b) => Number(b.id === selected) - Number(a.id === selected));
  const job: ProofJob = {
    column,
    also,
    tool,
    hand,
    width,
    height: Math.round(strip.height * scale * fineness),
    pixelMm: STRIP_MM.width / width,
    rows,
    under,
    seenS: useClock.getState().seenS,
    view,
    // A hand is at a control: it is followed before the strokes are.
    half: fineness < 1 && crowded,
  };
  runs[column] = (runs[column] ?? 0) + 1;
  if (also) runs[also] = (runs[also] ?? 0) + 1;
  const runOfAlso = also && runs[also];
  // The other may be asked for something else meanwhile.
  const shown = () => (also && runs[also] === runOfAlso ? [column, also] : [column]);
  shown().forEach((each) => begun(each, ready.has(JSON.stringify(tool.ground)) ? 0 : rows.length));
  readGestures(gestures);
  // Where a newer run took its place, that one says when it is done.
  if (await runProof(job, (s) => shown().forEach((each) => show({ ...s, column: each }, s.id === selected)))) {
    ready.add(JSON.stringify(tool.ground));
    shown().forEach((each) => whole(each, performance.now() - started));
  }
}

/**
 * Runs a column of the proof sheet whenever its tool, or where it is shown, changes. Told by the store itself: the workers
 * are at the strokes while the page still draws the controls.
 */

import type { Gesture } from "../api/client";
import { lookProof, onReplaced, readGestures, runProof } from "../engine/client";
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

/** What a column was last run for. */
interface Asked {
  document: ToolDocument;
  hand: Hand;
  fineness: number;
  under: string | Before | null;
  view: View;
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
  // While a control is dragged strokes are laid at half the resolution: they have the same tone, and follow the hand.
  run("draft", documentOf(state), state.hand, state.dragged ? 0.5 : 1);
  run("kept", besideOf(state), state.hand, 1);
  run("third", useLooking.getState().third?.document ?? null, state.hand, 1);
}

function run(column: Column, document: ToolDocument | null, hand: Hand, fineness: number) {
  if (!place || !document) return;
  const before = asked[column];
  const state = useBench.getState();
  const under = underOf(state, document);
  const view = state.view;
  if (!view) return;
  const same = before?.hand === hand && before.fineness === fineness && before.under === under;
  if (same && before.document === document && before.view === view) return;
  asked[column] = { document, hand, fineness, under, view };
  if (same && (before.document === document || JSON.stringify(before.document) === JSON.stringify(document))) {
    if (before.view !== view) look(column, view);
    return;
  }
  lay(column, document, hand, place, fineness, { under, view }).catch((error: unknown) => {
    // It is laid anew.
    if (error instanceof EngineLost) return;
    if (error instanceof Refused && error.away) {
      // The gestures' ways could not be had.
      setTimeout(() => {
        asked = { ...asked, [column]: undefined };
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

/** Grounds on which a whole column was laid: their paper is there. */
const ready = new Set<string>();

/** Lays a column at a share of the screen's resolution; the selected gesture goes first. */
export async function lay(column: Column, tool: ToolDocument, hand: Hand, { gestures, strip, scale }: Place, fineness: number, { under, view }: { under: string | Before | null; view: View }) {
  const started = performance.now();
  const width = Math.round(strip.width * scale * fineness);
  const selected = useBench.getState().gesture;
  const rows = gestures.map((g, row) => ({ id: g.id, originY: row * STRIP_MM.height, recorder: g.stylus }));
  rows.sort((a, b) => Number(b.id === selected) - Number(a.id === selected));
  const job: ProofJob = {
    column,
    tool,
    hand,
    width,
    height: Math.round(strip.height * scale * fineness),
    pixelMm: STRIP_MM.width / width,
    rows,
    under,
    seenS: useClock.getState().seenS,
    view,
  };
  begun(column, ready.has(JSON.stringify(tool.ground)) ? 0 : rows.length);
  readGestures(gestures);
  // Where a newer run took its place, that one says when it is done.
  if (await runProof(job, (s) => show(s, s.id === selected))) {
    ready.add(JSON.stringify(tool.ground));
    whole(column, performance.now() - started);
  }
}

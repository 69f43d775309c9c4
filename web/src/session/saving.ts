/**
 * Keeps the draft safe: every step goes to this browser's storage at once and to the server soon after. Requests go one
 * after another. When server or database are away the work stays here and is sent when they are back.
 */

import { createTool, dropDraft, keepTool, saveDraft, showTool, type Tool } from "../api/client";
import type { ToolDocument } from "../model/tool";
import { commit, open, useBench, type PadStroke, type Snapshot } from "./store";
import { say, tellDone } from "./notices";
import { notSaved, savingLoop } from "./savingLoop";
import { keepSteps, stepsTo, strokesOf, workOf } from "./steps";
import { Refused } from "../model/refused";
import { t } from "../model/said";

/** What must outlive a crash: kept at once. The strokes and the steps are kept beside it (`steps.ts`). */
interface Journal {
  document: ToolDocument;
  /** Written here by older programs. */
  pad?: (PadStroke | number[])[];
  between?: Snapshot["between"];
  cleaned?: number[];
  seen: number;
  basedOn: number;
  /** Not on the server yet. */
  unsaved: boolean;
}

const name = (id: string) => `saltmarsh.work.${id}`;
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
const set = useBench.setState;
const get = useBench.getState;

function readJournal(id: string): Journal | null {
  const text = localStorage.getItem(name(id));
  if (!text) return null;
  try {
    return JSON.parse(text) as Journal;
  } catch {
    return null;
  }
}

function writeJournal(unsaved: boolean) {
  const { tool, now, seen } = get();
  if (!tool || !now) return;
  const journal: Journal = { document: now.document, seen, basedOn: tool.kept.number, unsaved };
  try {
    localStorage.setItem(name(tool.id), JSON.stringify(journal));
  } catch {
    say("This browser's storage is full: what is not on the server yet is not kept over a reload.");
  }
}

/**
 * Opens a tool with the newest of what the server and this browser hold. `remembered`: the server is away, and what it told last
 * may be older than what was saved since.
 */
export async function openTool(tool: Tool, remembered = false) {
  // What was done here an instant ago is a step of this work, or of the one that is left.
  if (get().tool) await keepSteps();
  const work = await workOf(tool.id);
  const journal = readJournal(tool.id);
  const told = tool.draft?.version ?? 0;
  const newer = remembered && journal?.basedOn === tool.kept.number && journal.seen > told;
  const seen = newer ? journal.seen : told;
  const row = { pad: strokesOf(work?.now.pad ?? journal?.pad ?? []), between: work?.now.between ?? journal?.between ?? journal?.cleaned?.map((at) => ({ at, what: "clean" as const })) ?? [] };
  const theirs: Snapshot = { document: newer ? journal.document : (tool.draft?.document ?? tool.kept.document), ...row };
  const mine: Snapshot | null = journal?.unsaved && !same(journal.document, theirs.document) ? { document: journal.document, ...row } : null;
  const snapshot = mine ?? theirs;
  localStorage.setItem("saltmarsh.tool", tool.id);
  open(tool, seen, snapshot, stepsTo(snapshot.document, work));
  onServer = mine ? null : snapshot.document;
  if (!mine) {
    set({ saving: { state: "saved", at: Date.now() } });
  } else if (journal?.seen === seen && journal.basedOn === tool.kept.number) {
    set({ saving: { state: "saving" } });
    loop.atOnce();
  } else {
    set({ saving: { state: "conflict", message: "This tool was changed elsewhere while changes here were not saved." } });
  }
}

let opening = false;

/** Opens the first tool of a visit, once however often it is asked for: opened again while it is tuned, it would lose steps. */
export async function openFirst(tool: Tool, remembered: boolean) {
  if (opening || get().tool) return;
  opening = true;
  await openTool(tool, remembered).finally(() => (opening = false));
}

const loop = savingLoop(save);
const { inTurn } = loop;

async function save() {
  const { tool, now, seen, saving } = get();
  if (!tool || !now || saving.state === "conflict") return;
  const document = now.document;
  const plain = same(document, tool.kept.document);
  if (plain && seen === 0) {
    settled(document);
    return;
  }
  set({ saving: { state: "saving" } });
  try {
    let version = 0;
    if (plain) await dropDraft(tool.id, seen);
    else version = (await saveDraft(tool.id, seen, tool.kept.number, document)).version;
    if (get().tool?.id !== tool.id) return;
    set({ seen: version });
    settled(document);
  } catch (error) {
    if (get().tool?.id === tool.id) failed(error);
  }
}

/** What of this window's the server has, or gave it. */
let onServer: ToolDocument | null = null;

function settled(document: ToolDocument) {
  onServer = document;
  const current = get().now?.document === document;
  writeJournal(!current);
  if (current) set({ saving: { state: "saved", at: Date.now() } });
  else loop.soon();
}

function failed(error: unknown) {
  const saving = notSaved(error, "This tool", "Your work is kept in this browser.");
  set({ saving });
  if (saving.state === "away") loop.again();
}

/** Saves what is not saved yet; whether all of it is on the server. */
export async function saveNow(): Promise<boolean> {
  loop.rest();
  await inTurn(save);
  return get().saving.state === "saved";
}

/** Watches the draft; call once. */
export function watchDraft() {
  return useBench.subscribe((state, before) => {
    if (state.now === before.now || state.tool?.id !== before.tool?.id) return;
    writeJournal(true);
    if (state.now?.document !== before.now?.document) loop.soon();
  });
}

/** Opens another tool: what is under way here is saved first, and the server is asked for the newest of the other. */
export function switchTo(other: Tool) {
  return inTurn(async () => {
    loop.rest();
    const { tool } = get();
    if (tool && readJournal(tool.id)?.unsaved) await save();
    loop.rest();
    try {
      await openTool(await showTool(other.id));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      say(t("{{name}} could not be opened: {{message}}.", { name: other.name, message: error.message }));
    }
  });
}

/** Keeps the draft as the tool's next version. */
export function keep() {
  return inTurn(async () => {
    loop.rest();
    const { tool, now } = get();
    if (!tool || !now) return;
    try {
      kept(await keepTool(tool.id, tool.kept.number, now.document, get().note), now.document);
    } catch (error) {
      failed(error);
      if (error instanceof Refused && error.away) say(t("Not kept: {{message}}. Try again when it is back.", { message: error.message }));
    }
  });
}

function kept(tool: Tool, document: ToolDocument) {
  onServer = document;
  set({ tool, seen: 0, note: "", saving: { state: "saved", at: Date.now() } });
  writeJournal(false);
}

/** Keeps the draft as a new tool of another name; the old tool's draft goes back to what is kept. */
export function keepAsNew(newName: string, intent: string) {
  return inTurn(async () => {
    loop.rest();
    const { tool, now, seen, saving } = get();
    if (!tool || !now) return;
    const created = await createTool({ ...now.document, name: newName, intent });
    localStorage.removeItem(name(tool.id));
    if (seen > 0 && saving.state !== "conflict") await dropDraft(tool.id, seen);
    await openTool(created);
    writeJournal(false);
  });
}

/** Does work that may change tools on the server, with what is under way here saved before; gives the ids it changed. */
export function changingTools(work: () => Promise<string[]>) {
  return inTurn(async () => {
    loop.rest();
    const { tool } = get();
    if (tool && readJournal(tool.id)?.unsaved) await save();
    loop.rest();
    const changed = await work();
    if (tool && changed.includes(tool.id)) await openTool(await showTool(tool.id));
  });
}

/** Lets go of what is here and takes what the server has. */
export function takeTheirs() {
  return inTurn(async () => {
    const { tool } = get();
    if (!tool) return;
    const theirs = await showTool(tool.id);
    localStorage.removeItem(name(tool.id));
    await openTool(theirs);
  });
}

/** Changes elsewhere that follow each other within so long are told once, ms. */
const FOLLOWING_MS = 60_000;
let followed = -Infinity;

/** The open tool was changed, here or elsewhere (`kind` and `version` as the server tells them): what is not changed here follows; what is, is said. */
export function followElsewhere(kind: string, version: number) {
  // After what is on its way: that may be what was changed.
  return inTurn(async () => {
    const { tool, seen } = get();
    if (!tool || (kind === "drafts" && version === seen) || (kind === "kept" && version === tool.kept.number)) return;
    let theirs: Tool;
    try {
      theirs = await showTool(tool.id);
    } catch (error) {
      // Taken away, or the server is away: the next that is saved here says so.
      if (error instanceof Refused) return;
      throw error;
    }
    const now = get();
    const same = theirs.kept.number === now.tool?.kept.number && (theirs.draft?.version ?? 0) === now.seen;
    if (same || now.tool?.id !== theirs.id || now.dragged || now.saving.state === "conflict") return;
    // What lies in this browser may be the other window's: what is not saved here is told by what was saved here.
    if (now.now?.document !== onServer) set({ saving: { state: "conflict", message: "This tool was changed elsewhere while changes here were not saved." } });
    else {
      onServer = theirs.draft?.document ?? theirs.kept.document;
      set({ tool: theirs, seen: theirs.draft?.version ?? 0 });
      // A step: what was here comes back with undo.
      commit({ document: onServer });
      if (Date.now() - followed > FOLLOWING_MS) tellDone(t("{{name}} is changed in another window: here it is as it is there.", { name: theirs.name }));
      followed = Date.now();
    }
  });
}

/** The stylus's way to the server: every step is kept in this browser at once and saved soon after, as tools are. */

import { activateStylus, addStylus, listStyluses, removeStylus, saveStylus, type Stylus } from "../api/client";
import { engine } from "../engine/client";
import { PLAIN_HAND, type Hand } from "../model/hand";
import { Refused } from "../model/refused";
import { DEVICE, decide, hand, onEveryStep, take, useHand } from "./handStore";
import { say, tellDone } from "./notices";
import { notSaved, savingLoop } from "./savingLoop";
import { t } from "../model/said";

const JOURNAL = "saltmarsh.hand";

const set = useHand.setState;
const get = useHand.getState;

const loop = savingLoop(save);
const { inTurn } = loop;
onEveryStep(changed);

function changed() {
  write(true);
  set({ saving: { state: "saving", message: "" } });
  loop.soon();
}

/** Saves what is not saved yet, as before another stylus is taken up; whether all of it is on the server. */
export async function saveHandNow(): Promise<boolean> {
  await flush();
  return get().saving.state === "saved";
}

async function flush() {
  loop.rest();
  decide(false);
  if (get().saving.state === "saving" || get().saving.state === "away") await save();
  loop.rest();
}

function write(unsaved: boolean) {
  localStorage.setItem(JOURNAL, JSON.stringify({ hand: hand(), stylus: get().stylus, unsaved }));
}

async function save() {
  const now = hand();
  try {
    const { stylus, device } = get();
    const kept = stylus
      ? await saveStylus(stylus.id, stylus.version, await engine.writeStylus(now))
      : await addNamed(now, device);
    set({ stylus: { id: kept.id, version: kept.version, device: kept.device } });
    // What was changed while this was on its way is saved next.
    const current = now === hand();
    if (kept.document.profile.name !== now.profile.name) called(now.profile.name, kept.document.profile.name);
    write(!current);
    if (current) set({ saving: { state: "saved", message: "" } });
  } catch (error) {
    const saving = notSaved(error, "This stylus", "The stylus is kept in this browser.");
    set({ saving });
    if (saving.state === "away") loop.again();
  }
}

/** The stylus got its name when it was first kept: what it is now, and every step of it, is called so. */
function called(from: string, to: string) {
  const renamed = (h: Hand): Hand => (h.profile.name === from ? { ...h, profile: { ...h.profile, name: to } } : h);
  set((s) => ({ past: s.past.map(renamed), future: s.future.map(renamed), before: s.before && renamed(s.before), trial: s.trial && renamed(s.trial) }));
  take(renamed(hand()));
}

/** Keeps a stylus under a name that is free. */
async function addNamed(now: Hand, device: string): Promise<Stylus> {
  const wanted = now.profile.name === PLAIN_HAND.profile.name ? "My pen" : now.profile.name;
  const taken = new Set((await listStyluses()).map((s) => s.document.profile.name));
  let name = wanted;
  for (let n = 2; taken.has(name); n++) name = `${wanted}, ${n}`;
  return addStylus(device, await engine.writeStylus({ ...now, profile: { ...now.profile, name } }));
}

const handOf = (stylus: Stylus): Hand => ({ calibration: stylus.document.calibration, profile: stylus.document.profile });

function hold(stylus: Stylus) {
  set({ stylus: { id: stylus.id, version: stylus.version, device: stylus.device }, past: [], future: [], before: null, saving: { state: "saved", message: "" } });
  take(handOf(stylus));
  write(false);
}

function readJournal(): { hand: Hand; stylus: ReturnType<typeof useHand.getState>["stylus"]; unsaved: boolean } | null {
  try {
    return JSON.parse(localStorage.getItem(JOURNAL) ?? "null");
  } catch {
    // Not written by us: the server's is taken.
    return null;
  }
}

/** Nothing of the stylus in hand was changed here since it was taken up. */
export const untouched = () => get().past.length === 0 && get().saving.state === "saved";

/** Takes up the stylus that was in use: what this browser holds unsaved, else the active one of the device. */
export function takeUp(styluses: Stylus[]) {
  const journal = readJournal();
  if (journal?.unsaved) {
    set({ stylus: journal.stylus });
    take(journal.hand);
    changed();
    return;
  }
  const active = styluses.filter((s) => s.active);
  const mine = active.find((s) => s.device === get().device) ?? active[0];
  if (mine) hold(mine);
}

/** Takes a kept stylus in hand; it becomes the active one of its device. */
export const choose = (stylus: Stylus) =>
  inTurn(async () => {
    await flush();
    try {
      hold(await activateStylus(stylus.id));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      say(t("{{name}} could not be taken up: {{message}}.", { name: stylus.document.profile.name, message: error.message }));
    }
  });

/** Keeps a stylus that came from a file, or a copy of the one in hand, and takes it up. */
export const keepNew = (next: Hand) =>
  inTurn(async () => {
    await flush();
    hold(await addNamed(next, get().device));
  });

/** Takes a stylus away; gives what brings it back. */
export async function takeAway(stylus: Stylus): Promise<() => Promise<unknown>> {
  await removeStylus(stylus.id);
  if (get().stylus?.id === stylus.id) {
    set({ stylus: null, past: [], future: [] });
    take(PLAIN_HAND);
    localStorage.removeItem(JOURNAL);
  }
  return async () => addStylus(stylus.device, await engine.writeStylus(handOf(stylus)));
}

/** Takes what the server has, after a conflict. */
export async function takeTheirs() {
  const there = (await listStyluses()).find((s) => s.id === get().stylus?.id);
  if (there) hold(there);
}

/** The browser reports this device: its stylus is taken up where one is known. */
export function recognise(device: string, styluses: Stylus[]) {
  if (device === get().device) return;
  localStorage.setItem(DEVICE, device);
  set({ device });
  const known = styluses.find((s) => s.active && s.device === device);
  if (!known || known.id === get().stylus?.id) return;
  void inTurn(async () => {
    await flush();
    hold(known);
    tellDone(t("Recognised: {{name}}.", { name: known.document.profile.name }));
  });
}

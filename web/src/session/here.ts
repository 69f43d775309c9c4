/** What this browser keeps of a painter's: it is theirs alone. */

import { clear } from "idb-keyval";
import { forgetWays } from "../api/ways";

const PAINTER = "saltmarsh.painter";
/** The page that begins next forgets once more, what the last one wrote while it went; then it is this painter's, or nobody's. */
const HEIR = "saltmarsh.heir";
/** What is of the browser and of nobody's work: the look, and that it was here before. Papers that were made stay as well: they are of recipes. */
const OF_NOBODY = ["saltmarsh.theme", "saltmarsh.answered"];

/** Whose work lies here; null: nobody signed in by name. */
export const painterHere = () => localStorage.getItem(PAINTER);

/** Lets go of everything that a painter left here. Emptied, not deleted: a page that holds a store open would keep it from going. */
async function forgetHere(heir: string | null) {
  for (const key of Object.keys(localStorage)) if (!OF_NOBODY.includes(key)) localStorage.removeItem(key);
  if (heir) localStorage.setItem(PAINTER, heir);
  // A browser that keeps nothing has nothing to forget.
  await Promise.all([clear(), forgetWays()].map((done) => done.catch(() => undefined)));
}

/** Leaves no trace of a painter who signed out. */
export async function leaveHere() {
  await forgetHere(null);
  localStorage.setItem(HEIR, "");
}

/** Before anything is read of it: forgets what a painter who signed out, or whose place was taken, left behind. */
export async function sweepHere() {
  const heir = localStorage.getItem(HEIR);
  if (heir !== null) await forgetHere(heir);
}

/** Takes the browser over for a painter: what another left here is not shown to this one. */
export async function takeOver(painter: string) {
  const before = painterHere();
  if (before === null || before === painter) localStorage.setItem(PAINTER, painter);
  else {
    await forgetHere(painter);
    localStorage.setItem(HEIR, painter);
  }
}

/** What this browser keeps of a painter's: it is theirs alone. */

const PAINTER = "saltmarsh.painter";
const LEFT = "saltmarsh.left";
/** What is of the browser and of nobody's work: the look, and papers that were made. */
const OF_NOBODY = ["saltmarsh.theme"];
const PAPERS = "saltmarsh-paper";

/** Whose work lies here; null: nobody signed in by name. */
export const painterHere = () => localStorage.getItem(PAINTER);

/** Lets go of everything that a painter left here. */
async function forgetHere() {
  for (const key of Object.keys(localStorage)) if (!OF_NOBODY.includes(key)) localStorage.removeItem(key);
  const kept = (await indexedDB.databases()).flatMap(({ name }) => (name && name !== PAPERS ? [name] : []));
  // One that this page holds open goes once the page is left.
  kept.forEach((name) => indexedDB.deleteDatabase(name));
}

/** Leaves no trace of a painter who signed out: what is written while the page goes is forgotten when the next one begins. */
export async function leaveHere() {
  await forgetHere();
  localStorage.setItem(LEFT, "yes");
}

/** Before anybody signs in: forgets what whoever signed out here left behind. */
export async function sweepHere() {
  if (localStorage.getItem(LEFT)) await forgetHere();
}

/** Takes the browser over for a painter: what another left here is not shown to this one. */
export async function takeOver(painter: string) {
  const before = painterHere();
  if (before !== null && before !== painter) await forgetHere();
  localStorage.setItem(PAINTER, painter);
}

/** What is new is sent under an id of its own. An answer that was lost is no reason to have it twice: sent again the same, it has the same id. */

import { Refused } from "../model/refused";

const unanswered = new Map<string, string>();

/** Sends `what` under an id, the one it had where the server did not answer last time. */
export async function once<T>(what: object, send: (id: string) => Promise<T>): Promise<T> {
  const key = JSON.stringify(what);
  const id = unanswered.get(key) ?? crypto.randomUUID();
  unanswered.set(key, id);
  try {
    const done = await send(id);
    unanswered.delete(key);
    return done;
  } catch (e) {
    // What was refused was not kept.
    if (!(e instanceof Refused && e.away)) unanswered.delete(key);
    throw e;
  }
}

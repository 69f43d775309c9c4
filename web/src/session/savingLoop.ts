/** How anything that is edited gets to the server: soon after a step, one request after another, and again where the server was away. */

import { queue } from "../api/queue";
import { Refused } from "../model/refused";

const SOON_MS = 450;
const RETRY_MS = 2500;

export interface SavingLoop {
  /** Saves soon: steps that follow each other closely are saved once. */
  soon: () => void;
  /** Saves now, unless something else is on its way. */
  atOnce: () => void;
  /** Saves when the server may be back. */
  again: () => void;
  /** Saves nothing until it is told to. */
  rest: () => void;
  /** Does work after what is on its way. */
  inTurn: <T>(work: () => Promise<T>) => Promise<T>;
}

export function savingLoop(save: () => Promise<unknown>): SavingLoop {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const inTurn = queue();
  const after = (ms: number) => () => {
    clearTimeout(timer);
    timer = setTimeout(() => void inTurn(save), ms);
  };
  return { soon: after(SOON_MS), atOnce: after(0), again: after(RETRY_MS), rest: () => clearTimeout(timer), inTurn };
}

/** Why something was not saved, and what is said of it. `what`: "This tool"; `safe`: where it is meanwhile. Anything but a refusal is thrown. */
export function notSaved(error: unknown, what: string, safe: string): { state: "away" | "conflict" | "refused"; message: string } {
  if (!(error instanceof Refused)) throw error;
  if (error.away) return { state: "away", message: `Not saved: ${error.message}. ${safe}` };
  if (error.code === "conflict") return { state: "conflict", message: `${what} was changed in another window.` };
  return { state: "refused", message: error.message };
}

/** Refusals, of the server and of the core. */

import { t } from "./said";

/** What a request came to, when it did not come to an answer. */
export class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly field: string | null = null,
    readonly present: number | null = null,
  ) {
    super(field ? `${field}: ${message}` : message);
  }
  /** Nobody is at fault: trying again later may do. */
  get away(): boolean {
    return this.code === "away" || this.code === "database-away" || this.code === "busy" || this.code === "slow" || this.code === "internal";
  }
}

/** A refusal of the core, thrown as JSON. */
export function refusalOf(error: unknown): { field: string; message: string } {
  const text = error instanceof Error ? error.message : String(error);
  try {
    const parsed: unknown = JSON.parse(text);
    if (typeof parsed === "object" && parsed !== null && "field" in parsed && "message" in parsed) {
      return { field: String(parsed.field), message: String(parsed.message) };
    }
  } catch {
    // Not one of ours: say it as it is.
  }
  return { field: "", message: text };
}

/** What to say where somebody changed a thing that this window knew otherwise, and that is shown anew by now; null: it was not that. */
export const changedElsewhere = (error: unknown): string | null =>
  error instanceof Refused && error.code === "conflict" ? t("It was changed in another window meanwhile: here it is as it is now.") : null;

/** Any refusal in words, by field where it has one. */
export function saidOf(error: unknown): string {
  if (error instanceof Refused) return error.message;
  const { field, message } = refusalOf(error);
  return field ? `${field}: ${message}` : message;
}

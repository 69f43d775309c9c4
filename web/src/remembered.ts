/** What the server told last, kept in this browser: the page starts with it where the server is away. */

import type { PersistQueryClientOptions, PersistedClient } from "@tanstack/react-query-persist-client";
import { del, get, set } from "idb-keyval";

const NAME = "saltmarsh.told-last";
/** Of what is remembered: what the page cannot start without. */
const KEPT = ["tools", "gestures", "grounds", "styluses"];
/** After so long it is of no use, ms. */
const LONGEST_MS = 60 * 24 * 3600 * 1000;

/** Much changes at once: what came last is written after so long, ms. */
const SOON_MS = 1500;
let newest: PersistedClient | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;

export const remembered: Omit<PersistQueryClientOptions, "queryClient"> = {
  persister: {
    persistClient: (client: PersistedClient) => {
      newest = client;
      timer ??= setTimeout(() => {
        timer = undefined;
        // A browser that keeps nothing starts with the server alone.
        if (newest) set(NAME, newest).catch(() => undefined);
      }, SOON_MS);
    },
    restoreClient: () => get<PersistedClient>(NAME),
    removeClient: () => del(NAME),
  },
  maxAge: LONGEST_MS,
  dehydrateOptions: { shouldDehydrateQuery: ({ queryKey: [name], state }) => KEPT.includes(String(name)) && state.status === "success" },
};

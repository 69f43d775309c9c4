/** What is changed elsewhere, in another window or on another machine, is seen here soon after. */

import type { QueryClient } from "@tanstack/react-query";
import type { components } from "../api/schema";
import { followElsewhere } from "./saving";
import { useBench } from "./store";

type Change = components["schemas"]["Changed"];

/** One window of the browser listens for all: a server is asked by few connections at once. */
const LOCK = "saltmarsh.listens";
const CHANNEL = "saltmarsh.changes";
const AT = "/api/v1/changes";
/** A server that ended the stream is asked again after so long; changes that follow each other closely are looked at together, ms. */
const AGAIN_MS = 3000;
const SOON_MS = 250;

/** What is to be asked for anew. */
const ASKED: Record<string, string[]> = { tools: ["tools", "away"], kept: ["tools"], drafts: ["tools"], gestures: ["gestures"], grounds: ["grounds"], images: ["images"], styluses: ["styluses"], curves: ["curves"] };
const ALL: Change = { kind: "all", id: null, version: 0 };

const OF_TOOLS = new Set(["tools", "kept", "drafts", "all"]);

function listen(take: (change: Change) => void) {
  let first = true;
  const begin = () => {
    const source = new EventSource(AT);
    source.onopen = () => {
      // While it was not heard, anything may have changed.
      if (!first) take(ALL);
      first = false;
    };
    source.onmessage = (e: MessageEvent<string>) => take(JSON.parse(e.data) as Change);
    source.onerror = () => {
      if (source.readyState === EventSource.CLOSED) setTimeout(begin, AGAIN_MS);
    };
  };
  begin();
}

/** Follows what is changed elsewhere; call once. */
export function watchChanges(queries: QueryClient) {
  const keys = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const take = (change: Change) => {
    const open = useBench.getState().tool?.id;
    const here = change.kind === "all" || change.id === open;
    // A draft of the open tool is in no list that is shown.
    if (change.kind !== "drafts" || !here) for (const key of change.kind === "all" ? Object.values(ASKED).flat() : (ASKED[change.kind] ?? [])) keys.add(key);
    if (here && open && OF_TOOLS.has(change.kind)) void followElsewhere(change.kind, change.version);
    timer ??= setTimeout(() => {
      timer = undefined;
      for (const key of keys) void queries.invalidateQueries({ queryKey: [key] });
      keys.clear();
    }, SOON_MS);
  };
  const channel = new BroadcastChannel(CHANNEL);
  channel.onmessage = (e: MessageEvent<Change>) => take(e.data);
  void navigator.locks.request(
    LOCK,
    () =>
      new Promise<never>(() =>
        listen((change) => {
          channel.postMessage(change);
          take(change);
        }),
      ),
  );
}

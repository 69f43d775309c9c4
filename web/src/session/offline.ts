/** The page that starts without a server: its files are fetched and kept once the first sheet is laid, which that would hold up. */

import { useProof } from "./proofStore";

/** However long a sheet takes, it is not waited for any longer, ms. */
const LONGEST_MS = 20_000;

/** Sees to it; call once. */
export function keepOffline(): () => void {
  if (!("serviceWorker" in navigator)) return () => undefined;
  const keep = () => {
    stop();
    // A browser that keeps no page has it from the server alone.
    navigator.serviceWorker.register("/sw.js", { scope: "/" }).catch(() => undefined);
  };
  const timer = setTimeout(keep, LONGEST_MS);
  const letGo = useProof.subscribe(({ busy }) => !busy.kept && !busy.draft && keep());
  const stop = () => {
    clearTimeout(timer);
    letGo();
  };
  return stop;
}

/** Whether time over the free row keeps up with its clock. */

import { useEffect, useState } from "react";
import { engine } from "../../engine/client";
import { FASTEST } from "../../model/restClock";
import { useClock } from "../../session/clock";

/** How often it is asked, ms; where less than this of the time that is due goes by, that is said. */
const ASKED_MS = 1500;
const SLOW = 0.8;

/** How much of the time that is due goes over the free row, 0..1; null where it keeps up. */
export function useKeepsUp(): number | null {
  const pace = useClock((s) => s.pace);
  const [share, setShare] = useState(1);
  // A clock that stands still, or goes as fast as it can, has nothing to keep up with.
  const asked = pace !== 0 && pace !== FASTEST;
  useEffect(() => {
    if (!asked) return;
    const timer = setInterval(() => void engine.padKeepsUp().then(setShare, () => undefined), ASKED_MS);
    return () => clearInterval(timer);
  }, [asked]);
  return asked && share < SLOW ? share : null;
}

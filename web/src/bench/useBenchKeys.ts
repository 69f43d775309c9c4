/** The Bench's keys. */

import { useKeys } from "../keys/useKeys";
import { STATIONS } from "../model/tool";
import { keep } from "../session/saving";
import { nextLoupe } from "../session/looking";
import { redo, undo, useBench, wipePad } from "../session/store";

const goTo = (index: number) => () => {
  const station = STATIONS[index];
  if (station) useBench.setState({ station: station.id });
};

export const openRow = () => useBench.setState((s) => ({ padOpen: !s.padOpen }));

export function useBenchKeys() {
  useKeys({
    undo,
    redo,
    keep,
    row: openRow,
    wipe: wipePad,
    loupe: nextLoupe,
    "let-go": () => useBench.setState({ cursorHeld: false }),
    "station-1": goTo(0),
    "station-2": goTo(1),
    "station-3": goTo(2),
    "station-4": goTo(3),
    "station-5": goTo(4),
    "station-6": goTo(5),
    "station-7": goTo(6),
  });
}

/** Find or do: everything the Bench can do, by typing. */

import { Command } from "cmdk";
import { useLocation, useNavigate } from "react-router";
import { keyOf, shownKey, useKeyTable, type KeyId } from "../keys/registry";
import { openRow } from "./useBenchKeys";
import { STATIONS, mediumOf } from "../model/tool";
import type { Tool } from "../api/client";
import { useBenchContext } from "../session/context";
import { keep, switchTo } from "../session/saving";
import { edit, redo, setTheme, undo, useBench, useKept, wipePad } from "../session/store";

export function Palette({ tools }: { tools: Tool[] }) {
  const open = useBench((s) => s.palette);
  const theme = useBench((s) => s.theme);
  const kept = useKept();
  const { gestures, declarations } = useBenchContext();
  const go = useNavigate();
  const at = useLocation().pathname;
  /** What is done on the Bench takes the painter there. */
  const onBench = (run: () => unknown) => () => {
    if (at !== "/") void go("/");
    run();
  };
  const table = useKeyTable();
  const shown = (id: KeyId) => shownKey(keyOf(table, id));
  const close = () => useBench.setState({ palette: false });
  const item = (label: string, run: () => void, hint = "") => (
    <Command.Item
      key={label}
      value={label}
      onSelect={() => {
        close();
        run();
      }}
      className="flex cursor-default items-center rounded px-2 py-1 data-[selected=true]:bg-ground"
    >
      {label}
      <span className="num ml-auto text-muted">{hint}</span>
    </Command.Item>
  );
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(palette) => useBench.setState({ palette })}
      label="Find or do"
      overlayClassName="fixed inset-0 z-40 bg-black/40"
      contentClassName="fixed left-1/2 top-24 z-50 w-[32rem] -translate-x-1/2 rounded border border-line bg-pane p-2 shadow-xl"
    >
      <Command.Input placeholder="Find or do" aria-label="Find or do" className="w-full rounded border border-line bg-raised px-2 py-1.5" />
      <Command.List className="mt-2 max-h-80 overflow-y-auto" aria-label="What can be done">
        <Command.Empty className="px-2 py-1 text-muted">Nothing of that name.</Command.Empty>
        {item("Screen: Bench", () => void go("/"))}
        {item("Screen: Rack", () => void go("/rack"))}
        {item("Screen: Hand", () => void go("/hand"))}
        {item("Screen: Grounds", () => void go("/grounds"))}
        {item("Screen: Gestures", () => void go("/gestures"))}
        {STATIONS.map((s, i) => item(`Station: ${s.label}`, onBench(() => useBench.setState({ station: s.id })), shown(`station-${i + 1}` as KeyId)))}
        {gestures.map((g) => item(`Gesture: ${g.name}`, onBench(() => useBench.setState({ gesture: g.id }))))}
        {tools.map((t) => item(`Tool: ${t.name}`, onBench(() => void switchTo(t))))}
        {mediumOf(declarations, kept?.medium ?? null).parameters.map((p) =>
          item(`Parameter: ${p.label}`, onBench(() => useBench.setState({ station: p.station, goTo: p.id })), STATIONS.find((s) => s.id === p.station)?.label),
        )}
        {item("Keep the draft", onBench(() => void keep()), shown("keep"))}
        {item("Keep as a new tool…", onBench(() => useBench.setState({ naming: true })))}
        {item("Put back to kept", onBench(() => kept && edit(() => kept)))}
        {at === "/" && item("Undo", undo, shown("undo"))}
        {at === "/" && item("Redo", redo, shown("redo"))}
        {item("Open or close the free row", onBench(openRow), shown("row"))}
        {item("Wipe the free row", onBench(wipePad), shown("wipe"))}
        {item("Show the keys", () => useKeyTable.setState({ shown: true }), shown("keys"))}
        {item(theme === "light" ? "Dark theme" : "Light theme", () => setTheme(theme === "light" ? "dark" : "light"))}
      </Command.List>
    </Command.Dialog>
  );
}

/** Find or do: everything the Bench can do, by typing. */

import { Command } from "cmdk";
import type { ReactNode } from "react";
import { useLocation, useNavigate } from "react-router";
import { explainWord } from "../session/words";
import { entriesOf } from "../words/entries";
import { keyOf, shownKey, useKeyTable, type KeyId } from "../keys/registry";
import { found } from "./finding";
import { openRow } from "./useBenchKeys";
import { STATIONS, mediumOf } from "../model/tool";
import type { Tool } from "../api/client";
import { useBenchContext } from "../session/context";
import { keep, switchTo } from "../session/saving";
import { setTheme } from "../session/choices";
import { useFollowed } from "../session/followed";
import { edit, redo, undo, useBench, useKept, wipePad } from "../session/store";
import { t } from "../model/said";

/** Nothing of it is made before it is asked for. */
export function Palette({ tools }: { tools: Tool[] }) {
  return useBench((s) => s.palette) ? <Opened tools={tools} /> : null;
}

function Opened({ tools }: { tools: Tool[] }) {
  const theme = useBench((s) => s.theme);
  const kept = useKept();
  const draft = useFollowed();
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
  /** `kind`: what it is, where the group does not say; two kinds may have one name. */
  const item = (label: string, run: () => void, hint = "", words: string[] = [], kind = "") => (
    <Command.Item
      key={label}
      value={`${label} ${kind}`.trim()}
      keywords={words}
      onSelect={() => {
        close();
        run();
      }}
      className="flex cursor-default items-center gap-3 rounded px-2 py-1 data-[selected=true]:bg-ground"
    >
      {label}
      <span className="num ml-auto shrink-0 text-muted">{hint}</span>
    </Command.Item>
  );
  const group = (heading: string, items: ReactNode) => (
    <Command.Group heading={heading} className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-muted">
      {items}
    </Command.Group>
  );
  return (
    <Command.Dialog
      open
      onOpenChange={(palette) => useBench.setState({ palette })}
      label={t("Find or do")}
      filter={(value, typed, others) => found(value, typed, others)}
      overlayClassName="fixed inset-0 z-40 bg-black/40"
      contentClassName="fixed left-1/2 top-4 z-50 w-[min(32rem,calc(100vw-1rem))] wide:top-24 -translate-x-1/2 rounded border border-line bg-pane p-2 shadow-xl"
    >
      <Command.Input placeholder={t("Find or do")} aria-label={t("Find or do")} className="w-full rounded border border-line bg-raised px-2 py-1.5" />
      <Command.List className="mt-2 max-h-80 overflow-y-auto" aria-label={t("What can be done")}>
        <Command.Empty className="px-2 py-1 text-muted">{t("Nothing of that name.")}</Command.Empty>
        {group(
          "Do",
          <>
            {item("Keep the draft", onBench(() => void keep()), shown("keep"))}
            {item("Keep as a new tool…", onBench(() => useBench.setState({ naming: true })))}
            {item("This tool: name, use, versions, steps…", onBench(() => useBench.setState({ about: true })), "", ["history", "rename", "restore"])}
            {item("Put back to kept", onBench(() => kept && edit(() => kept)), "", ["revert", "reset"])}
            {at === "/" && item("Undo", undo, shown("undo"), ["back"])}
            {at === "/" && item("Redo", redo, shown("redo"), ["forward"])}
            {item("Open or close the free row", onBench(openRow), shown("row"), ["draw", "pad"])}
            {item("Wipe the free row", onBench(wipePad), shown("wipe"), ["clear", "erase"])}
            {item("Show the keys", () => useKeyTable.setState({ shown: true }), shown("keys"), ["shortcuts", "keyboard"])}
            {item(theme === "light" ? "Dark theme" : "Light theme", () => setTheme(theme === "light" ? "dark" : "light"))}
          </>,
        )}
        {group("Stations", STATIONS.map((s, i) => item(s.label, onBench(() => useBench.setState({ station: s.id })), shown(`station-${i + 1}` as KeyId), [], "station")))}
        {group("Screens", ["Bench", "Rack", "Hand", "Grounds", "Gestures"].map((name) => item(name, () => void go(name === "Bench" ? "/" : `/${name.toLowerCase()}`), "", [], "screen")))}
        {group(
          "Numbers and choices of this tool",
          mediumOf(declarations, draft?.medium ?? null).parameters.map((p) =>
            item(p.label, onBench(() => useBench.setState({ station: p.station, goTo: p.id })), STATIONS.find((s) => s.id === p.station)?.label, [p.help], "parameter"),
          ),
        )}
        {group("Tools", tools.map((t) => item(t.name, onBench(() => void switchTo(t)), "", [t.kept.document.intent], "tool")))}
        {group("Words", entriesOf(declarations, mediumOf(declarations, draft?.medium ?? null)).filter((e) => e.kind === "Words").map((e) => item(e.name, () => explainWord(e.id), "", [e.what], "word")))}
        {group("Gestures", gestures.map((g) => item(g.name, onBench(() => useBench.setState({ gesture: g.id })), "", [g.note, ...g.tags], "gesture")))}
      </Command.List>
    </Command.Dialog>
  );
}

/** Gestures: what the hand did, kept, named, changed, and chosen for the proof sheet. */

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { gestureFile, type Gesture } from "../api/client";
import { queue } from "../api/queue";
import { useBenchContext } from "../session/context";
import { wayOf } from "../api/ways";
import { engine } from "../engine/client";
import { Button, Toggle } from "../ui/controls";
import { FileButton } from "../ui/FileButton";
import { hush, say, tellDone } from "../session/notices";
import { saveFile } from "../ui/saveFile";
import type { GestureChange } from "../session/changing";
import { useKeys } from "../keys/useKeys";
import { useShownKey } from "../keys/registry";
import { Generate } from "./Generate";
import { One } from "./One";
import { Record } from "./Record";
import { added, changed, did, ordered, removed, useSteps, wentBack, wentOn, type Change, type Step } from "./steps";
import { Thumbnail } from "./Thumbnail";
import { changedElsewhere, saidOf } from "../model/refused";
import { t } from "../model/said";

/** The server's limit for one document. */
const MOST_BYTES = 16 * 1024 * 1024;

/** Undo and Redo of steps follow each other. */
const inTurn = queue();

export function GesturesScreen() {
  const { allGestures: gestures } = useBenchContext();
  const [chosen, setChosen] = useState(gestures[0]?.id ?? "");
  const [search, setSearch] = useState("");
  const [generating, setGenerating] = useState(false);
  const queries = useQueryClient();
  const known = () => queries.getQueryData<Gesture[]>(["gestures"]) ?? gestures;
  /** Tells the server something of gestures; gives whether it was done. */
  const run = (work: () => Promise<unknown>) =>
    inTurn(async () => {
      hush();
      try {
        await work();
        await queries.invalidateQueries({ queryKey: ["gestures"] });
        return true;
      } catch (error) {
        await queries.invalidateQueries({ queryKey: ["gestures"] });
        say(changedElsewhere(error) ?? saidOf(error));
        return false;
      }
    });
  const goBack = () =>
    run(async () => {
      await useSteps.getState().now?.back();
      wentBack();
    });
  const goOn = () =>
    run(async () => {
      await useSteps.getState().future[0]?.again();
      wentOn();
    });
  const change: Change = async (make, told) => {
    let step: Step | undefined;
    const done = await run(async () => {
      step = await make();
      await step.again();
    });
    if (!done || !step) return false;
    did(step);
    const { text, again, back } = step;
    // Once another step stands on it, taking it back is a step of its own.
    const takeBack = () => (useSteps.getState().now === step ? goBack() : change(async () => ({ text, again: back, back: again })));
    if (told) tellDone(text, told === "with a way back" ? takeBack : null);
    return true;
  };
  const words = search.trim().toLowerCase();
  const found = gestures.filter((g) => [g.name, g.note, ...g.tags].join(" ").toLowerCase().includes(words));
  const one = gestures.find((g) => g.id === chosen) ?? gestures[0] ?? null;
  const read = async (files: File[]) => {
    for (const f of files) {
      if (f.size > MOST_BYTES) return say(t("{{name}}: may be at most 16 MiB", { name: f.name }));
      const text = await f.text();
      const plain = f.name.replace(/\.[^.]*$/, "").slice(0, 80);
      const fresh = async () => (await engine.gesturesOf(text)).map((g) => ({ name: free(g.name ?? plain), note: "from a file", inkml: g.inkml, stylus: null }));
      if (!(await change(async () => added(await fresh(), t("Gestures of {{name}} were taken in.", { name: f.name }))))) return;
    }
  };
  const names = new Set(gestures.map((g) => g.name));
  /** A name that no gesture has, from now on in use. */
  const free = (wanted: string) => {
    let name = wanted;
    for (let n = 2; names.has(name); n++) name = `${wanted.slice(0, 74)}, ${n}`;
    names.add(name);
    return name;
  };
  const saveAll = () =>
    void run(async () => {
      const text = await engine.together(await Promise.all(found.map(async (g) => ({ name: g.name, inkml: await wayOf(g) }))));
      saveFile("gestures.inkml", "application/inkml+xml", text);
    });
  const move = (g: Gesture, by: number) => {
    const before = gestures.map((other) => other.id);
    const ids = [...before];
    const from = ids.indexOf(g.id);
    const to = Math.min(ids.length - 1, Math.max(0, from + by));
    ids.splice(to, 0, ...ids.splice(from, 1));
    void change(async () => ordered(before, ids, t("{{name}} was moved.", { name: g.name })));
  };
  const remove = (g: Gesture) => void change(() => removed(known, g, t("{{name}} was taken away.", { name: g.name })), "with a way back");
  const set = (g: Gesture, to: GestureChange) => void change(async () => changed(known, g, to, t("{{name}} was changed.", { name: g.name })));
  const { now, future } = useSteps();
  useKeys({ "gestures-undo": goBack, "gestures-redo": goOn });
  const keys = [useShownKey("gestures-undo"), useShownKey("gestures-redo")];
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] wide:h-full">
      <div className="flex min-h-[42px] flex-wrap items-center gap-2">
        <h1 className="text-[17px] font-semibold">{t("Gestures")}</h1>
        <span className="text-muted">
          <span className="num">{gestures.filter((g) => g.on_proof).length}</span>{" "}{t("of")}{" "}<span className="num">{gestures.length}</span>{" "}{t("on the proof sheet")}
        </span>
        <span className="ml-auto" />
        <input
          type="search"
          aria-label={t("Find gestures")}
          placeholder={t("Find by name, note or tag")}
          className="w-60 rounded border border-line bg-raised px-2 py-1"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        <Button disabled={!now} title={[now?.text, keys[0]].filter(Boolean).join(" ")} onClick={() => void goBack()}>
          {t("Undo")}
        </Button>
        <Button disabled={!future.length} title={[future[0]?.text, keys[1]].filter(Boolean).join(" ")} onClick={() => void goOn()}>
          {t("Redo")}
        </Button>
        <Button onClick={() => setGenerating(true)}>{t("Generate…")}</Button>
        <FileButton text={t("Add InkML…")} label={t("InkML files")} accept=".inkml,.xml,application/inkml+xml" multiple onFiles={(files) => void read(files)} />
        <Button disabled={found.length === 0} title={t("One InkML file of all gestures in the list")} onClick={saveAll}>
          {t("Save")}{" "}{found.length === gestures.length ? t("all") : t("these {{length}}", { length: found.length })}
        </Button>
        {generating && <Generate change={change} onClose={() => setGenerating(false)} />}
      </div>
      <div className="relative grid min-h-0 grid-cols-[minmax(0,1fr)] rounded wide:grid-cols-[420px_minmax(0,1fr)] border border-line bg-pane">
        <ul aria-label={t("Gestures")} className="max-h-80 min-h-0 overflow-y-auto border-line bg-raised wide:max-h-none wide:border-r">
          {found.map((g) => (
            <li key={g.id} className={`flex items-center gap-2 border-b border-hair px-3 py-1.5 ${g.id === one?.id ? "bg-pane" : ""}`}>
              <button type="button" aria-pressed={g.id === one?.id} className="flex min-w-0 flex-1 items-center gap-2 text-left" onClick={() => setChosen(g.id)}>
                <Thumbnail gesture={g} className="h-11 w-24 shrink-0" />
                <span className="min-w-0">
                  <span className={`block truncate font-semibold ${g.id === one?.id ? "text-draft" : ""}`}>{g.name}</span>
                  <span className="block truncate text-[12px] text-muted">{[g.note, ...g.tags].filter(Boolean).join(" · ")}</span>
                </span>
              </button>
              <span className="flex shrink-0 flex-col">
                <button type="button" className="h-6 w-6 text-muted" aria-label={t("Move {{name}} up", { name: g.name })} onClick={() => move(g, -1)}>
                  ▴
                </button>
                <button type="button" className="h-6 w-6 text-muted" aria-label={t("Move {{name}} down", { name: g.name })} onClick={() => move(g, 1)}>
                  ▾
                </button>
              </span>
              <Toggle label={t("{{name}} on the proof sheet", { name: g.name })} on={g.on_proof} onChange={(on_proof) => set(g, { on_proof })} />
            </li>
          ))}
          {found.length === 0 && <li className="p-3 text-muted">{t("No gesture of that name.")}</li>}
        </ul>
        <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[520px_240px] wide:grid-rows-[minmax(0,1fr)_190px]">
          {one ? <One key={one.id + one.content_hash} gesture={one} file={gestureFile(one.id)} change={change} known={known} onSet={(to) => set(one, to)} onRemove={() => remove(one)} /> : <span />}
          <Record change={change} />
        </div>
      </div>
    </div>
  );
}

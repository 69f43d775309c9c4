/** Grounds: papers, canvases and boards, made from physical numbers, measured, looked at, and chosen for a tool. */

import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { addGround, addImage, changeGround, removeGround, type Ground } from "../api/client";
import { useBenchContext, useDeclared } from "../session/context";
import { documentOf, edit, useBench } from "../session/store";
import { useNewest } from "../session/useEngine";
import { grounds as measure, quiet } from "../engine/client";
import { keyOf, recipeOf, sameGround, type Recipe, type Surface } from "../model/ground";
import { withGround, type ToolDocument } from "../model/tool";
import { Button, Choice } from "../ui/controls";
import { FileButton } from "../ui/FileButton";
import { useKeys } from "../keys/useKeys";
import { useShownKey } from "../keys/registry";
import { hush, say, tellDone, type Told } from "../session/notices";
import { Figures } from "./Figures";
import { Look } from "./Look";
import { RecipePanel } from "./Recipe";
import { choose, commit, isChanged, isDrafted, keptAs, redo, undo, useGrounds } from "./store";
import { Thumb } from "./Thumb";
import { saidOf } from "../model/refused";
import { t } from "../model/said";

const MOST_BYTES = 32 * 1024 * 1024;
const NEW = "new";

export function GroundsScreen() {
  const { grounds } = useBenchContext();
  const { declarations } = useDeclared();
  const document = useBench(documentOf);
  const { kept, now, past, future } = useGrounds();
  const recipe = useGrounds((s) => s.dragged ?? s.now?.recipe ?? null);
  const changed = useGrounds(isChanged);
  const queries = useQueryClient();
  useKeys({ "grounds-undo": undo, "grounds-redo": redo });
  const keys = [useShownKey("grounds-undo"), useShownKey("grounds-redo")];
  useEffect(() => {
    const there = useGrounds.getState().kept;
    if (there && grounds.some((g) => g.id === there.id)) return;
    const first = grounds.find((g) => document && sameGround(g.recipe, document.ground)) ?? grounds[0];
    if (first) choose(first);
  }, [grounds, document]);
  // Measured once a number is let go: on the way nobody could read it.
  const settled = now?.recipe ?? null;
  const measured = useNewest(document && settled ? JSON.stringify([keyOf(settled), document.parameters]) : null, () =>
    quiet().then(() => measure.ground(asMade(document!, settled!))),
  );
  const figures = measured.answer;
  const measuring = measured.due || recipe !== settled;
  /** Does something and tells what came of it. */
  const change = async (work: () => Promise<unknown>, done?: Told) => {
    hush();
    try {
      await work();
      await queries.invalidateQueries({ queryKey: ["grounds"] });
      if (done) tellDone(done.text, done.bringBack ?? null);
    } catch (error) {
      say(saidOf(error));
    }
  };
  const free = (wanted: string) => {
    let name = wanted;
    for (let n = 2; grounds.some((g) => g.name === name); n++) name = `${wanted.slice(0, 72)}, ${n}`;
    return name;
  };
  const keepNew = (wanted: string, note: string, made: Recipe, done?: Told) =>
    change(async () => {
      const ground = await addGround(free(wanted), note, made);
      queries.setQueryData<Ground[]>(["grounds"], (all) => [...(all ?? []), ground]);
      choose(ground);
    }, done);
  const addSurface = (surface: Surface) => {
    const label = declarations.surfaces.find((s) => s.surface === surface)?.label ?? surface;
    void keepNew(label.slice(0, 1).toUpperCase() + label.slice(1), "", recipeOf(declarations, surface));
  };
  const bringIn = async ([file]: File[]) => {
    if (!file) return;
    if (file.size > MOST_BYTES) return say(t("{{name}}: may be at most 32 MiB", { name: file.name }));
    const plain = file.name.replace(/\.[^.]*$/, "").slice(0, 70) || "Height map";
    try {
      const { image, changes } = await addImage(plain, file);
      const text = [`${image.width} × ${image.height} pixels were taken in`, ...changes].join("; ");
      await keepNew(plain, "A height map that was brought in.", { ...recipeOf(declarations, "image"), image: image.hash }, { text: `${text}. Set its pitch and depth.` });
    } catch (error) {
      say(error instanceof Error ? error.message : String(error));
    }
  };
  const keep = () =>
    kept &&
    now &&
    void change(async () => {
      const ground = await changeGround(kept.id, kept.version, now.name, now.note, now.recipe);
      queries.setQueryData<Ground[]>(["grounds"], (all) => all?.map((g) => (g.id === ground.id ? ground : g)));
      keptAs(ground);
    });
  const remove = (ground: Ground) =>
    void change(
      async () => {
        await removeGround(ground.id);
        useGrounds.setState({ kept: null, now: null });
      },
      { text: `${ground.name} was taken away; tools that were tried on it keep their copy.`, bringBack: () => keepNew(ground.name, ground.note, ground.recipe) },
    );
  const used = document && recipe && sameGround(document.ground, recipe);
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] wide:h-full">
      <div className="flex min-h-[42px] flex-wrap items-center gap-2">
        <h1 className="text-[17px] font-semibold">{t("Grounds")}</h1>
        <Choice label={t("Make a new ground")} value={NEW} options={[[NEW, "Make a new one…"], ...declarations.surfaces.filter((s) => s.surface !== "image").map((s): [Surface | typeof NEW, string] => [s.surface, s.label])]} onChange={(surface) => surface !== NEW && addSurface(surface)} />
        <FileButton text={t("Bring in a height map…")} label={t("Height map (PNG, JPEG, WebP)")} accept="image/png,image/jpeg,image/webp" onFiles={(files) => void bringIn(files)} />
        <span className="ml-auto" />
        <Button disabled={past.length === 0} onClick={undo} title={keys[0]}>
          {t("Undo")}
        </Button>
        <Button disabled={future.length === 0} onClick={redo} title={keys[1]}>
          {t("Redo")}
        </Button>
        <Button disabled={!changed} onClick={() => kept && commit({ name: kept.name, note: kept.note, recipe: kept.recipe })}>
          {t("Put back")}
        </Button>
        <Button disabled={!now} onClick={() => now && void keepNew(`${now.name.slice(0, 66)}, new`, now.note, now.recipe)}>
          {t("Keep as new")}
        </Button>
        <Button primary disabled={!changed} onClick={keep}>
          {t("Keep")}
        </Button>
      </div>
      <div className="relative grid min-h-0 grid-cols-[minmax(0,1fr)] rounded wide:grid-cols-[232px_minmax(0,1fr)_330px] border border-line bg-pane">
        <ul aria-label={t("Grounds")} className="max-h-60 min-h-0 overflow-y-auto border-line bg-raised wide:max-h-none wide:border-r">
          {grounds.map((g) => (
            <li key={g.id} className={`border-b border-hair ${g.id === kept?.id ? "bg-pane" : ""}`}>
              <button type="button" aria-pressed={g.id === kept?.id} className="flex w-full items-center gap-2 px-2 py-1.5 text-left" onClick={() => choose(g)}>
                <Thumb recipe={g.recipe} />
                <span className={`min-w-0 text-[12px] leading-tight ${g.id === kept?.id ? "font-semibold text-draft" : ""}`}>
                  {g.name}
                  {(g.id === kept?.id ? changed : isDrafted(g)) && <span className="block font-normal text-muted">{t("changed, not kept")}</span>}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[420px_auto] wide:grid-rows-[minmax(0,1fr)_auto]">
          {recipe ? <Look recipe={recipe} figures={figures} /> : <p className="p-3 text-muted">{t("No ground yet: make one.")}</p>}
          <Figures figures={figures} measuring={measuring} />
        </div>
        <section aria-label={t("Controls")} className="min-h-0 border-line bg-raised wide:overflow-y-auto wide:border-l px-3 py-2">
          {kept && now && (
            <>
              <Text label={t("Name")} needed value={now.name} onCommit={(name) => commit({ name })} />
              <Text label={t("Note")} value={now.note} onCommit={(note) => commit({ note })} />
              <RecipePanel />
              <div className="mt-2 flex flex-wrap gap-2 border-t border-line pt-2">
                <Button disabled={!document || !!used} onClick={() => recipe && edit((d) => withGround(d, { ...recipe, name: now.name }))}>
                  {used ? t("{{v0}} is on it", { v0: document?.name ?? t("The tool") }) : t("Try {{v0}} on it", { v0: document?.name ?? t("the tool") })}
                </Button>
                <Button onClick={() => remove(kept)}>{t("Take away")}</Button>
              </div>
            </>
          )}
        </section>
      </div>
    </div>
  );
}

/** The tool on another ground, the ground as it is made: figures of a sheet, not of how one tool meets it. */
function asMade(document: ToolDocument, recipe: Recipe) {
  const plain: ToolDocument["parameters"] = { "ground.tooth": 1, "ground.scale": 1, "ground.swap": false, "ground.follow": 0 };
  // Not every medium has them all.
  const parameters = Object.fromEntries(Object.entries(document.parameters).map(([id, value]) => [id, plain[id] ?? value]));
  return { ...withGround(document, recipe), parameters };
}

function Text({ label, value, needed, onCommit }: { label: string; value: string; needed?: boolean; onCommit: (text: string) => void }) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const take = () => {
    if (needed && !text.trim()) setText(value);
    else if (text.trim() !== value) onCommit(text.trim());
  };
  return (
    <label className="flex items-center gap-2 py-0.5 text-muted">
      <span className="w-10">{label}</span>
      <input
        className="min-w-0 flex-1 rounded border border-line bg-raised px-1.5 py-0.5 text-ink"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => e.key === "Enter" && take()}
      />
    </label>
  );
}

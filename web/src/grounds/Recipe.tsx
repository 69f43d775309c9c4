/** What a ground is made of: its surface, its numbers, its tint, and what lies over it. */

import { useDeclared } from "../session/context";
import { numbersOf, recipeOf, type GroundNumber, type Recipe, type Surface } from "../model/ground";
import { Button, Choice, NumberField } from "../ui/controls";
import { NumberRow } from "./NumberRow";
import { commit, drag, letGo, useGrounds } from "./store";
import { t } from "../model/said";

const NOTHING = "nothing";
const HIDES = { low: 0, high: 1, step: 0.01, ratio: false };
const MOST_SEED = 4294967295;

export function RecipePanel() {
  const kept = useGrounds((s) => s.kept);
  const recipe = useGrounds((s) => s.dragged ?? s.now?.recipe ?? null);
  if (!recipe || !kept) return null;
  const set = (next: Recipe) => commit({ recipe: next });
  return (
    <div>
      <Numbers recipe={recipe} before={kept.recipe} what="Surface" set={set} slide={drag} />
      <Over recipe={recipe} before={kept.recipe} set={set} />
    </div>
  );
}

interface NumbersProps {
  recipe: Recipe;
  before: Recipe;
  what: string;
  set: (recipe: Recipe) => void;
  slide: (recipe: Recipe) => void;
}

function Numbers({ recipe, before, what, set, slide }: NumbersProps) {
  const { declarations } = useDeclared();
  const surfaces = declarations.surfaces.filter((s) => s.surface !== "image" || recipe.surface === "image");
  const plain = recipe.tint === declarations.tints[0]?.tint;
  const rows = numbersOf(declarations, recipe.surface).filter((n) => n.id !== "dye" || !plain);
  const withNumber = (id: string, value: number): Recipe => ({ ...recipe, numbers: { ...recipe.numbers, [id]: value } });
  const row = (n: GroundNumber) => {
    const value = recipe.numbers[n.id] ?? n.low;
    const kept = before.surface === recipe.surface ? (before.numbers[n.id] ?? value) : value;
    return (
      <NumberRow
        key={n.id}
        label={n.label}
        unit={n.unit}
        id={n.id}
        span={n}
        value={value}
        before={kept}
        onDrag={(v) => slide(withNumber(n.id, v))}
        onLetGo={letGo}
        onCommit={(v) => set(withNumber(n.id, v))}
      />
    );
  };
  return (
    <>
      <div className="flex items-center gap-2 py-1">
        <span>{what}</span>
        <Choice
          label={what}
          value={recipe.surface}
          options={surfaces.map((s) => [s.surface, s.label])}
          onChange={(surface) => set({ ...recipeOf(declarations, surface, recipe), ...(recipe.name ? { name: recipe.name } : {}) })}
          className="ml-auto"
        />
      </div>
      {rows.map(row)}
      <div className="flex items-center gap-2 border-t border-hair py-1" title={t("What the pulp or primer is dyed with.")}>
        <span>{t("Dyed")}</span>
        <span className="ml-auto flex items-center gap-2">
          <Choice label={t("{{what}}, dyed", { what })} value={recipe.tint} options={declarations.tints.map((t) => [t.tint, t.tint])} onChange={(tint) => set({ ...recipe, tint })} />
        </span>
      </div>
      {recipe.surface !== "image" && (
        <div className="flex items-center gap-2 border-t border-hair py-1" title={t("Another seed is another sheet of the same make.")}>
          <span>{t("Seed")}</span>
          <span className="ml-auto flex items-center gap-1">
            <NumberField label={t("{{what}}, seed", { what })} value={recipe.seed} low={0} high={MOST_SEED} step={1} width="w-24" onCommit={(seed) => set({ ...recipe, seed: Math.round(seed) })} />
            <Button className="!min-h-6 !px-2 !py-0" onClick={() => set({ ...recipe, seed: recipe.seed + 1 })}>
              {t("Next sheet")}
            </Button>
          </span>
        </div>
      )}
    </>
  );
}

/** A second ground over the first: gesso over canvas, a sanded coat on board. */
function Over({ recipe, before, set }: Omit<NumbersProps, "what" | "slide">) {
  const { declarations } = useDeclared();
  const over = recipe.over;
  const surfaces: [Surface | typeof NOTHING, string][] = [[NOTHING, "nothing"], ...declarations.surfaces.filter((s) => s.surface !== "image").map((s): [Surface, string] => [s.surface, s.label])];
  const choose = (surface: Surface | typeof NOTHING) => {
    const bare = { ...recipe };
    delete bare.over;
    set(surface === NOTHING ? bare : { ...bare, over: { recipe: recipeOf(declarations, surface), hides: over?.hides ?? 0.5 } });
  };
  return (
    <section aria-label={t("Over it")} className="mt-2 border-t border-line pt-1">
      {over ? (
        <>
          <div className="flex items-center gap-2 py-1">
            <h2 className="font-semibold">{t("Over it")}</h2>
            <Button className="ml-auto !min-h-6 !px-2 !py-0" onClick={() => choose(NOTHING)}>
              {t("Take off")}
            </Button>
          </div>
          <NumberRow
            label={t("Hides what is under")}
            unit=""
            id="hides"
            span={HIDES}
            value={over.hides}
            before={before.over?.hides ?? over.hides}
            onDrag={(hides) => drag({ ...recipe, over: { ...over, hides } })}
            onLetGo={letGo}
            onCommit={(hides) => set({ ...recipe, over: { ...over, hides } })}
              />
          <Numbers
            recipe={over.recipe}
            before={before.over?.recipe ?? over.recipe}
            what="Upper surface"
            set={(r) => set({ ...recipe, over: { ...over, recipe: r } })}
            slide={(r) => drag({ ...recipe, over: { ...over, recipe: r } })}
          />
        </>
      ) : (
        <div className="flex items-center gap-2 py-1">
          <span>{t("Over it")}</span>
          <Choice label={t("Over it")} value={NOTHING} options={surfaces} onChange={choose} className="ml-auto" />
        </div>
      )}
    </section>
  );
}

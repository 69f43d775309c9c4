/** Which ground the tool is tried on: one that the painter keeps, or the tool's own copy where that is another. */

import { Link } from "react-router";
import { calledOf, sameGround } from "../../model/ground";
import { withGround } from "../../model/tool";
import { Choice } from "../../ui/controls";
import { useDeclared, useBenchContext } from "../../session/context";
import { useFollowed } from "../../session/followed";
import { edit, useKept } from "../../session/store";
import { t } from "../../model/said";

/** Stands for the copy in the tool. */
const OWN = "own";

export function WhichGround() {
  const { grounds } = useBenchContext();
  const { declarations } = useDeclared();
  const document = useFollowed();
  const kept = useKept();
  if (!document) return null;
  const same = grounds.find((g) => sameGround(g.recipe, document.ground));
  const changed = kept !== null && !sameGround(kept.ground, document.ground);
  const options: [string, string][] = grounds.map((g) => [g.id, g.name]);
  if (!same) options.unshift([OWN, `${calledOf(declarations, document.ground)}, the tool's own`]);
  const take = (id: string) => {
    const ground = grounds.find((g) => g.id === id);
    if (ground) edit((d) => withGround(d, ground.recipe));
  };
  return (
    <div className="flex items-center gap-2 border-t border-hair py-1" title={t("What the proof sheet is laid on. The tool keeps a copy of its own.")}>
      <span>{t("Ground")}</span>
      {changed && <span className="inline-block h-1.5 w-1.5 rounded-full bg-draft" role="img" aria-label={t("changed")} />}
      <span className="ml-auto flex min-w-0 items-center gap-2">
        {changed && (
          <button
            type="button"
            className="max-w-28 truncate text-muted line-through"
            title={t("Put this back")}
            aria-label={t("Put the ground back to {{v0}}", { v0: calledOf(declarations, kept.ground) })}
            onClick={() => edit((d) => withGround(d, kept.ground))}
          >
            {calledOf(declarations, kept.ground)}
          </button>
        )}
        <Choice label={t("Ground")} value={same?.id ?? OWN} options={options} onChange={take} className="max-w-52" />
        <Link className="text-draft underline" to="/grounds">
          {t("Grounds")}
        </Link>
      </span>
    </div>
  );
}

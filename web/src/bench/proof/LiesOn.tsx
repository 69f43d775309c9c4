/** What the strips lie on: of what the tool's medium declares, or strokes of any tool along any gesture. */

import { useEffect, useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { listGestures, listTools } from "../../api/client";
import { wayOf } from "../../api/ways";
import { useDeclared } from "../../session/context";
import { STROKES, chosenUnder, lieOn } from "../../session/choices";
import { useFollowed } from "../../session/followed";
import { useBench } from "../../session/store";
import { Choice } from "../../ui/controls";
import { t } from "../../model/said";

const QUIET = "!min-h-6 !border-transparent !bg-transparent !px-0 text-muted";

export function LiesOn() {
  const { medium } = useDeclared();
  const document = useFollowed();
  const chosen = useBench((s) => document && chosenUnder(s, document));
  const unders = medium.actions.find((a) => a.action === document?.action)?.unders ?? [];
  const first = unders[0];
  if (!document || !first) return null;
  return (
    <span className="ml-4 flex min-w-0 shrink items-center gap-1 whitespace-nowrap text-muted">
      <span>{t("lies on")}</span>
      <Choice
        label={t("Strips lie on")}
        className={QUIET}
        value={chosen ?? first.id}
        options={[...unders.map((u): [string, string] => [u.id, u.label]), [STROKES, "strokes of"]]}
        onChange={(under) => lieOn(document, under)}
      />
      {chosen === STROKES && <StrokesOf />}
    </span>
  );
}

const STORED = "saltmarsh.strokesOf";
/** Each row's own gesture. */
const OWN = "own";

/** Ids of the tool and the gesture that were chosen last. */
function readChosen(): [string, string] {
  const [tool = "", gesture = OWN] = (localStorage.getItem(STORED) ?? "").split(" ");
  return [tool, gesture || OWN];
}

function StrokesOf() {
  const tools = useQuery({ queryKey: ["tools"], queryFn: listTools });
  const gestures = useQuery({ queryKey: ["gestures"], queryFn: listGestures });
  const mine = useBench((s) => s.tool?.id);
  const [[tool, gesture], setChosen] = useState(readChosen);
  const all = tools.data ?? [];
  const of = all.find((t) => t.id === tool) ?? all.find((t) => t.id !== mine);
  const along = gestures.data?.find((g) => g.id === gesture);
  const document = of?.kept.document;
  useEffect(() => {
    if (!document) return;
    let current = true;
    const chosen = async () => {
      const gesture = along ? { id: along.id, inkml: await wayOf(along), recorder: along.stylus } : null;
      if (current) useBench.setState({ before: { tool: document, gesture } });
    };
    void chosen();
    return () => {
      current = false;
    };
  }, [document, along]);
  const choose = (chosen: [string, string]) => {
    localStorage.setItem(STORED, chosen.join(" "));
    setChosen(chosen);
  };
  if (!of) return null;
  return (
    <>
      <Choice label={t("Tool that laid them")} className={`${QUIET} min-w-0 max-w-32`} value={of.id} options={all.map((t) => [t.id, t.name])} onChange={(id) => choose([id, gesture])} />
      <Choice
        label={t("Gesture they follow")}
        className={`${QUIET} min-w-0 max-w-32`}
        value={along?.id ?? OWN}
        options={[[OWN, "same gesture"], ...(gestures.data ?? []).map((g): [string, string] => [g.id, g.name])]}
        onChange={(id) => choose([of.id, id])}
      />
    </>
  );
}

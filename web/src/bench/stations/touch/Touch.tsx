/** Touch: the responses, the one that is open, and how the stroke builds. */

import { useState } from "react";
import type { Quality, Signal } from "../../../generated/core";
import { firstOutput, freeId, isChance, type Response, type ToolDocument } from "../../../model/tool";
import { useSize } from "../../../plot/useSize";
import { Button, Choice } from "../../../ui/controls";
import { useDeclared } from "../../../session/context";
import { edit, useBench, useDocument, useKept } from "../../../session/store";
import { Matrix } from "./Matrix";
import { Strays } from "./Strays";
import { OpenResponse } from "./OpenResponse";
import { Rows } from "../../../media/ParameterRow";
import { t } from "../../../model/said";

export function Touch() {
  const document = useDocument();
  const kept = useKept();
  const chosen = useBench((s) => s.response);
  const { ref, size } = useSize<HTMLDivElement>();
  const [all, setAll] = useState(false);
  const add = useAdd(document);
  const { medium } = useDeclared();
  const response = document?.responses.find((r) => r.id === chosen) ?? document?.responses.find((r) => !isChance(r.signal));
  if (!document) return null;
  const open = (id: string) => {
    useBench.setState({ response: id });
    setAll(false);
  };
  return (
    <div ref={ref}>
      <Responses document={document} open={response ?? null} all={all} onAll={() => setAll(!all)} onAdd={() => add("pressure")} />
      {all && (
        <Matrix
          document={document}
          onOpen={open}
          onAdd={(signal, quality) => {
            add(signal, quality);
            setAll(false);
          }}
        />
      )}
      {!all && response && size.width > 0 && (
        <OpenResponse key={response.id} document={document} kept={kept} response={response} width={size.width} />
      )}
      <Strays document={document} />
      <Rows ids={medium.parameters.filter((p) => p.station === "touch").map((p) => p.id)} />
    </div>
  );
}

/** Adds a straight response and opens it; without a quality, on one that has none. */
function useAdd(document: ToolDocument | null) {
  const { signal, ownParameter, qualities } = useDeclared();
  return (from: Signal, to?: Quality) => {
    const info = signal(from);
    const free = qualities.find((q) => !document?.responses.some((r) => r.quality === q));
    const quality = to ?? free ?? "flow";
    const own = ownParameter(quality);
    if (!document || !info || !own) return;
    const added: Response = {
      id: freeId(document),
      quality,
      signal: from,
      input: [info.low, info.high],
      curve: [[0, 0], [1, 1]],
      output: [0, 1],
      amount: 1,
      on: true,
    };
    added.output = firstOutput({ ...document, responses: [...document.responses, added] }, added, own);
    edit((d) => ({ ...d, responses: [...d.responses, added] }));
    useBench.setState({ response: added.id });
  };
}

function Responses(props: { document: ToolDocument; open: Response | null; all: boolean; onAll: () => void; onAdd: () => void }) {
  const { document, open } = props;
  const { signal, ownParameter } = useDeclared();
  const kept = useKept();
  // How things stray stands apart; only the curve of a throw opens here.
  const shown = document.responses.filter((r) => !isChance(r.signal) || r.id === open?.id);
  const label = (r: Response) => {
    const same = kept?.responses.find((k) => k.id === r.id);
    const mark = same && JSON.stringify(same) === JSON.stringify(r) ? "" : " •";
    return `${signal(r.signal)?.label ?? r.signal} → ${(ownParameter(r.quality)?.label ?? r.quality).toLowerCase()}${mark}`;
  };
  return (
    <div className="flex items-center gap-2 pb-1">
      {shown.length > 0 ? (
        <Choice
          label={t("Response")}
          className="min-w-0 flex-1 font-semibold"
          value={open?.id ?? ""}
          options={shown.map((r) => [r.id, label(r) + (r.on ? "" : " (off)")])}
          onChange={(id) => useBench.setState({ response: id })}
        />
      ) : (
        <span className="flex-1 text-muted">{t("No response: the hand changes nothing.")}</span>
      )}
      <Button aria-pressed={props.all} onClick={props.onAll} title={t("All signals and qualities at a glance")}>
        {t("All")}
      </Button>
      <Button onClick={props.onAdd} title={t("Add a response")}>
        {t("Add")}
      </Button>
    </div>
  );
}

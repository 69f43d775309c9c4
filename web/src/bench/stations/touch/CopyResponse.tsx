/** A copy of a response: on another quality of this tool, or in another tool's draft. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import { dropDraft, listTools, saveDraft, showTool } from "../../../api/client";
import { withCopy, type Response } from "../../../model/tool";
import { Button, Choice } from "../../../ui/controls";
import { useDeclared } from "../../../session/context";
import { edit, useBench } from "../../../session/store";
import { say, tellDone } from "../../../session/notices";
import { Refused } from "../../../model/refused";
import { t } from "../../../model/said";

const HERE = "here";

export function CopyResponse({ response }: { response: Response }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="min-h-6 rounded border border-line bg-raised px-2" title={t("Copy this response to another quality or tool")}>
        {t("Copy…")}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} collisionPadding={16} aria-label={t("Copy the response")} className="z-50 rounded border border-line bg-pane p-3 shadow-lg">
          <Where response={response} onDone={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Where({ response, onDone }: { response: Response; onDone: () => void }) {
  const { qualities, ownParameter } = useDeclared();
  const tools = useQuery({ queryKey: ["tools"], queryFn: listTools });
  const mine = useBench((s) => s.tool?.id);
  const queries = useQueryClient();
  const [quality, setQuality] = useState(response.quality);
  const [tool, setTool] = useState(HERE);
  const own = ownParameter(quality);
  const copy = async () => {
    if (!own) return;
    onDone();
    if (tool === HERE) {
      edit((d) => {
        const copied = withCopy(d, response, quality, own);
        useBench.setState({ response: copied.id });
        return copied.document;
      });
      return;
    }
    try {
      // The newest of that tool, whoever saved it.
      const there = await showTool(tool);
      const before = there.draft;
      const { document } = withCopy(before?.document ?? there.kept.document, response, quality, own);
      const saved = await saveDraft(tool, before?.version ?? 0, before?.based_on ?? there.kept.number, document);
      await queries.invalidateQueries({ queryKey: ["tools"] });
      const back = async () => {
        await (before ? saveDraft(tool, saved.version, before.based_on, before.document) : dropDraft(tool, saved.version));
        await queries.invalidateQueries({ queryKey: ["tools"] });
      };
      tellDone(t("Copied to the draft of {{name}}.", { name: there.kept.document.name }), () => void back().catch((e: unknown) => say(e instanceof Refused ? e.message : String(e))));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      say(error.message);
    }
  };
  return (
    <div className="grid gap-2">
      <div className="flex items-center gap-2">
        <span className="w-14">{t("To")}</span>
        <Choice label={t("Quality of the copy")} value={quality} options={qualities.map((q) => [q, ownParameter(q)?.label ?? q])} onChange={setQuality} />
      </div>
      <div className="flex items-center gap-2">
        <span className="w-14">{t("of")}</span>
        <Choice
          label={t("Tool of the copy")}
          value={tool}
          options={[[HERE, "this tool"], ...(tools.data ?? []).filter((t) => t.id !== mine).map((t): [string, string] => [t.id, t.name])]}
          onChange={setTool}
        />
      </div>
      <Button primary className="justify-self-end" onClick={() => void copy()}>
        {t("Copy")}
      </Button>
    </div>
  );
}

/** The tool on the bench: its name, what changed, whether it is safe, and keeping it. */

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Tool } from "../api/client";
import { changes } from "../model/tool";
import { useShownKey } from "../keys/registry";
import { Button, Choice, Notice } from "../ui/controls";
import { Naming } from "../ui/Naming";
import { AdviceList } from "./AdviceList";
import { WhichMedium } from "./WhichMedium";
import { useDeclared } from "../session/context";
import { keep, keepAsNew, switchTo, takeTheirs } from "../session/saving";
import { useFollowed } from "../session/followed";
import { edit, redo, undo, useBench, useDocument, useKept } from "../session/store";
import { t } from "../model/said";

export function TitleBar({ tools }: { tools: Tool[] }) {
  const tool = useBench((s) => s.tool);
  const kept = useKept();
  const draft = useFollowed();
  const canUndo = useBench((s) => s.past.length > 0);
  const canRedo = useBench((s) => s.future.length > 0);
  const naming = useBench((s) => s.naming);
  const keys = [useShownKey("undo"), useShownKey("redo"), useShownKey("keep")];
  const { medium } = useDeclared();
  const queries = useQueryClient();
  if (!tool || !kept || !draft) return null;
  const { count } = changes(kept, draft, medium.parameters);
  const refresh = () => queries.invalidateQueries({ queryKey: ["tools"] });
  return (
    <div className="flex min-h-[42px] flex-wrap items-center gap-2">
      <h1 className="contents">
        <Choice
          label={t("Tool")}
          className="!border-transparent !bg-transparent text-[17px] font-semibold"
          value={tool.id}
          options={tools.map((t) => [t.id, t.id === tool.id ? draft.name : t.name])}
          onChange={(id) => {
            const next = tools.find((t) => t.id === id);
            if (next) void switchTo(next);
          }}
        />
      </h1>
      <WhichMedium />
      <Choice
        label={t("Action")}
        className="!min-h-6 !border-transparent !bg-transparent !px-0 text-muted"
        value={draft.action}
        options={medium.actions.map((a) => [a.action, a.word])}
        onChange={(action) => edit((d) => ({ ...d, action }))}
      />
      <span className="truncate text-muted" data-testid="draft-status">
        {count === 0 ? t("as kept in v{{number}}", { number: tool.kept.number }) : t(count === 1 ? "draft of v{{number}}, 1 change" : "draft of v{{number}}, {{changes}} changes", { number: tool.kept.number, changes: count })}
      </span>
      <span className="ml-auto flex flex-wrap items-center gap-2">
        <AdviceList />
        <SavingLine />
        <Button onClick={undo} disabled={!canUndo} title={keys[0]}>
          {t("Undo")}
        </Button>
        <Button onClick={redo} disabled={!canRedo} title={keys[1]}>
          {t("Redo")}
        </Button>
        <Button disabled={count === 0} onClick={() => edit(() => kept)} title={t("Back to the kept version; undo brings the draft back")}>
          {t("Put back")}
        </Button>
        <Button onClick={() => useBench.setState({ about: true })} title={t("Its name, use, versions and steps")}>
          {t("Tool…")}
        </Button>
        <Button onClick={() => useBench.setState({ naming: true })}>{t("Keep as new…")}</Button>
        <Button primary disabled={count === 0} onClick={() => void keep().then(refresh)} title={keys[2]}>
          {t("Keep v")}{tool.kept.number + 1}
        </Button>
      </span>
      {naming && <KeepAsNew name={draft.name} onDone={() => void refresh()} />}
    </div>
  );
}

function SavingLine() {
  const saving = useBench((s) => s.saving);
  const text = {
    saved: "saved",
    saving: "saving…",
    away: "not saved",
    conflict: "not saved",
    refused: "not saved",
  }[saving.state];
  const warn = saving.state !== "saved" && saving.state !== "saving";
  return (
    <span role="status" className={warn ? "font-semibold text-warn" : "text-muted"} data-testid="saving">
      {text}
    </span>
  );
}

/** Work that is not safe yet. */
export function Notices() {
  const saving = useBench((s) => s.saving);
  if (saving.state === "conflict") {
    return (
      <Notice>
        <span className="font-semibold text-warn">{saving.message}</span>
        <span>{t("Your draft is safe here.")}</span>
        <span className="ml-auto flex gap-2">
          <Button onClick={() => void takeTheirs()}>{t("Take the other")}</Button>
          <Button primary onClick={() => useBench.setState({ naming: true })}>
            {t("Keep mine as new…")}
          </Button>
        </span>
      </Notice>
    );
  }
  if (saving.state !== "away" && saving.state !== "refused") return null;
  return (
    <Notice>
      <span className="text-warn">{saving.message}</span>
    </Notice>
  );
}

function KeepAsNew({ name, onDone }: { name: string; onDone: () => void }) {
  const [intent, setIntent] = useState(useDocument()?.intent ?? "");
  const keep = async (newName: string) => {
    await keepAsNew(newName, intent.trim());
    onDone();
  };
  return (
    <Naming title={t("Keep as a new tool")} start={`${name}, 2`} act={t("Keep v1")} onName={keep} onClose={() => useBench.setState({ naming: false })}>
      <label className="mb-2 grid gap-1">
        {t("What it is for")}
        <input className="rounded border border-line bg-raised px-2 py-1" maxLength={400} value={intent} onChange={(e) => setIntent(e.target.value)} />
      </label>
    </Naming>
  );
}

/** About the tool on the bench: its name and use, its versions, and the steps of the work on it. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { versionsOf, type Kept, type Tool } from "../api/client";
import { changes } from "../model/tool";
import { useDeclared } from "../session/context";
import { keep } from "../session/saving";
import { toldStep } from "../session/toldStep";
import { edit, goToStep, useBench, useDocument } from "../session/store";
import { Sample } from "../media/Sample";
import { Button, Dialog } from "../ui/controls";
import { timeSaid } from "../model/number";
import { t } from "../model/said";

export function About() {
  const open = useBench((s) => s.about);
  const tool = useBench((s) => s.tool);
  const close = () => useBench.setState({ about: false });
  if (!tool) return null;
  return (
    <Dialog open={open} title={t("This tool")} wide onClose={close}>
      <div className="grid max-h-[74vh] grid-cols-[minmax(0,1fr)] gap-5 overflow-y-auto wide:grid-cols-[minmax(0,3fr)_minmax(0,2fr)] p-1">
        <div className="grid content-start gap-3">
          <Names />
          <Versions tool={tool} onCompared={close} />
        </div>
        <Steps />
      </div>
    </Dialog>
  );
}

function Names() {
  const document = useDocument();
  const id = useId();
  if (!document) return null;
  const take = (field: "name" | "intent") => (text: string) => text !== document[field] && edit((d) => ({ ...d, [field]: text }));
  return (
    <section aria-labelledby={id} className="grid gap-1.5">
      <h3 id={id} className="sr-only">
        {t("Name and use")}
      </h3>
      <Words label={t("Name")} value={document.name} needed most={80} onTake={take("name")} />
      <Words label={t("What it is for")} value={document.intent} most={400} onTake={take("intent")} />
    </section>
  );
}

/** Words of the document, taken on Enter or when left. */
function Words(props: { label: string; value: string; needed?: boolean; most: number; onTake: (text: string) => void }) {
  const [text, setText] = useState(props.value);
  const [shown, setShown] = useState(props.value);
  if (shown !== props.value) {
    setShown(props.value);
    setText(props.value);
  }
  const missing = props.needed && text.trim() === "";
  const take = () => !missing && props.onTake(text.trim());
  return (
    <label className="grid grid-cols-[7rem_minmax(0,1fr)] items-center gap-2">
      {props.label}
      <input
        className={`rounded border bg-raised px-2 py-1 ${missing ? "border-warn" : "border-line"}`}
        aria-invalid={missing}
        maxLength={props.most}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => e.key === "Enter" && take()}
      />
      {missing && (
        <span role="alert" className="col-start-2 text-[12px] text-warn">
          {t("A tool needs a name.")}
        </span>
      )}
    </label>
  );
}

function Versions({ tool, onCompared }: { tool: Tool; onCompared: () => void }) {
  const id = useId();
  const draft = useDocument();
  const note = useBench((s) => s.note);
  const queries = useQueryClient();
  const { medium } = useDeclared();
  const versions = useQuery({ queryKey: ["versions", tool.id, tool.kept.number], queryFn: () => versionsOf(tool.id) });
  const changed = draft ? changes(tool.kept.document, draft, medium.parameters).count : 0;
  const told = (v: Kept) => {
    const count = draft ? changes(v.document, draft, medium.parameters).count : 0;
    return count === 0 ? "as the draft is" : `${count} difference${count === 1 ? "" : "s"} to the draft`;
  };
  return (
    <section aria-labelledby={id}>
      <h3 id={id} className="font-semibold">
        {t("Versions")}
      </h3>
      <div className="my-1.5 flex items-center gap-2">
        <input
          aria-label={t("Note to the next version")}
          placeholder={t("Note to v{{v0}}", { v0: tool.kept.number + 1 })}
          maxLength={400}
          className="min-w-0 flex-1 rounded border border-line bg-raised px-2 py-1"
          value={note}
          onChange={(e) => useBench.setState({ note: e.target.value })}
        />
        <Button primary disabled={changed === 0} onClick={() => void keep().then(() => queries.invalidateQueries({ queryKey: ["tools"] }))}>
          {t("Keep v")}{tool.kept.number + 1}
        </Button>
      </div>
      {versions.isPending && <p className="text-muted">{t("Looking for them…")}</p>}
      {versions.error && <p className="text-warn">{versions.error.message}</p>}
      <ul aria-label={t("Versions")}>
        {versions.data?.map((v) => (
          <li key={v.number} className="grid grid-cols-[9rem_minmax(0,1fr)_auto] items-center gap-3 border-t border-hair py-1.5">
            <Sample id={`${tool.id}:${v.number}`} document={v.document} hash={v.content_hash} />
            <span className="min-w-0">
              <span className="block">
                <b>{t("v")}{v.number}</b> <span className="text-muted">{timeSaid(v.kept_at)}</span>
                {v.number === 1 && <span className="text-muted">{t(", as it came")}</span>}
              </span>
              {v.note && <span className="block">{v.note}</span>}
              <span className="block text-[12px] text-muted">{told(v)}</span>
            </span>
            <span className="flex flex-col gap-1">
              <Button
                className="!min-h-7 !px-2 !py-0"
                title={t("Its strokes stand beside the draft's on the proof sheet")}
                onClick={() => {
                  useBench.setState({ against: v.number === tool.kept.number ? null : { id: `${tool.id}:${v.number}`, name: `v${v.number}`, document: v.document } });
                  onCompared();
                }}
              >
                {t("Compare")}
              </Button>
              <Button className="!min-h-7 !px-2 !py-0" title={t("The draft becomes this version; undo brings it back")} onClick={() => edit(() => v.document)}>
                {t("Take back")}
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Steps that are listed on either side of now. */
const SHOWN = 40;

function Steps() {
  const id = useId();
  const past = useBench((s) => s.past);
  const now = useBench((s) => s.now);
  const future = useBench((s) => s.future);
  const { medium } = useDeclared();
  if (!now) return null;
  const all = [...past, now, ...future];
  const rows = all.map((step, i) => ({ by: i - past.length, text: i === 0 ? "as it was opened" : toldStep(all[i - 1] ?? step, step, medium.parameters) })).filter(({ by }) => Math.abs(by) <= SHOWN);
  return (
    <section aria-labelledby={id} className="min-w-0">
      <h3 id={id} className="font-semibold">
        {t("Steps")}
      </h3>
      <p className="text-[12px] text-muted">{t("Kept in this browser, also beyond a reload. A step taken back can be gone forward to.")}</p>
      <ol aria-label={t("Steps")} className="mt-1 max-h-[56vh] overflow-y-auto">
        {rows.reverse().map(({ by, text }) => (
          <li key={by}>
            <button
              type="button"
              aria-current={by === 0 ? "step" : undefined}
              className={`block min-h-7 w-full truncate rounded px-2 text-left hover:bg-ground ${by === 0 ? "font-semibold text-draft" : by > 0 ? "text-muted" : ""}`}
              onClick={() => goToStep(by)}
            >
              {text}
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}

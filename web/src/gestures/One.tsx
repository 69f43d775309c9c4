/** One gesture: its names, its channels, and what can be done to its way. */

import { useState } from "react";
import type { Gesture } from "../api/client";
import { wayOf } from "../api/ways";
import { engine } from "../engine/client";
import { PACKED, type Turn } from "../engine/types";
import { Button, NumberField } from "../ui/controls";
import { Channels } from "./Channels";
import type { GestureChange } from "../session/changing";
import { added, turned, type Change } from "./steps";
import { usePasses } from "./usePasses";
import { counted, fixed } from "../model/number";
import { t } from "../model/said";

interface OneProps {
  gesture: Gesture;
  /** Where it is downloaded. */
  file: string;
  change: Change;
  known: () => Gesture[];
  onSet: (to: GestureChange) => void;
  onRemove: () => void;
}

export function One({ gesture, file, change, known, onSet: set, onRemove }: OneProps) {
  const passes = usePasses(gesture);
  const first = passes?.[0]?.[0] ?? 0;
  const length = (passes?.at(-1)?.at(-PACKED) ?? first) - first;
  const [trim, setTrim] = useState<[number, number] | null>(null);
  const [scale, setScale] = useState(1);
  const keep: [number, number] = trim ?? [0, length];
  const samples = passes?.reduce((n, p) => n + p.length / PACKED, 0) ?? 0;
  /** Changes the way; what it was can be brought back. */
  const turn = (what: string, how: Turn) =>
    void change(async () => turned(known, gesture, await wayOf(gesture), (inkml) => engine.turned(inkml, how), t("{{name}} was {{what}}.", { name: gesture.name, what: t(what) })), "with a way back");
  const duplicate = () =>
    void change(async () => {
      const name = `${gesture.name.slice(0, 70)}, copy`;
      return added([{ name, note: gesture.note, inkml: await wayOf(gesture), stylus: gesture.stylus }], t("{{name}} was kept.", { name }));
    });
  return (
    <section aria-label={gesture.name} className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)_auto] px-3 py-2">
      <div className="flex flex-wrap items-center gap-2 pb-1">
        <TextField label={t("Name")} value={gesture.name} width="w-44 font-semibold" onCommit={(name) => set({ name })} />
        <TextField label={t("Note")} value={gesture.note} width="w-52" onCommit={(note) => set({ note })} />
        <TextField label={t("Tags")} value={gesture.tags.join(", ")} width="w-44" onCommit={(text) => set({ tags: text.split(",").map((t) => t.trim()).filter(Boolean) })} />
        <span className="num ml-auto text-muted" data-testid="gesture-size">
          {gesture.stylus ? `${gesture.stylus.name}, ` : ""}
          {fixed(length, 2)} s, {counted(samples)}{" "}{t("reports")}
        </span>
      </div>
      {passes ? <Channels passes={passes} keep={keep} /> : <span />}
      <div className={`flex-wrap items-center gap-1.5 border-t border-hair pt-1 ${passes ? "flex" : "hidden"}`}>
        <span className="text-muted">{t("Keep from")}</span>
        <NumberField label={t("Trim from")} value={keep[0]} low={0} high={keep[1]} step={0.01} width="w-14" onCommit={(v) => setTrim([v, keep[1]])} />
        <span aria-hidden>–</span>
        <NumberField label={t("Trim to")} value={keep[1]} low={keep[0]} high={Math.max(length, keep[0])} step={0.01} width="w-14" onCommit={(v) => setTrim([keep[0], v])} />
        <span className="text-muted">{t("s")}</span>
        <Button disabled={trim === null} onClick={() => turn("trimmed", { kind: "trim", from: keep[0], to: keep[1] })}>
          {t("Trim")}
        </Button>
        <span className="pl-2 text-muted">{t("Size ×")}</span>
        <NumberField label={t("Scale by")} value={scale} low={0.05} high={20} step={0.01} width="w-14" onCommit={setScale} />
        <Button disabled={scale === 1} onClick={() => turn("scaled", { kind: "scale", by: scale })}>
          {t("Scale")}
        </Button>
        <Button onClick={() => turn("reversed", { kind: "reverse" })}>{t("Reverse")}</Button>
        <span className="ml-auto" />
        <Button onClick={duplicate}>{t("Duplicate")}</Button>
        <a className="flex min-h-7 items-center rounded border border-line bg-raised px-3" href={file} download aria-label={t("Save {{name}} as InkML", { name: gesture.name })}>
          {t("Save InkML")}
        </a>
        <Button onClick={onRemove}>{t("Take away")}</Button>
      </div>
    </section>
  );
}

/** Text that is committed on Enter or when left. */
function TextField({ label, value, width, onCommit }: { label: string; value: string; width: string; onCommit: (text: string) => void }) {
  const [text, setText] = useState(value);
  const take = () => text.trim() !== value && onCommit(text.trim());
  return (
    <label className="flex items-center gap-1 text-muted">
      {label}
      <input
        className={`rounded border border-line bg-raised px-1.5 py-0.5 text-ink ${width}`}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => e.key === "Enter" && take()}
      />
    </label>
  );
}

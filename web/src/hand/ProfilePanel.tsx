/** The stylus: which one, what is known of it, what is seen of it here, and what bends it on the way. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { listStyluses, type Stylus } from "../api/client";
import { say, tellDone } from "../session/notices";
import { useBenchContext } from "../session/context";
import { useBench } from "../session/store";
import { engine } from "../engine/client";
import type { Observed } from "../engine/types";
import { PLAIN_HAND, type Profile, type ProfileField } from "../model/hand";
import { Button, Choice, NumberField, Toggle } from "../ui/controls";
import { FileButton } from "../ui/FileButton";
import { saveFile } from "../ui/saveFile";
import { heard, packedStrokes, perEvent, reportedBy } from "./monitor";
import { choose, keepNew, recognise, takeAway } from "../session/handSaving";
import { change, NO_PEN, useHand } from "../session/handStore";
import { saidOf } from "../model/refused";
import { counted, fixed } from "../model/number";
import { t } from "../model/said";

const PLAIN = "plain";
/** A stylus file may be this large, bytes; the core's limit. */
const MOST_BYTES = 256 * 1024;

export function ProfilePanel() {
  const { declarations } = useBenchContext();
  const hand = useBench((s) => s.hand);
  const set = (c: Partial<Profile>) => change({ ...hand, profile: { ...hand.profile, ...c } });
  return (
    <section aria-label={t("Stylus")} className="min-h-0 border-line bg-raised px-3 py-2 wide:overflow-y-auto wide:border-r">
      <Kept />
      <label className="flex min-h-7 items-center gap-2 border-t border-hair">
        {t("Name")}
        <NameField key={hand.profile.name} name={hand.profile.name} onCommit={(name) => set({ name })} />
      </label>
      {declarations.profile_fields.map((f) => (
        <div key={f.key} className="flex min-h-7 items-center gap-1 border-t border-hair">
          <span title={f.help}>{f.label}</span>
          <span className="ml-auto flex items-center gap-1">
            <NumberField
              label={f.label}
              value={Number(hand.profile[f.key as ProfileField["key"]])}
              low={f.key === "full_gf" ? Math.max(f.low, hand.profile.first_gf + 1) : f.low}
              high={f.key === "first_gf" ? Math.min(f.high, hand.profile.full_gf - 1) : f.high}
              step={f.step}
              onCommit={(v) => set({ [f.key]: v })}
            />
            <span className="w-6 text-muted">{f.unit}</span>
          </span>
        </div>
      ))}
      <div className="flex min-h-7 items-center border-t border-hair">
        {t("Barrel")}
        <span className="ml-auto">
          <Toggle label={t("The barrel's turn is reported")} on={hand.profile.barrel} onChange={(barrel) => set({ barrel })} />
        </span>
      </div>
      <Seen />
    </section>
  );
}

function NameField({ name, onCommit }: { name: string; onCommit: (name: string) => void }) {
  const [text, setText] = useState(name);
  const take = () => {
    const wanted = text.trim();
    if (wanted === "" || wanted.length > 80) {
      say(t("Name: 1 to 80 characters"));
      setText(name);
    } else if (wanted !== name) onCommit(wanted);
  };
  return (
    <input
      aria-label={t("Name of the stylus")}
      className="ml-auto w-44 rounded border border-transparent bg-raised px-1 py-0.5 text-right hover:border-line"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => e.key === "Enter" && take()}
    />
  );
}

/** The styluses that are kept, and their way in and out. */
function Kept() {
  const styluses = useQuery({ queryKey: ["styluses"], queryFn: listStyluses });
  const inHand = useHand((s) => s.stylus);
  const hand = useBench((s) => s.hand);
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: ["styluses"] });
  const all = styluses.data ?? [];
  useEffect(() => {
    void queries.invalidateQueries({ queryKey: ["styluses"] });
  }, [inHand?.id, inHand?.version, queries]);
  /** Does something to styluses; says why where it cannot be done. */
  const attempt = async (name: string, work: () => Promise<unknown>) => {
    try {
      await work();
      await refresh();
    } catch (error) {
      say(`${name}: ${saidOf(error)}`);
    }
  };
  const read = (chosen: File) => {
    if (chosen.size > MOST_BYTES) return say(t("{{name}}: may be at most 256 KiB", { name: chosen.name }));
    void attempt(chosen.name, async () => keepNew(await engine.readStylus(await chosen.text())));
  };
  const remove = (stylus: Stylus) =>
    void attempt(stylus.document.profile.name, async () => {
      const bringBack = await takeAway(stylus);
      const name = stylus.document.profile.name;
      tellDone(t("{{name}} was taken away.", { name }), () => attempt(name, bringBack));
    });
  const write = async () => {
    saveFile(`${hand.profile.name.replace(/[^A-Za-z0-9-]+/g, "-")}.json`, "application/json", await engine.writeStylus(hand));
  };
  const mine = all.find((s) => s.id === inHand?.id);
  return (
    <>
      <div className="flex items-center gap-1.5 pb-1">
        <Choice
          label={t("Stylus")}
          className="min-w-0 flex-1 font-semibold"
          value={inHand?.id ?? PLAIN}
          options={[...(inHand ? [] : [[PLAIN, PLAIN_HAND.profile.name] as [string, string]]), ...all.map((s): [string, string] => [s.id, s.document.profile.name])]}
          onChange={(id) => {
            const stylus = all.find((s) => s.id === id);
            if (stylus) void choose(stylus);
          }}
        />
      </div>
      <div className="flex gap-1 pb-1 text-[12px]">
        <FileButton className="!min-h-6 !px-2 !py-0" text={t("Read…")} label={t("Stylus file")} accept=".json,application/json" onFiles={([chosen]) => chosen && read(chosen)} />
        <Button className="!min-h-6 !px-2 !py-0" onClick={() => void write()}>
          {t("Write")}
        </Button>
        <Button className="!min-h-6 !px-2 !py-0" onClick={() => void attempt(hand.profile.name, () => keepNew(hand))}>
          {t("Keep a copy")}
        </Button>
        <Button
          className="ml-auto !min-h-6 !px-2 !py-0"
          disabled={!mine}
          onClick={() => mine && remove(mine)}
        >
          {t("Take away")}
        </Button>
      </div>
    </>
  );
}

const LOOK_MS = 700;

/** What the reports themselves say. */
function Seen() {
  const [seen, setSeen] = useState<Observed | null>(null);
  const styluses = useQuery({ queryKey: ["styluses"], queryFn: listStyluses });
  const kept = useRef(styluses.data);
  useEffect(() => {
    kept.current = styluses.data;
  });
  useEffect(() => {
    let looked = -1;
    const look = setInterval(() => {
      if (heard() === looked) return;
      looked = heard();
      const { samples, ends } = packedStrokes();
      const by = reportedBy();
      void engine.observe(samples, ends, by !== "stand-in").then((next) => {
        setSeen(next);
        // A simulated stylus is not the painter's own.
        const device = by === "played" ? null : deviceOf(next, by === "pen");
        if (device && kept.current) recognise(device, kept.current);
      });
    }, LOOK_MS);
    return () => clearInterval(look);
  }, []);
  const facts: [string, string][] = seen
    ? [
        ["Reports a second", seen.rate_hz > 0 ? fixed(seen.rate_hz) : "–"],
        ["Reports an event", perEvent() > 0 ? fixed(perEvent(), 1) : "–"],
        ["Levels seen", `${counted(seen.distinct_levels)}${seen.levels > 0 ? ` of about ${counted(seen.levels)}` : ""}`],
        ["Channels", ["force", seen.has_tilt && "tilt, lean", seen.has_barrel && "barrel"].filter(Boolean).join(", ")],
      ]
    : [];
  return (
    <div data-testid="seen">
      <h2 className="pb-1 pt-3 font-semibold">{t("Seen here")}</h2>
      {(!seen || seen.reports === 0) && <p className="text-muted">{t("Draw on the pad to see what the pen reports.")}</p>}
      {seen && seen.reports > 0 && (
        <>
          {facts.map(([label, value]) => (
            <div key={label} className="flex border-t border-hair py-0.5">
              {label}
              <span className="num ml-auto">{value}</span>
            </div>
          ))}
          {seen.warnings.map((w) => (
            <div key={w.code} role="note" data-warning={w.code} className="mt-1 border-l-2 border-warn pl-2 text-[12px]">
              <p className="font-semibold text-warn">{t(w.what)}</p>
              <p>{t(w.means)}</p>
              <p className="text-muted">{t(w.remedy)}</p>
            </div>
          ))}
        </>
      )}
    </div>
  );
}

/** How the browser's reports name a device; null while too little was seen. */
function deviceOf(seen: Observed, pen: boolean): string | null {
  if (!pen) return seen.reports > 8 ? NO_PEN : null;
  if (seen.reports < 200 || seen.levels === 0) return null;
  const levels = 2 ** Math.round(Math.log2(seen.levels));
  return ["pen", `${levels} levels`, seen.has_tilt && "tilt", seen.has_barrel && "barrel"].filter(Boolean).join(", ");
}

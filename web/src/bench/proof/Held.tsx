/** What the tool on the free row holds, across its tip, and what is done to it and to the sheet between strokes. */

import { useEffect } from "react";
import { engine } from "../../engine/client";
import type { Between } from "../../engine/types";
import type { Care } from "../../generated/core";
import type { useDrawing } from "../../draw/useDrawing";
import { useDeclared } from "../../session/context";
import { useFollowed } from "../../session/followed";
import { useBench, type Snapshot } from "../../session/store";
import { Button, Choice } from "../../ui/controls";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

/** What may be waited, min. */
const WAITS: [`wait ${number}`, string][] = [
  ["wait 10", "10 minutes"],
  ["wait 60", "an hour"],
  ["wait 360", "6 hours"],
  ["wait 1440", "a day"],
  ["wait 4320", "3 days"],
  ["wait 10080", "a week"],
];

const WORDS: Record<Care, [string, string]> = {
  dip: ["Dip", "Takes up of its paint what it lacks"],
  rinse: ["Rinse", "A share of what it holds stays: Load says how much"],
  wipe: ["Wipe off", "Wiped on a rag: it holds nothing"],
  clean: ["Clean", "Before the next stroke: clean, sharp, loaded anew"],
};

interface HeldProps {
  open: boolean;
  drawing: ReturnType<typeof useDrawing>;
  /** Strokes on the free row. */
  strokes: number;
  between: Snapshot["between"];
}

export function Cares({ open, drawing, strokes, between }: HeldProps) {
  const { medium } = useDeclared();
  const last = between.filter((b) => b.at === strokes).at(-1)?.what;
  const does = (what: Between, [word, title]: [string, string], idle: boolean) => (
    <Button key={what} className="!min-h-6 !px-1 !py-0" disabled={idle} title={title} onClick={() => drawing.does(what)}>
      {word}
    </Button>
  );
  const cares = open ? medium.cares : medium.cares.filter((c) => c === "clean");
  return (
    <>
      {cares.map((care) => does(care, WORDS[care], strokes === 0 || last === care))}
      {open && medium.wet && (
        <>
          {does("dry", ["Dry now", "All that is wet dries where it lies"], strokes === 0 || last === "dry")}
          <Choice
            label={t("Wait")}
            value=""
            asks={t("Wait…")}
            disabled={strokes === 0}
            options={WAITS}
            className="!min-h-6 !gap-1 !px-1"
            onChange={drawing.does}
          />
          {does("wet", ["All wet again", "What has dried is wet again"], !between.some((b) => b.what === "dry" || b.what.startsWith("wait")) || last === "wet")}
        </>
      )}
    </>
  );
}

/** Asks what the tool holds whenever that may have changed, for all who show it. */
export function useAskHeld({ drawing, strokes, between }: Omit<HeldProps, "open">) {
  const document = useFollowed();
  useEffect(() => {
    if (!document || drawing.busy) return;
    let current = true;
    engine.padHeld(document).then(
      (held) => current && useBench.setState({ held }),
      // A document on the way between two states may be refused; the next one is asked at once.
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [document, drawing.busy, strokes, between]);
}

/** A strip of colour, from the tip's left edge to its right: as high as each part is full. */
export function Held({ small }: { small: boolean }) {
  const parts = useBench((s) => s.held);
  if (parts.length === 0) return null;
  const mean = parts.reduce((sum, p) => sum + p.full, 0) / parts.length;
  return (
    <span
      className={`flex shrink-0 items-end overflow-hidden rounded-sm border border-line bg-raised ${small ? "h-3 w-16" : "h-4 w-24"}`}
      role="img"
      aria-label={t("The tip holds {{v0}} % of a load", { v0: fixed(100 * mean) })}
      title={t("What the tip holds, from its left edge to its right: {{v0}} % of a load", { v0: fixed(100 * mean) })}
      data-testid="held"
    >
      {parts.map((p, i) => (
        <span key={i} className="block flex-1" style={{ height: `${Math.round(100 * Math.min(1, p.full))}%`, background: `rgb(${p.rgb.join()})` }} />
      ))}
    </span>
  );
}

/** The head of the proof sheet: how it is looked at, what its columns are, and how long the last run took. */

import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { listTools } from "../../api/client";
import type { Column } from "../../engine/types";
import { useShownKey } from "../../keys/registry";
import { LOUPES, pinThird, showRows, takeLoupe, useLooking, type Loupe } from "../../session/looking";
import { useProof } from "../../session/proofStore";
import { GAP, HEAD, scaleSaid, type Layout, type RowSize } from "../../session/sheetSize";
import { useBench } from "../../session/store";
import { Button, Choice } from "../../ui/controls";
import { Radios } from "../../ui/Radios";
import { Clock } from "./Clock";
import { LiesOn } from "./LiesOn";
import { Room } from "./Room";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

const SIZES: [RowSize, string][] = [
  ["fit", "as large as fits"],
  [1, "true size"],
  [2, "twice"],
  [3, "three times"],
];

export function Head({ layout: { stacked, strip, label }, columns }: { layout: Layout; columns: Column[] }) {
  const third = useLooking((s) => s.third);
  const width = strip.width + GAP;
  return (
    <div className={`flex items-center ${stacked ? "flex-wrap gap-x-3" : "w-max min-w-full"}`} style={stacked ? {} : { height: HEAD }}>
      <h2 className={stacked ? "" : "sticky left-0 z-[5] shrink-0 bg-pane"} style={stacked ? {} : { width: label }}>
        <Looking width={strip.width} />
      </h2>
      <span className="flex min-w-0 items-center justify-between pr-4" style={stacked ? {} : { width }}>
        <Against />
        <Making />
      </span>
      <span className="flex min-w-0 items-center" style={stacked || columns.length < 3 ? {} : { width }}>
        <span className="font-semibold text-draft">{t("Draft")}</span>
        <LiesOn />
        <Room />
        <Clock />
      </span>
      {third && (
        <span className="flex min-w-0 items-center gap-1 text-muted">
          <button type="button" className="min-h-6 truncate px-1" onClick={() => useLooking.setState({ open: "third" })}>
            {third.name}
          </button>
          <button type="button" aria-label={t("Take {{name}} off the proof sheet", { name: third.name })} className="min-h-6 min-w-6 hover:bg-ground" onClick={() => pinThird(null)}>
            ×
          </button>
        </span>
      )}
      <RunTime />
    </div>
  );
}

/** Size of the rows, loupe, third column, and pictures to save. */
function Looking({ width }: { width: number }) {
  const { rows, loupe, pxPerMm, measured, third } = useLooking();
  const key = useShownKey("loupe");
  return (
    <Popover.Root>
      <Popover.Trigger className="min-h-6 text-left text-muted" aria-label={t("Proof sheet: how it is looked at")}>
        {t("Proof sheet")}{" "}<span aria-hidden>⌄</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content aria-label={t("How the proof sheet is looked at")} align="start" sideOffset={4} collisionPadding={8} className="z-40 grid w-72 gap-2 rounded border border-line bg-pane p-3 shadow-lg">
          <Radios label={t("Rows")} value={String(rows)} options={SIZES.map(([size, text]) => [String(size), text])} onChange={(size) => showRows(SIZES.find(([s]) => String(s) === size)?.[0] ?? "fit")} />
          <p className="text-[12px] text-muted">
            {t("Now")}{" "}{scaleSaid(width, pxPerMm)}.{" "}
            {measured ? t("This screen was measured. ") : t("True size is a guess until this screen is measured. ")}
            <PopoverLink onClick={() => useLooking.setState({ open: "measure" })}>{t("Measure it…")}</PopoverLink>
          </p>
          <Radios
            label={t("Loupe {{key}}", { key })}
            value={String(loupe)}
            options={[["null", "none"], ...LOUPES.map((l): [string, string] => [String(l), `× ${l}`])]}
            onChange={(l) => takeLoupe(l === "null" ? null : (Number(l) as Loupe))}
          />
          <p className="text-[12px] text-muted">{t("What lies under the pointer is laid anew in finer pixels.")}</p>
          <div className="flex flex-wrap gap-1.5 border-t border-hair pt-2">
            <Popover.Close asChild>
              <Button onClick={() => useLooking.setState({ open: "third" })}>{third ? t("Another third tool…") : t("Pin a third tool…")}</Button>
            </Popover.Close>
            <Popover.Close asChild>
              <Button onClick={() => useLooking.setState({ open: "save" })}>{t("Save a picture…")}</Button>
            </Popover.Close>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function PopoverLink({ onClick, children }: { onClick: () => void; children: React.ReactNode }) {
  return (
    <Popover.Close asChild>
      <button type="button" className="min-h-6 text-draft underline" onClick={onClick}>
        {children}
      </button>
    </Popover.Close>
  );
}

const KEPT = "kept";

/** What the draft is run beside: the kept version, or any other tool of the painter's. */
function Against() {
  const tools = useQuery({ queryKey: ["tools"], queryFn: listTools });
  const tool = useBench((s) => s.tool);
  const against = useBench((s) => s.against);
  const others = (tools.data ?? []).filter((t) => t.id !== tool?.id);
  return (
    <Choice
      label={t("Beside the draft")}
      className="!min-h-6 min-w-0 !border-transparent !bg-transparent !px-0 text-muted"
      value={against?.id ?? KEPT}
      options={[[KEPT, `Kept v${tool?.kept.number ?? 1}`], ...(against && !others.some((t) => t.id === against.id) ? [[against.id, against.name] as [string, string]] : []), ...others.map((t): [string, string] => [t.id, t.name])]}
      onChange={(id) => {
        const other = others.find((t) => t.id === id);
        useBench.setState({ against: other ? { id, name: other.name, document: other.kept.document } : null });
      }}
    />
  );
}

/** How far the paper under the rows is made: beside the column that has room for it. */
function Making() {
  const making = useProof((s) => s.making);
  if (!making) return null;
  return (
    <span role="status" className="whitespace-nowrap text-muted">
      {t("making the paper,")}{" "}{Math.min(making.made + 1, making.of)}{" "}{t("of")}{" "}{making.of}
    </span>
  );
}

function RunTime() {
  const ms = useProof((s) => s.lastRunMs);
  const making = useProof((s) => s.making !== null);
  const drying = useProof((s) => Object.values(s.drying).some(Boolean));
  if (making || ms === null) return null;
  if (drying) {
    return (
      <span className="ml-auto pr-1 whitespace-nowrap text-muted" title={t("What is wet goes on by itself: the strips are shown again as they dry")} data-testid="drying">
        {t("drying…")}
      </span>
    );
  }
  return (
    <span className="num ml-auto pr-1 whitespace-nowrap text-muted" title={t("From the last change to the whole draft column")} data-testid="run-time">
      {fixed(ms)}{" "}{t("ms")}
    </span>
  );
}

/** The proof sheet: a row a gesture, kept beside draft, and the free row. */

import { memo, useEffect, useMemo } from "react";
import { useQuery } from "@tanstack/react-query";
import { listTools } from "../api/client";
import { nearest } from "../engine/client";
import type { Column } from "../engine/types";
import { useSize } from "../plot/useSize";
import { Choice } from "../ui/controls";
import { STRIP_MM, showIn } from "../session/columns";
import { useBenchContext } from "../session/context";
import { LiesOn } from "./LiesOn";
import { Pad } from "./Pad";
import { mount, useProof } from "../session/proofStore";
import { useBench } from "../session/store";
import { useTrace } from "../session/useEngine";

const HEAD = 26;
const LABEL = 124;
const GAP = 10;
const LEAST_ROW = 46;

/** Sizes of the rows in a space, CSS pixels. */
function layOut(space: { width: number; height: number }, rows: number) {
  const room = Math.floor((space.height - HEAD) / (rows + 1));
  const widest = Math.floor((space.width - LABEL - 2 * GAP) / 2);
  const height = Math.max(LEAST_ROW, Math.min(room - 5, Math.floor((widest * STRIP_MM.height) / STRIP_MM.width)));
  const width = Math.min(widest, Math.floor((height * STRIP_MM.width) / STRIP_MM.height));
  return { width, height };
}

export function Proof() {
  const { gestures } = useBenchContext();
  const { ref, size } = useSize<HTMLDivElement>();
  const padOpen = useBench((s) => s.padOpen);
  const strip = useMemo(() => layOut(size, gestures.length), [size, gestures.length]);
  const ready = size.width > 0;
  const scale = window.devicePixelRatio || 1;
  const pixelMm = STRIP_MM.width / Math.round(strip.width * scale);
  useEffect(() => {
    if (!ready) return;
    showIn({ gestures, strip, scale });
    return () => showIn(null);
  }, [ready, gestures, strip, scale]);

  return (
    <Sheet space={ref}>
      <div className="flex items-center" style={{ height: HEAD }}>
        <h2 className="text-muted" style={{ width: LABEL }}>
          Proof sheet
        </h2>
        <span className="flex" style={{ width: strip.width + GAP }}>
          <Against />
        </span>
        <span className="font-semibold text-draft">Draft</span>
        <LiesOn />
        <RunTime />
      </div>
      {ready &&
        gestures.map((g, row) => (
          <Row key={g.id} id={g.id} name={g.name} note={g.note} originY={row * STRIP_MM.height} strip={strip} />
        ))}
      {ready && (
        <Pad
          width={padOpen ? size.width : 2 * strip.width + GAP}
          height={padOpen ? Math.max(size.height - 34, 120) : strip.height}
          label={LABEL}
          pixelMm={pixelMm}
        />
      )}
    </Sheet>
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
      label="Beside the draft"
      className="!min-h-6 !border-transparent !bg-transparent !px-0 text-muted"
      value={against?.id ?? KEPT}
      options={[[KEPT, `Kept v${tool?.kept.number ?? 1}`], ...(against && !others.some((t) => t.id === against.id) ? [[against.id, against.name] as [string, string]] : []), ...others.map((t): [string, string] => [t.id, t.name])]}
      onChange={(id) => {
        const other = others.find((t) => t.id === id);
        useBench.setState({ against: other ? { id, name: other.name, document: other.kept.document } : null });
      }}
    />
  );
}

/** Knows alone whether strokes are being laid: what is on it is not drawn anew for that. */
function Sheet({ space, children }: { space: React.Ref<HTMLElement>; children: React.ReactNode }) {
  const busy = useProof((s) => s.busy.kept || s.busy.draft);
  return (
    <section ref={space} aria-label="Proof sheet" aria-busy={busy} className="relative h-full min-w-0 overflow-y-auto overflow-x-hidden">
      {children}
    </section>
  );
}

function RunTime() {
  const ms = useProof((s) => s.lastRunMs);
  const making = useProof((s) => s.making);
  if (making) {
    return (
      <span role="status" className="ml-auto whitespace-nowrap pr-1 text-muted">
        making the paper, {Math.min(making.made + 1, making.of)} of {making.of}
      </span>
    );
  }
  if (ms === null) return null;
  return (
    <span className="num ml-auto whitespace-nowrap pr-1 text-muted" title="From the last change to the whole draft column" data-testid="run-time">
      {ms.toFixed(0)} ms
    </span>
  );
}

interface RowProps {
  id: string;
  name: string;
  note: string;
  originY: number;
  strip: { width: number; height: number };
}

const Row = memo(function Row({ id, name, note, originY, strip }: RowProps) {
  const selected = useBench((s) => s.gesture === id);
  const select = () => useBench.setState({ gesture: id });
  return (
    <div className="flex items-center border-t border-hair" style={{ height: strip.height + 5 }} data-gesture={name}>
      <button type="button" aria-pressed={selected} onClick={select} className="h-full pr-2 text-left" style={{ width: LABEL }}>
        <span className={`block font-semibold ${selected ? "text-draft" : ""}`}>{name}</span>
        <span className="block truncate text-[12px] text-muted">{note}</span>
      </button>
      <StripView column="kept" id={id} name={name} originY={originY} strip={strip} />
      <span style={{ width: GAP }} />
      <StripView column="draft" id={id} name={name} originY={originY} strip={strip} />
    </div>
  );
});

function StripView({ column, id, name, originY, strip }: { column: Column; id: string; name: string; originY: number; strip: { width: number; height: number } }) {
  const selected = useBench((s) => s.gesture === id);
  const against = useBench((s) => s.against?.name ?? null);
  const scale = strip.width / STRIP_MM.width;
  const point = async (e: React.PointerEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const x = (e.clientX - box.left) / scale;
    const y = (e.clientY - box.top) / scale + originY;
    const at = await nearest(column, id, x, y);
    if (at !== null && useBench.getState().gesture === id) useBench.setState({ cursor: at });
  };
  /** Pointing at a stroke traces it, unless a place is held. */
  const pointed = (e: React.PointerEvent<HTMLDivElement>) => {
    if (useBench.getState().cursorHeld) return;
    if (!selected) useBench.setState({ gesture: id });
    void point(e);
  };
  return (
    <div
      className={`relative ${selected && column === "draft" ? "outline-2 outline-draft" : ""}`}
      style={strip}
      onPointerMove={pointed}
      onPointerDown={(e) => {
        useBench.setState({ gesture: id, cursorHeld: true });
        void point(e);
      }}
    >
      <canvas
        ref={(canvas) => mount(column, id, canvas)}
        role="img"
        aria-label={`${name}, ${column === "kept" ? (against ?? "kept") : column}`}
        data-column={column}
        className="block h-full w-full"
      />
      {selected && <Mark column={column} id={id} scale={scale} />}
    </div>
  );
}

/** Where the trace's cursor is on the stroke. */
function Mark({ column, id, scale }: { column: Column; id: string; scale: number }) {
  const cursor = useBench((s) => s.cursor);
  const trace = useTrace(column, id);
  const dab = trace?.dabs.reduce((best, d) => (Math.abs(d.at_mm - cursor) < Math.abs(best.at_mm - cursor) ? d : best));
  if (!dab) return null;
  return (
    <svg aria-hidden className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden" data-testid={`mark-${column}`}>
      <g transform={`translate(${dab.x_mm * scale} ${dab.y_mm * scale})`} stroke="#1c1c1c" fill="none">
        <path d="M0 -500V-13M0 13V500" opacity={0.35} />
        <ellipse
          rx={Math.max(2, (dab.length_mm / 2) * scale)}
          ry={Math.max(2, (dab.width_mm / 2) * scale)}
          transform={`rotate(${dab.angle_deg})`}
          stroke="#ffffff"
          strokeWidth={2.5}
        />
        <ellipse
          rx={Math.max(2, (dab.length_mm / 2) * scale)}
          ry={Math.max(2, (dab.width_mm / 2) * scale)}
          transform={`rotate(${dab.angle_deg})`}
        />
      </g>
    </svg>
  );
}

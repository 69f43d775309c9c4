/** Touch: the responses, and the curve of the one that is open. */

import { useMemo, useState, type ComponentProps } from "react";
import { CurveEditor, movePoint } from "../../plot/CurveEditor";
import { useSize } from "../../plot/useSize";
import { firstOutput, freeId, isChance, outputRange, short, withResponse, type Response, type ToolDocument } from "../../model/tool";
import { CurveLibrary } from "../../plot/CurveLibrary";
import { Button, Choice, NumberField, Toggle } from "../../ui/controls";
import { useBenchContext, useDeclared } from "../context";
import { leaning } from "../../draw/pen";

import { drag, edit, letGo, say, useBench, useDocument, useKept } from "../store";
import { useCurve, useForces, useLevels, useTraces } from "../useEngine";
import { useProof } from "../proofStore";
import { CopyResponse } from "./CopyResponse";
import { Matrix } from "./Matrix";
import { ParameterRow } from "./ParameterRow";

const BINS = 24;

export function Touch() {
  const document = useDocument();
  const kept = useKept();
  const chosen = useBench((s) => s.response);
  const { ref, size } = useSize<HTMLDivElement>();
  const [all, setAll] = useState(false);
  const add = useAdd(document);
  const response = document?.responses.find((r) => r.id === chosen) ?? document?.responses[0];
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
        <Open key={response.id} document={document} kept={kept} response={response} width={size.width} />
      )}
      <Seed document={document} />
      {["touch.force_gf", "touch.flow", "touch.opacity", "touch.build", "touch.steady", "touch.steady_hz", "touch.steady_speed"].map((id) => (
        <ParameterRow key={id} id={id} />
      ))}
    </div>
  );
}

/** Where chance drives something: the seed that gives the same stroke again, and another. */
function Seed({ document }: { document: ToolDocument }) {
  if (!document.responses.some((r) => r.on && isChance(r.signal))) return null;
  const set = (seed: number) => edit((d) => ({ ...d, seed }));
  return (
    <div className="flex min-h-8 items-center gap-1.5 border-t border-hair">
      Seed of chance
      <span className="ml-auto" />
      <NumberField label="Seed of chance" value={document.seed} low={0} high={4294967295} step={1} width="w-28" onRefuse={say} onCommit={set} />
      <Button className="!min-h-6 !px-2 !py-0" title="Throw anew: the same gesture gives another stroke" onClick={() => set(crypto.getRandomValues(new Uint32Array(1))[0] ?? 0)}>
        New
      </Button>
    </div>
  );
}

/** Adds a straight response and opens it; without a quality, on one that has none. */
function useAdd(document: ToolDocument | null) {
  const { signal, ownParameter, declarations } = useDeclared();
  return (from: string, to?: string) => {
    const info = signal(from);
    const free = declarations.qualities.map((q) => q.quality).find((q) => !document?.responses.some((r) => r.quality === q));
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
      ...(isChance(from) && { around: true }),
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
  const label = (r: Response) => {
    const same = kept?.responses.find((k) => k.id === r.id);
    const mark = same && JSON.stringify(same) === JSON.stringify(r) ? "" : " •";
    return `${signal(r.signal)?.label ?? r.signal} → ${(ownParameter(r.quality)?.label ?? r.quality).toLowerCase()}${mark}`;
  };
  return (
    <div className="flex items-center gap-2 pb-1">
      {document.responses.length > 0 ? (
        <Choice
          label="Response"
          className="min-w-0 flex-1 font-semibold"
          value={open?.id ?? ""}
          options={document.responses.map((r) => [r.id, label(r) + (r.on ? "" : " (off)")])}
          onChange={(id) => useBench.setState({ response: id })}
        />
      ) : (
        <span className="flex-1 text-muted">No response: the hand changes nothing.</span>
      )}
      <Button aria-pressed={props.all} onClick={props.onAll} title="All signals and qualities at a glance">
        All
      </Button>
      <Button onClick={props.onAdd} title="Add a response">
        Add
      </Button>
    </div>
  );
}

function Open({ document, kept, response, width }: { document: ToolDocument; kept: ToolDocument | null; response: Response; width: number }) {
  const { signal, ownParameter, declarations } = useDeclared();
  const [point, setPoint] = useState<number | null>(null);
  const keptResponse = kept?.responses.find((r) => r.id === response.id) ?? null;
  const info = signal(response.signal);
  const own = ownParameter(response.quality);
  if (!info || !own) return null;
  const { low, high, step, unit } = outputRange(document, response, own);
  /** Output of a response that became another kind of response. */
  const anew = (c: Partial<Response>) => {
    const moved = withResponse(document, response.id, c);
    const next = ownParameter(c.quality ?? response.quality);
    const changed = moved.responses.find((r) => r.id === response.id);
    return next && changed ? { ...c, output: firstOutput(moved, changed, next) } : c;
  };
  const change = (c: Partial<Response>) => edit((d) => withResponse(d, response.id, c));
  const selected = point !== null ? response.curve[point] : undefined;
  // Of what was kept, only what differs now is written out.
  const before = (differs: boolean | null, text: string) => (keptResponse && differs ? text : null);
  const span = ([a, b]: [number, number]) => `${short(a)}–${short(b)}`;
  const keptSignal = signal(keptResponse?.signal ?? "")?.label ?? "";
  const keptQuality = (ownParameter(keptResponse?.quality ?? "")?.label ?? "").toLowerCase();
  const keptFrom = before(
    keptResponse && (keptResponse.signal !== response.signal || span(keptResponse.input) !== span(response.input) || keptResponse.repeat !== response.repeat),
    `${keptResponse?.signal === response.signal ? "" : `${keptSignal} `}${keptResponse ? span(keptResponse.input) : ""}`,
  );
  // A spread's output is no output of another kind of response: they go back together.
  const kindKept = keptResponse && keptResponse.around !== response.around ? { around: keptResponse.around, output: keptResponse.output } : {};
  const keptTo = before(
    keptResponse && (keptResponse.quality !== response.quality || keptResponse.around !== response.around || span(keptResponse.output) !== span(response.output)),
    `${keptResponse?.quality === response.quality ? "" : `${keptQuality} `}${keptResponse ? span(keptResponse.output) : ""}`,
  );
  const keptAmount = before(
    keptResponse && (keptResponse.amount !== response.amount || keptResponse.on !== response.on),
    keptResponse?.on ? short(keptResponse.amount) : "off",
  );
  return (
    <div>
      <Curve
        name={`Curve from ${info.label} to ${own.label.toLowerCase()}`}
        response={response}
        kept={keptResponse}
        inputUnit={info.unit}
        selected={point}
        width={width}
        onSelect={setPoint}
        onDrag={(curve) => drag(withResponse(document, response.id, { curve }))}
        onChange={(curve) => change({ curve })}
      />
      <div className="flex flex-wrap items-center gap-1 border-t border-hair py-1 text-[12px]">
        {selected && point !== null ? (
          <>
            <span className="text-muted">Point {point + 1}</span>
            <Field label="Point, input share" value={selected[0]} low={0} high={1} step={0.001} width="w-14" onCommit={(x) => change({ curve: movePoint(response.curve, point, [x, selected[1]]) })} />
            <span aria-hidden>→</span>
            <Field label="Point, output share" value={selected[1]} low={0} high={1} step={0.001} width="w-14" onCommit={(y) => change({ curve: movePoint(response.curve, point, [selected[0], y]) })} />
            <Button
              className="!min-h-6 !px-2 !py-0"
              disabled={response.curve.length <= 2}
              onClick={() => {
                change({ curve: response.curve.filter((_, i) => i !== point) });
                setPoint(null);
              }}
            >
              Remove
            </Button>
          </>
        ) : (
          <span className="text-muted">Click the line to add a point.</span>
        )}
        <span className="ml-auto flex gap-1">
          <CurveLibrary curve={response.curve} onTake={(curve) => change({ curve })} onTell={say} />
          <Button className="!min-h-6 !px-2 !py-0" onClick={() => change({ curve: response.curve.map(([x, y]) => [x, Number((1 - y).toFixed(4))]) })}>
            Invert
          </Button>
          <Button className="!min-h-6 !px-2 !py-0" onClick={() => change({ curve: [[0, 0], [1, 1]] })}>
            Straight
          </Button>
          {keptResponse && JSON.stringify(keptResponse.curve) !== JSON.stringify(response.curve) && (
            <Button className="!min-h-6 !px-2 !py-0" onClick={() => change({ curve: keptResponse.curve })}>
              As kept
            </Button>
          )}
        </span>
      </div>
      <Line label="From" kept={keptFrom} onPutBack={() => keptResponse && change({ signal: keptResponse.signal, input: keptResponse.input, repeat: keptResponse.repeat, ...kindKept })}>
        <Choice
          label="Signal"
          value={response.signal}
          options={declarations.signals.map((s) => [s.signal, s.label])}
          onChange={(name) => {
            const next = signal(name);
            if (!next) return;
            const to: Partial<Response> = { signal: name, input: [next.low, next.high], repeat: undefined, around: isChance(name) ? response.around : undefined };
            change(response.around && !to.around ? anew(to) : to);
          }}
        />
        <Field label="Input, lower end" value={response.input[0]} low={info.least} high={response.input[1]} step={info.most > 10 ? 1 : 0.01} width="w-12" onCommit={(v) => change({ input: [v, response.input[1]] })} />
        <span aria-hidden>–</span>
        {(response.signal === "distance" || response.signal === "time") && (
          <Button
            className="!min-h-6 !px-1.5 !py-0"
            aria-pressed={response.repeat ?? false}
            title="Begin again past the upper end"
            onClick={() => change({ repeat: response.repeat ? undefined : true })}
          >
            repeat
          </Button>
        )}
        <Field label="Input, upper end" value={response.input[1]} low={response.input[0]} high={info.most} step={info.most > 10 ? 1 : 0.01} width="w-12" onCommit={(v) => change({ input: [response.input[0], v] })} />
        <span className="w-9 text-muted">{info.unit}</span>
      </Line>
      <Line label="To" kept={keptTo} onPutBack={() => keptResponse && change({ quality: keptResponse.quality, ...kindKept, output: keptResponse.output })}>
        <Choice
          label="Quality"
          value={response.quality}
          options={declarations.qualities.map((q) => [q.quality, ownParameter(q.quality)?.label ?? q.quality])}
          onChange={(quality) => {
            change(anew({ quality }));
          }}
        />
        {isChance(response.signal) && (
          <Button
            className="!min-h-6 !px-1.5 !py-0"
            aria-pressed={response.around ?? false}
            title="A spread around what the other responses make of it"
            onClick={() => change(anew({ around: response.around ? undefined : true }))}
          >
            around
          </Button>
        )}
        {response.around ? (
          <Spread response={response} onChange={(output) => change({ output })} />
        ) : (
          <>
            <Field label="Output at the curve's 0" value={response.output[0]} low={low} high={high} step={step} width="w-12" onCommit={(v) => change({ output: [v, response.output[1]] })} />
            <span aria-hidden>–</span>
            <Field label="Output at the curve's 1" value={response.output[1]} low={low} high={high} step={step} width="w-12" onCommit={(v) => change({ output: [response.output[0], v] })} />
            <span className="w-9 text-muted">{unit}</span>
          </>
        )}
      </Line>
      <Line label="Amount" kept={keptAmount} onPutBack={() => keptResponse && change({ amount: keptResponse.amount, on: keptResponse.on })}>
        <Field label="Amount" value={response.amount} low={0} high={1} step={0.01} onCommit={(amount) => change({ amount })} />
        <Toggle label="Response acts" on={response.on} onChange={(on) => change({ on })} />
        <CopyResponse response={response} />
        <Button className="!min-h-6 !px-2 !py-0" aria-label="Remove response" onClick={() => edit((d) => ({ ...d, responses: d.responses.filter((r) => r.id !== response.id) }))}>
          Remove
        </Button>
      </Line>
      <LevelsLine response={response} unit={unit} />
      {!response.around && document.responses.filter((r) => r.quality === response.quality && !r.around).length > 1 && response.quality !== "angle" && (
        <Line
          label="Together with the others"
          kept={kept && kept.combine[response.quality] !== document.combine[response.quality] ? (kept.combine[response.quality] ?? "product") : null}
          onPutBack={() => edit((d) => ({ ...d, combine: { ...d.combine, [response.quality]: kept?.combine[response.quality] ?? "product" } }))}
        >
          <Choice
            label="How responses combine"
            value={document.combine[response.quality] ?? "product"}
            options={[["product", "product"], ["sum", "sum"], ["smallest", "smallest"], ["largest", "largest"]]}
            onChange={(how) => edit((d) => ({ ...d, combine: { ...d.combine, [response.quality]: how } }))}
          />
        </Line>
      )}
    </div>
  );
}

interface CurveProps {
  name: string;
  response: Response;
  kept: Response | null;
  inputUnit: string;
  selected: number | null;
  width: number;
  onSelect: (index: number | null) => void;
  onDrag: (curve: [number, number][]) => void;
  onChange: (curve: [number, number][]) => void;
}

const inUnit = (share: number, [a, b]: [number, number]) => a + (b - a) * share;

/** The curve over the painter's own input. Apart from the rows below it: it follows the pen, and they need not. */
function Curve({ response, kept, inputUnit, ...rest }: CurveProps) {
  const samples = useCurve(response.curve);
  const keptSamples = useCurve(kept?.curve ?? null);
  const histogram = useHistogram(response);
  const live = useBench((s) => liveShareOf(response, s.live));
  const forces = useForces();
  const asForce = response.signal === "pressure" || response.signal === "hardest-press";
  const inputLabel = (share: number) =>
    asForce ? forces(inUnit(share, response.input)) : `${short(inUnit(share, response.input))} ${inputUnit}`;
  const digits = Math.max(0, 2 - Math.floor(Math.log10(Math.max(...response.output.map(Math.abs), 1e-3))));
  const plain = (share: number) => inUnit(share, response.output).toFixed(Math.min(3, digits > 0 ? digits - 1 : 0));
  const outputLabel = response.around ? (share: number) => spreadLabel(inUnit(share, response.output), response.quality) : plain;
  return (
    <CurveEditor
      points={response.curve}
      samples={samples}
      keptSamples={keptSamples}
      inputLabel={inputLabel}
      outputLabel={outputLabel}
      histogram={histogram}
      live={live}
      height={196}
      onRefuse={say}
      onLetGo={letGo}
      {...rest}
    />
  );
}

const spreadLabel = (value: number, quality: string) => `${value > 0 ? "+" : value < 0 ? "−" : ""}${short(Math.abs(quality === "angle" ? value : 100 * value), 2)} ${quality === "angle" ? "°" : "%"}`;

/** A spread around a value: how far down and up, as a share of it or in degrees. */
function Spread({ response, onChange }: { response: Response; onChange: (output: [number, number]) => void }) {
  const angle = response.quality === "angle";
  const [scale, most, unit] = angle ? [1, 180, "°"] : [100, 100, "%"];
  const [down, up] = [-response.output[0] * scale, response.output[1] * scale];
  const to = (d: number, u: number) => onChange([-d / scale, u / scale]);
  const one = Math.abs(down - up) < 1e-9;
  return (
    <>
      {one ? (
        <>
          <span aria-hidden>±</span>
          <Field label="Spread around the value" value={up} low={0} high={most} step={angle ? 1 : 0.5} width="w-12" onCommit={(v) => to(v, v)} />
        </>
      ) : (
        <>
          <Field label="Spread below the value" value={down} low={-most} high={most} step={angle ? 1 : 0.5} width="w-12" onCommit={(v) => to(v, up)} />
          <span aria-hidden>to</span>
          <Field label="Spread above the value" value={up} low={-most} high={most} step={angle ? 1 : 0.5} width="w-12" onCommit={(v) => to(down, v)} />
        </>
      )}
      <span className="w-4 text-muted">{unit}</span>
      <Button className="!min-h-6 !px-1.5 !py-0" title={one ? "Set down and up apart" : "As far down as up"} onClick={() => (one ? to(0, up) : to(Math.max(Math.abs(down), Math.abs(up)), Math.max(Math.abs(down), Math.abs(up))))}>
        {one ? "apart" : "alike"}
      </Button>
    </>
  );
}

function LevelsLine({ response, unit }: { response: Response; unit: string }) {
  const most = useBench((s) => s.hand.profile.levels);
  const levels = useLevels(response.curve, response.input);
  // The levels are those of the pen's force.
  if (!levels || !(response.signal === "pressure" || response.signal === "hardest-press")) return null;
  return (
    <Line label="Pen levels that still count">
      <span className="num" data-testid="levels">
        <b>{levels.usable_levels.toLocaleString("en")}</b> of {most.toLocaleString("en")}
      </span>
      <span className="text-muted">
        step {short(levels.max_step * Math.abs(response.output[1] - response.output[0]), 2)} {unit}
      </span>
    </Line>
  );
}

const Field = (props: Omit<ComponentProps<typeof NumberField>, "onRefuse">) => <NumberField onRefuse={say} {...props} />;

interface LineProps {
  label: string;
  /** What was kept, written out, where it differs from the draft. */
  kept?: string | null | undefined;
  onPutBack?: () => void;
  children: React.ReactNode;
}

function Line({ label, kept, onPutBack, children }: LineProps) {
  return (
    <div className="flex min-h-8 flex-wrap items-center gap-1.5 border-t border-hair py-0.5">
      <span>{label}</span>
      {kept && (
        <>
          <span className="inline-block h-1.5 w-1.5 shrink-0 rounded-full bg-draft" role="img" aria-label="changed" />
          <button type="button" className="num min-h-6 text-muted line-through" title="Put this back" aria-label={`Put ${label} back to ${kept}`} onClick={onPutBack}>
            {kept}
          </button>
        </>
      )}
      <span className="ml-auto flex items-center gap-1">{children}</span>
    </div>
  );
}

const SIGNAL_FIELD: Record<string, string> = {
  pressure: "pressure",
  "hardest-press": "hardest_press",
  tilt: "tilt_deg",
  lean: "lean_deg",
  barrel: "barrel_deg",
  speed: "speed_mm_s",
  heading: "heading_deg",
  distance: "distance_mm",
  time: "time_s",
  "paint-left": "paint_left",
  "chance-per-dab": "chance_dab",
  "chance-per-stroke": "chance_stroke",
};

/** How often the proof gestures give each part of the response's input: length of stroke in each bin, largest 1. */
function useHistogram(response: Response): number[] {
  const { gestures } = useBenchContext();
  const ran = useProof((s) => s.lastRunMs !== null);
  const traces = useTraces(gestures.map((g) => g.id), ran);
  return useMemo(() => {
    const bins = Array.from({ length: BINS }, () => 0);
    const field = SIGNAL_FIELD[response.signal] ?? "";
    const [low, high] = response.input;
    for (const dab of (traces ?? []).flatMap((t) => t?.dabs ?? [])) {
      const value = (dab.signals as unknown as Record<string, number>)[field] ?? 0;
      const share = (value - low) / (high - low);
      const bin = Math.min(BINS - 1, Math.max(0, Math.floor(share * BINS)));
      bins[bin] = (bins[bin] ?? 0) + dab.travel_mm;
    }
    const most = Math.max(...bins, 1e-9);
    return bins.map((b) => b / most);
  }, [traces, response.signal, response.input]);
}

/** Where the pen is now on the response's input. */
function liveShareOf(response: Response, live: ReturnType<typeof useBench.getState>["live"]): number | null {
  if (!live) return null;
  const lean = leaning(live.tiltX, live.tiltY);
  const values: Record<string, number> = {
    pressure: live.pressure,
    "hardest-press": live.pressure,
    tilt: lean.tilt,
    lean: lean.lean,
    barrel: live.twist,
    speed: live.speed,
  };
  const value = values[response.signal];
  if (value === undefined) return null;
  return Math.min(1, Math.max(0, (value - response.input[0]) / (response.input[1] - response.input[0])));
}

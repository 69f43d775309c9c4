/** One response: its curve, input and output, and what else it has. */

import { useState } from "react";
import { firstOutput, isChance, outputRange, short, withResponse, type Response, type ResponseChange, type ToolDocument } from "../../../model/tool";
import { movePoint } from "../../../plot/CurveEditor";
import { CurveLibrary } from "../../../curves/CurveLibrary";
import { Button, Choice, NumberField, Toggle } from "../../../ui/controls";
import { useDeclared } from "../../../session/context";
import { drag, edit, useBench } from "../../../session/store";
import { useLevels } from "../../../session/useEngine";
import type { Signal } from "../../../generated/core";
import { Term } from "../../../media/Term";
import { Line } from "./Line";
import { SOURCES } from "./sources";
import { Spread } from "./Spread";
import { Together } from "./Together";
import { CopyResponse } from "./CopyResponse";
import { ResponseCurve } from "./ResponseCurve";
import { counted } from "../../../model/number";
import { t } from "../../../model/said";

export function OpenResponse({ document, kept, response, width }: { document: ToolDocument; kept: ToolDocument | null; response: Response; width: number }) {
  const { signal, ownParameter, qualities, declarations } = useDeclared();
  const [point, setPoint] = useState<number | null>(null);
  const keptResponse = kept?.responses.find((r) => r.id === response.id) ?? null;
  const info = signal(response.signal);
  const own = ownParameter(response.quality);
  if (!info || !own) return null;
  const { low, high, step, unit } = outputRange(document, response, own);
  /** Output of a response that became another kind of response. */
  const anew = (c: ResponseChange): ResponseChange => {
    const moved = withResponse(document, response.id, c);
    const next = ownParameter(c.quality ?? response.quality);
    const changed = moved.responses.find((r) => r.id === response.id);
    return next && changed ? { ...c, output: firstOutput(moved, changed, next) } : c;
  };
  const change = (c: ResponseChange) => edit((d) => withResponse(d, response.id, c));
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
      <ResponseCurve
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
            <span className="text-muted">{t("Point")}{" "}{point + 1}</span>
            <NumberField label={t("Point, input share")} value={selected[0]} low={0} high={1} step={0.001} width="w-14" onCommit={(x) => change({ curve: movePoint(response.curve, point, [x, selected[1]]) })} />
            <span aria-hidden>→</span>
            <NumberField label={t("Point, output share")} value={selected[1]} low={0} high={1} step={0.001} width="w-14" onCommit={(y) => change({ curve: movePoint(response.curve, point, [selected[0], y]) })} />
            <Button
              className="!min-h-6 !px-2 !py-0"
              disabled={response.curve.length <= 2}
              onClick={() => {
                change({ curve: response.curve.filter((_, i) => i !== point) });
                setPoint(null);
              }}
            >
              {t("Remove")}
            </Button>
          </>
        ) : (
          <span className="text-muted">{t("Click the line to add a point.")}</span>
        )}
        <span className="ml-auto flex gap-1">
          <CurveLibrary curve={response.curve} onTake={(curve) => change({ curve })} />
          <Button className="!min-h-6 !px-2 !py-0" onClick={() => change({ curve: response.curve.map(([x, y]) => [x, Number((1 - y).toFixed(4))]) })}>
            {t("Invert")}
          </Button>
          <Button className="!min-h-6 !px-2 !py-0" onClick={() => change({ curve: [[0, 0], [1, 1]] })}>
            {t("Straight")}
          </Button>
          {keptResponse && JSON.stringify(keptResponse.curve) !== JSON.stringify(response.curve) && (
            <Button className="!min-h-6 !px-2 !py-0" onClick={() => change({ curve: keptResponse.curve })}>
              {t("As kept")}
            </Button>
          )}
        </span>
      </div>
      <Line label={t("From")} kept={keptFrom} onPutBack={() => keptResponse && change({ signal: keptResponse.signal, input: keptResponse.input, repeat: keptResponse.repeat, ...kindKept })}>
        <Term word={`signal:${response.signal}`} className="min-w-6 text-center text-muted">
          ?
        </Term>
        {isChance(response.signal) ? (
          <span className="text-muted">{info.label}</span>
        ) : (
          <Choice
            label={t("Signal")}
            value={response.signal}
            options={SOURCES.flatMap(([source, name]) => declarations.signals.filter((s) => s.source === source).map((s): [Signal, string, string] => [s.signal, s.label, name]))}
            onChange={(name) => {
              const next = signal(name);
              if (next) change({ signal: name, input: [next.low, next.high], repeat: undefined });
            }}
          />
        )}
        <NumberField label={t("Input, lower end")} value={response.input[0]} low={info.least} high={response.input[1]} step={info.most > 10 ? 1 : 0.01} width="w-12" onCommit={(v) => change({ input: [v, response.input[1]] })} />
        <span aria-hidden>–</span>
        {(response.signal === "distance" || response.signal === "time") && (
          <Button
            className="!min-h-6 !px-1.5 !py-0"
            aria-pressed={response.repeat ?? false}
            title={t("Begin again past the upper end")}
            onClick={() => change({ repeat: response.repeat ? undefined : true })}
          >
            {t("repeat")}
          </Button>
        )}
        <NumberField label={t("Input, upper end")} value={response.input[1]} low={response.input[0]} high={info.most} step={info.most > 10 ? 1 : 0.01} width="w-12" onCommit={(v) => change({ input: [response.input[0], v] })} />
        <span className="w-9 text-muted">{info.unit}</span>
      </Line>
      <Line label={t("To")} kept={keptTo} onPutBack={() => keptResponse && change({ quality: keptResponse.quality, ...kindKept, output: keptResponse.output })}>
        <Choice
          label={t("Quality")}
          value={response.quality}
          options={qualities.map((q) => [q, ownParameter(q)?.label ?? q])}
          onChange={(quality) => {
            change(anew({ quality }));
          }}
        />
        {isChance(response.signal) && (
          <Button
            className="!min-h-6 !px-1.5 !py-0"
            aria-pressed={response.around ?? false}
            title={t("A spread around what the other responses make of it")}
            onClick={() => change(anew({ around: response.around ? undefined : true }))}
          >
            {t("around")}
          </Button>
        )}
        {response.around ? (
          <Spread response={response} onChange={(output) => change({ output })} />
        ) : (
          <>
            <NumberField label={t("Output at the curve's 0")} value={response.output[0]} low={low} high={high} step={step} width="w-12" onCommit={(v) => change({ output: [v, response.output[1]] })} />
            <span aria-hidden>–</span>
            <NumberField label={t("Output at the curve's 1")} value={response.output[1]} low={low} high={high} step={step} width="w-12" onCommit={(v) => change({ output: [response.output[0], v] })} />
            <span className="w-9 text-muted">{unit}</span>
          </>
        )}
      </Line>
      <Line label={t("Amount")} kept={keptAmount} onPutBack={() => keptResponse && change({ amount: keptResponse.amount, on: keptResponse.on })}>
        <NumberField label={t("Amount")} value={response.amount} low={0} high={1} step={0.01} onCommit={(amount) => change({ amount })} />
        <Toggle label={t("Response acts")} on={response.on} onChange={(on) => change({ on })} />
        <CopyResponse response={response} />
        <Button className="!min-h-6 !px-2 !py-0" aria-label={t("Remove response")} onClick={() => edit((d) => ({ ...d, responses: d.responses.filter((r) => r.id !== response.id) }))}>
          {t("Remove")}
        </Button>
      </Line>
      <LevelsLine response={response} unit={unit} />
      <Together document={document} kept={kept} response={response} />
    </div>
  );
}

function LevelsLine({ response, unit }: { response: Response; unit: string }) {
  const most = useBench((s) => s.hand.profile.levels);
  const levels = useLevels(response.curve, response.input);
  // The levels are those of the pen's force.
  if (!levels || !(response.signal === "pressure" || response.signal === "hardest-press")) return null;
  return (
    <Line label={t("Pen levels that still count")}>
      <span className="num" data-testid="levels">
        <b>{counted(levels.usable_levels)}</b>{" "}{t("of")}{" "}{counted(most)}
      </span>
      <span className="text-muted">
        {t("step")}{" "}{short(levels.max_step * Math.abs(response.output[1] - response.output[0]), 2)} {unit}
      </span>
    </Line>
  );
}

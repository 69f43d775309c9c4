/** Which signals drive which qualities, at a glance: a row a quality, a small curve in every cell that has a response. */

import type { Quality, Signal } from "../../../generated/core";
import { isChance, type Response, type ToolDocument } from "../../../model/tool";
import { useDeclared } from "../../../session/context";
import { SOURCES } from "./sources";
import { t } from "../../../model/said";

const SIZE = 24;
const INSET = 4;

interface MatrixProps {
  document: ToolDocument;
  /** Opens a response. */
  onOpen: (id: string) => void;
  onAdd: (signal: Signal, quality: Quality) => void;
}

export function Matrix({ document, onOpen, onAdd }: MatrixProps) {
  const { declarations, qualities, ownParameter } = useDeclared();
  const signals = declarations.signals.filter((s) => !isChance(s.signal));
  const label = (quality: string) => (ownParameter(quality)?.label ?? quality).replace(" on the sheet", "").replace(" on the paper", "");
  return (
    <table aria-label={t("Signals and the qualities they drive")} className="mb-1 w-full table-fixed">
      <colgroup>
        <col />
        {signals.map((s) => (
          <col key={s.signal} style={{ width: SIZE + 1 }} />
        ))}
      </colgroup>
      <thead>
        <tr>
          <td />
          {SOURCES.map(([source, name]) => {
            const count = signals.filter((s) => s.source === source).length;
            return count === 0 ? null : (
              <th key={source} scope="colgroup" colSpan={count} className="border-l border-hair pl-1 text-left text-[12px] font-semibold whitespace-nowrap">
                {name.replace(/^the /, "")}
              </th>
            );
          })}
        </tr>
        <tr>
          <td />
          {signals.map((s) => (
            <th key={s.signal} scope="col" className="h-24 pb-1 align-bottom font-normal">
              <span className="inline-block rotate-180 text-left text-[12px] [writing-mode:vertical-rl]">{s.label}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {qualities.map((q) => (
          <tr key={q}>
            <th scope="row" className="truncate pr-2 text-left text-[12px] font-normal">
              {label(q)}
            </th>
            {signals.map((s) => {
              const here = document.responses.filter((r) => r.signal === s.signal && r.quality === q);
              const [first] = here;
              const name = `${s.label} → ${label(q).toLowerCase()}`;
              return (
                <td key={s.signal} className="border border-hair p-0">
                  <button
                    type="button"
                    // Adding has a button of its own: an empty cell need not be walked through by keyboard.
                    tabIndex={first ? 0 : -1}
                    aria-label={first ? t("{{name}}, open", { name }) : t("{{name}}, add", { name })}
                    title={name}
                    className={`relative block ${first ? "bg-raised" : "hover:bg-hair"}`}
                    style={{ width: SIZE, height: SIZE }}
                    onClick={() => (first ? onOpen(first.id) : onAdd(s.signal, q))}
                  >
                    {here.map((r) => (
                      <Curve key={r.id} response={r} />
                    ))}
                  </button>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The points of a curve, joined: small as it is, no more can be seen. A falling output falls. */
function Curve({ response }: { response: Response }) {
  const down = response.output[1] < response.output[0];
  const x = (v: number) => INSET + v * (SIZE - 2 * INSET);
  const y = (v: number) => SIZE - INSET - (down ? 1 - v : v) * (SIZE - 2 * INSET);
  const ends = [[0, response.curve[0]?.[1] ?? 0], ...response.curve, [1, response.curve.at(-1)?.[1] ?? 1]];
  return (
    <svg aria-hidden width={SIZE} height={SIZE} className="absolute inset-0" style={{ opacity: response.on ? 1 : 0.4 }}>
      <polyline
        points={ends.map(([a, b]) => `${x(a ?? 0)},${y(b ?? 0)}`).join(" ")}
        fill="none"
        stroke="var(--draft)"
        strokeWidth={2}
        strokeDasharray={response.on ? undefined : "2 2"}
      />
    </svg>
  );
}

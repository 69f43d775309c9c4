/** Which signals drive which qualities, at a glance: a small curve in every cell that has a response. */

import type { Quality, Signal } from "../../generated/core";
import type { Response, ToolDocument } from "../../model/tool";
import { useDeclared } from "../../session/context";

const SIZE = { width: 24, height: 24 };
const INSET = 4;

interface MatrixProps {
  document: ToolDocument;
  /** Opens a response. */
  onOpen: (id: string) => void;
  onAdd: (signal: Signal, quality: Quality) => void;
}

export function Matrix({ document, onOpen, onAdd }: MatrixProps) {
  const { declarations, qualities, ownParameter } = useDeclared();
  const label = (quality: string) => (ownParameter(quality)?.label ?? quality).replace(" on the sheet", "").replace(" on the paper", "");
  return (
    <table aria-label="Signals and the qualities they drive" className="mb-1">
      <thead>
        <tr>
          <td />
          {qualities.map((q) => (
            <th key={q} scope="col" className="h-24 w-6 pb-1 align-bottom font-normal">
              <span className="inline-block rotate-180 text-left text-[12px] [writing-mode:vertical-rl]">{label(q)}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {declarations.signals.map((s) => (
          <tr key={s.signal}>
            <th scope="row" className="whitespace-nowrap pr-2 text-left text-[12px] font-normal">
              {s.label}
            </th>
            {qualities.map((q) => {
              const here = document.responses.filter((r) => r.signal === s.signal && r.quality === q);
              const [first] = here;
              const name = `${s.label} → ${label(q).toLowerCase()}`;
              return (
                <td key={q} className="border border-hair p-0">
                  <button
                    type="button"
                    // Adding has a button of its own: an empty cell need not be walked through by keyboard.
                    tabIndex={first ? 0 : -1}
                    aria-label={first ? `${name}, open` : `${name}, add`}
                    title={name}
                    className={`relative block ${first ? "bg-raised" : "hover:bg-hair"}`}
                    style={SIZE}
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
  const { width, height } = SIZE;
  const down = response.output[1] < response.output[0];
  const x = (v: number) => INSET + v * (width - 2 * INSET);
  const y = (v: number) => height - INSET - (down ? 1 - v : v) * (height - 2 * INSET);
  const ends = [[0, response.curve[0]?.[1] ?? 0], ...response.curve, [1, response.curve.at(-1)?.[1] ?? 1]];
  return (
    <svg aria-hidden width={width} height={height} className="absolute inset-0" style={{ opacity: response.on ? 1 : 0.4 }}>
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

/** Tip, Load, Mix, Ground and Relief: the picture first, then the rows. */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useSize } from "../../plot/useSize";
import { short } from "../../model/tool";
import { useBench, useDocument } from "../store";
import { useExplained, useGround, useTrace } from "../useEngine";
import { ParameterRow } from "./ParameterRow";

const Rows = ({ ids }: { ids: string[] }) => ids.map((id) => <ParameterRow key={id} id={id} />);

function useCursorDab() {
  const gesture = useBench((s) => s.gesture);
  const cursor = useBench((s) => s.cursor);
  return useExplained("draft", gesture, cursor)?.dab ?? null;
}

export function Tip() {
  const dab = useCursorDab();
  const { ref, size } = useSize<HTMLDivElement>();
  const span = Math.max(6, (dab?.length_mm ?? 4) * 1.5);
  const height = 130;
  const scale = height / span;
  return (
    <div>
      <h3 className="pb-1 font-semibold">Footprint at the cursor</h3>
      <div ref={ref} className="bg-[#f3f1ec]">
        {dab && size.width > 0 && (
          <svg width={size.width} height={height} role="img" aria-label={`Footprint ${dab.length_mm.toFixed(1)} by ${dab.width_mm.toFixed(1)} mm`}>
            <g transform={`translate(${size.width / 2} ${height / 2}) rotate(${dab.angle_deg})`}>
              <rect
                x={(-dab.length_mm / 2) * scale}
                y={(-dab.width_mm / 2) * scale}
                width={dab.length_mm * scale}
                height={dab.width_mm * scale}
                rx={(dab.width_mm / 2) * scale}
                fill="#1c1c1c"
                fillOpacity={0.25 + 0.5 * dab.covered}
                stroke="#1c1c1c"
              />
            </g>
            <g transform={`translate(${size.width - 34} 30)`} stroke="#5b5b5b" fill="none">
              <circle r={20} />
              <line
                x2={18 * Math.cos((dab.signals.lean_deg * Math.PI) / 180)}
                y2={18 * Math.sin((dab.signals.lean_deg * Math.PI) / 180)}
                stroke="#1c1c1c"
                strokeWidth={2}
              />
              <text y={34} textAnchor="middle" fontSize={11} fill="#3a3a3a" stroke="none">
                lean {dab.signals.lean_deg.toFixed(0)}°
              </text>
            </g>
            <g transform={`translate(10 ${height - 10})`} stroke="#1c1c1c">
              <line x2={scale * 2} />
              <line y1={-4} y2={4} />
              <line x1={scale * 2} x2={scale * 2} y1={-4} y2={4} />
              <text x={scale * 2 + 6} y={4} fontSize={11} fill="#1c1c1c" stroke="none">
                2 mm
              </text>
            </g>
          </svg>
        )}
      </div>
      {dab && (
        <p className="num py-1 text-muted">
          {dab.length_mm.toFixed(1)} × {dab.width_mm.toFixed(1)} mm · {dab.area_mm2.toFixed(1)} mm² · a dab every {dab.travel_mm.toFixed(2)} mm
        </p>
      )}
      <Rows
        ids={["tip.width_mm", "tip.side_mm", "tip.aspect", "tip.angle_deg", "tip.hardness", "tip.spacing_auto", "tip.spacing", "tip.scatter_mm"]}
      />
    </div>
  );
}

export function Load() {
  return (
    <div>
      <p className="pb-1">
        A stick is its own load: it does not run out along a stroke. What it is made of decides how it meets the tooth and how much powder stays.
      </p>
      <Rows
        ids={["load.stick", "load.hardness_gf_mm2", "load.give_um", "load.deposit_um_mm", "load.fill_um", "load.grit_um", "load.grain", "load.face_um", "load.bound"]}
      />
    </div>
  );
}

export function Mix() {
  const document = useDocument();
  if (document?.action === "lay") {
    return (
      <div>
        <p className="pb-2">
          Nothing on a dry sheet is wet, so there is nothing to mix: a stick lays its powder over what is there. A finger, a stump or an eraser moves it; what the
          tool does is chosen beside its name.
        </p>
        <Balance />
      </div>
    );
  }
  return (
    <div>
      <p className="pb-1">The proof sheet is a bed of charcoal with bare paper between, so that there is something to move.</p>
      <Balance />
      <Rows ids={["mix.pickup_mm", "mix.pickup_held", "mix.release_mm", "mix.holds_mm3", "mix.wear_um_mm"]} />
    </div>
  );
}

/** Where the powder of the selected stroke came from and went: nothing is lost. */
function Balance() {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  if (!trace) return null;
  const { from_stick_mm3, in_tool_mm3, dust_mm3 } = trace.balance;
  const rows: [string, number][] = [
    ["From the stick", from_stick_mm3],
    ["In the tool", in_tool_mm3],
    ["Gone as crumbs", dust_mm3],
    ["On the sheet now", trace.sheet_mm3],
  ];
  return (
    <dl aria-label="Powder of this stroke" className="grid grid-cols-[1fr_auto] border-t border-hair py-1" data-testid="balance">
      {rows.map(([label, mm3]) => (
        <div key={label} className="contents">
          <dt>{label}</dt>
          <dd className="num text-right">{mm3.toFixed(4)} mm³</dd>
        </div>
      ))}
    </dl>
  );
}

export function Relief() {
  const gesture = useBench((s) => s.gesture);
  const trace = useTrace("draft", gesture);
  const film = Math.max(0, ...(trace?.dabs ?? []).map((d) => d.film_um));
  return (
    <p>
      Powder lies <span className="num">{film.toFixed(1)} µm</span> high at most on the selected stroke: far below the paper's tooth, so dry tools are shown flat. It
      still raises the surface under the next dab.
    </p>
  );
}

export function Ground() {
  const document = useDocument();
  const figures = useGround(document);
  const dab = useCursorDab();
  const { ref, size } = useSize<HTMLDivElement>();
  const width = size.width;
  return (
    <div>
      <div ref={ref}>{figures && width > 0 && <Bearing figures={figures} load={dab?.load ?? 0} width={width} />}</div>
      {figures && (
        <p className="num py-1 text-[12px] text-muted" data-testid="texture">
          Sa {figures.texture.sa_um.toFixed(1)} Sq {figures.texture.sq_um.toFixed(1)} Sz {figures.texture.sz_um.toFixed(0)} µm · Ssk {figures.texture.ssk.toFixed(2)} Sku{" "}
          {figures.texture.sku.toFixed(2)}
        </p>
      )}
      <Rows ids={["ground.paper", "ground.tooth", "ground.scale", "ground.swap", "ground.follow", "ground.follow_mm"]} />
    </div>
  );
}

/** Left a section of the paper with the depth the stick reaches at the cursor; right the material-ratio curve. */
function Bearing({ figures, load, width }: { figures: NonNullable<ReturnType<typeof useGround>>; load: number; width: number }) {
  const height = 120;
  const heights = figures.material_ratio.map((p) => p[1]);
  const [low, high] = [Math.min(...heights, -5), Math.max(...heights, 5)];
  const y = scaleLinear([low, high], [height - 16, 14]);
  const split = width * 0.62;
  const mm = scaleLinear([0, figures.section_um.length * figures.section_step_mm], [0, split - 10]);
  const share = scaleLinear([0, 1], [split + 6, width - 6]);
  const level = interpolate(figures.plane, Math.min(1, load));
  const covered = figures.material_ratio.find((p) => p[1] < level)?.[0] ?? 1;
  const section = line<number>((_, i) => mm(i * figures.section_step_mm), (v) => y(v))(figures.section_um) ?? "";
  const ratio = line<[number, number]>((p) => share(p[0]), (p) => y(p[1]))(figures.material_ratio) ?? "";
  return (
    <svg width={width} height={height} role="img" aria-label={`Section of the paper and material ratio; the stick stands at ${level.toFixed(1)} µm and touches ${(100 * covered).toFixed(0)} %`}>
      <path d={`${section}L${mm(figures.section_um.length * figures.section_step_mm)},${height - 14}L0,${height - 14}Z`} fill="var(--line)" stroke="var(--muted)" />
      <path d={ratio} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
      <line x1={0} x2={width} y1={y(level)} y2={y(level)} stroke="var(--draft)" strokeDasharray="5 3" strokeWidth={1.4} />
      <circle cx={share(covered)} cy={y(level)} r={4} fill="var(--draft)" />
      <g fontSize={11} fill="var(--muted)">
        <text x={2} y={10}>
          section, {mm.domain()[1]?.toFixed(0)} mm
        </text>
        <text x={width - 4} y={10} textAnchor="end">
          material ratio
        </text>
        <text x={width - 4} y={height - 2} textAnchor="end" fill="var(--draft)" fontWeight={600}>
          touches {(100 * covered).toFixed(0)} % at {short(level, 2)} µm
        </text>
        <text x={2} y={height - 2}>
          {low.toFixed(0)} to {high.toFixed(0)} µm
        </text>
      </g>
    </svg>
  );
}

function interpolate(table: [number, number][], at: number): number {
  const i = table.findIndex((p) => p[0] >= at);
  const [b, a] = [table[i] ?? table.at(-1), table[i - 1]];
  if (!b) return 0;
  if (!a) return b[1];
  return a[1] + ((b[1] - a[1]) * (at - a[0])) / (b[0] - a[0]);
}


/** The tool document as the core defines it, and pure questions about it. */

import type { DabTrace, Declarations, MediumDeclared, Parameter, Quality, Recipe, Response, Station, Tool as ToolDocument, Value } from "../generated/core";
import { sameGround } from "./ground";
import { fixed } from "./number";

export type { Response, Role, Signal, SignalInfo, Station, Technique, Value } from "../generated/core";
export type { Declarations, MediumDeclared, Parameter, Tool as ToolDocument } from "../generated/core";

/** A parameter that is a number. */
export type NumberParameter = Extract<Parameter, { kind: "number" }>;

/** What is declared of the medium of this name; of the first for none. */
export function mediumOf(declarations: Declarations, name: string | null): MediumDeclared {
  const medium = declarations.media.find((m) => m.medium === name) ?? declarations.media[0];
  if (!medium) throw new Error("the core declares no medium");
  return medium;
}

/** What a document of a medium has that says nothing else. */
export const defaultsOf = (medium: MediumDeclared): Record<string, Value> => Object.fromEntries(medium.parameters.map((p) => [p.id, p.kind === "image" ? "" : p.default]));

/** The value of a dab's column, by the columns of its medium; 0 where there is no such column. */
export const valueOf = (medium: MediumDeclared, dab: DabTrace, column: string): number => dab.values[medium.columns.findIndex((c) => c.id === column)] ?? 0;

export const STATIONS: { id: Station; label: string }[] = [
  { id: "hand", label: "Hand" },
  { id: "touch", label: "Touch" },
  { id: "tip", label: "Tip" },
  { id: "load", label: "Load" },
  { id: "mix", label: "Mix" },
  { id: "ground", label: "Ground" },
  { id: "relief", label: "Relief" },
];

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** Station of a response: where its quality's own value lives is where it acts, but it is tuned at Touch. */
export const RESPONSE_STATION: Station = "touch";

/** Whether two values are the same; mixtures are where they hold the same parts, in whatever order. */
export function sameValue(a: Value | undefined, b: Value | undefined): boolean {
  if (typeof a !== "object" || typeof b !== "object") return a === b;
  const codes = Object.keys(a);
  return codes.length === Object.keys(b).length && codes.every((code) => a[code] === b[code]);
}

/** Parameters that differ, by id. */
export function changedParameters(kept: ToolDocument, draft: ToolDocument): string[] {
  const ids = new Set([...Object.keys(kept.parameters), ...Object.keys(draft.parameters)]);
  return [...ids].filter((id) => !sameValue(kept.parameters[id], draft.parameters[id]));
}

/** Responses that differ, were added or are gone, by id. */
export function changedResponses(kept: ToolDocument, draft: ToolDocument): string[] {
  const ids = new Set([...kept.responses, ...draft.responses].map((r) => r.id));
  const find = (doc: ToolDocument, id: string) => doc.responses.find((r) => r.id === id);
  return [...ids].filter((id) => !same(find(kept, id), find(draft, id)));
}

/** How many things differ, and at which stations. */
export function changes(kept: ToolDocument, draft: ToolDocument, parameters: Parameter[]) {
  const changed = changedParameters(kept, draft);
  const responses = changedResponses(kept, draft);
  const stations = new Set<Station>();
  for (const id of changed) {
    const station = parameters.find((p) => p.id === id)?.station;
    if (station) stations.add(station);
  }
  const combine = !same(kept.combine, draft.combine);
  if (responses.length > 0 || combine) stations.add(RESPONSE_STATION);
  if (kept.action !== draft.action) stations.add("mix");
  const ground = !sameGround(kept.ground, draft.ground);
  if (ground) stations.add("ground");
  const other = Number(ground) + Number(kept.action !== draft.action) + Number(kept.name !== draft.name) + Number(kept.intent !== draft.intent) + Number(combine);
  return { count: changed.length + responses.length + other, stations };
}

/** Whether a response is a factor: not the first of a product. */
export function isFactor(doc: ToolDocument, id: string): boolean {
  const i = doc.responses.findIndex((r) => r.id === id);
  const response = doc.responses[i];
  if (!response || response.quality === "angle") return false;
  if (response.around || (doc.combine[response.quality] ?? "product") !== "product") return false;
  return doc.responses.slice(0, i).some((r) => r.quality === response.quality && !r.around);
}

/** Whether a signal is thrown by chance. */
export const isChance = (signal: string) => signal.startsWith("chance");

/** What a response's output may be, and its unit. */
export function outputRange(doc: ToolDocument, response: Response, own: NumberParameter): { low: number; high: number; step: number; unit: string } {
  if (response.around) return response.quality === "angle" ? { low: -180, high: 180, step: 1, unit: "°" } : { low: -1, high: 1, step: 0.01, unit: "×" };
  return isFactor(doc, response.id) ? { low: 0, high: 2, step: 0.01, unit: "×" } : own;
}

/** The output a response of this kind begins with: little to what the tool has now, or a small spread around it. */
export function firstOutput(doc: ToolDocument, response: Response, own: NumberParameter): [number, number] {
  if (response.around) return response.quality === "angle" ? [-10, 10] : [-0.02, 0.02];
  return isFactor(doc, response.id) ? [0, 1] : [own.low, Math.max(Number(doc.parameters[own.id] ?? own.default), own.low + own.step)];
}

/** A response name that the document does not have yet. */
export function freeId(doc: ToolDocument): string {
  let n = doc.responses.length + 1;
  while (doc.responses.some((r) => r.id === `response-${n}`)) n++;
  return `response-${n}`;
}

/** The document with a copy of a response on a quality; its output begins anew where the quality is another. */
export function withCopy(doc: ToolDocument, response: Response, quality: Quality, own: NumberParameter): { document: ToolDocument; id: string } {
  const copy: Response = { ...structuredClone(response), id: freeId(doc), quality };
  const document = { ...doc, responses: [...doc.responses, copy] };
  const { low, high } = outputRange(document, copy, own);
  if (quality !== response.quality || copy.output.some((v) => v < low || v > high)) copy.output = firstOutput(document, copy, own);
  return { document, id: copy.id };
}

/** `doc` with what differs between two other states of it, and nothing else: it may have moved on since. */
export function withDifference(doc: ToolDocument, from: ToolDocument, to: ToolDocument): ToolDocument {
  const parameters = Object.fromEntries(changedParameters(from, to).map((id) => [id, to.parameters[id]]).filter((p): p is [string, Value] => p[1] !== undefined));
  const responses = changedResponses(from, to);
  const changed = (r: Response) => (responses.includes(r.id) ? (to.responses.find((t) => t.id === r.id) ?? r) : r);
  return { ...doc, parameters: { ...doc.parameters, ...parameters }, responses: doc.responses.map(changed) };
}

export function withGround(doc: ToolDocument, ground: Recipe): ToolDocument {
  return doc.ground === ground ? doc : { ...doc, ground };
}

export function withParameter(doc: ToolDocument, id: string, value: Value): ToolDocument {
  if (doc.parameters[id] === value) return doc;
  return { ...doc, parameters: { ...doc.parameters, [id]: value } };
}

/** A change of a response; what is undefined is taken away. */
export type ResponseChange = { [K in keyof Response]?: Response[K] | undefined };

export function withResponse(doc: ToolDocument, id: string, change: ResponseChange): ToolDocument {
  const given = Object.fromEntries(Object.entries(change).filter(([, v]) => v !== undefined)) as Partial<Response>;
  const changed = (r: Response): Response => {
    const { repeat, around, ...rest } = r;
    const kept = { ...("repeat" in change || repeat === undefined ? {} : { repeat }), ...("around" in change || around === undefined ? {} : { around }) };
    return { ...rest, ...kept, ...given };
  };
  return { ...doc, responses: doc.responses.map((r) => (r.id === id ? changed(r) : r)) };
}

/** Rounds to a number of digits that a reader can use. */
export function short(value: number, digits = 3): string {
  if (value === 0) return "0";
  const places = Math.max(0, Math.min(4, digits - 1 - Math.floor(Math.log10(Math.abs(value)))));
  return fixed(value, places);
}

/**
 * While nobody draws or tunes, the paper of the rack's other tools is made, and a stroke of each medium laid there that nobody sees: what the
 * browser runs for the first time is slow. Each is then on the bench at once.
 */

import type { Tool } from "../api/client";
import { prepareGround } from "../engine/client";
import type { ToolDocument } from "../model/tool";
import { useProof } from "./proofStore";
import { documentOf, useBench } from "./store";

/** Nothing was done for so long, ms; and between one paper and the next. */
const QUIET_MS = 4000;
const NEXT_MS = 500;
/** Made ahead at most: what most tools have. */
const MOST = 8;

const ACTS = ["pointerdown", "pointermove", "keydown", "wheel"] as const;

/** What is made ahead for a tool is made for all of its medium on that ground. */
const kindOf = ({ ground, medium }: ToolDocument) => JSON.stringify([ground, medium]);

/** A tool of each kind, those of the most tools first. */
function oneOfEachKind(tools: Tool[]): Tool[] {
  const alike = new Map<string, Tool[]>();
  for (const tool of tools) {
    const kind = kindOf(tool.kept.document);
    alike.set(kind, [...(alike.get(kind) ?? []), tool]);
  }
  return [...alike.values()].sort((a, b) => b.length - a.length).flatMap((all) => all.slice(0, 1));
}

/** Makes papers ahead until what this gives is called. */
export function makeAhead(tools: Tool[]): () => void {
  const ahead = oneOfEachKind(tools).slice(0, MOST);
  const there = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let making = false;
  // What dries, or is still to be laid, has the processors first.
  const busy = () => {
    const { busy, drying } = useProof.getState();
    return [busy, drying].some((columns) => Object.values(columns).some(Boolean)) || document.hidden;
  };
  const make = async () => {
    const current = documentOf(useBench.getState());
    if (busy() || making || !current) return;
    there.add(kindOf(current));
    const next = ahead.find((tool) => !there.has(kindOf(tool.kept.document)));
    if (!next) return;
    making = true;
    const whole = await prepareGround(next.kept.document).finally(() => (making = false));
    if (whole) there.add(kindOf(next.kept.document));
    wait(whole ? NEXT_MS : QUIET_MS);
  };
  const wait = (ms = QUIET_MS) => {
    clearTimeout(timer);
    // A paper that cannot be made is told of where it is drawn on.
    timer = setTimeout(() => void make().catch(() => undefined), ms);
  };
  const act = () => {
    // A lost worker makes nothing any more.
    if (making) void prepareGround(null).catch(() => undefined);
    wait();
  };
  ACTS.forEach((name) => window.addEventListener(name, act, { passive: true }));
  const stop = useProof.subscribe(({ busy, drying }, before) => (busy !== before.busy || drying !== before.drying) && wait());
  wait();
  return () => {
    clearTimeout(timer);
    stop();
    ACTS.forEach((name) => window.removeEventListener(name, act));
  };
}

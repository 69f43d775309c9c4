/** While nobody draws or tunes, the paper of the rack's other tools is made: each is then on the bench at once. */

import type { Tool } from "../api/client";
import { prepareGround } from "../engine/client";
import { useProof } from "./proofStore";
import { documentOf, useBench } from "./store";

/** Nothing was done for so long, ms. */
const QUIET_MS = 4000;
/** Papers made ahead at most: those that most tools lie on. */
const MOST = 5;

const ACTS = ["pointerdown", "pointermove", "keydown", "wheel"] as const;

/** A tool of each ground, those of the most tools first. */
function oneOfEachGround(tools: Tool[]): Tool[] {
  const lying = new Map<string, Tool[]>();
  for (const tool of tools) {
    const key = JSON.stringify(tool.kept.document.ground);
    lying.set(key, [...(lying.get(key) ?? []), tool]);
  }
  return [...lying.values()].sort((a, b) => b.length - a.length).flatMap((all) => all.slice(0, 1));
}

/** Makes papers ahead until what this gives is called. */
export function makeAhead(tools: Tool[]): () => void {
  const ahead = oneOfEachGround(tools).slice(0, MOST);
  const there = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let making = false;
  const busy = () => Object.values(useProof.getState().busy).some(Boolean) || document.hidden;
  const make = async () => {
    const current = documentOf(useBench.getState());
    if (busy() || making || !current) return;
    there.add(JSON.stringify(current.ground));
    const next = ahead.find((tool) => !there.has(JSON.stringify(tool.kept.document.ground)));
    if (!next) return;
    making = true;
    const whole = await prepareGround(next.kept.document).finally(() => (making = false));
    if (whole) there.add(JSON.stringify(next.kept.document.ground));
    wait();
  };
  const wait = () => {
    clearTimeout(timer);
    // A paper that cannot be made is told of where it is drawn on.
    timer = setTimeout(() => void make().catch(() => undefined), QUIET_MS);
  };
  const act = () => {
    // A lost worker makes nothing any more.
    if (making) void prepareGround(null).catch(() => undefined);
    wait();
  };
  ACTS.forEach((name) => window.addEventListener(name, act, { passive: true }));
  const stop = useProof.subscribe(({ busy }, before) => busy !== before.busy && wait());
  wait();
  return () => {
    clearTimeout(timer);
    stop();
    ACTS.forEach((name) => window.removeEventListener(name, act));
  };
}

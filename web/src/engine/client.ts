/** The page's hold on the engine: one worker, and the wishes it is asked to fulfil in order. */

import { proxy, transfer, wrap, type Remote } from "comlink";
import type { EngineApi, ProofJob, Strip } from "./types";

export const engine: Remote<EngineApi> = wrap<EngineApi>(
  new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }),
);

export function runProof(job: ProofJob, onStrip: (strip: Strip) => void): Promise<boolean> {
  return engine.runProof(job, proxy(onStrip));
}

export function sendSamples(samples: Float64Array<ArrayBuffer>, madeAt: number) {
  void engine.padExtend(transfer(samples, [samples.buffer]), madeAt);
}

export function giveCanvas(canvas: OffscreenCanvas) {
  void engine.padCanvas(transfer(canvas, [canvas]));
}

/** A refusal of the core, thrown as JSON. */
export function refusalOf(error: unknown): { field: string; message: string } {
  const text = error instanceof Error ? error.message : String(error);
  try {
    const parsed: unknown = JSON.parse(text);
    if (typeof parsed === "object" && parsed !== null && "field" in parsed && "message" in parsed) {
      return { field: String(parsed.field), message: String(parsed.message) };
    }
  } catch {
    // Not one of ours: say it as it is.
  }
  return { field: "", message: text };
}

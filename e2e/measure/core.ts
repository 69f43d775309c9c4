/** What the core's own measures give, natively and in Chromium. */

import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { expect } from "../bench";
import { repository, type Studio } from "../server";

export interface Figures {
  footprint_px: number;
  pixels: number;
  dabs: number;
  dry: number;
  stamp: number;
  copy: number;
  ns_per_pixel: number;
  to_stamp: number;
  to_copy: number;
  large_to_small: number;
  bytes_per_painted_megapixel: number;
  snapshot: number;
  paper: number;
  lit: number;
  frames: { what: string; footprint_px: number; ns_per_pixel: number; p50: number; p95: number; late: number }[];
}

export interface Wash {
  pigments: number;
  wet: number;
  ms: number;
  fastest_ms: number;
  to_copy: number;
  to_study_copy: number;
  bytes_a_cell: number;
}

export interface Brush {
  what: string;
  ms: number;
  to_copy: number;
  megapixels: number;
  large_to_small: number;
}

export interface Refusal {
  name: string;
  bytes: number;
  ms: number;
  mib: number;
  said: string;
}

type What = "measure" | "brushes" | "washes";

/** The measures of the page's own module, once it has it. */
export async function measuresOf(page: Page, studio: Studio) {
  const folder = join(repository, "target/bench-wasm");
  await page.goto(studio.url);
  await page.route(`${studio.url}measure/*`, (route) => {
    const file = new URL(route.request().url()).pathname.replace("/measure/", "");
    return route.fulfill({ body: readFileSync(join(folder, file)), contentType: file.endsWith(".wasm") ? "application/wasm" : "text/javascript" });
  });
  return (what: What): Promise<unknown> =>
    page.evaluate(async (what) => {
      const path = "/measure/saltmarsh_bench.js";
      const module = await import(path);
      await module.default({ module_or_path: "/measure/saltmarsh_bench_bg.wasm" });
      return JSON.parse(module[what](performance));
    }, what);
}

/** Rounds of what is measured in turn. */
export const ROUNDS = 3;

/** What the machine gives changes from minute to minute: natively and in the browser in turn, and the quickest of each counts. */
export async function inTurn<T extends { ms: number; fastest_ms?: number }>(what: What, measured: (what: What) => Promise<unknown>): Promise<[T, T][]> {
  let quickest: [T, T][] = [];
  const of = (t: T) => t.fastest_ms ?? t.ms;
  const less = (a: T, b: T) => (of(b) < of(a) ? b : a);
  for (let round = 0; round < ROUNDS; round++) {
    const native = JSON.parse(execFileSync(join(repository, "target/release/saltmarsh-bench"), [what]).toString()) as T[];
    const browser = (await measured(what)) as T[];
    expect(browser).toHaveLength(native.length);
    quickest = native.map((n, i) => {
      const b = browser[i] as T;
      const [before, beforeThere] = quickest[i] ?? [n, b];
      return [less(before, n), less(beforeThere, b)];
    });
  }
  return quickest;
}

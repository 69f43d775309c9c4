/**
 * The engine's workers. One whose module has trapped, or that was killed, is replaced by a fresh one; whoever still waits for an
 * answer of the old one is told that it is lost, and all who listen lay anew what it had laid.
 */

import { wrap, type Remote } from "comlink";
import type { EngineApi } from "./types";

/** An answer that will not come: its worker is gone, and another has taken its place. */
export class EngineLost extends Error {
  constructor() {
    super("the engine has stopped and was started anew");
  }
}

/** A module that has trapped is in no known state: nothing more is asked of it. */
const isTrap = (error: unknown) => error instanceof Error && (error.name === "RuntimeError" || /unreachable|recursive use of an object|memory access out of bounds/.test(error.message));

interface Hand {
  worker: Worker;
  remote: Remote<EngineApi>;
  /** Rejects every answer that is waited for. */
  waiting: Set<(error: Error) => void>;
  /** It was lost, and nobody took its place. */
  gone: boolean;
}

export class Crew {
  private hands: Hand[];
  private module: Promise<WebAssembly.Module> | null = null;
  private listeners = new Set<(index: number) => void>();
  private started = false;
  /** A worker that is lost again and again is not started for ever. */
  private lost = 0;

  /** `compile`: the module, compiled once for all of them; `program`: its name, if that tells it for good. */
  constructor(
    count: number,
    private make: () => Worker,
    private compile: () => Promise<WebAssembly.Module>,
    private program: string,
  ) {
    this.hands = Array.from({ length: count }, () => this.hire());
    void this.compiled();
  }

  get size() {
    return this.hands.length;
  }

  /** Starts all; gives what the core declares. */
  async start() {
    const all = await Promise.all(this.hands.map((_, i) => this.ready(i)));
    this.started = true;
    if (!all[0]) throw new Error("the engine has no worker");
    return all[0];
  }

  /** Told of every worker that was replaced, once the new one is ready. */
  onReplaced(listener: (index: number) => void) {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  /** The worker of an index, also after it was replaced. */
  at(index: number): Remote<EngineApi> {
    return new Proxy({} as Remote<EngineApi>, {
      get: (_, name: string) => (...args: unknown[]) => this.ask(index, name, args),
    });
  }

  private hire(): Hand {
    const worker = this.make();
    return { worker, remote: wrap<EngineApi>(worker), waiting: new Set(), gone: false };
  }

  /** The module; where it could not be had, it is asked for anew the next time. */
  private compiled(): Promise<WebAssembly.Module> {
    if (this.module) return this.module;
    const module = this.compile();
    module.catch(() => (this.module = null));
    return (this.module = module);
  }

  private async ready(index: number) {
    const hand = this.hands[index];
    if (!hand) throw new Error(`there is no worker ${index}`);
    const declarations = await hand.remote.start(await this.compiled(), index, this.program);
    this.watch(index, hand);
    return declarations;
  }

  /** A worker holds a lock as long as it lives: whoever gets it knows that the worker is gone. */
  private watch(index: number, hand: Hand) {
    // Locks are only where the page is trusted with them (HTTPS or this machine); elsewhere the worker is asked for a sign of life.
    if (!("locks" in navigator)) {
      setTimeout(() => {
        if (this.hands[index] !== hand) return;
        const silent = setTimeout(() => this.replace(index, hand), SILENT_MS);
        void hand.remote.alive().then(() => {
          clearTimeout(silent);
          if (this.hands[index] === hand) this.watch(index, hand);
        });
      }, BEAT_MS);
      return;
    }
    const name = `saltmarsh-worker-${crypto.randomUUID()}`;
    void hand.remote.holdLock(name).then(() => navigator.locks.request(name, () => this.replace(index, hand)));
  }

  private ask(index: number, name: string, args: unknown[]): Promise<unknown> {
    const hand = this.hands[index];
    if (!hand) return Promise.reject(new Error(`there is no worker ${index}`));
    if (hand.gone) return Promise.reject(new Error(GIVEN_UP));
    return new Promise((resolve, reject) => {
      hand.waiting.add(reject);
      const call = (hand.remote as unknown as Record<string, (...all: unknown[]) => Promise<unknown>>)[name];
      if (!call) return reject(new Error(`the engine knows no ${name}`));
      call(...args)
        .then(resolve, (error: unknown) => {
          if (!isTrap(error)) return reject(error as Error);
          reject(new EngineLost());
          this.replace(index, hand);
        })
        .finally(() => hand.waiting.delete(reject));
    });
  }

  private replace(index: number, hand: Hand) {
    if (this.hands[index] !== hand || !this.started) return;
    hand.worker.terminate();
    this.lost++;
    if (this.lost > MOST_LOST) {
      hand.gone = true;
      [...hand.waiting].forEach((reject) => reject(new Error(GIVEN_UP)));
      return;
    }
    this.hands[index] = this.hire();
    [...hand.waiting].forEach((reject) => reject(new EngineLost()));
    void this.ready(index).then(() => this.listeners.forEach((listener) => listener(index)));
  }
}

/** How often a sign of life is asked for, and after how long without one a worker is taken for lost, ms: it may be at long work. */
const BEAT_MS = 10_000;
const SILENT_MS = 30_000;

/** Workers that may be lost before the page gives up; whoever asks is told so. */
const MOST_LOST = 12;
const GIVEN_UP = "the engine has stopped again and again: load the page anew";

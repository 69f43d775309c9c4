/** What every part of the Bench may read: declarations of the core, and the gestures of the proof sheet. */

import { createContext, useContext } from "react";
import type { Gesture, Ground, Tool } from "../api/client";
import type { Quality, Signal } from "../generated/core";
import type { Dab } from "../engine/types";
import { mediumOf, valueOf, type Declarations, type NumberParameter, type Parameter, type SignalInfo } from "../model/tool";
import { documentOf, useBench } from "./store";

export interface BenchContext {
  declarations: Declarations;
  tools: Tool[];
  /** Those on the proof sheet, in its order. */
  gestures: Gesture[];
  /** All that the painter keeps. */
  allGestures: Gesture[];
  /** The grounds that the painter keeps. */
  grounds: Ground[];
}

export const Context = createContext<BenchContext | null>(null);

export function useBenchContext(): BenchContext {
  const context = useContext(Context);
  if (!context) throw new Error("used outside the Bench");
  return context;
}

/** What is declared, for the medium of the tool on the bench. */
export function useDeclared() {
  const { declarations } = useBenchContext();
  const name = useBench((s) => documentOf(s)?.medium ?? null);
  const medium = mediumOf(declarations, name);
  const parameter = (id: string): Parameter | undefined => medium.parameters.find((p) => p.id === id);
  const signal = (name: string): SignalInfo | undefined => declarations.signals.find((s) => s.signal === name);
  /** The parameter that is a quality's own value: a number, where the medium has the quality. */
  const ownParameter = (quality: string): NumberParameter | undefined => {
    const own = medium.parameters.find((p) => p.quality === quality);
    return own?.kind === "number" ? own : undefined;
  };
  /** The qualities that the medium has. */
  const qualities: Quality[] = declarations.qualities.filter((q) => medium.parameters.some((p) => p.quality === q));
  const signals: Signal[] = declarations.signals.map((s) => s.signal);
  /** Value of a quality in a dab's trace. */
  const qualityOf = (dab: Dab, quality: Quality) => dab.qualities[declarations.qualities.indexOf(quality)] ?? 0;
  /** Value of one of the medium's columns in a dab's trace. */
  const columnOf = (dab: Dab, column: string) => valueOf(medium, dab, column);
  return { declarations, medium, parameter, signal, signals, qualities, ownParameter, qualityOf, columnOf };
}

/** What every part of the Bench may read: declarations of the core, and the gestures of the proof sheet. */

import { createContext, useContext } from "react";
import type { Gesture, Ground } from "../api/client";
import type { Dab } from "../engine/types";
import type { Declarations, Parameter, SignalInfo } from "../model/tool";

export interface BenchContext {
  declarations: Declarations;
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

export function useDeclared() {
  const { declarations } = useBenchContext();
  const parameter = (id: string): Parameter | undefined => declarations.parameters.find((p) => p.id === id);
  const signal = (name: string): SignalInfo | undefined => declarations.signals.find((s) => s.signal === name);
  const ownParameter = (quality: string) =>
    parameter(declarations.qualities.find((q) => q.quality === quality)?.parameter ?? "");
  /** Value of a quality in a dab's trace. */
  const qualityOf = (dab: Dab, quality: string) =>
    dab.qualities[declarations.qualities.findIndex((q) => q.quality === quality)] ?? 0;
  return { declarations, parameter, signal, ownParameter, qualityOf };
}

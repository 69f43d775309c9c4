/** What is told of a stroke that lies on a surface: of the last one, or the one that the surface was told to tell of. */

import type { Section } from "../generated/core";
import type { Exercised, Explained } from "./types";
import type { Surface } from "./wasm/saltmarsh_browser";

/** Dabs of a trace that go to the page at most. */
const TRACE_DABS = 320;
/** Places of a section. */
const SECTION_PLACES = 240;

export const told = {
  trace: (surface: Surface): string => surface.trace(TRACE_DABS),
  traceCsv: (surface: Surface): string => surface.traceCsv(),
  explain: (surface: Surface, atMm: number): Explained | null => JSON.parse(surface.explain(atMm)),
  section: (surface: Surface, atMm: number, lengthMm: number): Section | null => JSON.parse(surface.section(atMm, lengthMm, SECTION_PLACES)),
  exercised: (surface: Surface): Exercised[] => JSON.parse(surface.exercised()),
  nearest: (surface: Surface, xMm: number, yMm: number): number | null => surface.nearestTravel(xMm, yMm) ?? null,
};

/** How a medium shows itself on the Bench, where a picture made by hand beats a row. */

import type { ComponentType } from "react";
import type { Dab, Trace } from "../engine/types";
import type { Surface } from "../model/ground";
import type { Station, ToolDocument } from "../model/tool";
import { fixed } from "../model/number";

/** What a station of the ribbon shows. */
export interface RibbonView {
  figure: string;
  /** What to say in place of a plot where the station has nothing to do. */
  idle?: string;
  of?: (dab: Dab) => number;
  kept?: Trace | null;
  draft?: Trace | null;
  look?: "ink";
  footprints?: boolean;
}

/** What the ribbon is drawn from. */
export interface RibbonOf {
  document: ToolDocument;
  kept: Trace | null;
  draft: Trace | null;
  /** A dab's value of one of the medium's columns. */
  column: (dab: Dab, column: string) => number;
  /** What people call the ground. */
  ground: string;
}

/** A station's panel. */
export interface StationView {
  /** Above the rows. */
  Picture?: ComponentType;
  /** Whether the rows of the station's parameters stand below it; without it they do. */
  rows?: (document: ToolDocument) => boolean;
}

export interface MediumViews {
  /** What a tool that is made from nothing begins on. */
  beginsOn: Surface;
  stations: Partial<Record<Station, StationView>>;
  /** What the stations after the tip do to a stroke. */
  ribbon: (station: Station, of: RibbonOf) => RibbonView;
  /** The column, a share, that is plotted over the stroke beside the forces. */
  traced?: { column: string; label: string };
}

/** Lowest and highest of something over a stroke, written with its unit. */
export function rangeOf(trace: Trace | null, of: (dab: Dab) => number, digits: number, unit: string): string {
  const values = (trace?.dabs ?? []).map(of);
  return `${fixed(Math.min(...values), digits)}–${fixed(Math.max(...values), digits)} ${unit}`;
}

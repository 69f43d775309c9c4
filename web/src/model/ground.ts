/** A ground's recipe as the core defines it, and pure questions about it. */

import type { Declarations, Number as GroundNumber, Recipe, Surface } from "../generated/core";

export type { Number as GroundNumber, Recipe, Surface } from "../generated/core";
export type GroundDeclarations = Pick<Declarations, "surfaces" | "ground_numbers" | "tints">;

const defaultOf = (n: GroundNumber, surface: string) => n.of.find(([s]) => s === surface)?.[1];

/** The numbers that a surface has. */
export const numbersOf = (declared: GroundDeclarations, surface: string) => declared.ground_numbers.filter((n) => defaultOf(n, surface) !== undefined);

/** A surface with its defaults; numbers and tint of another recipe carry over where the surface has them. */
export function recipeOf(declared: GroundDeclarations, surface: Surface, from?: Recipe): Recipe {
  const numbers = Object.fromEntries(numbersOf(declared, surface).map((n) => [n.id, defaultOf(n, surface) ?? n.low]));
  if (from?.numbers.dye !== undefined) numbers.dye = from.numbers.dye;
  return { surface, seed: from?.seed ?? 0, tint: from?.tint ?? declared.tints[0]?.tint ?? "white", numbers, ...(from?.over ? { over: from.over } : {}) };
}

/** The recipe without its name, in one order of keys: equal for equal surfaces. */
export function keyOf(recipe: Recipe): string {
  const { surface, seed, tint, numbers, image, over } = recipe;
  const sorted = Object.entries(numbers).sort(([a], [b]) => (a < b ? -1 : 1));
  return JSON.stringify([surface, seed, tint, sorted, image ?? null, over ? [keyOf(over.recipe), over.hides] : null]);
}

export const sameGround = (a: Recipe, b: Recipe) => keyOf(a) === keyOf(b);

/** What people call it: its name, else its surface. */
export const calledOf = (declared: GroundDeclarations, recipe: Recipe) =>
  recipe.name || (declared.surfaces.find((s) => s.surface === recipe.surface)?.label ?? recipe.surface);

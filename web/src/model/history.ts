/** Steps back and forth, whatever they are steps of. */

export interface History<T> {
  past: T[];
  now: T;
  future: T[];
}

/** A step to something new: what was taken back before is gone. At most `most` steps are kept. */
export const stepped = <T>({ past, now }: History<T>, next: T, most: number): History<T> => ({ past: [...past.slice(1 - most), now], now: next, future: [] });

/** So many steps from now, −1 the last one before; null where there is none. */
export function moved<T>({ past, now, future }: History<T>, by: number): History<T> | null {
  const all = [...past, now, ...future];
  const at = past.length + by;
  const there = all[at];
  return by === 0 || there === undefined ? null : { past: all.slice(0, at), now: there, future: all.slice(at + 1) };
}

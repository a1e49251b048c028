/** Random numbers that are the same for the same seed (mulberry32, public domain). */
export interface Random {
  /** From 0 up to 1. */
  readonly next: () => number;
  /** A whole number below the limit. */
  readonly below: (limit: number) => number;
  readonly of: <T>(some: readonly T[]) => T;
  readonly chance: (share: number) => boolean;
}

export function randomOf(seed: number): Random {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
  const below = (limit: number): number => Math.floor(next() * limit);
  return { next, below, of: (some) => some[below(some.length)], chance: (share) => next() < share };
}

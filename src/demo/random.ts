/** A seeded source of chance: the same seed gives the same site (mulberry32). */
export interface Random {
  /** From 0 to below 1. */
  next(): number;
  /** A whole number from 0 to below `n`. */
  below(n: number): number;
  pick<T>(list: readonly T[]): T;
  /** True in the given share of cases. */
  chance(share: number): boolean;
}

export function seeded(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const below = (n: number) => Math.floor(next() * n);
  return { next, below, pick: (list) => list[below(list.length)]!, chance: (share) => next() < share };
}

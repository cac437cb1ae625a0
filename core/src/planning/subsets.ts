/** What the exact searches share: sets of a few things as bits, and the order of ways that cost the same. */

/** The first thing of a set that is not empty, and the set without it. */
export function firstOf(set: number): { first: number; rest: number } {
  return { first: 31 - Math.clz32(set & -set), rest: set & (set - 1) };
}

/** A number of two halves: compared by the first, then by the second; each adds up as costs do. */
export interface Rank {
  high: number;
  low: number;
}

/**
 * The order of ways in which the first thing that differs decides: each thing has a digit of its own, so
 * that the ranks of things add up to that of the way.
 * @param many how many things, 12 at most
 * @param ranks how many ranks each may have, from 0
 */
export function ranking(many: number, ranks: number): (thing: number, rank: number) => Rank {
  const half = Math.ceil(many / 2);
  return (thing, rank) => ({
    high: thing < half ? rank * ranks ** (half - 1 - thing) : 0,
    low: thing < half ? 0 : rank * ranks ** (many - 1 - thing),
  });
}

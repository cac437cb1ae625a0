/**
 * A whole number from 0 to n − 1, again and again, that looks like chance and is the same for the same
 * seed: good enough for made-up data and tests, and for nothing secret (mulberry32; constants from memory).
 */
export function chance(seed: number): (n: number) => number {
  let state = seed >>> 0;
  return (n) => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * n);
  };
}

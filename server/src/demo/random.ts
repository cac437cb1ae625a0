/** Numbers that look like chance and are the same for the same seed. */
export interface Random {
  /** A whole number from 0 to `n` − 1. */
  below(n: number): number;
  /** An id in the form of a UUID, version 4 (RFC 9562 §5.4). */
  uuid(): string;
}

/** The generator mulberry32: 32 bits of state, good enough for made-up data (constants from memory). */
export function randomFrom(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const below = (n: number) => Math.floor(next() * n);
  return {
    below,
    uuid() {
      const digits = Array.from({ length: 32 }, (_, i) => {
        if (i === 12) return '4';
        return (i === 16 ? 8 + below(4) : below(16)).toString(16);
      }).join('');
      return digits.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/u, '$1-$2-$3-$4-$5');
    },
  };
}

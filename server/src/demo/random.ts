import { chance } from '@back-again/core/rehearsal';

/** Numbers that look like chance and are the same for the same seed. */
export interface Random {
  /** A whole number from 0 to `n` − 1. */
  below(n: number): number;
  /** An id in the form of a UUID, version 4 (RFC 9562 §5.4). */
  uuid(): string;
}

/** Chance with ids, for made-up data. */
export function randomFrom(seed: number): Random {
  const below = chance(seed);
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

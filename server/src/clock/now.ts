import type { Instant } from '@back-again/core';

/** The server's time. In tests it can be set; it then stands still until it is set again. */
export interface Now {
  (): Instant;
  set(instant: Instant | null): void;
}

/** @param shift by how many milliseconds it runs ahead of the machine's time, in tests */
export function systemNow(shift = 0): Now {
  let fixed: Instant | null = null;
  const now = (() => fixed ?? Date.now() + shift) as Now;
  now.set = (instant) => {
    fixed = instant;
  };
  return now;
}

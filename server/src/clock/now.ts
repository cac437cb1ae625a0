import type { Instant } from '@back-again/core';

/** The server's time. In tests it can be set; it then stands still until it is set again. */
export interface Now {
  (): Instant;
  set(instant: Instant | null): void;
}

export function systemNow(): Now {
  let fixed: Instant | null = null;
  const now = (() => fixed ?? Date.now()) as Now;
  now.set = (instant) => {
    fixed = instant;
  };
  return now;
}

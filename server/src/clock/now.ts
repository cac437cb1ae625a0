import type { Instant } from '@back-again/core';

/** The server's time. In tests it can be set; it then stands still until it is set again. */
export interface Now {
  (): Instant;
  set(instant: Instant | null): void;
  /** What its own clock says. */
  own(): Instant;
  /** It never says more than this. */
  limit(latest: () => Instant): void;
}

/** @param shift by how many milliseconds it runs ahead of the machine's time, in tests */
export function systemNow(shift = 0): Now {
  let fixed: Instant | null = null;
  let latest = (): Instant => Infinity;
  const own = () => Date.now() + shift;
  const now = () => fixed ?? Math.min(own(), latest());
  return Object.assign(now, {
    own,
    set(instant: Instant | null) {
      fixed = instant;
    },
    limit(given: () => Instant) {
      latest = given;
    },
  });
}

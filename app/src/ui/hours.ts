import { parseTime, type LocalTime } from '@back-again/core';

/** The hours of a day along a line, as rulers show them. */

/** The first and the last hour that is shown. */
export const [FIRST, LAST] = [6, 22];

/** Each hour that is shown. */
export const HOURS: readonly number[] = Array.from(
  { length: LAST - FIRST + 1 },
  (_, i) => FIRST + i,
);

/** Where a minute of the day stands along a line so wide, so far from its ends; what is outside, at an end. */
export const along =
  (width: number, edge: number) =>
  (minute: number): number => {
    const share = (minute / 60 - FIRST) / (LAST - FIRST);
    return edge + Math.min(1, Math.max(0, share)) * (width - 2 * edge);
  };

/** The minute of the day of a time. */
export const minuteOf = (at: LocalTime): number => parseTime(at);

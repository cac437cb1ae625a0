import { dayOf, type Day } from '../../calendar/day.ts';
import { parseSpan, type Span } from '../../calendar/span.ts';
import { CoreError } from '../../errors.ts';

/** The bounds of R19: within them every definition is computed in well under a second. */

export const FIRST_START: Day = dayOf(1900, 1, 1);
export const LAST_START: Day = dayOf(2200, 12, 31);
/** So many times of day. */
export const MOST_AT = 24;
export const MOST_DATES = 1000;
export const MOST_REMINDERS = 10;
export const MOST_PAUSES = 50;
/** So many of its times can be open at once because they open early. */
export const MOST_OPEN = 366;
/** So many are owed: when one more opens, the oldest ends as missed. */
export const MOST_OWED = 366;
/** So many moments of one day’s times at which to speak. */
export const MOST_MOMENTS = 200;
/** The shortest span after which something comes back. */
export const LEAST_MINUTES = 15;

/**
 * Checks that a span is two years at most: 24 months, or the 731 days that two years with a leap day
 * have, or as much of both.
 * @throws CoreError with the code and words that are given
 */
export function checkTwoYears(span: Span, code: string, where: string, words: string): void {
  const { months, days, minutes } = parseSpan(span, where);
  if ((months * 365.25) / 12 + days + minutes / 1440 > 731) throw new CoreError(code, where, words);
}

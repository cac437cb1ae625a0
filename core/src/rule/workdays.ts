import { LAST_DAY, dateOf, firstOfMonth, type Day } from '../calendar/day.ts';
import type { OpenDays } from '../calendar/workdays.ts';
import { sequenceOf, type Periods, type Sequence } from './sequence.ts';

/** The span within which working days are counted. */
export type Per = 'month' | 'quarter' | 'year';

const MONTHS: Record<Per, number> = { month: 1, quarter: 3, year: 12 };

/**
 * The nth working day of each month, quarter or year, from the end where `nth` is negative, on or
 * after `start`. A period that has not so many has none. Quarters begin in January, April, July
 * and October.
 * @param nth 1 to 366, or −1 to −366
 * @param until the last day on which one may fall
 */
export function nthWorkdays(
  open: OpenDays,
  nth: number,
  per: Per,
  start: Day,
  until: Day = LAST_DAY,
): Sequence {
  const months = MONTHS[per];
  const indexOfMonth = (day: Day) => {
    const { year, month } = dateOf(day);
    return Math.floor((year * 12 + month - 1) / months);
  };
  const origin = indexOfMonth(start);
  const begins = (index: number): Day => {
    const at = (origin + index) * months;
    const year = Math.floor(at / 12);
    return firstOfMonth(year, at - year * 12 + 1);
  };
  const periods: Periods = {
    spills: 0,
    size: null,
    // Holidays come to an end, and weekdays repeat: four hundred years tell all.
    empty: 4800 / months,
    room: 1,
    indexOf: (day) => indexOfMonth(day) - origin,
    begins,
    skip: null,
    fill(index, into) {
      const first = begins(index);
      const last = begins(index + 1) - 1;
      const rank = nth > 0 ? open.rank(first - 1) + nth : open.rank(last) + nth + 1;
      const day = open.withRank(rank);
      if (day === null || day < first || day > last) return 0;
      into[0] = day;
      return 1;
    },
  };
  return sequenceOf(periods, { start, until: Math.min(until, LAST_DAY), count: null });
}

/**
 * Each nth working day, counted from the first one on or after `start` (R1).
 * @param every 1 and more
 */
export function everyWorkdays(
  open: OpenDays,
  every: number,
  start: Day,
  until: Day = LAST_DAY,
): Sequence {
  const first = open.onOrAfter(start);
  const base = first === null ? 0 : open.rank(first);
  const at = (index: number) => open.withRank(base + index * every);
  const periods: Periods = {
    spills: 0,
    size: null,
    empty: 0,
    room: 1,
    indexOf: (day) => Math.floor((open.rank(day) - base) / every),
    begins: (index) => at(index) ?? LAST_DAY + 1,
    skip: first === null ? () => -1 : null,
    fill(index, into) {
      const day = at(index);
      if (day === null) return 0;
      into[0] = day;
      return 1;
    },
  };
  return sequenceOf(periods, { start, until: Math.min(until, LAST_DAY), count: null });
}

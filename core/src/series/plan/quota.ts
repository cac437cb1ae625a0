import {
  dateOf,
  daysInMonth,
  WEEKDAYS,
  weekdayIndex,
  type Day,
  type Weekday,
} from '../../calendar/day.ts';

/** A period in which something is to be done so many times. */
export type QuotaPer = 'day' | 'week' | 'month';

/** The first and the last day of the period that holds a day; weeks begin on the person's own day. */
export function periodOf(per: QuotaPer, day: Day, weekStart: Weekday): { first: Day; last: Day } {
  if (per === 'day') return { first: day, last: day };
  if (per === 'week') {
    const first = day - ((weekdayIndex(day) - WEEKDAYS.indexOf(weekStart) + 7) % 7);
    return { first, last: first + 6 };
  }
  const { year, month, day: n } = dateOf(day);
  const first = day - n + 1;
  return { first, last: first + daysInMonth(year, month) - 1 };
}

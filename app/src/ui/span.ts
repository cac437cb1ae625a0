import {
  WEEKDAYS,
  WEEKDAY_NAMES,
  dateOf,
  dayOf,
  daysInMonth,
  formatDay,
  parseDay,
  startOfWeek,
  type LocalDate,
  type Weekday,
} from '@back-again/core';

/** Weeks and months by their days. */

export const later = (date: LocalDate, days: number): LocalDate => formatDay(parseDay(date) + days);

/** The first day of the week that holds a day. */
export const weekOf = (date: LocalDate, weekStart: Weekday): LocalDate =>
  formatDay(startOfWeek(parseDay(date), WEEKDAYS.indexOf(weekStart)));

/** The first and the last day of the month that holds a day. */
export function monthDays(date: LocalDate): { first: LocalDate; last: LocalDate } {
  const { year, month } = dateOf(parseDay(date));
  const first = dayOf(year, month, 1);
  return { first: formatDay(first), last: formatDay(first + daysInMonth(year, month) - 1) };
}

/** The first day of the month so many months on. */
export function monthLater(date: LocalDate, months: number): LocalDate {
  const { year, month } = dateOf(parseDay(date));
  const n = year * 12 + month - 1 + months;
  return formatDay(dayOf(Math.floor(n / 12), (n % 12) + 1, 1));
}

/** The weekdays in a person's order: which is first, and their short names. */
export function weekOrder(weekStart: Weekday): { first: number; short: string[] } {
  const first = WEEKDAYS.indexOf(weekStart);
  return {
    first,
    short: Array.from({ length: 7 }, (_, i) => WEEKDAY_NAMES[(first + i) % 7]!.slice(0, 2)),
  };
}

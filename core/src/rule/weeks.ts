import { dayOf, startOfWeek, type Day } from '../calendar/day.ts';

/**
 * The first day of week 1 of a year, for weeks that begin on `weekStart` (0 is Monday): the first
 * week with at least four days in that year (RFC 5545 §3.3.10; ISO 8601 with Monday).
 */
export function firstWeekOf(year: number, weekStart: number): Day {
  return startOfWeek(dayOf(year, 1, 4), weekStart);
}

/** How many weeks a year has, 52 or 53. */
export function weeksIn(year: number, weekStart: number): number {
  return (firstWeekOf(year + 1, weekStart) - firstWeekOf(year, weekStart)) / 7;
}

/** The ISO 8601 week of a day: its year, which may be the one before or after, and its number. */
export function isoWeekOf(day: Day): { year: number; week: number } {
  const thursday = startOfWeek(day, 0) + 3;
  let year = Math.floor(thursday / 365.2425) + 1970;
  while (dayOf(year, 1, 1) > thursday) year--;
  while (dayOf(year + 1, 1, 1) <= thursday) year++;
  return { year, week: Math.floor((thursday - dayOf(year, 1, 1)) / 7) + 1 };
}

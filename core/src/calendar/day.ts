import { CoreError } from '../errors.ts';

/** A civil date as text, `YYYY-MM-DD`, from 0001-01-01 to 9999-12-31. */
export type LocalDate = string;

/** Days since 1970-01-01 in the proleptic Gregorian calendar; negative before it. */
export type Day = number;

/** A day of the week as in RFC 5545 §3.3.10. */
export type Weekday = 'MO' | 'TU' | 'WE' | 'TH' | 'FR' | 'SA' | 'SU';

/** The days of the week in ISO 8601 order: index 0 is Monday. */
export const WEEKDAYS: readonly Weekday[] = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

export const FIRST_DAY: Day = -719162;
export const LAST_DAY: Day = 2932896;

export interface YearMonthDay {
  year: number;
  /** 1 to 12. */
  month: number;
  /** 1 to 31. */
  day: number;
}

/**
 * The day number of a civil date. Months outside 1…12 and days outside the month carry over, so
 * `dayOf(2027, 14, 0)` is 31 January 2028.
 *
 * Counts in 400-year cycles of 146,097 days with years that begin on 1 March (ISO 8601's
 * proleptic Gregorian calendar).
 */
export function dayOf(year: number, month: number, day: number): Day {
  const months = year * 12 + (month - 1);
  const y0 = Math.floor(months / 12);
  const m0 = months - y0 * 12;
  const y = m0 < 2 ? y0 - 1 : y0;
  const m = m0 < 2 ? m0 + 10 : m0 - 2;
  const cycle = Math.floor(y / 400);
  const yearOfCycle = y - cycle * 400;
  const dayOfYear = Math.floor((153 * m + 2) / 5);
  const dayOfCycle =
    yearOfCycle * 365 + Math.floor(yearOfCycle / 4) - Math.floor(yearOfCycle / 100) + dayOfYear;
  return cycle * 146097 + dayOfCycle + day - 719469;
}

/** The civil date of a day number: the inverse of {@link dayOf}. */
export function dateOf(day: Day): YearMonthDay {
  const z = day + 719468;
  const cycle = Math.floor(z / 146097);
  const dayOfCycle = z - cycle * 146097;
  const yearOfCycle = Math.floor(
    (dayOfCycle -
      Math.floor(dayOfCycle / 1460) +
      Math.floor(dayOfCycle / 36524) -
      Math.floor(dayOfCycle / 146096)) /
      365,
  );
  const dayOfYear =
    dayOfCycle - (365 * yearOfCycle + Math.floor(yearOfCycle / 4) - Math.floor(yearOfCycle / 100));
  const m = Math.floor((5 * dayOfYear + 2) / 153);
  const month = m < 10 ? m + 3 : m - 9;
  return {
    year: cycle * 400 + yearOfCycle + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * m + 2) / 5) + 1,
  };
}

/** Whether February of that year has 29 days. */
export function isLeapYear(year: number): boolean {
  return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
}

const MONTH_LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** How many days that month has: 28 to 31. `month` is 1 to 12. */
export function daysInMonth(year: number, month: number): number {
  return month === 2 && isLeapYear(year) ? 29 : MONTH_LENGTHS[month - 1]!;
}

/** The day of the week as an index into {@link WEEKDAYS}: 0 is Monday, 6 is Sunday. */
export function weekdayIndex(day: Day): number {
  // 1970-01-01 was a Thursday.
  return (((day + 3) % 7) + 7) % 7;
}

/** The first day of the week that holds `day`, for weeks that begin on `weekStart` (an index). */
export function startOfWeek(day: Day, weekStart: number): Day {
  return day - ((weekdayIndex(day) - weekStart + 7) % 7);
}

const DATE = /^(\d{4})-(\d{2})-(\d{2})$/;

/**
 * The day number of a date written `YYYY-MM-DD` (ISO 8601).
 * @throws CoreError `date.form` when it is not so written, `date.missing` when there is no such
 * day in the calendar; `where` is taken over.
 * @example parseDay('1970-01-02') // 1
 */
export function parseDay(text: string, where = 'date'): Day {
  const found = DATE.exec(text);
  if (!found)
    throw new CoreError('date.form', where, `“${text}” is not a date written as 2027-01-31.`);
  const year = Number(found[1]);
  const month = Number(found[2]);
  const day = Number(found[3]);
  if (year < 1 || month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month))
    throw new CoreError('date.missing', where, `There is no ${text} in the calendar.`);
  return dayOf(year, month, day);
}

/** Writes a day number as `YYYY-MM-DD`. */
export function formatDay(day: Day): LocalDate {
  const { year, month, day: dayOfMonth } = dateOf(day);
  return `${pad(year, 4)}-${pad(month, 2)}-${pad(dayOfMonth, 2)}`;
}

function pad(value: number, width: number): string {
  return String(value).padStart(width, '0');
}

/**
 * Adds months by the calendar: the same day of the month, or the month's last day where it has
 * none such. 31 January and one month is 28 or 29 February.
 */
export function addMonths(day: Day, months: number): Day {
  const from = dateOf(day);
  const index = from.year * 12 + (from.month - 1) + months;
  const year = Math.floor(index / 12);
  const month = index - year * 12 + 1;
  return dayOf(year, month, Math.min(from.day, daysInMonth(year, month)));
}

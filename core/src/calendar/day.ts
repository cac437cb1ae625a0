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

/** Days before each month of a common year, and of a leap year; index 1 is January. */
const BEFORE_MONTH = [0, 0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334];
const BEFORE_MONTH_LEAP = [0, 0, 31, 60, 91, 121, 152, 182, 213, 244, 274, 305, 335];

/** The month of each day of a year, by its length; index 0 is 1 January. */
const MONTH_AT = monthTable(BEFORE_MONTH, 365);
const MONTH_AT_LEAP = monthTable(BEFORE_MONTH_LEAP, 366);

function monthTable(before: readonly number[], length: number): Uint8Array {
  const table = new Uint8Array(length);
  for (let month = 1; month <= 12; month++) table.fill(month, before[month]);
  return table;
}

/** The day number of 1 January: 365 days a year, and one for each leap year before it. */
export function firstOfYear(year: number): Day {
  const past = year - 1;
  const leapDays =
    past >= 0
      ? (past >> 2) - ((past / 100) | 0) + ((past / 400) | 0)
      : Math.floor(past / 4) - Math.floor(past / 100) + Math.floor(past / 400);
  return past * 365 + leapDays - 719162;
}

// The year met last: what is asked about months mostly stays in one year for a while.
let metYear = 1970;
let metFirst = 0;
let metLeap = false;

function meet(year: number): void {
  metYear = year;
  metFirst = firstOfYear(year);
  metLeap = isLeapYear(year);
}

/** The day number of the first of a month, 1 to 12. */
export function firstOfMonth(year: number, month: number): Day {
  if (year !== metYear) meet(year);
  return metFirst + (metLeap ? BEFORE_MONTH_LEAP : BEFORE_MONTH)[month]!;
}

/**
 * The day number of a civil date in the proleptic Gregorian calendar (ISO 8601). Months outside
 * 1…12 and days outside the month carry over, so `dayOf(2027, 14, 0)` is 31 January 2028.
 */
export function dayOf(year: number, month: number, day: number): Day {
  if (month >= 1 && month <= 12) return firstOfMonth(year, month) + day - 1;
  const months = year * 12 + (month - 1);
  const carried = Math.floor(months / 12);
  return firstOfMonth(carried, months - carried * 12 + 1) + day - 1;
}

/** The year of a day number. */
export function yearOf(day: Day): number {
  if (day >= metFirst && day < metFirst + 365) return metYear;
  // A year has 365.2425 days on average; the guess is off by one at most.
  let year = Math.floor((day + 719162) / 365.2425) + 1;
  if (day < firstOfYear(year)) year--;
  else if (day >= firstOfYear(year + 1)) year++;
  return year;
}

/** The civil date of a day number: the inverse of {@link dayOf}. */
export function dateOf(day: Day): YearMonthDay {
  const year = yearOf(day);
  if (year !== metYear) meet(year);
  const nth = day - metFirst;
  const month = (metLeap ? MONTH_AT_LEAP : MONTH_AT)[nth]!;
  return { year, month, day: nth - (metLeap ? BEFORE_MONTH_LEAP : BEFORE_MONTH)[month]! + 1 };
}

/** Whether February of that year has 29 days. */
export function isLeapYear(year: number): boolean {
  return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
}

const MONTH_LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** How many days that month has: 28 to 31. `month` is 1 to 12. */
export function daysInMonth(year: number, month: number): number {
  if (month !== 2) return MONTH_LENGTHS[month - 1]!;
  if (year !== metYear) meet(year);
  return metLeap ? 29 : 28;
}

/** The day of the week as an index into {@link WEEKDAYS}: 0 is Monday, 6 is Sunday. */
export function weekdayIndex(day: Day): number {
  // 1970-01-01 was a Thursday.
  const index = (day + 3) % 7;
  // The remainder of a negative number may be −0.
  return index < 0 ? index + 7 : index || 0;
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

const TWO_DIGITS = Array.from({ length: 100 }, (_, n) => String(n).padStart(2, '0'));
const MONTH_TEXTS = TWO_DIGITS.map((text) => `-${text}-`);

// The month written last, as “2027-01-”, and its days: dates are mostly written in order.
let writtenFirst = 0;
let writtenEnd = 0;
let writtenPrefix = '';
let writtenYear = Number.NaN;
let writtenYearText = '';

/** Writes a day number as `YYYY-MM-DD`. */
export function formatDay(day: Day): LocalDate {
  if (day < writtenFirst || day >= writtenEnd) {
    const { year, month, day: nth } = dateOf(day);
    writtenFirst = day - nth + 1;
    writtenEnd = writtenFirst + daysInMonth(year, month);
    if (year !== writtenYear) {
      writtenYear = year;
      writtenYearText = String(year).padStart(4, '0');
    }
    writtenPrefix = writtenYearText + MONTH_TEXTS[month]!;
  }
  return writtenPrefix + TWO_DIGITS[day - writtenFirst + 1]!;
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

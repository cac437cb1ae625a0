import {
  WEEKDAYS,
  dateOf,
  firstOfYear,
  daysInMonth,
  isLeapYear,
  weekdayIndex,
  yearOf,
  type Day,
} from '../calendar/day.ts';
import type { Rule, WeekdayPart } from './rule.ts';

/** Tests over days that are made once for a rule. */

/** Which days a rule lets through, by its parts that limit (RFC 5545 §3.3.10, the table). */
export interface DayFilter {
  fits(day: Day): boolean;
  /** The first day that fits, on or after `day`; Infinity when none ever does. */
  from(day: Day): number;
}

/** A test over the days of the month; null where the rule names none. */
export function monthDayTest(
  wanted: readonly number[],
): ((day: number, length: number) => boolean) | null {
  if (!wanted.length) return null;
  const days = new Set(wanted);
  return (day, length) => days.has(day) || days.has(day - length - 1);
}

const indexOfWeekday = (part: WeekdayPart) => WEEKDAYS.indexOf(part.weekday);

/** The weekdays that a rule names, as indices, each once and in order. */
export function weekdaysOf(rule: Rule): number[] {
  return [...new Set(rule.byDay.map(indexOfWeekday))].sort((a, b) => a - b);
}

/**
 * The filter of a rule whose parts by day all limit (DAILY and below): BYMONTH, BYYEARDAY,
 * BYMONTHDAY and BYDAY. Null where it has none of them.
 */
export function dayFilterOf(rule: Rule): DayFilter | null {
  const { byMonth, byMonthDay, byYearDay, byDay } = rule;
  if (!byMonth.length && !byMonthDay.length && !byYearDay.length && !byDay.length) return null;
  const months = byMonth.length ? new Set(byMonth) : null;
  const monthDay = monthDayTest(byMonthDay);
  const yearDays = byYearDay.length ? new Set(byYearDay) : null;
  const weekdays = byDay.length ? new Set(byDay.map(indexOfWeekday)) : null;
  const byDate = months !== null || monthDay !== null || yearDays !== null;

  const fits = (day: Day): boolean => {
    if (weekdays && !weekdays.has(weekdayIndex(day))) return false;
    if (!byDate) return true;
    const date = dateOf(day);
    if (months && !months.has(date.month)) return false;
    if (monthDay && !monthDay(date.day, daysInMonth(date.year, date.month))) return false;
    if (!yearDays) return true;
    const nth = day - firstOfYear(date.year) + 1;
    return yearDays.has(nth) || yearDays.has(nth - (isLeapYear(date.year) ? 367 : 366));
  };
  return { fits, from: byDate ? fromByYears(fits) : fromByWeek(fits) };
}

/** With weekdays alone, one of seven days fits. */
function fromByWeek(fits: (day: Day) => boolean): (day: Day) => number {
  return (day) => {
    for (let i = 0; i < 7; i++) if (fits(day + i)) return day + i;
    return Infinity;
  };
}

/**
 * There are only 14 kinds of years, by their first weekday and their length: the days of one kind
 * that fit are found once, and then looked up.
 */
function fromByYears(fits: (day: Day) => boolean): (day: Day) => number {
  const kinds: (Int16Array | undefined)[] = [];
  const fitting = (year: number, first: Day): Int16Array => {
    const leap = isLeapYear(year);
    const kind = weekdayIndex(first) * 2 + (leap ? 1 : 0);
    const known = kinds[kind];
    if (known) return known;
    const days: number[] = [];
    for (let i = 0; i < (leap ? 366 : 365); i++) if (fits(first + i)) days.push(i);
    return (kinds[kind] = Int16Array.from(days));
  };
  return (day) => {
    let year = yearOf(day);
    // All 14 kinds come within any 40 years (a century's end may put off one by 12).
    for (let tries = 0; tries <= 40; tries++, year++) {
      const first = firstOfYear(year);
      const days = fitting(year, first);
      const from = day - first;
      if (days.length && days[days.length - 1]! >= from) {
        if (from <= 0) return first + days[0]!;
        return first + days[firstFrom(days, from)]!;
      }
    }
    return Infinity;
  };
}

/** The index of the first item that is `from` or more, by halving. */
function firstFrom(items: Int16Array, from: number): number {
  let low = 0;
  let high = items.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (items[middle]! < from) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** BYDAY made ready: plain weekdays as bits of a number, those with an ordinal one by one. */
export interface Weekdays {
  /** Bit 0 is Monday. */
  plain: number;
  /** How many plain ones there are. */
  plainCount: number;
  nth: readonly { ordinal: number; weekday: number }[];
  /** Neither plain ones nor any with an ordinal. */
  none: boolean;
}

/** Prepares the weekdays of a rule, each once. */
export function weekdaysFor(parts: readonly WeekdayPart[]): Weekdays {
  let plain = 0;
  let plainCount = 0;
  const nth: { ordinal: number; weekday: number }[] = [];
  for (const part of parts) {
    const weekday = indexOfWeekday(part);
    const { ordinal } = part;
    if (ordinal === null) {
      if (!(plain & (1 << weekday))) plainCount++;
      plain |= 1 << weekday;
    } else if (!nth.some((other) => other.ordinal === ordinal && other.weekday === weekday))
      nth.push({ ordinal, weekday });
  }
  return { plain, plainCount, nth, none: parts.length === 0 };
}

/** Whether a day is one of the weekdays; those with an ordinal count between `first` and `last`. */
export function fitsWeekday(weekdays: Weekdays, day: Day, first: Day, last: Day): boolean {
  const weekday = weekdayIndex(day);
  if (weekdays.plain & (1 << weekday)) return true;
  for (const part of weekdays.nth) {
    if (part.weekday !== weekday) continue;
    const { ordinal } = part;
    if (
      ordinal > 0
        ? Math.floor((day - first) / 7) + 1 === ordinal
        : Math.floor((last - day) / 7) + 1 === -ordinal
    )
      return true;
  }
  return false;
}

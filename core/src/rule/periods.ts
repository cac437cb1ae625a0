import {
  dateOf,
  dayOf,
  daysInMonth,
  startOfWeek,
  weekdayIndex,
  WEEKDAYS,
  type Day,
} from '../calendar/day.ts';
import type { Rule, WeekdayPart } from './rule.ts';

/**
 * A rule cut into the periods that its INTERVAL counts. Period 0 holds the start. `fill` writes
 * the candidate days of one period, in order and each once, and gives how many there are.
 */
export interface Periods {
  /** The period that holds a day: the last one that begins on or before it. */
  indexOf(day: Day): number;
  fill(index: number, into: Int32Array): number;
  /** How many days of a period can spill into the one after it (RFC 7529 SKIP=FORWARD). */
  spills: 0 | 1;
}

/** Room for the candidates of one period before they are sorted: 62 month days in 12 months. */
export const ROOM = 1200;

/** Cuts a rule into periods that begin with the one that holds `start`. */
export function periodsOf(asGiven: Rule, start: Day): Periods {
  const rule = {
    ...asGiven,
    byMonthDay: [...new Set(asGiven.byMonthDay)],
    byDay: [
      ...new Map(asGiven.byDay.map((part) => [`${part.ordinal}${part.weekday}`, part])).values(),
    ],
  };
  switch (rule.freq) {
    case 'DAILY':
      return daily(rule, start);
    case 'WEEKLY':
      return weekly(rule, start);
    case 'MONTHLY':
      return monthly(rule, start);
    case 'YEARLY':
      return yearly(rule, start);
  }
}

const indexOfWeekday = (part: WeekdayPart) => WEEKDAYS.indexOf(part.weekday);

/** A test over the days of the month, made once for a rule; null where the rule names none. */
function monthDayTest(rule: Rule): ((day: number, length: number) => boolean) | null {
  if (!rule.byMonthDay.length) return null;
  const wanted = new Set(rule.byMonthDay);
  return (day, length) => wanted.has(day) || wanted.has(day - length - 1);
}

function daily(rule: Rule, start: Day): Periods {
  const { interval } = rule;
  const months = rule.byMonth.length ? new Set(rule.byMonth) : null;
  const weekdays = rule.byDay.length ? new Set(rule.byDay.map(indexOfWeekday)) : null;
  const monthDay = monthDayTest(rule);
  return {
    spills: 0,
    indexOf: (day) => Math.floor((day - start) / interval),
    fill(index, into) {
      const day = start + index * interval;
      if (weekdays && !weekdays.has(weekdayIndex(day))) return 0;
      if (months || monthDay) {
        const date = dateOf(day);
        if (months && !months.has(date.month)) return 0;
        if (monthDay && !monthDay(date.day, daysInMonth(date.year, date.month))) return 0;
      }
      into[0] = day;
      return 1;
    },
  };
}

function weekly(rule: Rule, start: Day): Periods {
  const weekStart = WEEKDAYS.indexOf(rule.weekStart);
  const origin = startOfWeek(start, weekStart);
  const step = rule.interval * 7;
  const weekdays = rule.byDay.length ? rule.byDay.map(indexOfWeekday) : [weekdayIndex(start)];
  const offsets = [...new Set(weekdays.map((day) => (day - weekStart + 7) % 7))].sort(
    (a, b) => a - b,
  );
  const months = rule.byMonth.length ? new Set(rule.byMonth) : null;
  return {
    spills: 0,
    indexOf: (day) => Math.floor((day - origin) / step),
    fill(index, into) {
      const first = origin + index * step;
      let n = 0;
      for (const offset of offsets)
        if (!months || months.has(dateOf(first + offset).month)) into[n++] = first + offset;
      return n;
    },
  };
}

function monthly(rule: Rule, start: Day): Periods {
  const { year, month, day } = dateOf(start);
  const origin = year * 12 + month - 1;
  const months = rule.byMonth.length ? new Set(rule.byMonth) : null;
  const days = rule.byMonthDay.length || rule.byDay.length ? rule.byMonthDay : [day];
  return {
    spills: rule.skip === 'FORWARD' ? 1 : 0,
    indexOf(on) {
      const date = dateOf(on);
      return Math.floor((date.year * 12 + date.month - 1 - origin) / rule.interval);
    },
    fill(index, into) {
      const at = origin + index * rule.interval;
      const y = Math.floor(at / 12);
      const m = at - y * 12 + 1;
      if (months && !months.has(m)) return 0;
      return fillMonth(rule, days, y, m, into, 0);
    },
  };
}

function yearly(rule: Rule, start: Day): Periods {
  const from = dateOf(start);
  const named = rule.byMonthDay.length > 0 || rule.byDay.length > 0;
  const days = named ? rule.byMonthDay : [from.day];
  // A BYDAY without BYMONTH counts its ordinals in the whole year (RFC 5545 §3.3.10, note 2);
  // beside BYMONTHDAY it only limits.
  const byYear = rule.byDay.length > 0 && !rule.byMonth.length && !rule.byMonthDay.length;
  const months = rule.byMonth.length
    ? [...new Set(rule.byMonth)].sort((a, b) => a - b)
    : rule.byMonthDay.length
      ? [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]
      : [from.month];
  return {
    spills: rule.skip === 'FORWARD' ? 1 : 0,
    indexOf: (day) => Math.floor((dateOf(day).year - from.year) / rule.interval),
    fill(index, into) {
      const year = from.year + index * rule.interval;
      if (byYear) {
        const n = fillWeekdays(rule.byDay, dayOf(year, 1, 1), dayOf(year, 12, 31), into, 0);
        return inOrder(into, n);
      }
      let n = 0;
      for (const month of months) n = fillMonth(rule, days, year, month, into, n);
      return inOrder(into, n);
    },
  };
}

/** Adds one month's candidates behind the first `n`, and gives how many there are then. */
function fillMonth(
  rule: Rule,
  days: readonly number[],
  year: number,
  month: number,
  into: Int32Array,
  n: number,
): number {
  const first = dayOf(year, month, 1);
  const length = daysInMonth(year, month);
  if (!days.length)
    return inOrder(into, fillWeekdays(rule.byDay, first, first + length - 1, into, n), n);
  const from = n;
  for (const wanted of days) {
    const day = wanted > 0 ? wanted : length + 1 + wanted;
    if (day >= 1 && day <= length) into[n++] = first + day - 1;
    // A day that the month lacks is an invalid date: its own last day, or the first of the next
    // (RFC 7529 §4.1). A negative day that it lacks is simply not there.
    else if (day > length && rule.skip === 'BACKWARD') into[n++] = first + length - 1;
    else if (day > length && rule.skip === 'FORWARD') into[n++] = first + length;
  }
  if (rule.byDay.length) {
    // BYDAY limits where BYMONTHDAY is present (RFC 5545 §3.3.10, note 1).
    let kept = from;
    for (let i = from; i < n; i++)
      if (fitsWeekday(rule.byDay, into[i]!, first, first + length - 1)) into[kept++] = into[i]!;
    n = kept;
  }
  return inOrder(into, n, from);
}

function fillWeekdays(
  parts: readonly WeekdayPart[],
  first: Day,
  last: Day,
  into: Int32Array,
  n: number,
): number {
  for (const part of parts) {
    const weekday = indexOfWeekday(part);
    const earliest = first + ((weekday - weekdayIndex(first) + 7) % 7);
    if (part.ordinal === null) for (let day = earliest; day <= last; day += 7) into[n++] = day;
    else {
      const latest = last - ((weekdayIndex(last) - weekday + 7) % 7);
      const day =
        part.ordinal > 0 ? earliest + (part.ordinal - 1) * 7 : latest + (part.ordinal + 1) * 7;
      if (day >= first && day <= last) into[n++] = day;
    }
  }
  return n;
}

function fitsWeekday(parts: readonly WeekdayPart[], day: Day, first: Day, last: Day): boolean {
  const weekday = weekdayIndex(day);
  return parts.some((part) => {
    if (indexOfWeekday(part) !== weekday) return false;
    if (part.ordinal === null) return true;
    const nth = Math.floor((day - first) / 7) + 1;
    const fromEnd = Math.floor((last - day) / 7) + 1;
    return part.ordinal > 0 ? nth === part.ordinal : fromEnd === -part.ordinal;
  });
}

/** Sorts the candidates from `from` to `n` and leaves each once; gives the new `n`. */
function inOrder(into: Int32Array, n: number, from = 0): number {
  let sorted = true;
  for (let i = from + 1; i < n; i++) if (into[i]! <= into[i - 1]!) sorted = false;
  if (sorted) return n;
  into.subarray(from, n).sort();
  let kept = from;
  for (let i = from; i < n; i++)
    if (i === from || into[i] !== into[kept - 1]) into[kept++] = into[i]!;
  return kept;
}

import {
  WEEKDAYS,
  dateOf,
  firstOfMonth,
  firstOfYear,
  daysInMonth,
  isLeapYear,
  startOfWeek,
  weekdayIndex,
  yearOf,
  type Day,
} from '../calendar/day.ts';
import {
  dayFilterOf,
  fitsWeekday,
  monthDayTest,
  weekdaysFor,
  weekdaysOf,
  type Weekdays,
} from './days.ts';
import type { Rule } from './rule.ts';
import type { Periods } from './sequence.ts';
import { firstWeekOf, weeksIn } from './weeks.ts';

/** The Gregorian calendar repeats after 400 years: 4,800 months, 20,871 weeks, 146,097 days. */
const CYCLE = { years: 400, months: 4800, weeks: 20871, days: 146097 };

/** How many periods may be empty one after another before all are: the calendar then repeats. */
function emptyFor(cycle: number, interval: number): number {
  return cycle / greatestCommonDivisor(cycle, interval);
}

export function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b);
}

/**
 * Cuts a rule of days (DAILY to YEARLY) into the periods that its INTERVAL counts. Period 0 holds
 * the start; the candidates of a period are its days, by every part but BYSETPOS, which is left to
 * {@link atPositions} but for MONTHLY.
 */
export function dayPeriodsOf(asGiven: Rule, start: Day): Periods {
  const rule =
    asGiven.byMonthDay.length > 1 ? { ...asGiven, byMonthDay: inRow(asGiven.byMonthDay) } : asGiven;
  switch (rule.freq) {
    case 'WEEKLY':
      return weekly(rule, start);
    case 'MONTHLY':
      return monthly(rule, start);
    case 'YEARLY':
      return yearly(rule, start);
    default:
      return daily(rule, start);
  }
}

const distinct = (items: readonly number[]) =>
  items.length > 1 ? [...new Set(items)] : [...items];

/** Each once: first those from the start in order, then those from the end. */
function inRow(items: readonly number[]): number[] {
  const place = (n: number) => (n > 0 ? n : 1000 + n);
  return distinct(items).sort((a, b) => place(a) - place(b));
}

function daily(rule: Rule, start: Day): Periods {
  const { interval } = rule;
  const filter = dayFilterOf(rule);
  // Each seventh day is always the same weekday: if that is not wanted, nothing ever comes.
  const never = filter !== null && interval % 7 === 0 && !weekdayFits(rule, start);

  function skipTo(index: number): number {
    if (never) return -1;
    const day = start + index * interval;
    const next = filter!.from(day);
    if (next === Infinity) return -1;
    return next === day ? index : Math.ceil((next - start) / interval);
  }

  return {
    spills: 0,
    size: filter ? null : 1,
    empty: emptyFor(CYCLE.days, interval),
    room: 1,
    indexOf: (day) => Math.floor((day - start) / interval),
    begins: (index) => start + index * interval,
    skip: filter && skipTo,
    fill(index, into) {
      const day = start + index * interval;
      if (filter && !filter.fits(day)) return 0;
      into[0] = day;
      return 1;
    },
  };
}

function weekdayFits(rule: Rule, day: Day): boolean {
  return !rule.byDay.length || weekdaysOf(rule).includes(weekdayIndex(day));
}

function weekly(rule: Rule, start: Day): Periods {
  const weekStart = WEEKDAYS.indexOf(rule.weekStart);
  const origin = startOfWeek(start, weekStart);
  const step = rule.interval * 7;
  const weekdays = rule.byDay.length ? weekdaysOf(rule) : [weekdayIndex(start)];
  const offsets = weekdays.map((day) => (day - weekStart + 7) % 7).sort((a, b) => a - b);
  const months = rule.byMonth.length ? new Set(rule.byMonth) : null;
  const length = offsets.length;
  return {
    spills: 0,
    size: months ? null : length,
    empty: emptyFor(CYCLE.weeks, rule.interval),
    room: 7,
    indexOf: (day) => Math.floor((day - origin) / step),
    begins: (index) => origin + index * step,
    skip: null,
    fill(index, into) {
      const first = origin + index * step;
      if (!months) {
        for (let i = 0; i < length; i++) into[i] = first + offsets[i]!;
        return length;
      }
      let n = 0;
      for (const offset of offsets)
        if (months.has(dateOf(first + offset).month)) into[n++] = first + offset;
      return n;
    },
  };
}

function monthly(rule: Rule, start: Day): Periods {
  const { year, month, day } = dateOf(start);
  const origin = year * 12 + month - 1;
  const { interval } = rule;
  const months = rule.byMonth.length ? new Set(rule.byMonth) : null;
  const plain = monthFiller(
    rule,
    rule.byMonthDay.length || rule.byDay.length ? rule.byMonthDay : [day],
  );
  const { bySetPos } = rule;
  const filler = bySetPos.length
    ? byKinds(plain, (days) => atPlaces(days, bySetPos))
    : rule.byDay.length
      ? byKinds(plain)
      : plain;
  return {
    spills: rule.skip === 'FORWARD' ? 1 : 0,
    size: months || bySetPos.length ? null : filler.size,
    empty: emptyFor(CYCLE.months, interval),
    room: filler.room,
    indexOf(on) {
      const date = dateOf(on);
      return Math.floor((date.year * 12 + date.month - 1 - origin) / interval);
    },
    begins(index) {
      const at = origin + index * interval;
      const y = Math.floor(at / 12);
      return firstOfMonth(y, at - y * 12 + 1);
    },
    skip: null,
    fill(index, into) {
      const at = origin + index * interval;
      const y = Math.floor(at / 12);
      const m = at - y * 12 + 1;
      if (months && !months.has(m)) return 0;
      return filler.fill(y, m, into, 0);
    },
  };
}

/**
 * The same filler by kinds of months: there are only 28 of them, by their first weekday and their
 * length. What a kind yields is found once, as distances from the first of the month; `choose`
 * may leave some of it.
 */
function byKinds(
  filler: MonthFiller,
  choose: (days: number[]) => number[] = (days) => days,
): MonthFiller {
  const kinds: (number[] | undefined)[] = new Array<number[] | undefined>(28).fill(undefined);
  const find = (year: number, month: number, first: Day): number[] => {
    const days = new Array<number>(Math.max(1, filler.room)).fill(0);
    const n = filler.fill(year, month, days, 0);
    return choose(days.slice(0, n)).map((day) => day - first);
  };
  return {
    ...filler,
    fill(year, month, into, n) {
      const first = firstOfMonth(year, month);
      const kind = weekdayIndex(first) * 4 + daysInMonth(year, month) - 28;
      const away = (kinds[kind] ??= find(year, month, first));
      for (let i = 0; i < away.length; i++) into[n + i] = first + away[i]!;
      return n + away.length;
    },
  };
}

interface MonthFiller {
  /** Adds one month's candidates behind the first `n`, in order; gives how many there are then. */
  fill(year: number, month: number, into: number[], n: number): number;
  /** How many days each month gives, where that is the same for all. */
  size: number | null;
  room: number;
}

/** How a rule finds the days of a month: by `days` of the month, by BYDAY, or by both. */
function monthFiller(rule: Rule, days: readonly number[]): MonthFiller {
  const weekdays = weekdaysFor(rule.byDay);
  if (days.length) return byMonthDays(rule, days, weekdays);
  const { plain, nth } = weekdays;
  const oneEnd = nth.every(({ ordinal }) => ordinal > 0) || nth.every(({ ordinal }) => ordinal < 0);
  const always = !plain && oneEnd && nth.every(({ ordinal }) => Math.abs(ordinal) <= 4);
  return {
    size: always ? nth.length : null,
    room: weekdays.plainCount * 5 + nth.length,
    fill(year, month, into, n) {
      const first = firstOfMonth(year, month);
      return fillWeekdays(weekdays, first, first + daysInMonth(year, month) - 1, into, n);
    },
  };
}

function byMonthDays(rule: Rule, days: readonly number[], weekdays: Weekdays): MonthFiller {
  const { skip } = rule;
  // An ordinal counts in the month, or in the year where a YEARLY rule names no month.
  const byYear = rule.freq === 'YEARLY' && !rule.byMonth.length;
  return {
    size: weekdays.none ? sizeOfMonth(days, rule) : null,
    room: days.length,
    fill(year, month, into, from) {
      const first = firstOfMonth(year, month);
      const length = daysInMonth(year, month);
      let n = from;
      for (const wanted of days) {
        const day = wanted > 0 ? wanted : length + 1 + wanted;
        if (day >= 1 && day <= length) into[n++] = first + day - 1;
        // A day that the month lacks is an invalid date: its own last day, or the first of the
        // next (RFC 7529 §4.1). A negative day that it lacks is simply not there.
        else if (day > length && skip === 'BACKWARD') into[n++] = first + length - 1;
        else if (day > length && skip === 'FORWARD') into[n++] = first + length;
      }
      if (!weekdays.none) {
        // BYDAY limits where BYMONTHDAY is present (RFC 5545 §3.3.10, notes 1 and 2).
        const low = byYear ? firstOfYear(year) : first;
        const high = byYear ? firstOfYear(year + 1) - 1 : first + length - 1;
        let kept = from;
        for (let i = from; i < n; i++)
          if (fitsWeekday(weekdays, into[i]!, low, high)) into[kept++] = into[i]!;
        n = kept;
      }
      return inOrder(into, n, from);
    },
  };
}

function sizeOfMonth(days: readonly number[], { skip }: Rule): number | null {
  if (days.length === 1 && days[0]! > 28 && skip === 'BACKWARD') return 1;
  const always = days.every((day) => day >= -28 && day <= 28);
  // From both ends two of them may be the same day.
  const oneEnd = days.every((day) => day > 0) || days.every((day) => day < 0);
  return always && oneEnd ? days.length : null;
}

/** Adds the wanted weekdays from `first` to `last` behind the first `from`, in order, each once. */
function fillWeekdays(
  weekdays: Weekdays,
  first: Day,
  last: Day,
  into: number[],
  from: number,
): number {
  const { plain, nth } = weekdays;
  let n = from;
  if (plain) {
    let weekday = weekdayIndex(first);
    for (let day = first; day <= last; day++) {
      if (plain & (1 << weekday)) into[n++] = day;
      weekday = weekday === 6 ? 0 : weekday + 1;
    }
  }
  if (!nth.length) return n;
  const firstWeekday = weekdayIndex(first);
  const lastWeekday = weekdayIndex(last);
  for (const { ordinal, weekday } of nth) {
    const day =
      ordinal > 0
        ? first + ((weekday - firstWeekday + 7) % 7) + (ordinal - 1) * 7
        : last - ((lastWeekday - weekday + 7) % 7) + (ordinal + 1) * 7;
    if (day >= first && day <= last) into[n++] = day;
  }
  return inOrder(into, n, from);
}

function yearly(rule: Rule, start: Day): Periods {
  const from = dateOf(start);
  const { interval } = rule;
  const { fill, size, room } = yearFiller(rule, start);
  return {
    spills: 0,
    size,
    // In a year every kind of day is there but 29 February, the 53rd week and the 366th day.
    empty: emptyFor(CYCLE.years, interval),
    room,
    indexOf: (day) => Math.floor((yearOf(day) - from.year) / interval),
    begins: (index) => firstOfYear(from.year + index * interval),
    skip: null,
    fill: (index, into) => fill(from.year + index * interval, into),
  };
}

interface YearFiller {
  fill(year: number, into: number[]): number;
  size: number | null;
  room: number;
}

/**
 * How a YEARLY rule finds the days of a year. Its parts by day all have to hold for a day; the
 * candidates come from the most telling of them, and the others limit.
 */
function yearFiller(rule: Rule, start: Day): YearFiller {
  if (rule.byYearDay.length) return byYearDays(rule);
  if (rule.byWeekNo.length) return byWeeks(rule, start);
  const months = distinct(rule.byMonth).sort((a, b) => a - b);
  if (!rule.byMonthDay.length && rule.byDay.length && !months.length) {
    const weekdays = weekdaysFor(rule.byDay);
    return {
      size: null,
      room: weekdays.plainCount * 54 + weekdays.nth.length,
      fill: (year, into) =>
        fillWeekdays(weekdays, firstOfYear(year), firstOfYear(year + 1) - 1, into, 0),
    };
  }
  const from = dateOf(start);
  const plain = monthFiller(
    rule,
    rule.byMonthDay.length || rule.byDay.length ? rule.byMonthDay : [from.day],
  );
  // An ordinal that counts in the year is not the same for all months of a kind.
  const ofMonth =
    rule.byDay.length && (months.length || !hasOrdinals(rule)) ? byKinds(plain) : plain;
  const all = months.length ? months : rule.byMonthDay.length ? EVERY_MONTH : [from.month];
  return {
    size: ofMonth.size === null || rule.skip === 'FORWARD' ? null : ofMonth.size * all.length,
    room: all.length * ofMonth.room,
    fill(year, into) {
      let n = 0;
      for (const month of all) n = ofMonth.fill(year, month, into, n);
      return all.length > 1 ? inOrder(into, n, 0) : n;
    },
  };
}

const hasOrdinals = (rule: Rule) => rule.byDay.some(({ ordinal }) => ordinal !== null);

const EVERY_MONTH = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12];

/** What still limits a day that BYYEARDAY or BYWEEKNO yields. */
function limitsOf(rule: Rule): (day: Day, year: number) => boolean {
  const months = rule.byMonth.length ? new Set(rule.byMonth) : null;
  const monthDay = monthDayTest(rule.byMonthDay);
  const weekdays = weekdaysFor(rule.byDay);
  if (!months && !monthDay && weekdays.none) return () => true;
  return (day, year) => {
    const date = dateOf(day);
    const length = daysInMonth(date.year, date.month);
    if (months && !months.has(date.month)) return false;
    if (monthDay && !monthDay(date.day, length)) return false;
    if (weekdays.none) return true;
    const first = day - date.day + 1;
    return months
      ? fitsWeekday(weekdays, day, first, first + length - 1)
      : fitsWeekday(weekdays, day, firstOfYear(year), firstOfYear(year + 1) - 1);
  };
}

function byYearDays(rule: Rule): YearFiller {
  const days = distinct(rule.byYearDay);
  const fits = limitsOf(rule);
  const weekStart = WEEKDAYS.indexOf(rule.weekStart);
  const weeks = rule.byWeekNo.length ? new Set(rule.byWeekNo) : null;
  return {
    size: null,
    room: days.length,
    fill(year, into) {
      const first = firstOfYear(year);
      const length = isLeapYear(year) ? 366 : 365;
      let n = 0;
      for (const wanted of days) {
        const nth = wanted > 0 ? wanted : length + 1 + wanted;
        if (nth < 1 || nth > length) continue;
        const day = first + nth - 1;
        if (weeks && !inWeeks(day, year, weeks, weekStart)) continue;
        if (fits(day, year)) into[n++] = day;
      }
      return inOrder(into, n, 0);
    },
  };
}

/** Whether a day lies in one of the weeks, counted from the start or the end of that week's year. */
function inWeeks(day: Day, year: number, weeks: ReadonlySet<number>, weekStart: number): boolean {
  let of = year + 1;
  while (firstWeekOf(of, weekStart) > day) of--;
  const week = Math.floor((day - firstWeekOf(of, weekStart)) / 7) + 1;
  return weeks.has(week) || weeks.has(week - weeksIn(of, weekStart) - 1);
}

/**
 * The days of a calendar year that lie in the weeks with these numbers. Days of 1 January in the
 * last week of the year before, and of 31 December in the first of the year after, count with the
 * number of that week (RFC 5545 §3.3.10, BYWEEKNO: weeks as in ISO 8601).
 */
function byWeeks(rule: Rule, start: Day): YearFiller {
  const weekStart = WEEKDAYS.indexOf(rule.weekStart);
  const anyDay = rule.byMonthDay.length > 0;
  const weekdays = rule.byDay.length
    ? weekdaysOf(rule)
    : anyDay
      ? [0, 1, 2, 3, 4, 5, 6]
      : [weekdayIndex(start)];
  const offsets = weekdays.map((day) => (day - weekStart + 7) % 7);
  const numbers = distinct(rule.byWeekNo);
  // Of the year before only its last weeks reach into this one, of the year after only its first.
  const before = numbers.filter((n) => n >= 52 || (n < 0 && n >= -2));
  const after = numbers.filter((n) => n === 1 || n <= -52);
  // BYDAY has chosen the days of the week already.
  const fits = limitsOf({ ...rule, byDay: [] });

  function addWeeks(
    of: number,
    wanted: readonly number[],
    year: number,
    into: number[],
    from: number,
  ): number {
    let n = from;
    const low = firstOfYear(year);
    const high = firstOfYear(year + 1) - 1;
    const first = firstWeekOf(of, weekStart);
    const length = weeksIn(of, weekStart);
    for (const number of wanted) {
      const week = number > 0 ? number : length + 1 + number;
      if (week < 1 || week > length) continue;
      const begins = first + (week - 1) * 7;
      for (const offset of offsets) {
        const day = begins + offset;
        if (day >= low && day <= high && fits(day, year)) into[n++] = day;
      }
    }
    return n;
  }

  return {
    size: null,
    room: numbers.length * 7 * 3,
    fill(year, into) {
      let n = before.length ? addWeeks(year - 1, before, year, into, 0) : 0;
      n = addWeeks(year, numbers, year, into, n);
      if (after.length) n = addWeeks(year + 1, after, year, into, n);
      return inOrder(into, n, 0);
    },
  };
}

/** The items at these places, counted from 1, or from the end where they are negative; in order, each once. */
export function atPlaces(items: readonly number[], places: readonly number[]): number[] {
  const indices = places.map((place) => (place > 0 ? place - 1 : items.length + place));
  return items.filter((_, i) => indices.includes(i));
}

/** Sorts the candidates from `from` to `n` and leaves each once; gives the new `n`. */
export function inOrder(into: number[], n: number, from: number): number {
  for (let i = from + 1; i < n; i++) if (into[i]! <= into[i - 1]!) return sorted(into, n, from);
  return n;
}

function sorted(into: number[], n: number, from: number): number {
  const items = [...new Set(into.slice(from, n))].sort((a, b) => a - b);
  for (let i = 0; i < items.length; i++) into[from + i] = items[i]!;
  return from + items.length;
}

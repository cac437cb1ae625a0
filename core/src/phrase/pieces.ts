import { dateOf, dayOf, daysInMonth, parseDay, weekdayIndex, type Day } from '../calendar/day.ts';
import type { Span } from '../calendar/span.ts';
import { CoreError } from '../errors.ts';
import type { Token } from './tokens.ts';
import {
  MONTHS_BY_WORD,
  MONTH_NAMES,
  NUMBERS_BY_WORD,
  ORDINALS_BY_WORD,
  UNITS_BY_WORD,
  WEEKDAYS_BY_WORD,
  type Unit,
} from './words.ts';

/** A piece that was read: its value and the index of the token behind it. */
export type Read<T> = { value: T; next: number } | null;

/** A date as written: it may lack its year, or name no day of the calendar. */
export type WrittenDate =
  | { kind: 'day'; day: Day }
  /** The next such day on or after another one. */
  | { kind: 'yearless'; month: number; day: number }
  | { kind: 'monthEnd'; month: number }
  | { kind: 'impossible'; message: string };

const done = <T>(value: T, next: number): Read<T> => ({ value, next });

/** The given words one after another; each may be one of several, split by “|”, and optional with “?”. */
export function words(tokens: readonly Token[], at: number, pattern: string): number | null {
  let i = at;
  for (const piece of pattern.split(' ')) {
    const optional = piece.endsWith('?');
    const choices = (optional ? piece.slice(0, -1) : piece).split('|');
    if (tokens[i] && choices.includes(tokens[i]!.low)) i++;
    else if (!optional) return null;
  }
  return i;
}

/** A whole number in figures or as a word to twelve. */
export function number(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  if (token?.kind === 'number' && !token.ordinal) return done(token.value, at + 1);
  const named = token && NUMBERS_BY_WORD.get(token.low);
  return named === undefined ? null : done(named, at + 1);
}

/** “12th”, “third”. */
export function ordinal(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  if (token?.kind === 'number' && token.ordinal) return done(token.value, at + 1);
  const named = token && ORDINALS_BY_WORD.get(token.low);
  return named === undefined ? null : done(named, at + 1);
}

/** “first” to “fifth”, “12th”, “last”, “second-last”, “third last”: 1 and more, or −1 and less. */
export function position(tokens: readonly Token[], at: number): Read<number> {
  const low = tokens[at]?.low ?? '';
  if (low === 'last') return done(-1, at + 1);
  const joined = /^(\w+)-last$/u.exec(low);
  const named = joined && ORDINALS_BY_WORD.get(joined[1]!);
  if (named) return done(-named, at + 1);
  const nth = ordinal(tokens, at);
  const last = nth && words(tokens, nth.next, 'last');
  return nth && last !== null ? done(-nth.value, last) : nth;
}

export function unit(tokens: readonly Token[], at: number): Read<Unit> {
  const token = tokens[at];
  const found = token && UNITS_BY_WORD.get(token.low);
  return found ? done(found, at + 1) : null;
}

/** “14 days”, “a week”, “1 month and 3 days”, as an ISO 8601 span. */
export function span(tokens: readonly Token[], at: number): Read<Span> {
  const parts = new Map<Unit, number>();
  let i = at;
  for (;;) {
    const article = words(tokens, i, 'a|an');
    const n = article === null ? number(tokens, i) : done(1, article);
    const of = n && unit(tokens, n.next);
    if (!n || !of || parts.has(of.value)) break;
    parts.set(of.value, n.value);
    i = of.next;
    const and = words(tokens, i, 'and');
    if (and === null || !number(tokens, and) || !unit(tokens, and + 1)) break;
    i = and;
  }
  if (!parts.size) return null;
  const part = (name: Unit, letter: string) =>
    parts.has(name) ? `${parts.get(name)}${letter}` : '';
  const days = part('year', 'Y') + part('month', 'M') + part('week', 'W') + part('day', 'D');
  const clock = part('hour', 'H') + part('minute', 'M');
  return done(`P${days}${clock && `T${clock}`}`, i);
}

/** One item or several: “a, b and c”. */
export function several<T>(
  tokens: readonly Token[],
  at: number,
  item: (tokens: readonly Token[], at: number) => Read<T>,
): Read<T[]> {
  const first = item(tokens, at);
  if (!first) return null;
  const found = [first.value];
  let i = first.next;
  for (;;) {
    const comma = words(tokens, i, ',') ?? i;
    const link = words(tokens, comma, 'and|or|& the?') ?? comma;
    const more = link === i ? null : item(tokens, link);
    if (!more) return done(found, i);
    found.push(more.value);
    i = more.next;
  }
}

export function weekday(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  const found = token && WEEKDAYS_BY_WORD.get(token.low);
  return found === undefined ? null : done(found, at + 1);
}

/** A month by its name, 1 to 12. */
export function month(tokens: readonly Token[], at: number): Read<number> {
  const found = MONTHS_BY_WORD.get(tokens[at]?.low ?? '');
  return found === undefined ? null : done(found, at + 1);
}

/**
 * One time of day or several: “8, 13 and 20”, “8:00 and 8 pm”. A bare number goes on a list of
 * bare numbers alone, and where no word follows that it may belong to: “at 8:00, 5 December”.
 */
export function times(tokens: readonly Token[], at: number): Read<number[]> {
  const isBare = (i: number, next: number) => next === i + 1 && tokens[i]!.kind === 'number';
  const first = time(tokens, at);
  if (!first) return null;
  const bare = isBare(at, first.next);
  return several(tokens, at, (list, i) => {
    const read = time(list, i);
    if (!read || i === at || !isBare(i, read.next)) return read;
    const behind = list[read.next];
    const free = !behind || behind.kind === 'sign' || BEHIND_TIME.has(behind.low);
    return bare && free ? read : null;
  });
}

const BEHIND_TIME = new Set(
  'and or on in every each daily weekly monthly from starting first until till for except if opens then with stays comes by'.split(
    ' ',
  ),
);

/** “13:00”, “8”, “8 am”, “8:30 pm”, “noon”: minutes since midnight; −1 where there is no such time. */
export function time(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  if (!token) return null;
  if (token.low === 'noon') return done(720, at + 1);
  const plain = token.kind === 'number' && !token.ordinal;
  if (!plain && token.kind !== 'time') return null;
  const [hour, minute] = token.low.split(/[:.]/).map(Number) as [number, number?];
  const half = tokens[at + 1]?.low;
  const isHalf = half === 'am' || half === 'pm';
  if (plain && !isHalf && unit(tokens, at + 1)) return null;
  const next = isHalf ? at + 2 : at + 1;
  if (isHalf && (hour < 1 || hour > 12)) return done(-1, next);
  const hours = isHalf ? (hour % 12) + (half === 'pm' ? 12 : 0) : hour;
  const value = hours * 60 + (minute ?? 0);
  return done(hours > 23 || (minute ?? 0) > 59 ? -1 : value, next);
}

/**
 * A date: “5 December”, “Sat 5 Dec 2026”, “December 5th”, “2026-12-05”, “today”, “tomorrow”,
 * “next Tuesday”, “in 3 days”, “end of May”.
 */
export function date(tokens: readonly Token[], at: number, today: Day): Read<WrittenDate> {
  const token = tokens[at];
  if (!token) return null;
  if (token.kind === 'date') return done(isoDate(token.low), at + 1);
  if (token.low === 'today') return done({ kind: 'day', day: today }, at + 1);
  if (token.low === 'tomorrow') return done({ kind: 'day', day: today + 1 }, at + 1);
  const named = weekday(tokens, at);
  const from = named ? (words(tokens, named.next, ',') ?? named.next) : at;
  const full = dayAndMonth(tokens, from);
  if (full) return full;
  const next = words(tokens, at, 'next');
  const following = next === null ? null : weekday(tokens, next);
  if (following)
    return done({ kind: 'day', day: weekdayFrom(today + 1, following.value) }, following.next);
  if (named) return done({ kind: 'day', day: weekdayFrom(today, named.value) }, named.next);
  const end = words(tokens, at, 'the? end of');
  const month = end === null ? undefined : MONTHS_BY_WORD.get(tokens[end]?.low ?? '');
  return month === undefined ? null : done({ kind: 'monthEnd', month }, end! + 1);
}

function isoDate(text: string): WrittenDate {
  try {
    return { kind: 'day', day: parseDay(text) };
  } catch (error) {
    if (error instanceof CoreError) return { kind: 'impossible', message: error.message };
    throw error;
  }
}

/** The first such weekday on or after a day. */
function weekdayFrom(day: Day, index: number): Day {
  return day + ((index - weekdayIndex(day) + 7) % 7);
}

/** “5 December”, “the 5th of December 2026”, “Dec 5”. */
export function dayAndMonth(tokens: readonly Token[], at: number): Read<WrittenDate> {
  const start = words(tokens, at, 'the') ?? at;
  const first = tokens[start];
  let day: number;
  let month: number | undefined;
  let next: number;
  if (first?.kind === 'number') {
    const of = words(tokens, start + 1, 'of') ?? start + 1;
    month = MONTHS_BY_WORD.get(tokens[of]?.low ?? '');
    day = first.value;
    next = of + 1;
  } else {
    month = MONTHS_BY_WORD.get(first?.low ?? '');
    const after = tokens[start + 1];
    if (month === undefined || after?.kind !== 'number' || after.value > 999) return null;
    day = after.value;
    next = start + 2;
  }
  if (month === undefined) return null;
  const behind = tokens[next];
  const isYear =
    behind?.kind === 'number' && !behind.ordinal && behind.value >= 1900 && behind.value <= 9999;
  const year = isYear ? behind.value : null;
  const name = MONTH_NAMES[month - 1]!;
  if (year !== null) next++;
  if (day < 1 || day > (year === null ? daysInMonth(2028, month) : daysInMonth(year, month)))
    return done(
      {
        kind: 'impossible',
        message: `There is no ${day} ${name}${year === null ? '' : ` ${year}`}.`,
      },
      next,
    );
  return done(
    year === null
      ? { kind: 'yearless', month, day }
      : { kind: 'day', day: dayOf(year, month, day) },
    next,
  );
}

/** The day that a written date means, counted on from `base` where it lacks its year. */
export function resolve(written: Exclude<WrittenDate, { kind: 'impossible' }>, base: Day): Day {
  if (written.kind === 'day') return written.day;
  const { month } = written;
  for (let year = dateOf(base).year; ; year++) {
    const length = daysInMonth(year, month);
    const wanted = written.kind === 'monthEnd' ? length : written.day;
    if (wanted > length) continue;
    const day = dayOf(year, month, wanted);
    if (day >= base) return day;
  }
}

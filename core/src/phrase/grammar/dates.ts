import {
  WEEKDAYS,
  dateOf,
  dayOf,
  daysInMonth,
  parseDay,
  startOfWeek,
  weekdayIndex,
  type Day,
  type Weekday,
} from '../../calendar/day.ts';
import { addToDay, parseSpan } from '../../calendar/span.ts';
import { CoreError } from '../../errors.ts';
import type { Context, DateOrder, Read, WrittenDate } from './facts.ts';
import { feast } from './feasts.ts';
import { done, number, ordinal, several, span, words } from './numbers.ts';
import type { Token } from './tokens.ts';
import {
  MONDAY_TO_FRIDAY,
  MONTHS_BY_WORD,
  MONTH_NAMES,
  PLURAL_WEEKDAYS,
  WEEKDAYS_BY_WORD,
  WEEKEND,
} from './words.ts';

/** Readers of weekdays, months and dates. */

export const codes = (indices: readonly number[]): Weekday[] => indices.map((i) => WEEKDAYS[i]!);

/** A weekday as its index from Monday. */
export function weekday(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  const found = token?.kind === 'word' ? WEEKDAYS_BY_WORD.get(token.low) : undefined;
  return found === undefined ? null : done(found, at + 1);
}

/** Weekdays as they stand in a list, and whether the words say that they repeat. */
export interface WrittenDays {
  days: Weekday[];
  plural: boolean;
}

/** “Tuesday”, “Mon-Fri”, “Monday to Friday”, “weekdays”, “weekends”: one item of a list of days. */
export function daysItem(tokens: readonly Token[], at: number): Read<WrittenDays> {
  const low = tokens[at]?.kind === 'word' ? tokens[at].low : '';
  if (low === 'weekday' || low === 'weekdays')
    return done({ days: [...MONDAY_TO_FRIDAY], plural: low.endsWith('s') }, at + 1);
  if (low === 'weekend' || low === 'weekends')
    return done({ days: [...WEEKEND], plural: low.endsWith('s') }, at + 1);
  const joined = /^(\p{L}+)[-–](\p{L}+)$/u.exec(low);
  const ends = joined?.slice(1).map((word) => WEEKDAYS_BY_WORD.get(word));
  if (ends?.length === 2 && ends[0] !== undefined && ends[1] !== undefined)
    return done({ days: daysFrom(ends[0], ends[1]), plural: true }, at + 1);
  const first = weekday(tokens, at);
  if (!first) return null;
  const to = words(tokens, first.next, 'to|till|until|through|thru|-|–');
  const last = to === null ? null : weekday(tokens, to);
  if (last) return done({ days: daysFrom(first.value, last.value), plural: true }, last.next);
  return done({ days: codes([first.value]), plural: PLURAL_WEEKDAYS.has(low) }, first.next);
}

function daysFrom(from: number, to: number): Weekday[] {
  const n = ((to - from + 7) % 7) + 1;
  return codes(Array.from({ length: n }, (_, i) => (from + i) % 7));
}

/** A list of weekdays, each once and in the order of the week. */
export function daysList(tokens: readonly Token[], at: number): Read<WrittenDays> {
  const first = several(tokens, at, daysItem);
  if (!first) return null;
  const value = [...first.value];
  let { next } = first;
  // “Monday Wednesday and Friday”, as it is spoken.
  const isPlural = (it: readonly WrittenDays[]) => it.some(({ plural }) => plural);
  const following = () => {
    const more = spokenDays(tokens, next);
    return more && isPlural(more.value) === isPlural(value) ? more : null;
  };
  for (let more = following(); more; more = following()) {
    value.push(...more.value);
    next = more.next;
  }
  const days = WEEKDAYS.filter((day) => value.some((it) => it.days.includes(day)));
  return done({ days, plural: isPlural(value) }, next);
}

/** Days that follow others without a word between, and are no part of a date. */
function spokenDays(tokens: readonly Token[], at: number): Read<WrittenDays[]> {
  const read = weekday(tokens, at) ? several(tokens, at, daysItem) : null;
  return read && !dayAndMonth(tokens, read.next) ? read : null;
}

/** A month by its name, 1 to 12. */
export function month(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  const found = token?.kind === 'word' ? MONTHS_BY_WORD.get(token.low) : undefined;
  return found === undefined ? null : done(found, at + 1);
}

const inOrder = (numbers: readonly number[]) => [...new Set(numbers)].sort((a, b) => a - b);

/** Months by their names, in order: “March and September”, “June to August”. */
export function monthList(tokens: readonly Token[], at: number): Read<number[]> {
  const read = several(tokens, at, (list, i) => {
    const first = month(list, i);
    const to = first && words(list, first.next, 'to|through|-|–');
    const last = to === null ? null : month(list, to);
    if (!first || !last) return first && done([first.value], first.next);
    const n = ((last.value - first.value + 12) % 12) + 1;
    return done(
      Array.from({ length: n }, (_, k) => ((first.value - 1 + k) % 12) + 1),
      last.next,
    );
  });
  return read && done(inOrder(read.value.flat()), read.next);
}

/** The months of a year without these. */
export const otherMonths = (months: readonly number[]): number[] =>
  Array.from({ length: 12 }, (_, i) => i + 1).filter((n) => !months.includes(n));

/**
 * A date: “5 December”, “Sat 5 Dec 2026”, “December 5th”, “2026-12-05”, “5/12/2026”, “tomorrow”,
 * “next Tuesday”, “in 3 weeks”, “end of May”.
 */
export function date(tokens: readonly Token[], at: number, context: Context): Read<WrittenDate> {
  const token = tokens[at];
  if (!token || token.kind === 'quote') return null;
  if (token.kind === 'date') return done(isoDate(token.low), at + 1);
  const known = feast(tokens, at, context.today);
  if (known) return done(onDay(known.value), known.next);
  const named = weekday(tokens, at);
  const from = named ? (words(tokens, named.next, ',') ?? named.next) : at;
  return (
    inYear(dayAndMonth(tokens, from), tokens, context) ??
    numericDate(tokens, from, context.dateOrder) ??
    (named && shortDate(tokens, from, context.dateOrder)) ??
    relative(tokens, at, context) ??
    (named && done(onDay(weekdayFrom(context.today, named.value)), named.next))
  );
}

/** A date where one is bound to stand: “the 5th”, “September” and “5/12” among them. */
export function boundDate(
  tokens: readonly Token[],
  at: number,
  context: Context,
): Read<WrittenDate> {
  const found = date(tokens, at, context) ?? shortDate(tokens, at, context.dateOrder);
  if (found) return found;
  const named = month(tokens, at);
  if (named) {
    const year = yearAt(tokens, named.next);
    return done(
      { kind: 'month', month: named.value, ...(year ? { year: year.value } : {}) },
      year?.next ?? named.next,
    );
  }
  const the = words(tokens, at, 'the') ?? at;
  const nth = ordinal(tokens, the);
  return nth && nth.value >= 1 && nth.value <= 31
    ? done({ kind: 'dayOfMonth', day: nth.value }, nth.next)
    : null;
}

/** “31 January next year”. */
function inYear(
  read: Read<WrittenDate>,
  tokens: readonly Token[],
  { today }: Context,
): Read<WrittenDate> {
  if (read?.value.kind !== 'yearless') return read;
  const next = words(tokens, read.next, 'of? next year');
  const same = next === null ? words(tokens, read.next, 'of? this year') : null;
  const end = next ?? same;
  if (end === null) return read;
  const { month: of, day } = read.value;
  return done(dayIn(day, of, dateOf(today).year + (next === null ? 0 : 1)), end);
}

const onDay = (day: Day): WrittenDate => ({ kind: 'day', day });

/** The words for days that count from today. */
const RELATIVE: readonly [pattern: string, day: (context: Context) => Day][] = [
  ['today', ({ today }) => today],
  ['tomorrow', ({ today }) => today + 1],
  ['the? day after tomorrow', ({ today }) => today + 2],
  ['next week', ({ today, weekStart }) => startOfWeek(today, weekStart) + 7],
  ['next month', ({ today }) => monthStart(today, 1)],
  ['next year', ({ today }) => dayOf(dateOf(today).year + 1, 1, 1)],
  ['this|the weekend', ({ today }) => weekendFrom(today)],
  ['the? end of the|this week', ({ today, weekStart }) => startOfWeek(today, weekStart) + 6],
  ['the? end of next week', ({ today, weekStart }) => startOfWeek(today, weekStart) + 13],
  ['the? end of the|this month', ({ today }) => monthStart(today, 1) - 1],
  ['the? end of next month', ({ today }) => monthStart(today, 2) - 1],
  ['the? end of the|this year', ({ today }) => dayOf(dateOf(today).year, 12, 31)],
  ['the? end of next year', ({ today }) => dayOf(dateOf(today).year + 1, 12, 31)],
  ['the? start|beginning of next month', ({ today }) => monthStart(today, 1)],
  ['the? start|beginning of next year', ({ today }) => dayOf(dateOf(today).year + 1, 1, 1)],
];

function monthStart(day: Day, on: number): Day {
  const { year, month: now } = dateOf(day);
  const month0 = now - 1 + on;
  return dayOf(year + Math.floor(month0 / 12), (month0 % 12) + 1, 1);
}

/** The Saturday of the weekend that a day is in or before. */
const weekendFrom = (day: Day): Day => (weekdayIndex(day) === 6 ? day - 1 : weekdayFrom(day, 5));

function relative(tokens: readonly Token[], at: number, context: Context): Read<WrittenDate> {
  const { today } = context;
  for (const [pattern, day] of RELATIVE) {
    const next = words(tokens, at, pattern);
    if (next !== null) return done(onDay(day(context)), next);
  }
  const weekend = words(tokens, at, 'next weekend');
  if (weekend !== null) {
    const { from } = tokens[at]!;
    const day = weekendFrom(today);
    const or = { why: 'nextDay', date: onDay(day), from, to: tokens[at + 1]!.to } as const;
    return done({ ...onDay(day + 7), or }, weekend);
  }
  const coming = words(tokens, at, 'this') ?? words(tokens, at, 'the? coming');
  const soon = coming === null ? null : weekday(tokens, coming);
  if (soon) return done(onDay(weekdayFrom(today, soon.value)), soon.next);
  const following = words(tokens, at, 'next');
  const named = following === null ? null : weekday(tokens, following);
  if (named) {
    const { from } = tokens[at]!;
    return done(nextDay(named.value, context, from, tokens[named.next - 1]!.to), named.next);
  }
  const end = words(tokens, at, 'the? end of');
  const ending = end === null ? null : month(tokens, end);
  if (ending) return done({ kind: 'monthEnd', month: ending.value }, ending.next);
  const begin = words(tokens, at, 'the? start|beginning of');
  const beginning = begin === null ? null : month(tokens, begin);
  if (beginning) return done({ kind: 'yearless', month: beginning.value, day: 1 }, beginning.next);
  const inward = words(tokens, at, 'in');
  const away = span(tokens, inward ?? at);
  if (!away) return null;
  const day = daysOn(today, away.value);
  if (day === null) return null;
  if (inward !== null) return done(onDay(day), away.next);
  const from = words(tokens, away.next, 'from now|today');
  if (from !== null) return done(onDay(day), from);
  const on = words(tokens, away.next, 'on|from');
  const then = on === null ? null : weekday(tokens, on);
  if (!then) return null;
  const counted = daysOn(weekdayFrom(today, then.value), away.value);
  return counted === null ? null : done(onDay(counted), then.next);
}

/** A day so long after another; null for hours, and where it would be out of the calendar. */
function daysOn(day: Day, text: string): Day | null {
  try {
    const parts = parseSpan(text);
    return parts.minutes ? null : addToDay(day, parts);
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}

/** “next Friday”: the coming one; where that is still in this week, the one in the week after as well. */
function nextDay(index: number, context: Context, from: number, to: number): WrittenDate {
  const coming = weekdayFrom(context.today + 1, index);
  const isThisWeek = coming < startOfWeek(context.today, context.weekStart) + 7;
  if (!isThisWeek) return onDay(coming);
  return { ...onDay(coming), or: { why: 'nextDay', date: onDay(coming + 7), from, to } };
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
export function weekdayFrom(day: Day, index: number): Day {
  return day + ((index - weekdayIndex(day) + 7) % 7);
}

function yearAt(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  if (token?.kind !== 'number' || token.ordinal || isCounted(tokens, at + 1)) return null;
  if (token.value >= 1900 && token.value <= 9999) return done(token.value, at + 1);
  // “22 Aug 27”: no hour has such a number, and nothing is counted with it.
  const behind = tokens[at + 1];
  const isAlone = !behind || behind.kind === 'sign' || behind.low === 'at';
  const isShort = token.low.length === 2 && token.value > 24 && token.value < 60;
  return isShort && isAlone ? done(2000 + token.value, at + 1) : null;
}

/** Whether the number before says how many times: “of April 10 times”. */
export const isCounted = (tokens: readonly Token[], at: number) =>
  words(tokens, at, 'time|times') !== null;

/** “5 December”, “the 5th of December 2026”, “Dec 5”, “fifth of May”. */
export function dayAndMonth(tokens: readonly Token[], at: number): Read<WrittenDate> {
  const start = words(tokens, at, 'the') ?? at;
  const first = dayNumber(tokens, start);
  if (first) {
    const of = words(tokens, first.next, 'of') ?? first.next;
    const named = month(tokens, of);
    return named && dated(tokens, first.value, named.value, named.next);
  }
  const named = month(tokens, start);
  const behind = named && dayNumber(tokens, named.next);
  if (!named || !behind || behind.value > 999 || isCounted(tokens, behind.next)) return null;
  return dated(tokens, behind.value, named.value, behind.next);
}

/** Several days of one month: “3 and 4 June”, “3rd, 10th and 17th of June 2027”. */
export function daysOfOneMonth(tokens: readonly Token[], at: number): Read<WrittenDate[]> {
  const numbers = dayNumbers(tokens, at);
  if (!numbers || numbers.value.length < 2) return null;
  const of = words(tokens, numbers.next, 'of') ?? numbers.next;
  const named = month(tokens, of);
  if (!named) return null;
  const read = numbers.value.map((day) => dated(tokens, day, named.value, named.next)!);
  return done(
    read.map(({ value }) => value),
    read[0]!.next,
  );
}

/** “3, 10 and 17”, “Sat 12 and Sat 26”, “eleventh twelfth and thirteenth”. */
function dayNumbers(tokens: readonly Token[], at: number): Read<number[]> {
  const item = (list: readonly Token[], i: number) => dayNumber(list, weekday(list, i)?.next ?? i);
  const read = several(tokens, at, item);
  if (!read || read.value.length > 1) return read;
  const spoken = ordinal(tokens, read.next) ? dayNumbers(tokens, read.next) : null;
  return spoken && ordinal(tokens, weekday(tokens, at)?.next ?? at)
    ? done([...read.value, ...spoken.value], spoken.next)
    : read;
}

/** The number of a day: “5”, “5th”, “fifth”. */
export function dayNumber(tokens: readonly Token[], at: number): Read<number> {
  return ordinal(tokens, at) ?? (tokens[at]?.kind === 'number' ? number(tokens, at) : null);
}

/** A day and month with the year that may follow. */
function dated(tokens: readonly Token[], day: number, of: number, next: number): Read<WrittenDate> {
  const comma = words(tokens, next, ',') ?? next;
  const year = yearAt(tokens, comma);
  return done(dayIn(day, of, year?.value ?? null), year?.next ?? next);
}

function dayIn(day: number, of: number, year: number | null): WrittenDate {
  const length = daysInMonth(year ?? 2028, of);
  if (day < 1 || day > length) {
    const name = `${day} ${MONTH_NAMES[of - 1]!}`;
    return {
      kind: 'impossible',
      message: `There is no ${name}${year === null ? '' : ` ${year}`}.`,
    };
  }
  return year === null
    ? { kind: 'yearless', month: of, day }
    : { kind: 'day', day: dayOf(year, of, day) };
}

const SEPARATORS = new Set(['/', '.', '-']);

/** Whether the tokens from one to another stand without space between them. */
const areJoined = (tokens: readonly Token[], from: number, to: number) =>
  tokens.slice(from, to).every((token, i) => token.to === tokens[from + i + 1]!.from);

/** “5/12/2026”, “5.12.2026”, “12-5-2026”, in the person's order. */
function numericDate(tokens: readonly Token[], at: number, order: DateOrder): Read<WrittenDate> {
  const [a, b, c] = [tokens[at], tokens[at + 2], tokens[at + 4]];
  const sign = tokens[at + 1]?.low;
  if (!a || !b || !c || !sign || !SEPARATORS.has(sign) || tokens[at + 3]!.low !== sign) return null;
  if (![a, b, c].every((it) => it.kind === 'number' && !it.ordinal)) return null;
  if (!areJoined(tokens, at, at + 4)) return null;
  if (a.value >= 1900 && a.value <= 9999)
    return done(ordered(b, c, a.value, 'mdy', [a, c]), at + 5);
  // Two figures are a year of this century, with strokes or points alone: “3-4-27” may be anything.
  const isShort = c.low.length === 2 && sign !== '-' && order !== 'ymd';
  const year = isShort ? 2000 + c.value : c.value;
  if (year < 1900 || year > 9999) return null;
  return done(ordered(a, b, year, order, [a, c]), at + 5);
}

/** “5/12”, where a date is bound to stand: “by 5/12”. */
export function shortDate(
  tokens: readonly Token[],
  at: number,
  order: DateOrder,
): Read<WrittenDate> {
  const [a, b] = [tokens[at], tokens[at + 2]];
  if (a?.kind !== 'number' || b?.kind !== 'number' || a.ordinal || b.ordinal) return null;
  if (tokens[at + 1]!.low !== '/' || !areJoined(tokens, at, at + 2)) return null;
  return done(ordered(a, b, null, order, [a, b]), at + 3);
}

/** Two numbers as day and month in the person's order; the other way round where it may be meant. */
function ordered(
  one: Token,
  other: Token,
  year: number | null,
  order: DateOrder,
  [first, last]: readonly [Token, Token],
): WrittenDate {
  const [a, b] = [one.value, other.value];
  const [day, of] = order === 'dmy' ? [a, b] : [b, a];
  const isDate = (d: number, m: number) => m >= 1 && m <= 12 && d >= 1 && d <= 31;
  if (!isDate(day, of))
    return isDate(of, day)
      ? dayIn(of, day, year)
      : { kind: 'impossible', message: `“${a}/${b}” is no day and month.` };
  const taken = dayIn(day, of, year);
  const isYearFirst = first !== one;
  if (isYearFirst || !isDate(of, day) || day === of || taken.kind === 'impossible') return taken;
  const { from } = first;
  return { ...taken, or: { why: 'dateOrder', date: dayIn(of, day, year), from, to: last.to } };
}

/**
 * The day that a written date means, counted on from `base` where it lacks its year or month. A
 * month alone is its first day, or its last where something ends with it.
 */
export function resolve(
  written: Exclude<WrittenDate, { kind: 'impossible' }>,
  base: Day,
  isEnd = false,
): Day {
  if (written.kind === 'day') return written.day;
  const from = dateOf(base);
  if (written.kind === 'dayOfMonth') {
    for (let start = dayOf(from.year, from.month, 1); ; start = monthStart(start, 1)) {
      const { year, month: of } = dateOf(start);
      const day = start + written.day - 1;
      if (written.day <= daysInMonth(year, of) && day >= base) return day;
    }
  }
  const { month: of } = written;
  const given = written.kind === 'month' ? written.year : undefined;
  for (let year = given ?? from.year; ; year++) {
    const length = daysInMonth(year, of);
    const isLast = written.kind === 'monthEnd' || (written.kind === 'month' && isEnd);
    const wanted = isLast ? length : written.kind === 'yearless' ? written.day : 1;
    if (wanted > length) continue;
    const day = dayOf(year, of, wanted);
    if (day >= base || given !== undefined) return day;
  }
}

import { WEEKDAYS, type Day, type Weekday } from '../calendar/day.ts';
import type { Span } from '../calendar/span.ts';
import type { ClosedDays } from '../calendar/workdays.ts';
import type { QuotaPer } from '../series/quota.ts';
import type { Per } from '../rule/workdays.ts';
import type { WeekdayPart } from '../rule/rule.ts';
import {
  date,
  dayAndMonth,
  month,
  number,
  ordinal,
  position,
  several,
  span,
  times as timesOfDay,
  unit,
  weekday,
  words,
  type WrittenDate,
} from './pieces.ts';
import type { Token } from './tokens.ts';
import { ADVERBS, MONDAY_TO_FRIDAY, PLURAL_WEEKDAYS, WEEKEND, type Unit } from './words.ts';

/** What one clause of a sentence says. */
export type Fact =
  | { fact: 'every'; n: number; unit: Unit }
  | { fact: 'weekdays'; days: Weekday[]; n: number; repeats: boolean }
  | {
      fact: 'monthDays';
      days: number[];
      n: number;
      repeats: boolean;
      lacking?: 'last' | 'omit';
      months?: number[];
    }
  | { fact: 'positions'; days: WeekdayPart[]; n: number; months?: number[] }
  | { fact: 'months'; months: number[] }
  | { fact: 'quota'; n: number; per: QuotaPer }
  | { fact: 'workday'; n: number; per: Per }
  | { fact: 'everyWorkdays'; n: number }
  | { fact: 'dates'; dates: WrittenDate[] }
  | { fact: 'except'; dates: WrittenDate[] }
  | { fact: 'extra'; dates: WrittenDate[] }
  | { fact: 'onto'; days: Weekday[] }
  | { fact: 'ontoRule'; from: number; to: number }
  | { fact: 'closed'; how: ClosedDays }
  | { fact: 'after'; every: Span; workdays: boolean }
  | { fact: 'date'; date: WrittenDate; weekday: Weekday | null }
  | { fact: 'start'; date: WrittenDate }
  | { fact: 'until'; date: WrittenDate }
  | { fact: 'times'; n: number }
  | { fact: 'within'; within: Span }
  | { fact: 'at'; minutes: number[] }
  | { fact: 'opens'; before: Span }
  | { fact: 'waits' }
  | { fact: 'lapses'; grace: Span | null }
  | { fact: 'owes' }
  | { fact: 'once' }
  | { fact: 'undated' }
  | { fact: 'rule'; from: number; to: number }
  /** Words that only join others. */
  | { fact: 'filler' };

export type Clause = (
  tokens: readonly Token[],
  at: number,
  today: Day,
) => { fact: Fact; next: number } | null;

const EVERY = 'every|each';
const OF_MONTH = 'of|in the|each|every month';

const codes = (indices: readonly number[]): Weekday[] => indices.map((i) => WEEKDAYS[i]!);

/** “every”, “every other”, “every 3rd”, “every 3”: how many to step, and what follows. */
function step(tokens: readonly Token[], at: number): { n: number; next: number } | null {
  const every = words(tokens, at, EVERY);
  if (every === null) return null;
  const other = words(tokens, every, 'other');
  if (other !== null) return { n: 2, next: other };
  const counted = number(tokens, every) ?? ordinal(tokens, every);
  return counted ? { n: counted.value, next: counted.next } : { n: 1, next: every };
}

/** “of each month”, “of every 3rd month”, “of the month”: the step in months. */
function ofMonth(tokens: readonly Token[], at: number): { n: number; next: number } | null {
  const of = words(tokens, at, 'of|in');
  const stepped = step(tokens, of ?? at);
  if (stepped) {
    const months = unit(tokens, stepped.next);
    return months?.value === 'month' ? { n: stepped.n, next: months.next } : null;
  }
  const plain = words(tokens, at, OF_MONTH);
  return plain === null ? null : { n: 1, next: plain };
}

/** “of March”, “of March and September”, “in March and September”. */
function ofMonths(tokens: readonly Token[], at: number): { months: number[]; next: number } | null {
  const from = words(tokens, at, 'of|in');
  const read = from === null ? null : several(tokens, from, month);
  // “of March 2027” and “of March 5” are parts of dates.
  if (!read || tokens[read.next]?.kind === 'number') return null;
  return { months: inOrder(read.value), next: read.next };
}

const inOrder = (numbers: readonly number[]) => [...new Set(numbers)].sort((a, b) => a - b);

/** “in June and July”, “only in March”, “except in August”: the months of the year. */
const months: Clause = (tokens, at) => {
  const not = words(tokens, at, 'except|but not?') ?? words(tokens, at, 'not');
  const read = ofMonths(tokens, not ?? words(tokens, at, 'only|but only?') ?? at);
  if (!read) return null;
  const all = Array.from({ length: 12 }, (_, i) => i + 1);
  const chosen = not === null ? read.months : all.filter((n) => !read.months.includes(n));
  return chosen.length ? { fact: { fact: 'months', months: chosen }, next: read.next } : null;
};

/** “twice a day”, “4 times a week”. */
const quota: Clause = (tokens, at) => {
  const named =
    words(tokens, at, 'once') !== null ? 1 : words(tokens, at, 'twice') !== null ? 2 : 0;
  const counted = number(tokens, at);
  const n = named || counted?.value;
  const from = named ? at + 1 : counted && words(tokens, counted.next, 'times');
  const next = from && words(tokens, from, 'a|each|every|per day|week|month');
  if (!n || !next) return null;
  return { fact: { fact: 'quota', n, per: tokens[next - 1]!.low as QuotaPer }, next };
};

const everyUnit: Clause = (tokens, at) => {
  const adverb = tokens[at] && ADVERBS.get(tokens[at].low);
  if (adverb) return { fact: { fact: 'every', ...adverb }, next: at + 1 };
  const stepped = step(tokens, at);
  const of = stepped && unit(tokens, stepped.next);
  if (of) return { fact: { fact: 'every', n: stepped.n, unit: of.value }, next: of.next };
  const quarter = stepped && words(tokens, stepped.next, 'quarter|quarters');
  return quarter === null || quarter === undefined || !stepped
    ? null
    : { fact: { fact: 'every', n: stepped.n * 3, unit: 'month' }, next: quarter };
};

const everyWeekday: Clause = (tokens, at) => {
  const stepped = step(tokens, at);
  const from = stepped?.next ?? words(tokens, at, 'on? all?') ?? at;
  const n = stepped?.n ?? 1;
  const make = (days: Weekday[], next: number, repeats: boolean) => ({
    fact: { fact: 'weekdays', days, n, repeats } as const,
    next,
  });
  const working = words(tokens, from, 'weekday|weekdays');
  if (working !== null && (stepped || tokens[working - 1]!.low.endsWith('s')))
    return make([...MONDAY_TO_FRIDAY], working, true);
  const weekend = words(tokens, from, 'weekend|weekends');
  if (weekend !== null && (stepped || tokens[weekend - 1]!.low === 'weekends'))
    return make([...WEEKEND], weekend, true);
  const days = several(tokens, from, weekday);
  if (!days) return null;
  const plural = PLURAL_WEEKDAYS.has(tokens[from]!.low);
  if (!stepped && !plural && words(tokens, at, 'on') === null) return null;
  // “on Sat 5 December” is one date.
  if (!stepped && days.value.length === 1 && dayAndMonth(tokens, days.next)) return null;
  return make(codes(days.value), days.next, stepped !== null || plural);
};

/** “every working day”, “every 3rd working day”, “on working days”: by the person’s own working days. */
const everyWorkday: Clause = (tokens, at) => {
  const stepped = step(tokens, at);
  const next = words(
    tokens,
    stepped?.next ?? words(tokens, at, 'on? all?') ?? at,
    'working day|days',
  );
  if (next === null || (!stepped && !tokens[next - 1]!.low.endsWith('s'))) return null;
  return { fact: { fact: 'everyWorkdays', n: stepped?.n ?? 1 }, next };
};

/** “on the last working day of each month”, “the 3rd working day of the quarter”. */
const nthWorkday: Clause = (tokens, at) => {
  const nth = position(tokens, words(tokens, at, 'on? the|each|every?') ?? at);
  const day = nth && words(tokens, nth.next, 'working day');
  if (!nth || day === null) return null;
  const back = words(tokens, day, 'from the end');
  const of = words(tokens, back ?? day, 'of|in each|every|the|a month|quarter|year');
  if (of === null) return null;
  const per = tokens[of - 1]!.low as Per;
  return { fact: { fact: 'workday', n: back === null ? nth.value : -nth.value, per }, next: of };
};

/** Dates with a day and a month, or written out: not weekdays, which repeat. */
const namedDate = (today: Day) => (tokens: readonly Token[], at: number) =>
  weekday(tokens, at) && !dayAndMonth(tokens, at + 1) ? null : date(tokens, at, today);

/** “on 3 May, 5 June and 9 July”: two dates or more. */
const pickedDates: Clause = (tokens, at, today) => {
  const from = words(tokens, at, 'on') ?? at;
  const read = several(tokens, from, namedDate(today));
  if (!read || (read.value.length < 2 && from === at)) return null;
  return read.value.length < 2
    ? null
    : { fact: { fact: 'dates', dates: read.value }, next: read.next };
};

const exceptDates: Clause = (tokens, at, today) => {
  const from = words(tokens, at, 'except|but on?') ?? words(tokens, at, 'but not on?');
  const read = from === null ? null : several(tokens, from, namedDate(today));
  return read && { fact: { fact: 'except', dates: read.value }, next: read.next };
};

const extraDates: Clause = (tokens, at, today) => {
  const from = words(tokens, at, 'and? also on?');
  const read = from === null ? null : several(tokens, from, namedDate(today));
  return read && { fact: { fact: 'extra', dates: read.value }, next: read.next };
};

/** “then on the next Saturday”, “on a Tuesday or Thursday”: where an after-I-finish one goes on to. */
const onto: Clause = (tokens, at) => {
  const rule = words(tokens, at, 'then on the next date by the rule freq');
  if (rule !== null) return ruleText(tokens, rule, 'ontoRule');
  const from =
    words(tokens, at, 'then on the? next|following?') ?? words(tokens, at, 'on a|the next?');
  const days = from === null ? null : several(tokens, from, weekday);
  return days && { fact: { fact: 'onto', days: codes(days.value) }, next: days.next };
};

/** What becomes of a closed day: “if closed, the working day before”, “on the nearest working day”. */
const closed: Clause = (tokens, at) => {
  const nearest = words(tokens, at, 'on|or the nearest working day');
  if (nearest !== null) return { fact: { fact: 'closed', how: 'nearest' }, next: nearest };
  const from =
    words(tokens, at, 'if it? is? closed ,?') ?? words(tokens, at, 'if it is a holiday ,?');
  if (from === null) return null;
  for (const [pattern, how] of CLOSED) {
    const next = words(tokens, from, pattern);
    if (next !== null) return { fact: { fact: 'closed', how }, next };
  }
  return null;
};

const CLOSED: readonly [pattern: string, how: ClosedDays][] = [
  ['the working? day before', 'before'],
  ['the working? day after', 'after'],
  ['the nearest working? day', 'nearest'],
  ['not at all', 'drop'],
  ['that day all the same', 'keep'],
];

const LACKING = { last: { lacking: 'last' }, omit: { lacking: 'omit' } } as const;

const monthDays: Clause = (tokens, at) => {
  const on = words(tokens, at, 'on') ?? at;
  const the = words(tokens, on, 'the') ?? on;
  const last = words(tokens, the, 'last day');
  const item = (list: readonly Token[], i: number) => ordinal(list, words(list, i, 'the') ?? i);
  const days = last === null ? several(tokens, the, item) : { value: [-1], next: last };
  if (!days) return null;
  const named = ofMonths(tokens, days.next);
  const of = named ? null : ofMonth(tokens, days.next);
  // “the 12th of June” is a date; of several months it repeats.
  if (named && (named.months.length > 1 || last !== null)) return found(true, named.next);
  if (!of && (on === at || last !== null))
    return last !== null && on !== at ? found(false, days.next) : null;
  return found(of !== null, of?.next ?? days.next);

  function found(repeats: boolean, next: number) {
    const orLast =
      words(tokens, next, ', or its|the last day') ?? words(tokens, next, 'or its|the last day');
    const omit = words(tokens, next, 'that has|have one|it|them');
    return {
      fact: {
        fact: 'monthDays',
        days: days!.value,
        n: of?.n ?? 1,
        repeats,
        ...(named && next === named.next ? { months: named.months } : {}),
        ...(orLast !== null ? LACKING.last : omit !== null ? LACKING.omit : {}),
      } as const,
      next: orLast ?? omit ?? next,
    };
  }
};

const positions: Clause = (tokens, at) => {
  const every = words(tokens, at, EVERY);
  const on = every ?? words(tokens, at, 'on? the?') ?? at;
  const numbers = several(tokens, on, (list, i) => position(list, words(list, i, 'the') ?? i));
  const days = numbers && several(tokens, numbers.next, weekday);
  if (!days) return null;
  const named = ofMonths(tokens, days.next);
  const of = named ? { n: 1, next: named.next } : ofMonth(tokens, days.next);
  if (!of) return null;
  const parts = numbers!.value.flatMap((nth) =>
    codes(days.value).map((day) => ({ ordinal: nth, weekday: day })),
  );
  const only = named ? { months: named.months } : {};
  return { fact: { fact: 'positions', days: parts, n: of.n, ...only }, next: of.next };
};

const afterDone: Clause = (tokens, at) => {
  const lead = words(tokens, at, 'every|each') ?? at;
  const every = spanWithWorkdays(tokens, lead);
  if (!every) return null;
  const next =
    words(tokens, every.next, 'after i|you have? finish|finished|do|did|done it|them?') ??
    words(tokens, every.next, 'after i|you last did|finished it|them?') ??
    words(tokens, every.next, 'after it|they is|was|are|were last? done|finished') ??
    words(tokens, every.next, 'after being? done|finishing|finished') ??
    words(tokens, every.next, 'since|after the? last time|done');
  if (next === null) return null;
  return { fact: { fact: 'after', every: every.value, workdays: every.workdays }, next };
};

/** “10 working days”, “1 week and 3 working days”, or a plain span. */
function spanWithWorkdays(tokens: readonly Token[], at: number) {
  const end = tokens.findIndex((token, i) => i >= at && i < at + 8 && token.low === 'working');
  const plain = span(tokens, at);
  if (end < 0 || (plain && plain.next < end - 2)) return plain && { ...plain, workdays: false };
  const without = [...tokens.slice(0, end), ...tokens.slice(end + 1)];
  const found = span(without, at);
  if (!found || found.next !== end + 1) return plain && { ...plain, workdays: false };
  return { value: found.value, next: found.next + 1, workdays: true };
}

const plainDate: Clause = (tokens, at, today) => {
  const on = words(tokens, at, 'on|due|by') ?? at;
  const stepIn = words(tokens, at, 'in');
  const away = stepIn === null ? null : inSpan(tokens, stepIn, today);
  if (away) return away;
  const read = date(tokens, on, today);
  if (!read) return null;
  const bare = read.next === on + 1 ? weekday(tokens, on) : null;
  // A weekday alone needs “on” or “due” before it, and a month's end needs “by”: “Call May” is a title.
  if ((bare || read.value.kind === 'monthEnd') && on === at) return null;
  return {
    fact: { fact: 'date', date: read.value, weekday: bare ? WEEKDAYS[bare.value]! : null },
    next: read.next,
  };
};

/** “in 3 days”, “in 2 weeks”: days and weeks are counted on from today. */
function inSpan(tokens: readonly Token[], at: number, today: Day) {
  const article = words(tokens, at, 'a|an');
  const n = article === null ? number(tokens, at) : { value: 1, next: article };
  const of = n && unit(tokens, n.next);
  if (!of || (of.value !== 'day' && of.value !== 'week')) return null;
  const days = n.value * (of.value === 'week' ? 7 : 1);
  if (days > 36525) return null;
  const fact: Fact = { fact: 'date', date: { kind: 'day', day: today + days }, weekday: null };
  return { fact, next: of.next };
}

const start: Clause = (tokens, at, today) => {
  const from = words(tokens, at, 'starting|beginning|from|first on|from?');
  const read = from === null ? null : date(tokens, from, today);
  return read && { fact: { fact: 'start', date: read.value }, next: read.next };
};

const until: Clause = (tokens, at, today) => {
  const from = words(tokens, at, 'until|till|ending on?') ?? words(tokens, at, 'up to');
  const read = from === null ? null : date(tokens, from, today);
  return read && { fact: { fact: 'until', date: read.value }, next: read.next };
};

const times: Clause = (tokens, at) => {
  const lead = words(tokens, at, 'for') ?? at;
  const n = number(tokens, lead);
  const next = n && words(tokens, n.next, 'times|time in? all|total?');
  if (!n || next === null) return null;
  // “4 times a week” is another kind of repeat.
  const per = words(tokens, next, 'a|each|every|per');
  if (per !== null && unit(tokens, per)) return null;
  return { fact: { fact: 'times', n: n.value }, next };
};

const within: Clause = (tokens, at) => {
  const from = words(tokens, at, 'for');
  const read = from === null ? null : span(tokens, from);
  return read && { fact: { fact: 'within', within: read.value }, next: read.next };
};

const atTime: Clause = (tokens, at) => {
  const from = words(tokens, at, 'at');
  if (from === null && tokens[at]!.kind !== 'time') return null;
  const read = timesOfDay(tokens, from ?? at);
  return read && { fact: { fact: 'at', minutes: read.value }, next: read.next };
};

const opens: Clause = (tokens, at) => {
  const from = words(tokens, at, 'opens|open');
  const read = from === null ? null : span(tokens, from);
  const next = read && words(tokens, read.next, 'before|early');
  return read && next !== null ? { fact: { fact: 'opens', before: read.value }, next } : null;
};

/** “missed 2 days after it is due”: until then it may still be done. */
const lapses: Clause = (tokens, at) => {
  const from = words(tokens, at, 'missed');
  const read = from === null ? null : span(tokens, from);
  const next = read && words(tokens, read.next, 'after it is due');
  return next ? { fact: { fact: 'lapses', grace: read.value }, next } : null;
};

const fixed =
  (pattern: string, fact: Fact): Clause =>
  (tokens, at) => {
    const next = words(tokens, at, pattern);
    return next === null ? null : { fact, next };
  };

const byRule: Clause = (tokens, at) => {
  const next = words(tokens, at, 'by the rule freq');
  return next === null ? null : ruleText(tokens, next, 'rule');
};

/** The text of a rule that begins with its FREQ, just before `at`. */
function ruleText(tokens: readonly Token[], at: number, fact: 'rule' | 'ontoRule') {
  let next = at;
  const from = tokens[next - 1]!.from;
  while (tokens[next] && tokens[next]!.from === tokens[next - 1]!.to) {
    if (tokens[next]!.low === ',' && tokens[next + 1]?.from !== tokens[next]!.to) break;
    if (tokens[next]!.low === '.') break;
    next++;
  }
  return { fact: { fact, from, to: tokens[next - 1]!.to }, next } as const;
}

/** Every clause that is read. Of those that fit at one place the longest is taken, else the first. */
export const CLAUSES: readonly Clause[] = [
  byRule,
  afterDone,
  everyUnit,
  everyWorkday,
  everyWeekday,
  nthWorkday,
  positions,
  monthDays,
  start,
  until,
  times,
  quota,
  within,
  months,
  exceptDates,
  extraDates,
  pickedDates,
  plainDate,
  onto,
  closed,
  atTime,
  opens,
  fixed('stays on its day when late', { fact: 'waits' }),
  fixed('missed once it is over', { fact: 'lapses', grace: null }),
  lapses,
  fixed('each one is owed', { fact: 'owes' }),
  fixed('once', { fact: 'once' }),
  fixed('with|has? no date yet?', { fact: 'undated' }),
  fixed('comes|come back', { fact: 'filler' }),
];

import type { Weekday } from '../../calendar/day.ts';
import type { QuotaPer } from '../../series/plan/quota.ts';
import type { Per } from '../../rule/workdays.ts';
import {
  codes,
  date,
  dayAndMonth,
  daysList,
  daysOfOneMonth,
  isCounted,
  monthList,
  otherMonths,
  weekday,
} from './dates.ts';
import type { Clause, Context, Fact, Read, WrittenDate } from './facts.ts';
import { beginning, fixed, line, lines } from './lines.ts';
import { number, ordinal, position, several, span, unit, words } from './numbers.ts';
import { partOfDay, time, withPart } from './times.ts';
import type { Token } from './tokens.ts';
import { ADVERBS, MONDAY_TO_FRIDAY, PARTS_OF_DAY, WEEKEND, type Unit } from './words.ts';

/** The clauses that say how something comes back. */

const EVERY = 'every|each';
const MONTHS_IN: Record<Per, number> = { month: 1, quarter: 3, year: 12 };

/** The first month of each quarter or year, or the last. */
function edgeMonths(per: Per, isLast: boolean): number[] {
  const n = MONTHS_IN[per];
  return Array.from({ length: 12 / n }, (_, i) => (isLast ? n : 1) + i * n);
}

type Step = { n: number; next: number; nth?: number };

/** “every”, “every other”, “every 3rd”, “every 3”, “alternate”: how many to step, and what follows. */
function step(tokens: readonly Token[], at: number): Step | null {
  const alternate = words(tokens, at, 'on? alternate|alternating');
  if (alternate !== null) return { n: 2, next: alternate };
  const every = words(tokens, words(tokens, at, 'once') ?? at, 'every|each');
  if (every === null) return null;
  const other = words(tokens, every, 'other|alternate');
  if (other !== null) return { n: 2, next: other };
  const counted = number(tokens, every);
  if (counted) return { n: counted.value, next: counted.next };
  const nth = ordinal(tokens, every);
  if (nth) return { n: nth.value, next: nth.next, nth: nth.value };
  return { n: 1, next: words(tokens, every, 'single') ?? every };
}

interface OfMonths {
  /** The step in months. */
  n: number;
  /** The months that it is about, where the words name a quarter or a year. */
  months?: number[];
  next: number;
}

/**
 * “of each month”, “of every 3rd month”, “of the month”; “of each quarter” and “of the year” are
 * their first month, or their last one where it is counted from the end.
 */
function ofMonth(tokens: readonly Token[], at: number, places: readonly number[]): OfMonths | null {
  const of = words(tokens, at, 'of|in');
  const stepped = step(tokens, of ?? at);
  const the = stepped ? null : (words(tokens, at, 'of|in the|a') ?? bareMonth(tokens, of));
  const from = stepped?.next ?? the;
  const word = from === null ? undefined : tokens[from]?.low;
  if (from !== null && (word === 'quarter' || word === 'year') && (stepped?.n ?? 1) === 1) {
    const isFromEnd = places.every((place) => place < 0);
    if (!isFromEnd && places.some((place) => place < 0)) return null;
    return { n: 1, months: edgeMonths(word, isFromEnd), next: from + 1 };
  }
  if (from !== null && (word === 'month' || word === 'months'))
    return { n: stepped?.n ?? 1, next: from + 1 };
  const monthly = words(tokens, at, 'monthly');
  return monthly === null ? null : { n: 1, next: monthly };
}

/** “last Friday of month”. */
const bareMonth = (tokens: readonly Token[], of: number | null) =>
  of !== null && tokens[of]?.low === 'month' ? of : null;

/** “of March”, “of March and September”, “in March and September”. */
function ofMonths(tokens: readonly Token[], at: number): { months: number[]; next: number } | null {
  const from = words(tokens, at, 'of|in');
  const read = from === null ? null : monthList(tokens, from);
  // “of March 2027” and “of March 5” are parts of dates.
  if (!read) return null;
  const isDate = tokens[read.next]?.kind === 'number' && !isCounted(tokens, read.next + 1);
  if (isDate) return null;
  return { months: read.value, next: read.next };
}

/** “in June and July”, “only in March”, “except in August”: the months of the year. */
const months: Clause = (tokens, at) => {
  const not =
    words(tokens, at, 'except') ?? words(tokens, at, 'but? not') ?? words(tokens, at, 'but');
  const read = ofMonths(tokens, not ?? words(tokens, at, 'only|but only?') ?? at);
  if (!read) return null;
  const chosen = not === null ? read.months : otherMonths(read.months);
  return chosen.length ? { facts: [{ fact: 'months', months: chosen }], next: read.next } : null;
};

const everyWeekday: Clause = (tokens, at) => {
  const stepped = step(tokens, at);
  // “every first Sunday” is of each month.
  if (stepped?.nth === 1) return null;
  const from =
    stepped?.next ?? words(tokens, at, 'on|at|from all? the?') ?? words(tokens, at, 'all') ?? at;
  const read = daysList(tokens, from);
  if (!read) return null;
  const { days } = read.value;
  const part = partOfDay(tokens, read.next);
  const plural = read.value.plural || (part?.value.plural ?? false);
  // Several days repeat without more words: “Mon/Wed/Fri”.
  const isList = days.length > 1 && read.next > from + 1;
  if (!stepped && !plural && !isList && words(tokens, at, 'on') === null) return null;
  // “on Sat 5 December” is one date, and so is “on the weekend”.
  if (
    !stepped &&
    days.length === 1 &&
    dayAndMonth(tokens, words(tokens, read.next, ',') ?? read.next)
  )
    return null;
  if (!stepped && !plural && days.length > 1 && !isList) return null;
  const fact: Fact = {
    fact: 'weekdays',
    days,
    n: stepped?.n ?? 1,
    repeats: stepped !== null || plural || isList,
    ...(stepped?.nth && days.length === 1 ? { nth: stepped.nth } : {}),
  };
  return withPart([fact], tokens, read.next);
};

/** “except Sundays”, “but not at weekends”. */
const notOn: Clause = (tokens, at) => {
  const from =
    words(tokens, at, 'except|excepting|excluding for? on|at?') ??
    words(tokens, at, 'apart|aside from on?') ??
    words(tokens, at, 'other than on?') ??
    words(tokens, at, 'skip|skipping|bar') ??
    words(tokens, at, 'but not? on|at?') ??
    words(tokens, at, 'not on|at');
  const read = from === null ? null : daysList(tokens, from);
  if (!read || dayAndMonth(tokens, words(tokens, read.next, ',') ?? read.next)) return null;
  return { facts: [{ fact: 'notOn', days: read.value.days }], next: read.next };
};

/** “every working day”, “every 3rd working day”, “on working days”: by the person’s own working days. */
const everyWorkday: Clause = (tokens, at) => {
  const stepped = step(tokens, at);
  const from = stepped?.next ?? words(tokens, at, 'on? all?') ?? at;
  const next =
    words(tokens, from, 'working|work|business day|days') ??
    words(tokens, from, 'workday|workdays');
  if (next === null || (!stepped && !tokens[next - 1]!.low.endsWith('s'))) return null;
  return withPart([{ fact: 'everyWorkdays', n: stepped?.n ?? 1 }], tokens, next);
};

const OF_ADVERB: Record<string, Per> = { monthly: 'month', quarterly: 'quarter', yearly: 'year' };

/** “on the last working day of each month”, “the 3rd working day of the quarter”. */
const nthWorkday: Clause = (tokens, at) => {
  const nth = position(tokens, words(tokens, at, 'on|by|due? the|each|every?') ?? at);
  const day =
    nth && (words(tokens, nth.next, 'working|business day') ?? words(tokens, nth.next, 'workday'));
  if (!nth || day === null) return null;
  const back = words(tokens, day, 'from the end');
  const of =
    words(tokens, back ?? day, 'of|in each|every|the|a? month|quarter|year') ??
    words(tokens, back ?? day, 'each|every month|quarter|year') ??
    words(tokens, back ?? day, 'monthly|quarterly|yearly');
  if (of === null) return null;
  const named = tokens[of - 1]!.low;
  const per = OF_ADVERB[named] ?? (named as Per);
  return {
    facts: [{ fact: 'workday', n: back === null ? nth.value : -nth.value, per }],
    next: of,
  };
};

/** “every quarter on the first working day”, “monthly on the last working day”. */
const workdayOfEach: Clause = (tokens, at) => {
  const named = words(tokens, at, 'every|each month|quarter|year');
  const adverb = OF_ADVERB[tokens[at]?.low ?? ''];
  const per = named === null ? adverb : (tokens[named - 1]!.low as Per);
  const from =
    words(tokens, named ?? at + 1, ', on the') ?? words(tokens, named ?? at + 1, ',? on? the');
  const nth = per && from !== null ? position(tokens, from) : null;
  const next = nth && words(tokens, nth.next, 'working|business day');
  return per && nth && next !== null
    ? { facts: [{ fact: 'workday', n: nth.value, per }], next }
    : null;
};

/** Dates with a day and a month, or written out: not weekdays, which repeat. */
const namedDate = (context: Context) => (tokens: readonly Token[], at: number) =>
  weekday(tokens, at) && !dayAndMonth(tokens, words(tokens, at + 1, ',') ?? at + 1)
    ? null
    : date(tokens, at, context);

function datesAfter(
  tokens: readonly Token[],
  from: number | null,
  context: Context,
): { value: WrittenDate[]; next: number } | null {
  return from === null ? null : several(tokens, from, namedDate(context));
}

/** “on 3 May, 5 June and 9 July”, “3 and 4 June”: two dates or more. */
const pickedDates: Clause = (tokens, at, context) => {
  const on = words(tokens, at, 'on');
  const from = on ?? at;
  const read = daysOfOneMonth(tokens, from) ?? datesAfter(tokens, from, context);
  return read && read.value.length > 1
    ? { facts: [{ fact: 'dates', dates: read.value }], next: read.next }
    : null;
};

const exceptDates: Clause = (tokens, at, context) => {
  const from = words(tokens, at, 'except|but on?') ?? words(tokens, at, 'but not on?');
  const read = datesAfter(tokens, from, context);
  return read && { facts: [{ fact: 'except', dates: read.value }], next: read.next };
};

const extraDates: Clause = (tokens, at, context) => {
  const read = datesAfter(tokens, words(tokens, at, 'and? also on?'), context);
  return read && { facts: [{ fact: 'extra', dates: read.value }], next: read.next };
};

/** “at 18:30 on 4 June 2027”: one of several times of a day. */
const momentOn =
  (context: Context) =>
  (tokens: readonly Token[], at: number): Read<{ minute: number; date: WrittenDate }> => {
    const clock = time(tokens, words(tokens, at, 'at') ?? at);
    const on = clock && words(tokens, clock.next, 'on');
    const day =
      clock && on !== null && clock.value.minute >= 0 ? namedDate(context)(tokens, on!) : null;
    return day && { value: { minute: clock!.value.minute, date: day.value }, next: day.next };
  };

/** “but not at 18:30 on 4 June 2027”, “and also at 8:00 on 5 June 2027”. */
const momentsOf =
  (fact: 'exceptAt' | 'extraAt', pattern: string): Clause =>
  (tokens, at, context) => {
    const from = words(tokens, at, pattern);
    const read = from === null ? null : several(tokens, from, momentOn(context));
    return read && { facts: [{ fact, moments: read.value } as Fact], next: read.next };
  };

/** “then on the next Saturday”, “on a Tuesday or Thursday”: where an after-I-finish one goes on to. */
const onto: Clause = (tokens, at) => {
  const rule = words(tokens, at, 'then on the next date by the rule freq');
  if (rule !== null) return ruleText(tokens, rule, 'ontoRule');
  const from =
    words(tokens, at, 'then on the? next|following?') ?? words(tokens, at, 'on a|the next?');
  const read = from === null ? null : several(tokens, from, weekday);
  if (!read || dayAndMonth(tokens, words(tokens, read.next, ',') ?? read.next)) return null;
  return withPart([{ fact: 'onto', days: codes(read.value) }], tokens, read.next);
};

const monthDays: Clause = (tokens, at) => {
  const every = words(tokens, at, EVERY);
  // “by the 5th of each month” is due on it.
  const on = every ?? words(tokens, at, 'due? on|by') ?? words(tokens, at, 'due') ?? at;
  const the = words(tokens, on, 'the') ?? on;
  const item = (list: readonly Token[], i: number) => {
    const lead = words(list, i, 'the') ?? i;
    const back = position(list, lead);
    const last = back && back.value < 0 ? words(list, back.next, 'day') : null;
    if (back && last !== null) return { value: back.value, next: last };
    const nth = ordinal(list, lead);
    const day = nth && words(list, nth.next, 'day');
    return nth && day !== null ? { value: nth.value, next: day } : nth;
  };
  const days = several(tokens, the, item);
  if (!days || dayAndMonth(tokens, the)?.value.kind === 'day') return null;
  // “every 3rd” alone steps, “every third day” as well.
  const isStep = every !== null && (tokens[the]!.kind === 'word' || days.value.length < 2);
  const last = days.value.some((day) => day < 0);
  const named = ofMonths(tokens, days.next);
  const of = named ? null : ofMonth(tokens, days.next, days.value);
  if (isStep && !of && !named) {
    const alone = days.value.length === 1 && tokens[the]!.ordinal && !unit(tokens, the + 1);
    return alone && !several(tokens, the + 1, weekday) && words(tokens, the + 1, 'working') === null
      ? found(true, days.next)
      : null;
  }
  // “the 12th of June” is a date; of several months it repeats.
  if (named && (named.months.length > 1 || last)) return found(true, named.next);
  if (!of && every !== null) return found(true, days.next);
  if (!of && (on === at || last)) return last && on !== at ? found(false, days.next) : null;
  return found(of !== null, of?.next ?? days.next);

  function found(repeats: boolean, next: number) {
    const orLast =
      words(tokens, next, ', or its|the last day') ?? words(tokens, next, 'or its|the last day');
    const omit = words(tokens, next, 'that has|have one|it|them');
    const fact: Fact = {
      fact: 'monthDays',
      days: days!.value,
      n: of?.n ?? 1,
      // Several days of one month are of each: a one-off has one.
      repeats: repeats || days!.value.length > 1,
      ...(named && next === named.next ? { months: named.months } : {}),
      ...(of?.months ? { months: of.months } : {}),
      ...(orLast !== null
        ? { lacking: 'last' as const }
        : omit !== null
          ? { lacking: 'omit' as const }
          : {}),
    };
    return { facts: [fact], next: orLast ?? omit ?? next };
  }
};

/** “at the start of each month”, “at the end of every quarter”. */
const edges: Clause = (tokens, at) => {
  const first = words(tokens, at, 'at? the? start|beginning of each|every month|quarter|year');
  const last = words(tokens, at, 'at? the? end of each|every month|quarter|year');
  const next = first ?? last;
  if (next === null) return null;
  const per = tokens[next - 1]!.low as Per;
  const fact: Fact = {
    fact: 'monthDays',
    days: [first === null ? -1 : 1],
    n: 1,
    repeats: true,
    ...(per === 'month' ? {} : { months: edgeMonths(per, first === null) }),
  };
  return { facts: [fact], next };
};

/** “2 days before the end of each month”. */
const beforeEnd = lines(
  [
    '{n} days|day before the end of each|every|the month',
    'the day before the end of each|every|the month',
  ],
  ({ n = 1 }: { n?: number }) =>
    n < 31 ? { fact: 'monthDays', days: [-1 - n], n: 1, repeats: true } : null,
);

/** “the second Tuesday and the last Thursday of each month”, “every last Friday”. */
const positions: Clause = (tokens, at) => {
  const every = words(tokens, at, EVERY);
  const on = every ?? words(tokens, at, 'on? the?') ?? at;
  const groups = several(tokens, on, (list, i) => {
    const numbers =
      countedPlaces(list, words(list, i, 'the') ?? i) ??
      several(list, words(list, i, 'the') ?? i, (all, k) =>
        position(all, words(all, k, 'the') ?? k),
      );
    const set = numbers && daySet(list, numbers.next);
    if (set) return { value: { nth: numbers.value, days: set.days, isSet: true }, next: set.next };
    const days = numbers && several(list, numbers.next, weekday);
    return (
      days && {
        value: { nth: numbers.value, days: codes(days.value), isSet: false },
        next: days.next,
      }
    );
  });
  if (!groups) return null;
  const named = ofMonths(tokens, groups.next);
  const places = groups.value.flatMap(({ nth }) => nth);
  const of: OfMonths | null = named
    ? { n: 1, next: named.next, months: named.months }
    : ofMonth(tokens, groups.next, places);
  const parts = groups.value.flatMap(({ nth, days }) =>
    nth.flatMap((ordinal) => days.map((day) => ({ ordinal, weekday: day }))),
  );
  // “every second Sunday” steps; “every first Monday” and “every last Friday” are of each month.
  const steps = parts.length === 1 && parts[0]!.ordinal > 1;
  if (!of && every !== null && steps) return null;
  // “1st and 3rd Wed”: of several places it is each month's.
  const isEach = groups.value.length === 1 && groups.value[0]!.nth.length > 1;
  if (!of && every === null && on === at && !isEach) return null;
  const of_ = {
    n: of?.n ?? 1,
    repeats: of !== null || every !== null || isEach,
    ...(of?.months ? { months: of.months } : {}),
  };
  const next = of?.next ?? groups.next;
  const [group] = groups.value;
  if (groups.value.some(({ isSet }) => isSet)) {
    if (groups.value.length > 1) return null;
    return { facts: [{ fact: 'ofSet', days: group!.days, nth: group!.nth, ...of_ }], next };
  }
  return withPart([{ fact: 'positions', days: parts, ...of_ }], tokens, next);
};

/** “the last two Fridays”, “the first three Mondays”: their places in the month. */
function countedPlaces(tokens: readonly Token[], at: number): Read<number[]> {
  const isLast = words(tokens, at, 'last');
  const from = isLast ?? words(tokens, at, 'first');
  const n = from === null ? null : number(tokens, from);
  if (!n || n.value < 2 || n.value > 4 || !weekday(tokens, n.next)) return null;
  const places = Array.from({ length: n.value }, (_, i) => (isLast === null ? i + 1 : -1 - i));
  return { value: places, next: n.next };
}

/** “each month on its third Tuesday”, “every quarter on its last Saturday”. */
const ofItsOwn: Clause = (tokens, at) => {
  const named = words(tokens, at, 'every|each month|quarter|year');
  const from = named === null ? null : words(tokens, named, ',? on its');
  const nth = from === null ? null : position(tokens, from);
  const day = nth && weekday(tokens, nth.next);
  if (named === null || !nth || !day) return null;
  const per = tokens[named - 1]!.low as Per;
  const fact: Fact = {
    fact: 'positions',
    days: [{ ordinal: nth.value, weekday: codes([day.value])[0]! }],
    n: 1,
    repeats: true,
    ...(per === 'month' ? {} : { months: edgeMonths(per, nth.value < 0) }),
  };
  return withPart([fact], tokens, day.next);
};

/** “weekday”, “weekend day”: days of a month that are counted together. */
function daySet(tokens: readonly Token[], at: number): { days: Weekday[]; next: number } | null {
  const weekdays = words(tokens, at, 'weekday');
  if (weekdays !== null) return { days: [...MONDAY_TO_FRIDAY], next: weekdays };
  const weekend = words(tokens, at, 'weekend day');
  return weekend === null ? null : { days: [...WEEKEND], next: weekend };
}

/** How a sentence says that it is counted from when it was done, behind the span. */
const AFTER_DONE: readonly string[] = [
  "after i|you|we|i've|you've have? last? finish|finished|do|did|done it|them|this|that?",
  "after it's|it|they|they're is|was|are|were? last? done|finished",
  'after being? done|finishing|finished|completion|doing it|them?',
  'after|since|from the? last|previous time|one|go was? done|finished?',
  'after|since last time|done?',
  "since i|you|we|i've|you've last? finished|did|done it|them?",
  'since it|they was|were last? done|finished',
  'after each|every time',
  'from when|the i|you finish|finished|did it|them?',
  'from the day on? which? i|you finish|finished|did it|them?',
  'counted|counting from when|the i|we|you last? finish|finished|did|do it|them?',
  'counted|counting from the last time i|we|you finished|did it|them?',
  "after|since i've|we've last? done it|them?",
];

/** Words that say another thing than what was done. */
const NO_DEED = new Set(
  'of day week month year quarter time night morning evening weekend working one go'.split(' '),
);

/** Whether a word is of the same stem as one that stands before: “descale … after descaling”. */
function isOfTitle(tokens: readonly Token[], at: number, before: number): boolean {
  const low = tokens[at]?.kind === 'word' ? tokens[at].low : '';
  const stem = low.slice(0, Math.max(3, Math.min(5, low.length - 3)));
  return (
    low.length > 3 &&
    tokens.some((token, i) => (i < before || i > at) && token.low.startsWith(stem))
  );
}

/**
 * “after I last turned it”, “after the last order”, “after descaling”, “after I ordered”: whatever it
 * is that was done, where that is told by a word for it or by the title's own.
 */
function afterIDid(tokens: readonly Token[], at: number): number | null {
  const i = words(tokens, at, "after|since i|we|you|i've");
  const last = i === null ? null : words(tokens, i, 'have? last');
  const verb = last ?? i;
  if (verb !== null && tokens[verb]?.kind === 'word') {
    const what = words(tokens, verb + 1, 'it|them|this|that|one');
    if (what !== null) return what;
    if (isOfTitle(tokens, verb, at) || last !== null)
      return words(tokens, verb + 1, 'the last|previous one|time') ?? verb + 1;
  }
  const from = words(tokens, at, 'after|since|from');
  if (from === null) return null;
  const noun = words(tokens, from, 'the|my|our? last|previous');
  const what = noun === null ? undefined : tokens[noun];
  if (
    what?.kind === 'word' &&
    !NO_DEED.has(what.low) &&
    !weekday(tokens, noun!) &&
    !ofMonths(tokens, noun!)
  )
    return words(tokens, noun! + 1, 'is|was? done|finished') ?? noun! + 1;
  const isGerund = /ing$/u.test(tokens[from]?.low ?? '') && isOfTitle(tokens, from, at);
  return isGerund ? (words(tokens, from + 1, 'it|them|this|that') ?? from + 1) : null;
}

function afterTail(tokens: readonly Token[], at: number): number | null {
  let best: number | null = null;
  for (const pattern of AFTER_DONE) {
    const next = words(tokens, at, pattern);
    if (next !== null && next > (best ?? at)) best = next;
  }
  const did = afterIDid(tokens, at);
  return did !== null && did > (best ?? at) ? did : best;
}

const afterDone: Clause = (tokens, at) => {
  const been =
    words(tokens, at, "when|once|whenever|if it's|it been?") ??
    words(tokens, at, 'when|once|whenever it has|is been?');
  const whenever = been ?? words(tokens, at, 'whenever|when|once');
  const lead = whenever ?? words(tokens, at, 'every|each') ?? at;
  const every = spanWithWorkdays(tokens, lead);
  if (!every) return null;
  const passed = whenever === null ? null : words(tokens, every.next, 'has|have passed|gone by?');
  const next = afterTail(tokens, passed ?? every.next);
  if (next === null) return null;
  return { facts: [{ fact: 'after', every: every.value, workdays: every.workdays }], next };
};

/** “10 working days”, “1 week and 3 working days”, or a plain span. */
function spanWithWorkdays(tokens: readonly Token[], at: number) {
  const plain = span(tokens, at);
  const most = Math.min(tokens.length, at + 8);
  let end = at;
  while (end < most && tokens[end]!.low !== 'working') end++;
  if (end === most || (plain && plain.next < end - 2))
    return plain && { ...plain, workdays: false };
  const without = [...tokens.slice(at, end), ...tokens.slice(end + 1, end + 3)];
  const found = span(without, 0);
  if (!found || at + found.next !== end + 1) return plain && { ...plain, workdays: false };
  return { value: found.value, next: end + 2, workdays: true };
}

/** “every 2 hours from 8 to 18”: the times of a day. */
const hoursBetween = lines(
  [
    'every|each [{n}] hour|hours from|between {time} to|until|till|and|-|– {to}',
    'hourly from|between {time} to|until|till|and|-|– {to}',
  ],
  ({ n = 1, time, to }: { n?: number; time: { minute: number }; to: { minute: number } }) => {
    if (n < 1 || time.minute < 0 || to.minute < time.minute) return null;
    const count = Math.floor((to.minute - time.minute) / (n * 60)) + 1;
    const minutes = Array.from({ length: count }, (_, i) => time.minute + i * n * 60);
    return { fact: 'at', minutes, eachDay: true };
  },
);

const everyUnit: Clause = (tokens, at) => {
  const adverb = tokens[at] && ADVERBS.get(tokens[at].low);
  if (adverb) return { facts: [{ fact: 'every', ...adverb }], next: at + 1 };
  const stepped = step(tokens, at);
  const of = stepped && unit(tokens, stepped.next);
  if (!of) return null;
  const fact: Fact = { fact: 'every', n: stepped.n * of.value.n, unit: of.value.unit };
  return fact.unit === 'day' ? withPart([fact], tokens, of.next) : { facts: [fact], next: of.next };
};

const HALF: readonly [pattern: string, n: number, unit: Unit][] = [
  ['once a|per|every fortnight', 2, 'week'],
  ['once a|per|every quarter', 3, 'month'],
  ['every|each half a? year', 6, 'month'],
  ['every|each half an? hour', 30, 'minute'],
  ['every|each quarter of an hour', 15, 'minute'],
  ['half yearly', 6, 'month'],
];

/** “every morning”, “each night”. */
const everyPartOfDay: Clause = (tokens, at) => {
  const nightly = words(tokens, at, 'nightly');
  const eachDayAt = (n: number, minute: number, next: number) => {
    const facts: Fact[] = [
      { fact: 'every', n, unit: 'day' },
      { fact: 'part', minute },
    ];
    return { facts, next };
  };
  if (nightly !== null) return eachDayAt(1, PARTS_OF_DAY.get('night')!, nightly);
  const every = step(tokens, at);
  const part = every && partOfDay(tokens, every.next);
  return part && !part.value.plural ? eachDayAt(every.n, part.value.minute, part.next) : null;
};

const QUOTA_ADVERB: Record<string, QuotaPer | 'year'> = {
  daily: 'day',
  weekly: 'week',
  monthly: 'month',
  yearly: 'year',
};

/** “twice a day”, “4 times a week”, “any 2 days a month”, “3x per week”. */
const quota: Clause = (tokens, at) => {
  // Further ones count as well: “at least twice a week” is the same.
  const any = words(tokens, at, 'on? any') ?? words(tokens, at, 'at least') ?? at;
  const once = words(tokens, any, 'once');
  const twice = words(tokens, any, 'twice');
  const counted = number(tokens, any);
  const n = once === null ? (twice === null ? counted?.value : 2) : 1;
  const from =
    once ??
    twice ??
    (counted &&
      (words(tokens, counted.next, 'times|x|×') ??
        (any > at ? words(tokens, counted.next, 'days|day|times') : null)));
  if (!n || !from) return null;
  const next =
    words(tokens, from, 'a|per|/ day|week|month|year') ??
    words(tokens, from, 'each day|week|month|year') ??
    words(tokens, from, 'every day|week|month') ??
    (/^[x×]$/u.test(tokens[from - 1]!.low) ? words(tokens, from, 'day|week|month|year') : null);
  const adverb = QUOTA_ADVERB[tokens[from]?.low ?? ''];
  // “3x daily”, “twice yearly”; “3 daily” is no number of times.
  const isTimes = counted === null || words(tokens, counted.next, 'times|x|×') !== null;
  if (next === null && (!adverb || !isTimes)) return null;
  // “once every year in September” is a rule.
  if (once !== null && next !== null && tokens[next - 2]!.low === 'every') return null;
  const per = next === null ? adverb! : (tokens[next - 1]!.low as QuotaPer | 'year');
  return { facts: [{ fact: 'quota', n, per }], next: next ?? from + 1 };
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
  const said: Fact = { fact, from, to: tokens[next - 1]!.to };
  return { facts: [said], next };
}

export const REPEAT_CLAUSES: readonly Clause[] = [
  beginning('by', byRule),
  afterDone,
  ...hoursBetween,
  ...HALF.map(([pattern, n, unit]) => line(pattern, () => ({ fact: 'every', n, unit }))),
  everyUnit,
  beginning('every each nightly', everyPartOfDay),
  everyWorkday,
  everyWeekday,
  beginning('except excepting excluding apart aside other skip skipping bar but not', notOn),
  nthWorkday,
  beginning('every each monthly quarterly yearly', workdayOfEach),
  positions,
  beginning('every each', ofItsOwn),
  monthDays,
  beginning('at the start beginning end', edges),
  ...beforeEnd,
  line('every|each {dayMonth}', ({ dayMonth }) => [
    { fact: 'every', n: 1, unit: 'year' },
    { fact: 'date', date: dayMonth },
  ]),
  line('every|each {dayMonth} and every? {date}', ({ dayMonth, date: other }) =>
    other.kind === 'yearless'
      ? [
          { fact: 'every', n: 1, unit: 'year' },
          { fact: 'dates', dates: [dayMonth, other] },
        ]
      : null,
  ),
  line('every|each spring|summer|autumn|winter ,? on {dayMonth}', ({ dayMonth }) => [
    { fact: 'every', n: 1, unit: 'year' },
    { fact: 'date', date: dayMonth },
  ]),
  line('every|each {months}', ({ months: named }) => [
    { fact: 'every', n: 1, unit: 'year' },
    { fact: 'months', months: named },
  ]),
  quota,
  beginning('in of only but except not', months),
  beginning('except but', momentsOf('exceptAt', 'except|but not? at')),
  beginning('and also', momentsOf('extraAt', 'and? also at')),
  beginning('except but', exceptDates),
  beginning('and also', extraDates),
  pickedDates,
  beginning('then on', onto),
  ...fixed(['by the calendar', 'whatever day i do it'], { fact: 'fixed' }),
];

import { WEEKDAYS, dateOf, daysInMonth, type Day, type Weekday } from '../../calendar/day.ts';
import { datesOf } from '../../rule/expand.ts';
import { parseRule } from '../../rule/parse.ts';
import { CoreError } from '../../errors.ts';
import { plainRule, weekdayParts, type Frequency, type Rule } from '../../rule/rule.ts';
import type { FactOf, WrittenDate } from '../grammar/facts.ts';
import type { Problem } from './reading.ts';
import type { Facts } from './scan.ts';
import type { Unit } from '../grammar/words.ts';

const FREQUENCY: Record<Unit, Frequency | null> = {
  minute: null,
  hour: null,
  day: 'DAILY',
  week: 'WEEKLY',
  month: 'MONTHLY',
  year: 'YEARLY',
};
const MOST_STEP = 9999;

/** The rule that the clauses make together, or null where they make none. */
export function ruleOf(
  facts: Facts,
  weekStart: Weekday,
  problems: Problem[],
  text: string,
): Rule | null {
  const written = facts.get('rule');
  if (written) return writtenRule(text.slice(written.from, written.to), problems);
  const every = facts.get('every');
  const weekdays = weekdaysOf(facts);
  const monthDays = facts.get('monthDays');
  const positions = facts.get('positions') ?? facts.get('ofSet');
  if (every && FREQUENCY[every.unit] === null) return null;
  const repeats = every || positions?.repeats || weekdays?.repeats || monthDays?.repeats;
  if (!repeats && !isPerDay(facts) && !isEachDay(facts) && !timesAYear(facts)) return null;
  const byMonth = positions?.months ?? monthDays?.months ?? facts.get('months')?.months ?? [];
  const interval = intervalOf(facts, problems);
  const rule: Rule = { ...plainRule('DAILY'), interval, byMonth };
  const perYear = timesAYear(facts);
  if (perYear) return { ...rule, freq: 'MONTHLY', interval: 12 / perYear };
  const unit = every?.unit;
  if (positions && (positions.repeats || unit === 'month' || unit === 'year'))
    return positioned(rule, positions, unit);
  const ofMonth = facts.get('date')?.date;
  // “due 1st, every month”
  if (ofMonth?.kind === 'dayOfMonth' && unit === 'month' && !monthDays && !positions && !weekdays)
    return ofMonthDays(
      rule,
      { fact: 'monthDays', days: [ofMonth.day], n: interval, repeats: true },
      facts.textOf('date'),
      problems,
    );
  if (monthDays && isOfEach(monthDays, unit, byMonth)) {
    const made = ofMonthDays(rule, monthDays, facts.textOf('monthDays'), problems);
    // “every May on the 5th”
    return unit === 'year' && (byMonth.length === 1 || interval > 1)
      ? { ...made, freq: 'YEARLY' }
      : made;
  }
  const without = facts.get('notOn')?.days ?? [];
  const isEachDayOf = unit === 'day' && interval === 1;
  if (weekdays && (!unit || unit === 'week' || isEachDayOf))
    return weekly(rule, remaining(weekdays.days, without), weekStart);
  if (without.length && (!unit || unit === 'day') && interval === 1)
    return weekly(rule, remaining(WEEKDAYS, without), weekStart);
  return unit === 'year'
    ? yearly(rule, facts)
    : { ...rule, freq: (unit && FREQUENCY[unit]) ?? 'DAILY' };
}

/** The weekdays of a sentence; “on a Saturday” is one of them where nothing goes on to it. */
function weekdaysOf(facts: Facts): Pick<FactOf<'weekdays'>, 'days' | 'repeats'> | undefined {
  const onto = facts.has('after') ? undefined : facts.get('onto');
  return facts.get('weekdays') ?? (onto && { days: onto.days, repeats: false });
}

/** Whether a day of the month is of each month, or of those that are named. */
export function isOfEach(
  monthDays: FactOf<'monthDays'>,
  unit: Unit | undefined,
  byMonth: readonly number[],
): boolean {
  return monthDays.repeats || unit === 'month' || (unit === 'year' && byMonth.length > 0);
}

/** The step, in which a clause about days may say it as well as one about a unit. */
function intervalOf(facts: Facts, problems: Problem[]): number {
  const kinds = ['every', 'positions', 'ofSet', 'monthDays', 'weekdays'] as const;
  const kind = kinds.find((it) => {
    const fact = facts.get(it);
    return fact && (!('repeats' in fact) || fact.repeats);
  });
  const n = (kind && facts.get(kind)?.n) ?? 1;
  if (kind && (n < 1 || n > MOST_STEP)) {
    const where = facts.textOf(kind);
    problems.push({
      code: 'repeat.interval',
      where,
      message: `“${where}”: an interval is a whole number from 1 to 9,999.`,
    });
  }
  return Math.min(Math.max(n, 1), MOST_STEP);
}

/** The days without those that the sentence leaves out; all of them where none would be left. */
function remaining(days: readonly Weekday[], without: readonly Weekday[]): readonly Weekday[] {
  const left = days.filter((day) => !without.includes(day));
  return left.length ? left : days;
}

function weekly(rule: Rule, days: readonly Weekday[], weekStart: Weekday): Rule {
  return {
    ...rule,
    freq: 'WEEKLY',
    byDay: weekdayParts(days),
    weekStart: rule.interval > 1 ? weekStart : 'MO',
  };
}

function positioned(
  rule: Rule,
  fact: FactOf<'positions'> | FactOf<'ofSet'>,
  unit: Unit | undefined,
): Rule {
  const isYearly =
    unit === 'year' || (fact.fact === 'positions' && !unit && fact.months?.length === 1);
  const freq = isYearly && rule.byMonth.length === 1 ? 'YEARLY' : 'MONTHLY';
  if (fact.fact === 'positions') return { ...rule, freq, byDay: uniqueParts(fact.days) };
  return {
    ...rule,
    freq,
    byDay: fact.days.map((weekday) => ({ ordinal: null, weekday })),
    bySetPos: [...new Set(fact.nth)],
  };
}

function uniqueParts(parts: FactOf<'positions'>['days']): FactOf<'positions'>['days'] {
  return parts.filter(
    (part, i) =>
      parts.findIndex((it) => it.ordinal === part.ordinal && it.weekday === part.weekday) === i,
  );
}

/** In the order of the month: those from its end come last. */
const inMonthOrder = (days: readonly number[]) =>
  [...new Set(days)].sort((a, b) => (a < 0 ? 99 + a : a) - (b < 0 ? 99 + b : b));

function ofMonthDays(
  rule: Rule,
  fact: FactOf<'monthDays'>,
  where: string,
  problems: Problem[],
): Rule {
  for (const day of fact.days)
    if (day > 31 || day === 0)
      problems.push({ code: 'date.missing', where, message: `No month has a day ${day}.` });
  const { byMonth } = rule;
  // “the first day of each year” is a date of the year.
  const isYearly =
    fact.months?.length === 1 && rule.interval === 1 && fact.days.length === 1 && fact.days[0]! > 0;
  const lacks = fact.days.some((day) => lackedBy(day, byMonth));
  return {
    ...rule,
    freq: isYearly ? 'YEARLY' : 'MONTHLY',
    byMonthDay: inMonthOrder(fact.days),
    skip: lacks && fact.lacking !== 'omit' ? 'BACKWARD' : 'OMIT',
  };
}

/** Whether one of the months, all where none is named, lacks such a day in some year. */
export function lackedBy(day: number, byMonth: readonly number[]): boolean {
  if (day < 29) return false;
  return !byMonth.length || byMonth.some((month) => daysInMonth(2027, month) < day);
}

/** “every year on 12 June”, “every year in April”, “on 31 January and 31 July every year”. */
function yearly(rule: Rule, facts: Facts): Rule {
  const date = facts.get('date');
  if (isYearDate(date)) {
    const { month } = date.date;
    const day = date.date.kind === 'yearless' ? date.date.day : -1;
    return {
      ...rule,
      freq: 'YEARLY',
      byMonth: [month],
      byMonthDay: [day],
      skip: month === 2 && day === 29 ? 'BACKWARD' : 'OMIT',
    };
  }
  const dates = yearDates(facts);
  if (dates && rule.interval === 1) {
    const byMonth = dates.map(({ month }) => month).sort((a, b) => a - b);
    const { day } = dates[0]!;
    const skip = lackedBy(day, byMonth) ? 'BACKWARD' : 'OMIT';
    return { ...rule, freq: 'MONTHLY', byMonth, byMonthDay: [day], skip };
  }
  // “every year in April” is on its first day.
  const { byMonth, interval } = rule;
  if (!byMonth.length) return { ...rule, freq: 'YEARLY' };
  return {
    ...rule,
    freq: byMonth.length > 1 && interval === 1 ? 'MONTHLY' : 'YEARLY',
    byMonthDay: [1],
  };
}

/** Several dates on the same day of different months; null for others. */
export function yearDates(facts: Facts): { month: number; day: number }[] | null {
  const dates = facts.get('dates')?.dates;
  if (!dates || facts.get('every')?.unit !== 'year') return null;
  const found = dates.filter((date) => date.kind === 'yearless');
  const isSame = found.length === dates.length && found.every(({ day }) => day === found[0]!.day);
  return isSame && new Set(found.map(({ month }) => month)).size === found.length ? found : null;
}

type YearDate = Extract<WrittenDate, { kind: 'yearless' | 'monthEnd' }>;

/** A date without its year: beside “every year” it is the day of each. */
export function isYearDate<T extends { date: WrittenDate }>(
  fact: T | undefined,
): fact is T & { date: YearDate } {
  return fact?.date.kind === 'yearless' || fact?.date.kind === 'monthEnd';
}

/** Whether “twice a day” says how many of the times of day there are. */
export function isPerDay(facts: Facts): boolean {
  const quota = facts.get('quota');
  const times = facts.get('at')?.minutes.length;
  return quota?.per === 'day' && quota.n === times;
}

/** “4 times a year” as a step in months; 0 where no whole number of months lies between two. */
export function timesAYear(facts: Facts): number {
  const quota = facts.get('quota');
  if (quota?.per !== 'year' || facts.has('every')) return 0;
  return 12 % quota.n === 0 ? quota.n : 0;
}

/** Whether it is said for how long, or from when to when, and nothing else about its days. */
export function isEachDay(facts: Facts): boolean {
  // “at 8, 12 and 16 until 12 June”
  const isUntil = facts.has('until') && (facts.get('at')?.minutes.length ?? 0) > 1;
  const isEach = (facts.get('at')?.eachDay ?? false) || isUntil;
  if (!isEach && !facts.has('within') && !facts.has('range')) return false;
  const others = ['every', 'after', 'workday', 'everyWorkdays', 'dates', 'quota', 'rule'] as const;
  return !others.some((kind) => facts.has(kind));
}

/** A rule as it was written out; a problem where it is none. */
export function writtenRule(text: string, problems: Problem[]): Rule | null {
  try {
    return parseRule(text);
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    problems.push({ code: error.code, where: text, message: error.message });
    return null;
  }
}

/**
 * The rule with its start: its first date on or after `from`. That is what the person sees as
 * “first”, and steps of several weeks or months count from it. A month's step from the 29th to the
 * 31st names its day, so that it is never lost (R2).
 */
export function anchored(rule: Rule, from: Day): { rule: Rule; start: Day } {
  const { day } = dateOf(from);
  const bare = rule.freq === 'MONTHLY' && !rule.byMonthDay.length && !rule.byDay.length;
  const named: Rule = bare && day > 28 ? { ...rule, byMonthDay: [day], skip: 'BACKWARD' } : rule;
  const every = { ...named, interval: 1, count: null, until: null };
  return { rule: named, start: datesOf(every, from).next(from - 1) ?? from };
}

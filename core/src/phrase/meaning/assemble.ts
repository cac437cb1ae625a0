import {
  WEEKDAYS,
  formatDay,
  parseDay,
  type Day,
  type LocalDate,
  type Weekday,
} from '../../calendar/day.ts';
import { isClockSpan, parseSpan, type Span } from '../../calendar/span.ts';
import { formatTime, type LocalMoment } from '../../calendar/time.ts';
import { CoreError } from '../../errors.ts';
import { datesOf } from '../../rule/expand.ts';
import { formatRule } from '../../rule/format.ts';
import { plainRule, weekdayParts, type Rule } from '../../rule/rule.ts';
import type { Definition } from '../../definition/definition.ts';
import { firstAfterDone } from '../../series/plan/counted.ts';
import type { Ends, Repeat } from '../../series/definition/definition.ts';
import { resolve, weekdayFrom } from '../grammar/dates.ts';
import type { Context, Fact, WrittenDate } from '../grammar/facts.ts';
import { spanOf } from '../grammar/numbers.ts';
import { PARTS_OF_DAY } from '../grammar/words.ts';
import type { Problem } from './reading.ts';
import {
  anchored,
  isOfEach,
  isPerDay,
  isYearDate,
  ruleOf,
  timesAYear,
  writtenRule,
  yearDates,
} from './rules.ts';
import type { Facts } from './scan.ts';

/** The definition that the facts of a sentence make together, but for its title. */
export interface Assembled {
  series: Omit<Definition, 'title'>;
  problems: Problem[];
  /** Whether a date without its year is the day of a rule by years. */
  isDateOfRule: boolean;
}

/** The ways to repeat that leave no room for another. */
const WHOLE_KINDS = ['after', 'workday', 'everyWorkdays'] as const;
const RULE_KINDS = ['every', 'weekdays', 'monthDays', 'positions', 'ofSet', 'rule'] as const;

export function assemble(facts: Facts, context: Context): Assembled {
  const { today, text } = context;
  const problems: Problem[] = [];
  const dates = new Dates(facts, problems);
  const weekStart = WEEKDAYS[context.weekStart]!;
  const whole = WHOLE_KINDS.find((kind) => facts.has(kind));
  if (whole) facts.leave(...[...WHOLE_KINDS, ...RULE_KINDS].filter((kind) => kind !== whole));
  const hours = whole ? null : hourly(facts);
  if (hours) facts.leave('weekdays', 'onto', 'positions', 'monthDays', 'ofSet', 'months');
  const rule = whole || hours ? null : ruleOf(facts, weekStart, problems, text);
  if (whole || (rule && !yearDates(facts))) facts.leave('dates');

  // “every year on 12 June” is a rule.
  const isDateOfRule = rule?.freq === 'YEARLY' && isYearDate(facts.get('date'));
  const given = givenStart(facts, dates, isDateOfRule, today);
  const made = repeatOf({ facts, dates, problems, whole, hours, rule, given, context });
  const { repeat } = made;
  const counted = sinceLast(facts, dates, repeat, context);
  const start = facts.has('undated') ? null : (counted ?? made.start);
  leaveUnused(facts, repeat, rule, whole);
  // “on Saturday, every Friday”: a day that is none of its days says nothing.
  const isOwnDay = !rule || given === null || start === given || isDateOfRule;
  if (!isOwnDay && facts.has('date') && !facts.has('weekdays')) leaveWeekday(facts);

  const series: Omit<Definition, 'title'> = {
    start: start === null ? null : formatDay(start),
    repeat,
  };
  addTimes(facts, series, problems, today);
  // A date without its year lies ahead, of the start where that is still to come.
  const ends = endsOf(facts, dates, Math.max(start ?? today, today));
  const said = (['until', 'range', 'times', 'within'] as const).filter((kind) => facts.has(kind));
  if (repeat && ends) series.ends = ends;
  facts.leave(...(repeat ? said.slice(1) : said));
  addDetails(facts, dates, series, start ?? today);
  return { series, problems, isDateOfRule };
}

/**
 * The first day of an after-I-finish one, counted from when it was done the last time; null where that
 * is not said.
 */
function sinceLast(
  facts: Facts,
  dates: Dates,
  repeat: Repeat | null,
  { today, open }: Context,
): Day | null {
  const last = facts.get('lastDone');
  if (!last) return null;
  if (repeat?.by !== 'completion') {
    facts.leave('lastDone');
    return null;
  }
  const day = dates.in('lastDone', last.date, today);
  return day === null ? null : firstAfterDone(repeat, day, open);
}

/** Dates as written, as days; those that cannot be are problems. */
class Dates {
  constructor(
    private readonly facts: Facts,
    private readonly problems: Problem[],
  ) {}

  in(kind: Fact['fact'], date: WrittenDate | undefined, base: Day, isEnd = false): Day | null {
    if (!date) return null;
    if (date.kind !== 'impossible') return resolve(date, base, isEnd);
    this.problems.push({
      code: 'date.missing',
      where: this.facts.textOf(kind),
      message: date.message,
    });
    return null;
  }

  list(kind: 'dates' | 'except' | 'extra', base: Day): LocalDate[] {
    const found = (this.facts.get(kind)?.dates ?? []).map((date) => this.in(kind, date, base));
    return [...new Set(found.filter((it) => it !== null).map(formatDay))].sort();
  }

  /** Single times of the several of a day: none where one of them is no time of a day. */
  moments(kind: 'exceptAt' | 'extraAt', base: Day): LocalMoment[] {
    const at = this.facts.get('at')?.minutes ?? [];
    const said = this.facts.get(kind)?.moments ?? [];
    if (said.some(({ minute }) => !at.includes(minute))) {
      this.facts.leave(kind);
      return [];
    }
    return said.flatMap(({ minute, date }) => {
      const day = this.in(kind, date, base);
      return day === null ? [] : [`${formatDay(day)}T${formatTime(minute)}`];
    });
  }
}

/** The day that is given to begin on: a start, or a date beside a repeat. */
function givenStart(facts: Facts, dates: Dates, isDateOfRule: boolean, today: Day): Day | null {
  const date = isDateOfRule ? undefined : facts.get('date');
  const starts = (['counted', 'start', 'range'] as const).filter((kind) => facts.has(kind));
  facts.leave(...starts.slice(1));
  const [kind] = starts;
  if (kind && date) facts.leave('date');
  if (kind === 'range') return dates.in('range', facts.get('range')!.from, today);
  if (kind) return dates.in(kind, facts.get(kind)!.date, today);
  return dates.in('date', date?.date, today);
}

interface RepeatInput {
  facts: Facts;
  dates: Dates;
  problems: Problem[];
  whole: (typeof WHOLE_KINDS)[number] | undefined;
  hours: Span | null;
  rule: Rule | null;
  given: Day | null;
  context: Context;
}

/** How it repeats, and from which day. */
function repeatOf(input: RepeatInput): { repeat: Repeat | null; start: Day | null } {
  const { facts, dates, problems, whole, hours, rule, given, context } = input;
  const { today } = context;
  if (hours !== null) {
    const every = tidySpan(hours, facts.textOf('every'), problems);
    return { repeat: { by: 'completion', every }, start: given ?? today };
  }
  if (whole === 'after') {
    const after = facts.get('after')!;
    const onto = ontoOf(facts, context.text, problems);
    const repeat: Repeat = {
      by: 'completion',
      every: tidySpan(after.every, facts.textOf('after'), problems),
      ...(after.workdays ? { workdays: true } : {}),
      ...(onto === null ? {} : { onto }),
    };
    return { repeat, start: given ?? today };
  }
  if (whole === 'workday') {
    const { n, per } = facts.get('workday')!;
    return { repeat: { by: 'calendar', workday: n, per }, start: given ?? today };
  }
  if (whole) {
    const { n } = facts.get('everyWorkdays')!;
    return { repeat: { by: 'calendar', everyWorkdays: n }, start: given ?? today };
  }
  if (rule) return ruled(rule, input);
  const picked = dates.list('dates', today);
  if (picked.length) {
    const start = facts.has('start') && given !== null ? given : parseDay(picked[0]!);
    return { repeat: { by: 'dates', dates: picked }, start };
  }
  const quota = facts.get('quota');
  if (quota && quota.per !== 'year') {
    const start = given ?? oneOffDay(facts, today) ?? today;
    return { repeat: { by: 'quota', times: quota.n, per: quota.per }, start };
  }
  return { repeat: null, start: given ?? oneOffDay(facts, today) };
}

function ruled(rule: Rule, { facts, dates, given, context: { today } }: RepeatInput) {
  const counted = facts.has('counted') ? given : null;
  const set = counted === null ? anchored(rule, given ?? today) : { rule, start: counted };
  let { start } = set;
  const from = counted ?? Math.max(given ?? today, today);
  const except = [...dates.list('except', from), ...dates.moments('exceptAt', from)].sort();
  const extra = [...dates.list('extra', from), ...dates.moments('extraAt', from)].sort();
  // An added date may come before the first one of the rule: it is the first then.
  const added = extra[0] === undefined ? null : parseDay(extra[0].slice(0, 10));
  if (counted === null && added !== null && added < start && added >= (given ?? today))
    start = added;
  const repeat: Repeat = {
    by: 'calendar',
    rule: formatRule(set.rule),
    ...(except.length ? { except } : {}),
    ...(extra.length ? { extra } : {}),
  };
  return { repeat, start };
}

/** “every 250 hours” as a span: hours and minutes count from when it was done. */
function hourly(facts: Facts): Span | null {
  const every = facts.get('every');
  if (every?.unit !== 'hour' && every?.unit !== 'minute') return null;
  return spanOf(new Map([[every.unit, every.n]]));
}

/** What was said and has no meaning beside the rest. */
function leaveUnused(
  facts: Facts,
  repeat: Repeat | null,
  rule: Rule | null,
  whole: string | undefined,
): void {
  if (!rule) facts.leave('except', 'extra', 'exceptAt', 'extraAt', 'fixed');
  if (rule?.freq !== 'WEEKLY' || !rule.byDay.length) facts.leave('notOn');
  const months = facts.get('months')?.months;
  if (months && !rule?.byMonth.length && (repeat || months.length > 1)) facts.leave('months');
  const isTimesAYear = rule !== null && timesAYear(facts) > 0;
  if (repeat?.by !== 'quota' && !isPerDay(facts) && !isTimesAYear) facts.leave('quota');
  // “twice a month, on Saturday”: which days it is does not matter.
  if (repeat?.by === 'quota') facts.leave('weekdays', 'onto', 'positions', 'monthDays', 'ofSet');
  if (repeat) facts.leave('once');
  else leaveOtherDays(facts);
  if (facts.has('at') || facts.has('part')) facts.leave('undated');
  if (whole !== 'after') facts.leave('ontoRule');
  const isDay = !repeat || rule?.freq === 'WEEKLY';
  if (whole !== 'after' && (!isDay || facts.has('weekdays'))) facts.leave('onto');
  leaveContradicted(facts, rule);
  leaveOtherPart(facts);
  if (!rule || facts.has('rule')) return;
  // Of two ways to name the days one is in the rule: no other may be lost without a word.
  const isPlaced = rule.byDay.some(({ ordinal }) => ordinal !== null);
  const unit = facts.get('every')?.unit;
  const monthDays = facts.get('monthDays');
  const named = facts.get('months')?.months ?? [];
  const isUsed = monthDays && isOfEach(monthDays, unit, monthDays.months ?? named);
  if (!rule.byMonthDay.length || !isUsed) facts.leave('monthDays');
  if (!isPlaced) facts.leave('positions');
  if (!rule.bySetPos.length) facts.leave('ofSet');
  if (rule.freq !== 'WEEKLY') facts.leave('weekdays');
  const isOfMonth = isPlaced || rule.bySetPos.length > 0 || rule.byMonthDay.length > 0;
  const names = (['positions', 'ofSet', 'monthDays'] as const).filter((kind) => facts.has(kind));
  if (!unit || unit === 'month' || !isOfMonth || !names.length) return;
  // “every week on the first Monday of the month” says two things; “every year … of May” does not.
  if (unit !== 'year' || !rule.byMonth.length) facts.leave('every');
}

/** “daily, every other Tuesday”, “every Friday but not on Fridays”: one of them says nothing. */
function leaveContradicted(facts: Facts, rule: Rule | null): void {
  const every = facts.get('every');
  const weekdays = facts.get('weekdays');
  const isSame = every?.unit === 'week' && every.n === weekdays?.n;
  if (every && weekdays && weekdays.n > 1 && !isSame) facts.leave('every');
  const without = facts.get('notOn')?.days;
  if (without && weekdays?.days.every((day) => without.includes(day))) facts.leave('notOn');
  const named = facts.get('months')?.months;
  if (named && rule?.byMonth.some((month) => !named.includes(month))) facts.leave('months');
}

/** Leaves a date that is a weekday alone. */
function leaveWeekday(facts: Facts): void {
  if (!/\d|next|coming|today|tomorrow/iu.test(facts.textOf('date'))) facts.leave('date');
}

/** “in the morning and at noon”: the part of the day is not that of its hours. */
function leaveOtherPart(facts: Facts): void {
  const part = facts.get('part');
  const at = facts.get('at');
  if (!part || !at || at.minutes.some((minute) => minute < 0)) return;
  const [from, to] = HOURS_OF.get(part.minute) ?? [0, 24 * 60];
  const isIn = (minute: number) =>
    from < to ? minute >= from && minute <= to : minute >= from || minute <= to;
  if (!at.minutes.every((minute) => isIn(inPart(minute, facts)))) facts.leave('part');
}

/** From when to when each part of the day may be (common practice), by the minute that it is taken for. */
const HOURS_OF = new Map<number, readonly [number, number]>(
  (
    [
      ['morning', [0, 719]],
      ['noon', [660, 840]],
      ['afternoon', [720, 1140]],
      ['evening', [900, 1439]],
      ['night', [1020, 420]],
    ] as const
  ).map(([part, hours]) => [PARTS_OF_DAY.get(part)!, hours]),
);

/** A one-off has one day: what names another is left over. */
function leaveOtherDays(facts: Facts): void {
  const isGiven = (['counted', 'start', 'range', 'date'] as const).some((kind) => facts.has(kind));
  const kinds = (['weekdays', 'onto', 'positions', 'monthDays'] as const).filter((kind) =>
    facts.has(kind),
  );
  facts.leave('ofSet', ...(isGiven ? kinds : kinds.slice(1)));
  if (isGiven || kinds[0] === 'weekdays' || kinds[0] === 'onto') facts.leave('months');
}

function addTimes(
  facts: Facts,
  series: Omit<Definition, 'title'>,
  problems: Problem[],
  today: Day,
): void {
  const part = facts.get('part');
  const minutes = facts.get('at')?.minutes ?? (part ? [part.minute] : null);
  if (!minutes) return;
  const where = facts.textOf('at');
  if (minutes.some((minute) => minute < 0)) {
    problems.push({ code: 'time.form', where, message: `“${where}” is no time of day.` });
    return;
  }
  series.at = minutes.map((minute) => formatTime(inPart(minute, facts)));
  series.start ??= formatDay(today);
}

/** “every night at ten”: an hour that does not say its half of the day is in the part that is named. */
export function inPart(minute: number, facts: Facts): number {
  const part = facts.get('part');
  if (!part || !facts.get('at')?.isBare) return minute;
  const isOfNight = part.minute >= 21 * 60;
  const from = isOfNight ? 6 * 60 : 60;
  const isLate = part.minute > 12 * 60 && minute >= from && minute < 12 * 60;
  return isLate ? minute + 12 * 60 : minute;
}

function endsOf(facts: Facts, dates: Dates, base: Day): Ends | null {
  const until = facts.get('until');
  const range = facts.get('range');
  if (until || range) {
    const kind = until ? 'until' : 'range';
    const on = dates.in(kind, until ? until.date : range!.to, base, true);
    return on === null ? null : { on: formatDay(on) };
  }
  const times = facts.get('times');
  if (times) return { after: times.n };
  const within = facts.get('within');
  return within ? { within: within.within } : null;
}

function addDetails(
  facts: Facts,
  dates: Dates,
  series: Omit<Definition, 'title'>,
  base: Day,
): void {
  const closed = facts.get('closed');
  if (closed && closed.how !== 'keep') series.closedDays = closed.how;
  const opens = facts.get('opens');
  if (opens) series.opensBefore = opens.before;
  if (facts.has('waits')) series.late = 'wait';
  const lapses = facts.get('lapses');
  if (lapses) {
    series.late = 'lapse';
    if (lapses.grace !== null) series.grace = lapses.grace;
  }
  if (facts.has('owes')) series.owe = 'every';
  const pauses = facts.all('pause').map(({ from, to }) => {
    const first = dates.in('pause', from, base);
    const last = to && dates.in('pause', to, first ?? base);
    return first === null
      ? null
      : { from: formatDay(first), to: last === null ? null : formatDay(last) };
  });
  const kept = pauses.filter((pause) => pause !== null);
  if (kept.length) series.pauses = kept;
  const reminders = facts.all('remind').flatMap((fact) => fact.reminders);
  if (reminders.length) series.reminders = reminders;
  for (const { part, value } of facts.parts())
    (series as unknown as Record<string, unknown>)[part] = withIds(part, value);
}

/** Steps and questions of a sentence are numbered. */
const withIds = (part: string, value: unknown) =>
  part === 'steps' || part === 'questions'
    ? (value as object[]).map((it, i) => ({ id: String(i + 1), ...it }))
    : value;

/** Where an after-I-finish one goes on to, as an RRULE value. */
function ontoOf(facts: Facts, text: string, problems: Problem[]): string | null {
  const written = facts.get('ontoRule');
  const rule = written && writtenRule(text.slice(written.from, written.to), problems);
  if (rule) return formatRule(rule);
  const days = facts.get('onto')?.days;
  if (!days) return null;
  return formatRule({ ...plainRule('WEEKLY'), byDay: weekdayParts(days) });
}

/** The day of a one-off that is named by a weekday, a day of the month or a month alone. */
function oneOffDay(facts: Facts, today: Day): Day | null {
  const days: readonly Weekday[] | undefined =
    facts.get('weekdays')?.days ?? facts.get('onto')?.days;
  if (days?.length)
    return Math.min(...days.map((day) => weekdayFrom(today, WEEKDAYS.indexOf(day))));
  const positions = facts.get('positions');
  const monthDay = facts.get('monthDays')?.days[0];
  const months = facts.get('months')?.months;
  if (positions || monthDay !== undefined) {
    const rule: Rule = {
      ...plainRule('MONTHLY'),
      byMonth: months ?? [],
      ...(positions ? { byDay: positions.days } : { byMonthDay: [monthDay!] }),
    };
    return datesOf(rule, today).next(today - 1);
  }
  return months?.length === 1
    ? resolve({ kind: 'yearless', month: months[0]!, day: 1 }, today)
    : null;
}

function tidySpan(span: Span, where: string, problems: Problem[]): Span {
  try {
    const parts = parseSpan(span, where);
    if (isClockSpan(parts) && (parts.days || parts.months))
      problems.push({
        code: 'repeat.mixed',
        where,
        message: 'A span is in days and longer, or in hours and minutes.',
      });
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    problems.push({ code: error.code, where, message: `“${where}”: ${error.message}` });
  }
  return span;
}

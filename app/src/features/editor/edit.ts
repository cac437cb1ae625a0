import {
  firstAfterDone,
  DEFAULT_WORKDAYS,
  openDaysFor,
  PARTS,
  WEEKDAYS,
  dateOf,
  daysInMonth,
  formatDay,
  formatRule,
  isClockSpan,
  parseDay,
  parseRule,
  parseSpan,
  ruleOf,
  weekdayIndex,
  weekdayParts,
  type ClosedDays,
  type Definition,
  type Details,
  type Day,
  type Ends,
  type Late,
  type Owe,
  type LocalDate,
  type NamedPlace,
  type QuotaPer,
  type Reminder,
  type Rule,
  type Weekday,
  type Series,
} from '@back-again/core';
import { anchored, type DateOrder } from '@back-again/core/reading';

/** What the controls of the editor do to a definition. Each gives a new one. */

export type Kind = 'once' | 'fixed' | 'after' | 'picked' | 'quota';
export type StepUnit = 'hour' | 'day' | 'week' | 'month' | 'year';
export interface Step {
  n: number;
  unit: StepUnit;
}
/** How a month’s date is found: by its number, by its weekday, from the month’s end. */
export type MonthWay =
  'day' | 'weekday' | 'lastWeekday' | 'lastDay' | 'firstWorkday' | 'lastWorkday';

export interface Person {
  today: LocalDate;
  weekStart: Weekday;
  /** In which order they write the numbers of a date. */
  dateOrder?: DateOrder;
  /** The places that their to-dos belong to. */
  places?: readonly NamedPlace[];
  workdays?: readonly Weekday[];
  /** The public holidays of their region. */
  holidayDates?: readonly LocalDate[];
}

/** What each control is given, and what it gives back. */
export interface ControlsProps {
  series: Definition;
  person: Person;
  onChange: (series: Definition) => void;
}

export const MOST_STEP = 999;
const FREQ = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' } as const;
const UNIT: Record<Rule['freq'], StepUnit> = {
  SECONDLY: 'hour',
  MINUTELY: 'hour',
  HOURLY: 'hour',
  DAILY: 'day',
  WEEKLY: 'week',
  MONTHLY: 'month',
  YEARLY: 'year',
};

const PER_STEP = {
  month: { n: 1, unit: 'month' },
  quarter: { n: 3, unit: 'month' },
  year: { n: 1, unit: 'year' },
} as const;

export function kindOf({ repeat }: Definition): Kind {
  if (!repeat) return 'once';
  if (repeat.by === 'dates') return 'picked';
  if (repeat.by === 'quota') return 'quota';
  return repeat.by === 'completion' ? 'after' : 'fixed';
}

/** The step from one time to the next, in its own unit; a mixed span is given in days. */
export function stepOf({ repeat }: Definition): Step {
  if (!repeat) return { n: 1, unit: 'week' };
  if (repeat.by === 'dates') return { n: 1, unit: 'week' };
  if (repeat.by === 'quota') return { n: 1, unit: repeat.per };
  if (repeat.by === 'calendar') {
    if ('workday' in repeat) return PER_STEP[repeat.per];
    if ('everyWorkdays' in repeat) return { n: repeat.everyWorkdays, unit: 'day' };
    const { freq, interval } = parseRule(repeat.rule);
    return { n: interval, unit: UNIT[freq] };
  }
  const { months, days, minutes } = parseSpan(repeat.every);
  if (minutes) return { n: Math.max(1, Math.round(minutes / 60)), unit: 'hour' };
  if (months && days) return { n: Math.round(months * 30.4) + days, unit: 'day' };
  if (months) return months % 12 ? { n: months, unit: 'month' } : { n: months / 12, unit: 'year' };
  return repeat.every.endsWith('W') ? { n: days / 7, unit: 'week' } : { n: days, unit: 'day' };
}

const SPAN = {
  hour: (n: number) => `PT${n}H`,
  day: (n: number) => `P${n}D`,
  week: (n: number) => `P${n}W`,
  month: (n: number) => `P${n}M`,
  year: (n: number) => `P${n}Y`,
};

export function withKind(series: Definition, kind: Kind, person: Person): Definition {
  if (kind === kindOf(series)) return series;
  const { ends, at, ...rest } = series;
  const start = series.start ?? person.today;
  const kept = { ...(at ? { at } : {}) };
  if (kind === 'once') return withoutDrop({ ...rest, ...kept, start, repeat: null });
  // Two dates to begin with: one alone would be a one-off.
  if (kind === 'picked')
    return withDates({ ...rest, ...kept, start }, [start, formatDay(parseDay(start) + 7)]);
  if (kind === 'quota') {
    const { unit } = stepOf(series);
    const per = unit === 'month' || unit === 'day' ? unit : 'week';
    const kept = { title: series.title, start, ...(ends ? { ends } : {}) };
    return { ...kept, repeat: { by: 'quota', times: 3, per } };
  }
  const repeating = { ...rest, ...kept, start, ...(ends ? { ends } : {}) };
  const { n, unit } = stepOf(series);
  return kind === 'after'
    ? withoutDrop(afterDone(repeating, SPAN[unit](n)))
    : withStep(
        { ...repeating, repeat: { by: 'calendar', rule: 'FREQ=DAILY' } },
        unit === 'hour' ? { n: Math.max(1, Math.round(n / 24)), unit: 'day' } : { n, unit },
        person,
      );
}

/** Counted from when it is finished, at one time of day; with a span in hours that follows from it. */
function afterDone(series: Omit<Definition, 'repeat'>, every: string): Definition {
  const { at, ...rest } = series;
  const kept = at && !isClockSpan(parseSpan(every)) ? { at: at.slice(0, 1) } : {};
  return { ...rest, ...kept, repeat: { by: 'completion', every } };
}

/** Sets the step. By the calendar, weeks keep their days and months their date, where they had some. */
export function withStep(series: Definition, { n, unit }: Step, person: Person): Definition {
  if (series.repeat?.by === 'completion') return afterDone(series, SPAN[unit](n));
  if (kindOf(series) !== 'fixed' || unit === 'hour') return series;
  // A pattern of working days or picked dates gives way to a step.
  const before = parseRule(ruleOf(series) ?? 'FREQ=HOURLY');
  const from = parseDay(series.start!);
  const freq = FREQ[unit];
  if (before.freq === freq)
    return withRule(
      series,
      { ...before, interval: n, weekStart: weekStartFor(n, freq, before, person) },
      from,
    );
  const { month, day } = dateOf(from);
  const rule: Rule = { ...plain(freq), interval: n };
  if (unit === 'week') {
    rule.byDay = [{ ordinal: null, weekday: WEEKDAYS[weekdayIndex(from)]! }];
    rule.weekStart = weekStartFor(n, freq, rule, person);
  }
  if (unit === 'month') {
    rule.byMonthDay = [day];
    if (day > 28) rule.skip = 'BACKWARD';
  }
  if (unit === 'year') {
    rule.byMonth = [month];
    rule.byMonthDay = [day];
    if (month === 2 && day === 29) rule.skip = 'BACKWARD';
  }
  return withRule(series, rule, from);
}

/** The days of the week on which it comes; without any it stays as it is. */
export function withWeekdays(
  series: Definition,
  days: readonly Weekday[],
  person: Person,
): Definition {
  const text = ruleOf(series);
  if (text === null || !days.length) return series;
  const rule = parseRule(text);
  const next = { ...rule, byDay: weekdayParts(days) };
  return withRule(
    series,
    { ...next, weekStart: weekStartFor(rule.interval, 'WEEKLY', next, person) },
    countedFrom(series, rule, person),
  );
}

export function weekdaysOf(series: Definition): Weekday[] {
  const text = ruleOf(series);
  if (text === null) return [];
  const rule = parseRule(text);
  return rule.freq === 'WEEKLY' ? rule.byDay.map(({ weekday }) => weekday) : [];
}

/** The ways in which the month of `start` can name its day. */
export function monthWaysOf(start: LocalDate): MonthWay[] {
  const { year, month, day } = dateOf(parseDay(start));
  const left = daysInMonth(year, month) - day;
  return [
    'day',
    ...(day <= 28 ? (['weekday'] as const) : []),
    ...(left < 7 ? (['lastWeekday'] as const) : []),
    'lastDay',
    'firstWorkday',
    'lastWorkday',
  ];
}

export function monthWayOf(series: Definition): MonthWay | null {
  const { repeat } = series;
  if (repeat && 'workday' in repeat && repeat.per === 'month')
    return repeat.workday === 1 ? 'firstWorkday' : repeat.workday === -1 ? 'lastWorkday' : null;
  const text = ruleOf(series);
  if (text === null) return null;
  const { freq, byDay, byMonthDay } = parseRule(text);
  if (freq !== 'MONTHLY') return null;
  if (byDay.length) return byDay[0]!.ordinal === -1 ? 'lastWeekday' : 'weekday';
  return byMonthDay[0] === -1 ? 'lastDay' : 'day';
}

export function withMonthWay(series: Definition, way: MonthWay): Definition {
  if (kindOf(series) !== 'fixed') return series;
  const text = ruleOf(series) ?? 'FREQ=MONTHLY';
  const from = parseDay(series.start!);
  const { day } = dateOf(from);
  const weekday = WEEKDAYS[weekdayIndex(from)]!;
  const { interval, byMonth, freq } = parseRule(text);
  const rule: Rule = { ...plain('MONTHLY'), interval, byMonth: freq === 'MONTHLY' ? byMonth : [] };
  switch (way) {
    case 'day':
      rule.byMonthDay = [day];
      if (day > 28) rule.skip = 'BACKWARD';
      break;
    case 'weekday':
      rule.byDay = [{ ordinal: Math.ceil(day / 7), weekday }];
      break;
    case 'lastWeekday':
      rule.byDay = [{ ordinal: -1, weekday }];
      break;
    case 'lastDay':
      rule.byMonthDay = [-1];
      break;
    case 'firstWorkday':
    case 'lastWorkday': {
      const workday = way === 'firstWorkday' ? 1 : -1;
      return { ...series, repeat: { by: 'calendar', workday, per: 'month' } };
    }
  }
  return withRule(series, rule, from);
}

/** Sets the first day. A pattern that names one day moves along with it; another begins after it. */
/** An after-I-finish one whose first time is counted from the day on which it was done the last time (R7). */
export function withLastDone(series: Definition, last: LocalDate, person: Person): Definition {
  const { workdays = DEFAULT_WORKDAYS, holidayDates = [] } = person;
  const first = firstAfterDone(series.repeat, parseDay(last), openDaysFor(workdays, holidayDates));
  return first === null ? series : { ...series, start: formatDay(first) };
}

export function withStart(series: Definition, start: LocalDate | null, person: Person): Definition {
  if (start === null) {
    const { at: _at, ...rest } = series;
    return { ...rest, start: null, repeat: null };
  }
  const moved = { ...series, start };
  const text = ruleOf(series);
  if (text === null) return moved;
  const rule = parseRule(text);
  const way = monthWayOf(series);
  if (way !== null && way !== 'lastDay' && rule.byDay.length + rule.byMonthDay.length === 1)
    return withMonthWay(moved, monthWaysOf(start).includes(way) ? way : 'day');
  if (rule.freq === 'WEEKLY' && rule.byDay.length === 1)
    return withWeekdays(moved, [WEEKDAYS[weekdayIndex(parseDay(start))]!], {
      ...person,
      today: start,
    });
  if (rule.freq === 'YEARLY' && rule.byMonth.length === 1) {
    const daily = withRule(moved, plain('DAILY'), parseDay(start));
    return withStep(daily, { n: rule.interval, unit: 'year' }, person);
  }
  return withRule(moved, rule, parseDay(start));
}

/** Whether days are counted as working days. */
export function countsWorkdays({ repeat }: Definition): boolean {
  return repeat !== null && 'everyWorkdays' in repeat;
}

/** By the calendar in days: each nth working day, or each nth day. */
export function withWorkdays(series: Definition, on: boolean, person: Person): Definition {
  const { n } = stepOf(series);
  if (on) return { ...series, repeat: { by: 'calendar', everyWorkdays: n } };
  return withStep(series, { n, unit: 'day' }, person);
}

/** So many times in each period. */
export function withQuota(series: Definition, times: number, per: QuotaPer): Definition {
  return { ...series, repeat: { by: 'quota', times, per } };
}

/** The dates that were picked; the first of them is the start. */
export function withDates(
  series: Omit<Definition, 'repeat'>,
  dates: readonly LocalDate[],
): Definition {
  const sorted = [...new Set(dates)].sort();
  return { ...series, start: sorted[0]!, repeat: { by: 'dates', dates: sorted } };
}

/** What becomes of a closed day. */
export function withClosed(series: Definition, how: ClosedDays): Definition {
  const { closedDays: _closed, ...rest } = series;
  return how === 'keep' ? rest : { ...rest, closedDays: how };
}

/** Only what repeats by the calendar can leave out closed days. */
function withoutDrop(series: Definition): Definition {
  return series.closedDays === 'drop' ? withClosed(series, 'keep') : series;
}

/** What becomes of one that is left unfinished. */
export function withLate(series: Definition, late: Late): Definition {
  const { late: _late, grace: _grace, ...rest } = series;
  return late === 'roll' ? rest : { ...rest, late };
}

/** How long after due one that lapses may still be done. */
export function withGrace(series: Definition, grace: string | null): Definition {
  const { grace: _grace, ...rest } = series;
  return grace === null ? rest : { ...rest, grace };
}

/** Whether an older open one ends when a newer one opens. */
export function withOwe(series: Definition, owe: Owe): Definition {
  const { owe: _owe, ...rest } = series;
  return owe === 'latest' ? rest : { ...rest, owe };
}

/** A part with another value; null takes it away. */
export function withPart(series: Definition, part: string, value: unknown): Definition {
  const { [part]: _before, ...rest } = series as unknown as Record<string, unknown>;
  return (value === null ? rest : { ...rest, [part]: value }) as unknown as Definition;
}

/**
 * What becomes of a to-do that is to have this definition in place of another: when it comes back as a
 * whole, where that differs, and each part of what it is that does; null for what is not said any more.
 * What a person sets elsewhere stays as it is.
 */
export function changeTo(
  next: Definition,
  before: Definition,
): { series?: Partial<Series>; details?: Partial<Details> } {
  const of = (definition: Definition, key: string) =>
    (definition as unknown as Record<string, unknown>)[key] ?? null;
  const partsOf = (half: 'when' | 'what') =>
    PARTS.filter((part) => part.half === half && !part.isApart).map(({ key }) => key);
  const isOther = (key: string) =>
    JSON.stringify(of(next, key)) !== JSON.stringify(of(before, key));
  const said = (keys: readonly string[]) =>
    Object.fromEntries(keys.map((key) => [key, of(next, key)]));
  const when = partsOf('when');
  const what = partsOf('what').filter(isOther);
  return {
    ...(when.some(isOther) ? { series: said(when) } : {}),
    ...(what.length ? { details: said(what) } : {}),
  };
}

/** When to speak up about it; a one-off with no date yet is given today for it. */
export function withReminders(
  series: Definition,
  reminders: readonly Reminder[],
  person: Person,
): Definition {
  const { reminders: _before, ...rest } = series;
  if (!reminders.length) return rest;
  return { ...rest, start: series.start ?? person.today, reminders: [...reminders] };
}

/** A span of one unit as its number and unit; one of several units in the unit nearest to it. */
export function stepOfSpan(span: string): Step {
  return stepOf({ title: '', start: null, repeat: { by: 'completion', every: span } });
}

/** A number of units as a span. */
export const spanOfStep = ({ n, unit }: Step): string => SPAN[unit](n);

/** What becomes of a day that a month lacks, where the rule names such a day; null where it does not. */
export function lackingOf(series: Definition): 'last' | 'omit' | null {
  const text = ruleOf(series);
  const rule = text === null ? null : parseRule(text);
  if (rule?.freq !== 'MONTHLY' || !rule.byMonthDay.some((day) => day > 28)) return null;
  return rule.skip === 'BACKWARD' ? 'last' : 'omit';
}

export function withLacking(series: Definition, lacking: 'last' | 'omit'): Definition {
  const rule = parseRule(ruleOf(series)!);
  const skip = lacking === 'last' ? 'BACKWARD' : 'OMIT';
  return withRule(series, { ...rule, skip }, parseDay(series.start!));
}

/** Whether it can come several times a day: after-I-finish ones come at one time. */
export function takesTimes(series: Definition): boolean {
  return series.repeat?.by !== 'completion' && series.repeat?.by !== 'quota';
}

/** Sets the times of day, in order; none is any time that day. */
export function withTimes(
  series: Definition,
  times: readonly string[],
  person: Person,
): Definition {
  const { at: _at, ...rest } = series;
  if (!times.length) return rest;
  const sorted = [...new Set(times)].sort();
  const at = takesTimes(series) ? sorted : times.slice(0, 1);
  return { ...rest, start: series.start ?? person.today, at };
}

const ALL_MONTHS: readonly number[] = Array.from({ length: 12 }, (_, i) => i + 1);

/** The months in which it comes, 1 to 12; null where a repeat does not choose among them. */
export function monthsOf(series: Definition): readonly number[] | null {
  const text = ruleOf(series);
  const rule = text === null ? null : parseRule(text);
  if (!rule || rule.freq === 'YEARLY') return null;
  return rule.byMonth.length ? rule.byMonth : ALL_MONTHS;
}

/** Lets it come in these months alone; without any it stays as it is. */
export function withMonths(
  series: Definition,
  months: readonly number[],
  person: Person,
): Definition {
  const text = ruleOf(series);
  if (text === null || !months.length) return series;
  const rule = parseRule(text);
  const byMonth = ALL_MONTHS.filter((month) => months.includes(month));
  const from = countedFrom(series, rule, person);
  return withRule(series, { ...rule, byMonth: byMonth.length < 12 ? byMonth : [] }, from);
}

/**
 * The day from which a changed rule is counted: from today on, so that an added day before the
 * first one is not left out; with longer steps from the start, which they count from.
 */
function countedFrom(series: Definition, rule: Rule, person: Person): Day {
  const start = parseDay(series.start!);
  return rule.interval === 1 ? Math.min(start, parseDay(person.today)) : start;
}

export function withEnds(series: Definition, ends: Ends | null): Definition {
  const { ends: _ends, ...rest } = series;
  return ends ? { ...rest, ends } : rest;
}

function withRule(series: Definition, rule: Rule, from: Day): Definition {
  const { rule: named, start } = anchored(rule, from);
  return {
    ...series,
    start: formatDay(start),
    repeat: { by: 'calendar', rule: formatRule(named) },
  };
}

/** Steps of several weeks on named days count from the person’s own first day of the week. */
function weekStartFor(n: number, freq: Rule['freq'], rule: Rule, person: Person): Weekday {
  return freq === 'WEEKLY' && n > 1 && rule.byDay.length ? person.weekStart : 'MO';
}

const plain = (freq: Rule['freq']): Rule => parseRule(`FREQ=${freq}`);

import {
  WEEKDAYS,
  dateOf,
  formatDay,
  parseDay,
  weekdayIndex,
  type Day,
  type LocalDate,
  type Weekday,
} from '../calendar/day.ts';
import { isClockSpan, parseSpan, type Span } from '../calendar/span.ts';
import { formatTime } from '../calendar/time.ts';
import { CoreError } from '../errors.ts';
import { datesOf } from '../rule/expand.ts';
import { formatRule } from '../rule/format.ts';
import { parseRule } from '../rule/parse.ts';
import { plainRule, type Frequency, type Rule } from '../rule/rule.ts';
import { checkSeries } from '../series/check.ts';
import type { Ends, Repeat, Series } from '../series/definition.ts';
import { CLAUSES, type Fact } from './clauses.ts';
import { resolve, type WrittenDate } from './pieces.ts';
import { tokensOf, type Token } from './tokens.ts';
import type { Unit } from './words.ts';

/** Something in the text that cannot be: an impossible date, an interval of 0. */
export interface Problem {
  code: string;
  /** The words it is about, or the part of the definition. */
  where: string;
  message: string;
}

/** What was read from a sentence. */
export interface Reading {
  /** The definition; its title may be empty where nothing was left over for one. */
  series: Series;
  /** Words that look like a clause and could not be read; they stay in the title. */
  notUnderstood: string[];
  problems: Problem[];
}

export interface ReadOptions {
  /** The person's first day of the week; default Monday. */
  weekStart?: Weekday;
}

/** The longest text that is read. */
export const MOST_TEXT = 1000;

type FactOf<K extends Fact['fact']> = Extract<Fact, { fact: K }>;

interface Matched {
  fact: Fact;
  text: string;
}

/**
 * Reads an English sentence in free order; what is left over is the title. A quoted stretch is
 * never read as anything but title. It never throws: what is wrong comes in `problems`, what looks
 * like a clause but is none in `notUnderstood`.
 *
 * @param today the person's date, `YYYY-MM-DD`: relative dates count from it, and what repeats
 * begins with its first date on or after it.
 * @example read('Weigh the hives every Friday', '2026-11-24').series.repeat
 * // { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=FR' }
 */
export function read(text: string, today: LocalDate, options: ReadOptions = {}): Reading {
  const day = parseDay(today, 'today');
  const whole = text.slice(0, MOST_TEXT);
  const { matched, title, doubtful } = scan(whole, day);
  const reading = assemble(matched, day, options, whole);
  const series = { ...reading.series, title };
  const problems = [...reading.problems];
  if (text.length > MOST_TEXT)
    problems.push({
      code: 'text.long',
      where: 'text',
      message: 'A sentence has 1,000 characters at most.',
    });
  if (!problems.length && title) {
    try {
      return {
        series: checkSeries(series),
        notUnderstood: [...reading.left, ...doubtful],
        problems,
      };
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      problems.push({ code: error.code, where: error.where, message: error.message });
    }
  }
  return { series, notUnderstood: [...reading.left, ...doubtful], problems };
}

const TRIGGERS = new Set(['every', 'each', 'until', 'starting', 'daily', 'weekly', 'monthly']);

/** Finds the clauses of a text, the longest at each place; the rest is title. */
function scan(text: string, today: Day) {
  const tokens = tokensOf(text);
  const matched: Matched[] = [];
  const rest: { from: number; to: number }[] = [];
  const doubtful: string[] = [];
  for (let i = 0; i < tokens.length;) {
    let best: { fact: Fact; next: number } | null = null;
    for (const clause of CLAUSES) {
      const found = clause(tokens, i, today);
      if (found && found.next > i && found.next > (best?.next ?? i)) best = found;
    }
    const from = tokens[i]!.from;
    if (best) {
      matched.push({ fact: best.fact, text: text.slice(from, tokens[best.next - 1]!.to) });
      i = best.next;
      continue;
    }
    if (TRIGGERS.has(tokens[i]!.low)) {
      const end = tokens[Math.min(i + 2, tokens.length - 1)]!.to;
      doubtful.push(text.slice(from, end));
    }
    const last = rest.at(-1);
    if (last && i > 0 && last.to === tokens[i - 1]!.to) last.to = tokens[i]!.to;
    else rest.push({ from, to: tokens[i]!.to });
    i++;
  }
  const only = onlyQuote(tokens, rest);
  const pieces = rest.map(({ from, to }) => text.slice(from, to).trim());
  return {
    matched,
    doubtful,
    title: only === null ? tidy(pieces) : unquote(text.slice(only.from, only.to)),
  };
}

/** The quote that is the whole title, but for signs; null where there are other words. */
function onlyQuote(
  tokens: readonly Token[],
  rest: readonly { from: number; to: number }[],
): Token | null {
  const left = tokens.filter(
    (token) =>
      token.kind !== 'sign' && rest.some(({ from, to }) => token.from >= from && token.to <= to),
  );
  return left.length === 1 && left[0]!.kind === 'quote' ? left[0]! : null;
}

function unquote(text: string): string {
  const inner = text.slice(1, -1);
  return text.startsWith('“') ? inner.replaceAll('””', '”') : inner;
}

/** Joins what is left over, without the signs and joining words on which clauses hung. */
function tidy(pieces: readonly string[]): string {
  return pieces
    .map((piece) => piece.replace(/^[,;:.\s–-]+|[,;:.\s–-]+$/gu, ''))
    .filter((piece) => piece && !/^(and|then|on|it)$/iu.test(piece))
    .join(' ');
}

interface Assembled {
  series: Omit<Series, 'title'>;
  problems: Problem[];
  /** Clauses that say something a second time, or that have no meaning beside the others. */
  left: string[];
}

function assemble(
  matched: readonly Matched[],
  today: Day,
  options: ReadOptions,
  text: string,
): Assembled {
  const problems: Problem[] = [];
  const left: string[] = [];
  const taken = new Map<Fact['fact'], Matched>();
  for (const it of matched) {
    if (it.fact.fact === 'filler') continue;
    if (taken.has(it.fact.fact)) left.push(it.text);
    else taken.set(it.fact.fact, it);
  }
  const get = <K extends Fact['fact']>(kind: K) => taken.get(kind)?.fact as FactOf<K> | undefined;
  const wordsOf = (kind: Fact['fact']) => taken.get(kind)?.text ?? '';
  const leave = (kind: Fact['fact']) => {
    if (taken.has(kind)) left.push(wordsOf(kind));
  };
  const dayIn = (kind: Fact['fact'], date: WrittenDate | undefined, base: Day): Day | null => {
    if (!date) return null;
    if (date.kind !== 'impossible') return resolve(date, base);
    problems.push({ code: 'date.missing', where: wordsOf(kind), message: date.message });
    return null;
  };

  const after = get('after');
  const workday = get('workday');
  const everyWorkdays = get('everyWorkdays');
  const daysIn = (kind: 'dates' | 'except' | 'extra', base: Day): LocalDate[] => {
    const found = (get(kind)?.dates ?? []).map((date) => dayIn(kind, date, base));
    return [...new Set(found.filter((it) => it !== null).map(formatDay))].sort();
  };
  const byWorkdays = workday !== undefined || everyWorkdays !== undefined;
  let rule = after || byWorkdays ? null : ruleOf(get, options, problems, wordsOf, text);
  const dateFact = get('date');
  // One repeat is taken: what says another one is left over.
  const kinds = ['after', 'workday', 'everyWorkdays'] as const;
  const chosen = kinds.find((kind) => taken.has(kind));
  if (chosen)
    for (const kind of [...kinds, 'every', 'weekdays', 'monthDays', 'positions', 'rule'] as const)
      if (kind !== chosen) leave(kind);
  const dates = chosen || rule ? [] : daysIn('dates', today);
  const quota = get('quota');
  if (chosen || rule) leave('dates');

  // “every year on 12 June” is a rule; another date beside a repeat is its start.
  const isYearly = rule?.freq === 'YEARLY' && isYearDate(dateFact);
  const given =
    dayIn('start', get('start')?.date, today) ??
    (dateFact && !isYearly ? dayIn('date', dateFact.date, today) : null);
  if (get('start') && dateFact && !isYearly) leave('date');
  let repeat: Repeat | null = null;
  let start: Day | null;
  if (chosen) start = given ?? today;
  else if (rule) ({ rule, start } = anchored(rule, given ?? today));
  else if (dates.length) start = get('start') && given !== null ? given : parseDay(dates[0]!);
  else start = oneOffDay(get, given, today);

  if (after) {
    const onto = ontoOf(get, text, problems);
    const every = tidySpan(after.every, wordsOf('after'), problems);
    repeat = {
      by: 'completion',
      every,
      ...(after.workdays ? { workdays: true } : {}),
      ...(onto === null ? {} : { onto }),
    };
  } else if (chosen === 'workday')
    repeat = { by: 'calendar', workday: workday!.n, per: workday!.per };
  else if (chosen) repeat = { by: 'calendar', everyWorkdays: everyWorkdays!.n };
  else if (rule) {
    const from = Math.max(given ?? today, today);
    const except = daysIn('except', from);
    const extra = daysIn('extra', from);
    // An added date may come before the first one of the rule: it is the first then.
    const added = extra[0] === undefined ? null : parseDay(extra[0]);
    if (added !== null && start !== null && added < start && added >= (given ?? today))
      start = added;
    repeat = {
      by: 'calendar',
      rule: formatRule(rule),
      ...(except.length ? { except } : {}),
      ...(extra.length ? { extra } : {}),
    };
  } else if (dates.length) repeat = { by: 'dates', dates };
  else if (quota) {
    repeat = { by: 'quota', times: quota.n, per: quota.per };
    start ??= today;
  }
  if (!rule) for (const kind of ['except', 'extra'] as const) leave(kind);
  const months = get('months')?.months;
  if (months && !rule?.byMonth.length && (repeat || months.length > 1)) leave('months');
  if (repeat?.by !== 'quota' && !isPerDay(get)) leave('quota');
  if (!after) for (const kind of ['onto', 'ontoRule'] as const) leave(kind);

  const series: Omit<Series, 'title'> = {
    start: start === null || get('undated') ? null : formatDay(start),
    repeat,
  };
  const at = get('at');
  if (at) {
    if (at.minutes.some((minute) => minute < 0))
      problems.push({
        code: 'time.form',
        where: wordsOf('at'),
        message: `“${wordsOf('at')}” is no time of day.`,
      });
    else {
      series.at = at.minutes.map(formatTime);
      series.start ??= formatDay(today);
    }
  }
  // A date without its year lies ahead, of the start where that is still to come.
  const from = Math.max(start ?? today, today);
  const ends = endsOf(get, (kind, date) => dayIn(kind, date, from));
  const endKinds = (['until', 'times', 'within'] as const).filter((kind) => taken.has(kind));
  if (repeat && ends) series.ends = ends;
  for (const kind of repeat ? endKinds.slice(1) : endKinds) leave(kind);
  const closed = get('closed');
  if (closed && closed.how !== 'keep') series.closedDays = closed.how;
  const opens = get('opens');
  if (opens) series.opensBefore = opens.before;
  if (get('waits')) series.late = 'wait';
  const lapses = get('lapses');
  if (lapses) {
    series.late = 'lapse';
    if (lapses.grace !== null) series.grace = lapses.grace;
  }
  if (get('owes')) series.owe = 'every';
  return { series, problems, left };
}

/** Where an after-I-finish one goes on to, as an RRULE value. */
function ontoOf(get: Get, text: string, problems: Problem[]): string | null {
  const written = get('ontoRule');
  const rule = written && writtenRule(text.slice(written.from, written.to), problems);
  if (rule) return formatRule(rule);
  const days = get('onto')?.days;
  if (!days) return null;
  const byDay = WEEKDAYS.filter((day) => days.includes(day)).map((weekday) => ({
    ordinal: null,
    weekday,
  }));
  return formatRule({ ...plainRule('WEEKLY'), byDay });
}

/** Whether “twice a day” says how many of the times of day there are. */
function isPerDay(get: Get): boolean {
  const quota = get('quota');
  const times = get('at')?.minutes.length;
  return quota?.per === 'day' && quota.n === times;
}

type Get = <K extends Fact['fact']>(kind: K) => FactOf<K> | undefined;

function endsOf(
  get: Get,
  dayIn: (kind: Fact['fact'], date: WrittenDate) => Day | null,
): Ends | null {
  const until = get('until');
  if (until) {
    const on = dayIn('until', until.date);
    return on === null ? null : { on: formatDay(on) };
  }
  const times = get('times');
  if (times) return { after: times.n };
  const within = get('within');
  return within ? { within: within.within } : null;
}

const FREQUENCY: Record<Unit, Frequency | null> = {
  minute: null,
  hour: null,
  day: 'DAILY',
  week: 'WEEKLY',
  month: 'MONTHLY',
  year: 'YEARLY',
};

/** The rule that the clauses make together, or null where they make none. */
function ruleOf(
  get: Get,
  options: ReadOptions,
  problems: Problem[],
  wordsOf: (kind: Fact['fact']) => string,
  text: string,
): Rule | null {
  const written = get('rule');
  if (written) return writtenRule(text.slice(written.from, written.to), problems);
  const every = get('every');
  const weekdays = get('weekdays');
  const monthDays = get('monthDays');
  const positions = get('positions');
  const date = get('date');
  const repeats = every || positions || weekdays?.repeats || monthDays?.repeats;
  if (!repeats && !isPerDay(get)) return null;
  const n = every?.n ?? positions?.n ?? (monthDays?.repeats ? monthDays.n : (weekdays?.n ?? 1));
  if (n < 1 || n > 9999) {
    const where = wordsOf(
      every ? 'every' : positions ? 'positions' : monthDays ? 'monthDays' : 'weekdays',
    );
    problems.push({
      code: 'repeat.interval',
      where,
      message: `“${where}”: an interval is a whole number from 1 to 9,999.`,
    });
  }
  const byMonth = positions?.months ?? monthDays?.months ?? get('months')?.months ?? [];
  const rule: Rule = { ...plainRule('DAILY'), interval: Math.min(Math.max(n, 1), 9999), byMonth };
  const unit = every?.unit;
  if (unit && FREQUENCY[unit] === null) {
    const where = wordsOf('every');
    problems.push({
      code: 'repeat.hours',
      where,
      message: `Hours and minutes count from when it was done: write “${where.replace(/^\S+ /u, '')} after done”.`,
    });
    return rule;
  }
  if (positions)
    return {
      ...rule,
      freq: unit === 'year' && byMonth.length === 1 ? 'YEARLY' : 'MONTHLY',
      byDay: positions.days,
    };
  if (monthDays && (monthDays.repeats || unit === 'month')) {
    const long = monthDays.days.some((day) => day >= 29);
    for (const day of monthDays.days)
      if (day > 31 || day === 0)
        problems.push({
          code: 'date.missing',
          where: wordsOf('monthDays'),
          message: `No month has a day ${day}.`,
        });
    return {
      ...rule,
      freq: 'MONTHLY',
      byMonthDay: [...new Set(monthDays.days)].sort((a, b) => (a < 0 ? 99 : a) - (b < 0 ? 99 : b)),
      skip: long && monthDays.lacking !== 'omit' ? 'BACKWARD' : 'OMIT',
    };
  }
  if (weekdays && (!unit || unit === 'week')) {
    const byDay = WEEKDAYS.filter((day) => weekdays.days.includes(day)).map((weekday) => ({
      ordinal: null,
      weekday,
    }));
    const interval = unit ? rule.interval : Math.min(Math.max(weekdays.n, 1), 9999);
    return {
      ...rule,
      freq: 'WEEKLY',
      interval,
      byDay,
      weekStart: interval > 1 ? (options.weekStart ?? 'MO') : 'MO',
    };
  }
  if (unit === 'year' && isYearDate(date)) {
    const { month } = date.date;
    const day = date.date.kind === 'yearless' ? date.date.day : -1;
    const leap = month === 2 && day === 29;
    return {
      ...rule,
      freq: 'YEARLY',
      byMonth: [month],
      byMonthDay: [day],
      skip: leap ? 'BACKWARD' : 'OMIT',
    };
  }
  if (unit === 'year' && byMonth.length) {
    // “every year in April” is on its first day.
    const freq = byMonth.length > 1 && n === 1 ? 'MONTHLY' : 'YEARLY';
    return { ...rule, freq, byMonthDay: [1] };
  }
  return { ...rule, freq: (unit && FREQUENCY[unit]) ?? 'DAILY' };
}

type YearDate = Extract<WrittenDate, { kind: 'yearless' | 'monthEnd' }>;

/** A date without its year: beside “every year” it is the day of each. */
function isYearDate<T extends { date: WrittenDate }>(
  fact: T | undefined,
): fact is T & { date: YearDate } {
  return fact?.date.kind === 'yearless' || fact?.date.kind === 'monthEnd';
}

function writtenRule(text: string, problems: Problem[]): Rule | null {
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

function oneOffDay(get: Get, given: Day | null, today: Day): Day | null {
  if (given !== null) return given;
  const weekdays = get('weekdays');
  if (weekdays?.days.length) {
    const index = WEEKDAYS.indexOf(weekdays.days[0]!);
    return today + ((index - weekdayIndex(today) + 7) % 7);
  }
  const monthDays = get('monthDays');
  const day = monthDays?.days[0];
  const months = get('months')?.months;
  if (day === undefined && months?.length === 1)
    return resolve({ kind: 'yearless', month: months[0]!, day: 1 }, today);
  if (day === undefined) return null;
  const rule: Rule = { ...plainRule('MONTHLY'), byMonthDay: [day] };
  return datesOf(rule, today).next(today - 1);
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

import { parseDay, type LocalDate } from '../../calendar/day.ts';
import { isClockSpan, parseSpan } from '../../calendar/span.ts';
import { parseMoment, parseTime, type LocalMoment, type LocalTime } from '../../calendar/time.ts';
import { CoreError } from '../../errors.ts';
import { parseRule } from '../../rule/parse.ts';
import { hasTimes } from '../../rule/rule.ts';
import type { Per } from '../../rule/workdays.ts';
import type { Ends, Repeat, Series } from './definition.ts';
import { MOST_AT, MOST_DATES } from './limits.ts';

/** Checks of single parts of a definition: each gives the part as it is kept. */

const MOST_INTERVAL = 9999;
const MOST_TIMES = 100_000;
const PERS: Record<Per, number> = { month: 31, quarter: 92, year: 366 };
const MOST_TALLY = 999;

export function isHourly(repeat: Repeat | null): boolean {
  return repeat?.by === 'completion' && isClockSpan(parseSpan(repeat.every));
}

export function textIn(value: unknown, where: string): string {
  if (typeof value !== 'string')
    throw new CoreError('series.form', where, `${where} must be text.`);
  return value;
}

export function dateIn(value: unknown, where: string): LocalDate {
  const text = textIn(value, where);
  parseDay(text, where);
  return text;
}

/** Times of day in order, each once. */
export function checkTimes(at: unknown): LocalTime[] | null {
  if (at === undefined || at === null) return null;
  if (!Array.isArray(at)) throw new CoreError('series.at', 'at', 'The times of day are a list.');
  if (at.length > MOST_AT)
    throw new CoreError('series.at', 'at', `A day has ${MOST_AT} times of one to-do at most.`);
  if (at.length === 0) return null;
  return [
    ...new Set(
      at.map((time, i) => {
        const text = textIn(time, `at.${i}`);
        parseTime(text, `at.${i}`);
        return text;
      }),
    ),
  ].sort();
}

export function checkRepeat(given: unknown, start: LocalDate | null): Repeat | null {
  if (given === null) return null;
  const repeat = given as Record<string, unknown>;
  const only = (...names: string[]) => {
    for (const name of Object.keys(repeat))
      if (name !== 'by' && !names.includes(name))
        throw new CoreError(
          'repeat.part',
          `repeat.${name}`,
          `“${name}” has no place in this kind of repeat.`,
        );
  };
  switch (repeat.by) {
    case 'calendar':
      if (repeat.workday !== undefined) {
        only('workday', 'per');
        return checkNthWorkday(repeat);
      }
      if (repeat.everyWorkdays !== undefined) {
        only('everyWorkdays');
        return {
          by: 'calendar',
          everyWorkdays: wholeIn(repeat.everyWorkdays, 1, MOST_INTERVAL, 'repeat.everyWorkdays'),
        };
      }
      only('rule', 'except', 'extra');
      return checkRuled(repeat, start);
    case 'completion':
      only('every', 'workdays', 'onto');
      return checkCompletion(repeat);
    case 'dates':
      only('dates');
      return { by: 'dates', dates: datesIn(repeat.dates, 'repeat.dates', 1) };
    case 'quota':
      only('times', 'per');
      return checkQuota(repeat);
    default:
      throw new CoreError(
        'repeat.by',
        'repeat.by',
        'A to-do repeats by “calendar”, “completion”, “dates” or “quota”.',
      );
  }
}

function checkQuota({ times, per }: Record<string, unknown>): Repeat {
  if (per !== 'day' && per !== 'week' && per !== 'month')
    throw new CoreError('repeat.per', 'repeat.per', 'So many times are in a day, week or month.');
  return { by: 'quota', times: wholeIn(times, 1, MOST_TALLY, 'repeat.times'), per };
}

function checkNthWorkday(repeat: Record<string, unknown>): Repeat {
  const { workday, per } = repeat;
  if (per !== 'month' && per !== 'quarter' && per !== 'year')
    throw new CoreError(
      'repeat.per',
      'repeat.per',
      'Working days are counted in a month, a quarter or a year.',
    );
  const most = PERS[per];
  if (
    typeof workday !== 'number' ||
    !Number.isInteger(workday) ||
    workday === 0 ||
    Math.abs(workday) > most
  )
    throw new CoreError(
      'repeat.workday',
      'repeat.workday',
      `A ${per} has a 1st to a ${most}th working day, or as many from its end.`,
    );
  return { by: 'calendar', workday, per };
}

function wholeIn(value: unknown, low: number, high: number, where: string): number {
  if (typeof value !== 'number' || !Number.isInteger(value) || value < low || value > high)
    throw new CoreError('repeat.interval', where, `It is a whole number from ${low} to ${high}.`);
  return value;
}

/** Dates in order, each once. */
function datesIn(value: unknown, where: string, least: number): LocalDate[] {
  if (!Array.isArray(value) || value.length < least || value.length > MOST_DATES)
    throw new CoreError('repeat.dates', where, `It is a list of ${least} to ${MOST_DATES} dates.`);
  return [...new Set(value.map((date, i) => dateIn(date, `${where}.${i}`)))].sort();
}

/** Dates, or dates and times, in order, each once. */
function momentsIn(value: unknown, where: string): LocalMoment[] {
  if (value === undefined) return [];
  if (!Array.isArray(value) || value.length > MOST_DATES)
    throw new CoreError('repeat.dates', where, `It is a list of 0 to ${MOST_DATES} dates.`);
  const moments = value.map((it, i) => {
    const text = textIn(it, `${where}.${i}`);
    parseMoment(text, `${where}.${i}`);
    return text;
  });
  return [...new Set(moments)].sort();
}

/**
 * What is excepted and added at a time of day is one of the several of that day (R1).
 * @throws CoreError `repeat.moment`
 */
export function checkMoments({
  repeat,
  at = [],
}: {
  repeat: Repeat | null;
  at?: LocalTime[];
}): void {
  if (repeat?.by !== 'calendar' || !('rule' in repeat)) return;
  for (const part of ['except', 'extra'] as const) {
    const i = repeat[part]?.findIndex((it) => it.length > 10 && !at.includes(it.slice(11))) ?? -1;
    if (i >= 0)
      throw new CoreError(
        'repeat.moment',
        `repeat.${part}.${i}`,
        `${repeat[part]![i]} is at none of its times of day.`,
      );
  }
}

function checkRuled(repeat: Record<string, unknown>, start: LocalDate | null): Repeat {
  const text = textIn(repeat.rule, 'repeat.rule');
  const rule = parseRule(text, 'repeat.rule');
  if (rule.interval > MOST_INTERVAL) throw tooFar('repeat.rule');
  if (hasTimes(rule))
    throw new CoreError(
      'repeat.times',
      'repeat.rule',
      'A to-do comes back by days: its time of day is set beside the rule.',
    );
  const except = momentsIn(repeat.except, 'repeat.except');
  const extra = momentsIn(repeat.extra, 'repeat.extra');
  const early = extra.findIndex((it) => start !== null && it < start);
  if (early >= 0)
    throw new CoreError(
      'repeat.extra',
      `repeat.extra.${early}`,
      `${extra[early]} is before the start: begin on that day instead.`,
    );
  return {
    by: 'calendar',
    rule: text,
    ...(except.length ? { except } : {}),
    ...(extra.length ? { extra } : {}),
  };
}

function checkCompletion(repeat: Record<string, unknown>): Repeat {
  const every = textIn(repeat.every, 'repeat.every');
  const span = parseSpan(every, 'repeat.every');
  const { workdays, onto } = repeat;
  if (span.minutes && (span.days || span.months))
    throw new CoreError(
      'repeat.mixed',
      'repeat.every',
      'A span is in days and longer, or in hours and minutes.',
    );
  if (workdays !== undefined && typeof workdays !== 'boolean')
    throw new CoreError('repeat.workdays', 'repeat.workdays', 'It is true or false.');
  if (span.minutes && (workdays || onto !== undefined))
    throw new CoreError('repeat.mixed', 'repeat.every', 'A span in hours goes on to no other day.');
  if (onto !== undefined && hasTimes(parseRule(textIn(onto, 'repeat.onto'), 'repeat.onto')))
    throw new CoreError('repeat.times', 'repeat.onto', 'It goes on to days, not to times of day.');
  return {
    by: 'completion',
    every,
    ...(workdays ? { workdays } : {}),
    ...(onto === undefined ? {} : { onto: onto as string }),
  };
}

function tooFar(where: string): CoreError {
  return new CoreError('repeat.interval', where, 'An interval is a whole number from 1 to 9,999.');
}

export function checkEnds(given: unknown, series: Pick<Series, 'repeat' | 'start'>): Ends | null {
  if (given === null) return null;
  if (!series.repeat || series.start === null)
    throw new CoreError('ends.once', 'ends', 'Only what repeats can end.');
  const ends = given as Record<string, unknown>;
  const named = ['on', 'after', 'within'].filter((key) => ends[key] !== undefined);
  if (named.length !== 1)
    throw new CoreError(
      'ends.form',
      'ends',
      'It ends on a date, after so many times, or within a span.',
    );
  if (ends.on !== undefined) {
    const on = dateIn(ends.on, 'ends.on');
    if (parseDay(on) < parseDay(series.start))
      throw new CoreError(
        'ends.before',
        'ends.on',
        `It would end on ${on}, before it starts on ${series.start}.`,
      );
    return { on };
  }
  if (ends.after !== undefined) {
    const { after } = ends;
    if (typeof after !== 'number' || !Number.isInteger(after) || after < 1 || after > MOST_TIMES)
      throw new CoreError('ends.after', 'ends.after', 'It ends after 1 to 100,000 times.');
    return { after };
  }
  const within = textIn(ends.within, 'ends.within');
  if (isClockSpan(parseSpan(within, 'ends.within')))
    throw new CoreError(
      'ends.within',
      'ends.within',
      'It ends within days, weeks, months or years.',
    );
  return { within };
}

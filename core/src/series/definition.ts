import { parseDay, type Day, type LocalDate } from '../calendar/day.ts';
import { isClockSpan, parseSpan, type Span } from '../calendar/span.ts';
import { parseTime, type LocalTime } from '../calendar/time.ts';
import { CoreError } from '../errors.ts';
import { parseRule } from '../rule/parse.ts';
import { hasTimes } from '../rule/rule.ts';

/** How a to-do repeats. */
export type Repeat =
  /** By the calendar, whatever day it gets done; `rule` is an RRULE value (RFC 5545 §3.3.10). */
  | { by: 'calendar'; rule: string }
  /** A span after it was last done. */
  | { by: 'completion'; every: Span };

/** When a to-do ends: with a date, after so many times, or after a span from its start. */
export type Ends = { on: LocalDate } | { after: number } | { within: Span };

/** What a person defines: the definition of a to-do. */
export interface Series {
  title: string;
  /** No time falls before it; null only for a one-off with no date yet. */
  start: LocalDate | null;
  /** The time of day; absent for any time that day. */
  at?: LocalTime[];
  /** Null for a one-off. */
  repeat: Repeat | null;
  ends?: Ends | null;
  /** How long before due it opens. */
  opensBefore?: Span;
  /** What becomes of one left unfinished: its plan goes along day by day, or it waits as it is. */
  late?: 'roll' | 'wait';
}

export const MOST_TITLE = 300;
const MOST_INTERVAL = 9999;
const MOST_TIMES = 100_000;
const KEYS: readonly string[] = ['title', 'start', 'at', 'repeat', 'ends', 'opensBefore', 'late'];

/**
 * Checks a definition as it comes from outside and gives it back, with its title trimmed and
 * nothing in it that says nothing.
 * @throws CoreError naming the part (`where`) and what is wrong with it. Nothing is guessed.
 */
export function checkSeries(given: unknown): Series {
  if (typeof given !== 'object' || given === null || Array.isArray(given))
    throw new CoreError('series.form', 'series', 'A to-do is an object with a title and a repeat.');
  const it = given as Record<string, unknown>;
  for (const key of Object.keys(it))
    if (!KEYS.includes(key))
      throw new CoreError('series.part', key, `A to-do has no part named “${key}”.`);
  const series: Series = {
    title: checkTitle(it.title),
    start: it.start === undefined || it.start === null ? null : dateIn(it.start, 'start'),
    repeat: checkRepeat(it.repeat ?? null),
  };
  if (series.repeat && series.start === null)
    throw new CoreError('series.start', 'start', 'What repeats needs a day to start from.');
  const at = checkTimes(it.at);
  if (at) {
    if (series.start === null)
      throw new CoreError('series.at', 'at', 'A time of day needs a day: there is no date yet.');
    if (isHourly(series.repeat))
      throw new CoreError(
        'series.at',
        'at',
        'With a span in hours the time of day follows from when it was done.',
      );
    series.at = at;
  }
  const ends = checkEnds(it.ends ?? null, series);
  if (ends) series.ends = ends;
  if (it.opensBefore !== undefined) {
    series.opensBefore = textIn(it.opensBefore, 'opensBefore');
    parseSpan(series.opensBefore, 'opensBefore');
  }
  if (it.late !== undefined) {
    if (it.late !== 'roll' && it.late !== 'wait')
      throw new CoreError('series.late', 'late', 'What becomes of a late one is “roll” or “wait”.');
    series.late = it.late;
  }
  return series;
}

function isHourly(repeat: Repeat | null): boolean {
  return repeat?.by === 'completion' && isClockSpan(parseSpan(repeat.every));
}

function checkTitle(title: unknown): string {
  const text = typeof title === 'string' ? title.trim() : '';
  if (!text) throw new CoreError('series.title', 'title', 'Say in a few words what it is.');
  if (text.length > MOST_TITLE)
    throw new CoreError('series.title', 'title', `A title has ${MOST_TITLE} characters at most.`);
  return text;
}

function textIn(value: unknown, where: string): string {
  if (typeof value !== 'string')
    throw new CoreError('series.form', where, `${where} must be text.`);
  return value;
}

function dateIn(value: unknown, where: string): LocalDate {
  const text = textIn(value, where);
  parseDay(text, where);
  return text;
}

function checkTimes(at: unknown): LocalTime[] | null {
  if (at === undefined || at === null) return null;
  if (!Array.isArray(at)) throw new CoreError('series.at', 'at', 'The times of day are a list.');
  if (at.length > 1)
    throw new CoreError('series.at', 'at', 'One time of day is taken: write a to-do for each.');
  if (at.length === 0) return null;
  const time = textIn(at[0], 'at');
  parseTime(time, 'at');
  return [time];
}

function checkRepeat(given: unknown): Repeat | null {
  if (given === null) return null;
  const repeat = given as Record<string, unknown>;
  switch (repeat.by) {
    case 'calendar': {
      const text = textIn(repeat.rule, 'repeat.rule');
      const rule = parseRule(text, 'repeat.rule');
      if (rule.interval > MOST_INTERVAL) throw tooFar('repeat.rule');
      if (hasTimes(rule))
        throw new CoreError(
          'repeat.times',
          'repeat.rule',
          'A to-do comes back by days: its time of day is set beside the rule.',
        );
      return { by: 'calendar', rule: text };
    }
    case 'completion': {
      const every = textIn(repeat.every, 'repeat.every');
      const span = parseSpan(every, 'repeat.every');
      if (span.minutes && (span.days || span.months))
        throw new CoreError(
          'repeat.mixed',
          'repeat.every',
          'A span is in days and longer, or in hours and minutes.',
        );
      return { by: 'completion', every };
    }
    default:
      throw new CoreError(
        'repeat.by',
        'repeat.by',
        'A to-do repeats by “calendar” or “completion”.',
      );
  }
}

function tooFar(where: string): CoreError {
  return new CoreError('repeat.interval', where, 'An interval is a whole number from 1 to 9,999.');
}

function checkEnds(given: unknown, series: Series): Ends | null {
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

/** The time of day of a definition in minutes, or null for any time that day. */
export function minuteOf(series: Series): number | null {
  return series.at?.[0] === undefined ? null : parseTime(series.at[0]);
}

/** The day on which nothing may start or continue before. @internal */
export function startDay(series: Series): Day | null {
  return series.start === null ? null : parseDay(series.start);
}

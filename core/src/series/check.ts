import { parseDay, type LocalDate } from '../calendar/day.ts';
import { isClockSpan, parseSpan } from '../calendar/span.ts';
import { parseTime, type LocalTime } from '../calendar/time.ts';
import type { ClosedDays } from '../calendar/workdays.ts';
import { CoreError } from '../errors.ts';
import { parseRule } from '../rule/parse.ts';
import { hasTimes } from '../rule/rule.ts';
import type { Per } from '../rule/workdays.ts';
import type { Ends, Late, Owe, Repeat, Series } from './definition.ts';
import { checkBounds } from './bounds.ts';
import { MOST_AT, MOST_DATES, checkTwoYears } from './limits.ts';
import { checkPauses } from './pauses.ts';
import { checkReminders } from './reminders.ts';

export const MOST_TITLE = 300;
export const MOST_PLACE = 60;
/** An estimate of a hundred hours says nothing. */
const MOST_TAKES = 100 * 60;
const MOST_INTERVAL = 9999;
const MOST_TIMES = 100_000;
const CLOSED_DAYS: readonly unknown[] = ['keep', 'drop', 'before', 'after', 'nearest'];
const PERS: Record<Per, number> = { month: 31, quarter: 92, year: 366 };
const MOST_TALLY = 999;
const KEYS: readonly string[] = [
  'closedDays',
  'title',
  'start',
  'at',
  'repeat',
  'ends',
  'opensBefore',
  'late',
  'grace',
  'owe',
  'pauses',
  'reminders',
  'takes',
  'place',
];

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
    repeat: null,
  };
  series.repeat = checkRepeat(it.repeat ?? null, series.start);
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
    if (at.length > 1 && series.repeat?.by === 'completion')
      throw new CoreError(
        'series.at',
        'at',
        'After I finish, it comes back at one time of day: several go with a repeat by the calendar.',
      );
    series.at = at;
  }
  const ends = checkEnds(it.ends ?? null, series);
  if (ends) series.ends = ends;
  if (it.closedDays !== undefined) {
    if (!CLOSED_DAYS.includes(it.closedDays))
      throw new CoreError(
        'series.closedDays',
        'closedDays',
        'A closed day is one of keep, drop, before, after, nearest.',
      );
    if (it.closedDays === 'drop' && (!series.repeat || series.repeat.by === 'completion'))
      throw new CoreError(
        'series.closedDays',
        'closedDays',
        'Only what repeats by the calendar can leave out closed days.',
      );
    if (it.closedDays !== 'keep') series.closedDays = it.closedDays as ClosedDays;
  }
  if (it.opensBefore !== undefined) {
    series.opensBefore = textIn(it.opensBefore, 'opensBefore');
    checkTwoYears(
      series.opensBefore,
      'bounds.opensBefore',
      'opensBefore',
      'It opens two years before at the earliest.',
    );
  }
  checkUnfinished(it, series);
  if (it.pauses !== undefined && it.pauses !== null) {
    const pauses = checkPauses(it.pauses);
    if (pauses.length) series.pauses = pauses;
  }
  checkDetails(it, series);
  if (series.repeat?.by === 'quota') refuseBesideQuota(series);
  checkBounds(series);
  return series;
}

/** What each time is filled in with: its reminders, its estimate, where it belongs. */
function checkDetails(it: Record<string, unknown>, series: Series): void {
  if (it.reminders !== undefined && it.reminders !== null) {
    const reminders = checkReminders(it.reminders);
    if (reminders.length && series.start === null)
      throw new CoreError(
        'series.reminders',
        'reminders',
        'A reminder needs a day: there is no date yet.',
      );
    if (reminders.length) series.reminders = reminders;
  }
  if (it.takes !== undefined) {
    series.takes = textIn(it.takes, 'takes');
    const { months, days, minutes } = parseSpan(series.takes, 'takes');
    if (months || days || minutes > MOST_TAKES)
      throw new CoreError(
        'series.takes',
        'takes',
        'What it takes is in hours and minutes, a hundred hours at most.',
      );
  }
  if (it.place !== undefined) {
    series.place = textIn(it.place, 'place').trim();
    if (!series.place || series.place.length > MOST_PLACE)
      throw new CoreError(
        'series.place',
        'place',
        `Where it belongs has 1 to ${MOST_PLACE} characters.`,
      );
  }
}

const LATES: readonly unknown[] = ['roll', 'wait', 'lapse'];
const OWES: readonly unknown[] = ['latest', 'every'];

/** What becomes of a time that is left unfinished (R5, R10). */
function checkUnfinished(it: Record<string, unknown>, series: Series): void {
  if (it.late !== undefined) {
    if (!LATES.includes(it.late))
      throw new CoreError(
        'series.late',
        'late',
        'What becomes of a late one is “roll”, “wait” or “lapse”.',
      );
    series.late = it.late as Late;
  }
  if (it.grace !== undefined) {
    if (series.late !== 'lapse')
      throw new CoreError(
        'series.grace',
        'grace',
        'A time of grace goes with “lapse”: only what lapses ends by itself.',
      );
    series.grace = textIn(it.grace, 'grace');
    parseSpan(series.grace, 'grace');
  }
  if (it.owe !== undefined) {
    if (!OWES.includes(it.owe))
      throw new CoreError('series.owe', 'owe', 'What is owed is “latest” or “every”.');
    series.owe = it.owe as Owe;
  }
}

/** So many times a period are due on its last day, whenever they are done in it (R15). */
function refuseBesideQuota(series: Series): void {
  const refused: [keyof Series, string][] = [
    ['late', 'what is left of a period ends with it: “late” has no meaning there'],
    ['owe', 'what is left of a period ends with it: “owe” has no meaning there'],
    ['at', 'so many times a period have no time of day'],
    ['closedDays', 'so many times a period fall on no set day, closed or not'],
    ['opensBefore', 'a period opens when it begins'],
  ];
  for (const [part, words] of refused)
    if (series[part] !== undefined)
      throw new CoreError(`series.${part}`, part, `${words[0]!.toUpperCase()}${words.slice(1)}.`);
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

/** Times of day in order, each once. */
function checkTimes(at: unknown): LocalTime[] | null {
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

function checkRepeat(given: unknown, start: LocalDate | null): Repeat | null {
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
  const except = repeat.except === undefined ? [] : datesIn(repeat.except, 'repeat.except', 0);
  const extra = repeat.extra === undefined ? [] : datesIn(repeat.extra, 'repeat.extra', 0);
  const early = extra.findIndex((date) => start !== null && date < start);
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

import {
  WEEKDAYS,
  dateOf,
  parseDay,
  weekdayIndex,
  type LocalDate,
  type Weekday,
} from '../calendar/day.ts';
import { parseSpan, type Span } from '../calendar/span.ts';
import { parseRule } from '../rule/parse.ts';
import { formatRule } from '../rule/format.ts';
import { hasTimes, plainRule, type Rule } from '../rule/rule.ts';
import type { ClosedDays } from '../calendar/workdays.ts';
import type { Repeat, Series } from '../series/definition.ts';
import { read, type ReadOptions } from './read.ts';
import { MONTH_NAMES, ORDINAL_NAMES, WEEKDAY_NAMES, ordinalText } from './words.ts';
function listText(items: readonly string[], link = 'and'): string {
  return items.length < 2
    ? items.join('')
    : `${items.slice(0, -1).join(', ')} ${link} ${items.at(-1)}`;
}
function countText(n: number, unit: string): string {
  return `${n} ${unit}${n === 1 ? '' : 's'}`;
}

/** One part of a sentence. Every kind but `text` is something that a person can change. */
export interface SentencePart {
  kind:
    'text' | 'title' | 'repeat' | 'mode' | 'start' | 'at' | 'ends' | 'closed' | 'opens' | 'late';
  text: string;
}

/**
 * A definition as one plain sentence, in parts; joined they read it back (see {@link read}).
 * @param today the person's date: the year is left out of dates within the coming ten months.
 */
export function sayParts(
  series: Series,
  today: LocalDate,
  options: ReadOptions = {},
): SentencePart[] {
  return withTitle(series, today, (title) => partsOf(series, title, today, options), joined);
}

function partsOf(
  series: Series,
  title: string,
  today: LocalDate,
  options: ReadOptions,
): SentencePart[] {
  const parts: SentencePart[] = [{ kind: 'title', text: title }];
  const add = (joint: string, kind: SentencePart['kind'], text: string) =>
    parts.push({ kind: 'text', text: joint }, { kind, text });
  if (!series.repeat) {
    if (series.start === null) add(' has ', 'start', 'no date yet');
    else {
      add(', ', 'repeat', 'once');
      add(', on ', 'start', dateText(series.start, today, true));
    }
  } else if (series.repeat.by === 'completion') {
    add(' comes back ', 'repeat', everyText(series.repeat));
    add(' ', 'mode', 'after you finish it');
    const onto = ontoText(series.repeat);
    if (onto) add(', ', 'repeat', onto);
  } else {
    add(
      ' comes back ',
      'repeat',
      calendarText({ ...series, repeat: series.repeat }, today, options),
    );
    for (const edit of editTexts(series.repeat)) add(', ', 'repeat', edit);
  }
  if (series.at?.length) add(' at ', 'at', listText(series.at));
  const { ends } = series;
  if (ends && 'on' in ends) add(', until ', 'ends', dateText(ends.on, today));
  if (ends && 'after' in ends) add(', ', 'ends', countText(ends.after, 'time'));
  if (ends && 'within' in ends) add(', for ', 'ends', spanText(ends.within));
  const joint = startJoint(series);
  if (joint) add(joint, 'start', dateText(series.start!, today, true));
  if (series.closedDays) add(', ', 'closed', CLOSED_TEXTS[series.closedDays]);
  if (series.opensBefore) add(', opens ', 'opens', `${spanText(series.opensBefore)} before`);
  const late = lateText(series);
  if (late) add(', ', 'late', late);
  if (series.owe === 'every') add(', ', 'late', EACH_OWED);
  parts.push({ kind: 'text', text: '.' });
  return parts;
}

/** What stands before the start: where the start need not be a slot it is not called the first. */
function startJoint({ repeat, start }: Series): string | null {
  if (!repeat || start === null) return null;
  if (repeat.by === 'dates') return repeat.dates[0] === start ? null : ', from ';
  if (repeat.by === 'quota') return ', from ';
  return 'workday' in repeat || 'everyWorkdays' in repeat ? ', from ' : ', first on ';
}

const EACH_OWED = 'each one is owed';

/** What becomes of one that is left unfinished, where it does not go along day by day. */
function lateText({ late, grace }: Series): string | null {
  if (late === 'wait') return 'stays on its day when late';
  if (late !== 'lapse') return null;
  return grace === undefined
    ? 'missed once it is over'
    : `missed ${spanText(grace)} after it is due`;
}

export const CLOSED_TEXTS: Record<ClosedDays, string> = {
  keep: 'if closed, that day all the same',
  before: 'if closed, the working day before',
  after: 'if closed, the working day after',
  nearest: 'if closed, the nearest working day',
  drop: 'if closed, not at all',
};

type RepeatOf<K extends Repeat['by']> = Extract<Repeat, { by: K }>;

/** “14 days”, “10 working days”, “1 week and 3 working days”. */
function everyText({ every, workdays }: RepeatOf<'completion'>): string {
  const days = Number(/(\d+)D/u.exec(every)?.[1] ?? 0);
  if (!workdays || !days) return spanText(every);
  const rest = every.replace(/\d+D/u, '');
  return listText([...(rest === 'P' ? [] : [spanText(rest)]), countText(days, 'working day')]);
}

function ontoText({ onto }: RepeatOf<'completion'>): string | null {
  if (onto === undefined) return null;
  const rule = parseRule(onto);
  const days = rule.byDay.map(({ weekday }) => weekday);
  const plain = formatRule({ ...plainRule('WEEKLY'), byDay: rule.byDay }) === formatRule(rule);
  if (!plain || !days.length || WEEKDAYS.filter((day) => days.includes(day)).join() !== days.join())
    return `then on the next date by the rule ${formatRule(rule)}`;
  return `then on the next ${listText(days.map(dayName), 'or')}`;
}

/** What does not depend on when the one before was done. */
type NotCounted = Exclude<Repeat, { by: 'completion' }>;

const timesWord = (n: number) => (n === 1 ? 'once' : n === 2 ? 'twice' : `${n} times`);

/** How a definition repeats by the calendar, in words. */
function calendarText(
  { repeat, start }: { repeat: NotCounted; start: LocalDate | null },
  today: LocalDate,
  options: ReadOptions,
): string {
  if (repeat.by === 'dates')
    return `on ${listText(repeat.dates.map((date) => dateText(date, today)))}`;
  if (repeat.by === 'quota') return `${timesWord(repeat.times)} a ${repeat.per}`;
  if ('rule' in repeat) return ruleText(named(repeat.rule, start), options);
  if ('workday' in repeat) return `on the ${nthWorkdayText(repeat.workday)} of each ${repeat.per}`;
  const n = repeat.everyWorkdays;
  return n === 1 ? 'every working day' : `every ${n} working days`;
}

/**
 * A rule by months alone, from a day that some months lack, with that day in it: “every month”
 * would be read as one that never loses it (R2).
 */
function named(text: string, start: LocalDate | null): string {
  const rule = parseRule(text);
  const day = start === null ? 0 : dateOf(parseDay(start)).day;
  const bare = rule.freq === 'MONTHLY' && !rule.byMonthDay.length && !rule.byDay.length;
  return bare && day > 28 ? formatRule({ ...rule, byMonthDay: [day] }) : text;
}

function nthWorkdayText(nth: number): string {
  const size = Math.abs(nth);
  const name = ORDINAL_NAMES[size - 1];
  if (nth > 0) return `${name ?? ordinalText(size)} working day`;
  if (size === 1) return 'last working day';
  return name ? `${name}-last working day` : `${ordinalText(size)} working day from the end`;
}

/** The dates that were left out and added. */
function editTexts(repeat: NotCounted): string[] {
  if (!('rule' in repeat)) return [];
  const { except, extra } = repeat;
  // With their years: a date without one is read as the next such day after the start.
  const list = (dates: readonly LocalDate[]) => listText(dates.map(fullDateText));
  return [
    ...(except?.length ? [`except on ${list(except)}`] : []),
    ...(extra?.length ? [`and also on ${list(extra)}`] : []),
  ];
}

/** A definition as one plain sentence: “Weigh the hives comes back every Friday, first on …”. */
export function say(series: Series, today: LocalDate, options: ReadOptions = {}): string {
  return joined(sayParts(series, today, options));
}

const joined = (parts: readonly SentencePart[]) => parts.map((part) => part.text).join('');

/**
 * A definition in the short words that a person would type, without what reading would fill in by
 * itself: “Weigh the hives every Friday at 13:00”. Reading it gives the same definition.
 */
export function typed(series: Series, today: LocalDate, options: ReadOptions = {}): string {
  const make = (title: string) => typedWith(series, title, today, options);
  return withTitle(series, today, make, (text) => text);
}

function typedWith(series: Series, title: string, today: LocalDate, options: ReadOptions): string {
  const tail: string[] = [];
  if (!series.repeat)
    tail.push(series.start === null ? 'with no date yet' : dateText(series.start, today));
  else if (series.repeat.by === 'completion') {
    tail.push(`${everyText(series.repeat)} after done`);
    const onto = ontoText(series.repeat);
    if (onto) tail.push(onto);
  } else {
    tail.push(calendarText({ ...series, repeat: series.repeat }, today, options));
    tail.push(...editTexts(series.repeat));
  }
  if (series.at?.length) tail.push(`at ${listText(series.at)}`);
  const { ends } = series;
  if (ends && 'on' in ends) tail.push(`until ${dateText(ends.on, today)}`);
  if (ends && 'after' in ends) tail.push(countText(ends.after, 'time'));
  if (ends && 'within' in ends) tail.push(`for ${spanText(ends.within)}`);
  if (series.closedDays) tail.push(CLOSED_TEXTS[series.closedDays]);
  if (series.opensBefore) tail.push(`opens ${spanText(series.opensBefore)} before`);
  const late = lateText(series);
  if (late) tail.push(late);
  if (series.owe === 'every') tail.push(EACH_OWED);
  const short = [title, ...tail].join(' ');
  if (series.start === null)
    return series.repeat ? short : short.replace(/ with no date yet$/u, '');
  if (!series.repeat || read(short, today, options).series.start === series.start) return short;
  return `${short} starting ${dateText(series.start, today)}`;
}

/** Makes a sentence with the title as it is, or in quotes where it would be read as more than that. */
function withTitle<T>(
  { title }: Series,
  today: LocalDate,
  make: (title: string) => T,
  text: (made: T) => string,
): T {
  const plain = make(title);
  if (read(text(plain), today).series.title === title) return plain;
  return make(`“${title.replaceAll('”', '””')}”`);
}

/** How a definition repeats, in the short words of a list: “every Friday”, “14 days after done”, “once”. */
export function repeatText(series: Series, options: ReadOptions = {}): string {
  if (!series.repeat) return series.start === null ? 'no date yet' : `once${timesText(series)}`;
  const { repeat } = series;
  if (repeat.by === 'completion') {
    const onto = ontoText(repeat);
    return `${everyText(repeat)} after done${onto ? `, ${onto}` : ''}`;
  }
  if (repeat.by === 'dates')
    return `on ${countText(repeat.dates.length, 'date')}${timesText(series)}`;
  // Without a date in it, no day is needed to say it.
  const words = calendarText({ ...series, repeat }, series.start!, options);
  return words.replace(/ of each month\b/u, '') + timesText(series);
}

/** Several times of day, where a list says how a to-do repeats. */
function timesText({ at = [] }: Series): string {
  if (at.length < 2) return '';
  return at.length < 4 ? ` at ${listText(at)}` : ` at ${at.length} times of day`;
}

/**
 * A date in words: “5 December”, “Saturday 5 December”; with its year where it is past or more
 * than ten months off, so that the words mean just that day.
 */
export function dateText(date: LocalDate, today: LocalDate, weekday = false): string {
  const day = parseDay(date);
  const away = day - parseDay(today);
  const { year, month, day: dayOfMonth } = dateOf(day);
  const name = weekday ? `${WEEKDAY_NAMES[weekdayIndex(day)]!} ` : '';
  const short = `${name}${dayOfMonth} ${MONTH_NAMES[month - 1]!}`;
  return away >= 0 && away < 300 ? short : `${short} ${year}`;
}

/** A date in words with its year: “5 December 2026”. */
function fullDateText(date: LocalDate): string {
  const { year, month, day } = dateOf(parseDay(date));
  return `${day} ${MONTH_NAMES[month - 1]!} ${year}`;
}

/** A span in words: “14 days”, “1 month and 3 days”, “36 hours”. */
export function spanText(span: Span): string {
  const weeks = /^P(\d+)W$/.exec(span);
  if (weeks) return countText(Number(weeks[1]), 'week');
  const { months, days, minutes } = parseSpan(span);
  const years = months % 12 === 0 ? months / 12 : 0;
  const hours = minutes % 60 === 0 ? minutes / 60 : 0;
  const parts = [
    years ? countText(years, 'year') : months ? countText(months, 'month') : '',
    days ? countText(days, 'day') : '',
    hours ? countText(hours, 'hour') : minutes ? countText(minutes, 'minute') : '',
  ];
  return listText(parts.filter(Boolean));
}

const dayName = (weekday: Weekday) => WEEKDAY_NAMES[WEEKDAYS.indexOf(weekday)]!;

/** A rule in words; one that has no words of its own is given as it is written. */
function ruleText(text: string, options: ReadOptions): string {
  const rule = parseRule(text);
  return plainRuleText(rule, options.weekStart ?? 'MO') ?? `by the rule ${formatRule(rule)}`;
}

function plainRuleText(rule: Rule, weekStart: Weekday): string | null {
  if (rule.count !== null || rule.until !== null || hasUnsaid(rule)) return null;
  const { freq, interval: n, byDay, byMonthDay, byMonth, skip } = rule;
  if (byMonth.length > 11 || byMonth.some((month, i) => i > 0 && month <= byMonth[i - 1]!))
    return null;
  const inMonths = byMonth.length ? ` ${monthsText(byMonth)}` : '';
  const every = (unit: string) => (n === 1 ? `every ${unit}` : `every ${n} ${unit}s`);
  const plain = byDay.every((part) => part.ordinal === null);
  switch (freq) {
    case 'DAILY':
      return byDay.length || byMonthDay.length || skip !== 'OMIT' ? null : every('day') + inMonths;
    case 'WEEKLY': {
      // Steps of several named days count from the person's first day of the week.
      const counted = n > 1 && byDay.length ? weekStart : 'MO';
      if (skip !== 'OMIT' || rule.weekStart !== counted) return null;
      if (!byDay.length) return every('week') + inMonths;
      const days = byDay.map((part) => part.weekday);
      const sorted = WEEKDAYS.filter((day) => days.includes(day));
      if (sorted.join() !== days.join()) return null;
      const names = days.join() === 'MO,TU,WE,TH,FR' ? 'weekday' : listText(days.map(dayName));
      if (n === 1) return `every ${names}${inMonths}`;
      return `every ${n} weeks on ${names === 'weekday' ? listText(days.map(dayName)) : names}${inMonths}`;
    }
    case 'MONTHLY': {
      if (rule.weekStart !== 'MO') return null;
      if (byDay.length && byMonthDay.length) return null;
      // “the 12th of June” alone is a date.
      const named =
        n === 1 && byMonth.length > (byDay.length ? 0 : 1) && byMonth.length <= MOST_NAMED;
      const each = n === 1 ? 'of each month' : `of every ${ordinalText(n)} month`;
      const of = named ? `of ${monthNames(byMonth)}` : each + inMonths;
      if (byDay.length) return plain || skip !== 'OMIT' ? null : positionText(rule, of);
      if (!byMonthDay.length) return skip === 'OMIT' ? every('month') + inMonths : null;
      return monthDayText(rule, of);
    }
    case 'YEARLY': {
      if (rule.weekStart !== 'MO') return null;
      if (byDay.length)
        return byMonth.length !== 1 || byMonthDay.length || plain || skip !== 'OMIT'
          ? null
          : positionText(rule, `of ${monthNames(byMonth)}`, `${every('year')} `);
      if (!byMonth.length && !byMonthDay.length) return skip === 'OMIT' ? every('year') : null;
      const [month] = byMonth;
      const [day] = byMonthDay;
      if (byMonth.length !== 1 || byMonthDay.length !== 1) return null;
      const leap = month === 2 && day === 29;
      if (skip !== (leap ? 'BACKWARD' : 'OMIT') || day! < 1) return null;
      return `${every('year')} on ${day} ${MONTH_NAMES[month! - 1]!}`;
    }
    default:
      return null;
  }
}

/** Whether a rule has parts for which there are no words yet. */
function hasUnsaid(rule: Rule): boolean {
  const { byYearDay, byWeekNo, bySetPos } = rule;
  return hasTimes(rule) || byYearDay.length > 0 || byWeekNo.length > 0 || bySetPos.length > 0;
}

/** Up to so many months are named; of more, the others are said to be left out. */
const MOST_NAMED = 6;
const monthNames = (months: readonly number[]) => listText(months.map((n) => MONTH_NAMES[n - 1]!));

/** “in June and July”, “except in August”. */
function monthsText(months: readonly number[]): string {
  if (months.length <= MOST_NAMED) return `in ${monthNames(months)}`;
  const others = Array.from({ length: 12 }, (_, i) => i + 1).filter((n) => !months.includes(n));
  return `except in ${monthNames(others)}`;
}

function positionText(rule: Rule, of: string, lead = ''): string | null {
  const ordinals = new Set(rule.byDay.map((part) => part.ordinal));
  const [ordinal] = ordinals;
  if (ordinals.size !== 1 || ordinal === undefined || ordinal === null) return null;
  const name =
    ordinal === -1 ? 'last' : ordinal === -2 ? 'second-last' : ORDINAL_NAMES[ordinal - 1];
  if (!name) return null;
  return `${lead}on the ${name} ${listText(rule.byDay.map((part) => dayName(part.weekday)))} ${of}`;
}

function monthDayText(rule: Rule, of: string): string | null {
  const { byMonthDay: days, skip } = rule;
  const order = [...days].sort((a, b) => (a < 0 ? 99 : a) - (b < 0 ? 99 : b));
  if (order.join() !== days.join() || new Set(days).size !== days.length) return null;
  if (days.some((day) => day < 0))
    return days.length === 1 && days[0] === -1 && skip === 'OMIT' ? `on the last day ${of}` : null;
  const long = days.some((day) => day >= 29);
  if (skip === 'FORWARD' || (skip === 'BACKWARD' && !long)) return null;
  const text = `on the ${listText(days.map(ordinalText))} ${of}`;
  return !long ? text : skip === 'BACKWARD' ? `${text} or its last day` : `${text} that has it`;
}

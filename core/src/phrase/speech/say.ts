import { WEEKDAYS, type LocalDate } from '../../calendar/day.ts';
import { spanUnits, type Span } from '../../calendar/span.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import { formatRule } from '../../rule/format.ts';
import { parseRule } from '../../rule/parse.ts';
import { plainRule } from '../../rule/rule.ts';
import { PARTS, type SayingWords } from '../../definition/parts.ts';
import type { Definition } from '../../definition/definition.ts';
import type { Repeat, Series } from '../../series/definition/definition.ts';
import { AT_DUE, type Reminder } from '../../series/reminding/reminders.ts';
import { itemText, nameText } from './itemText.ts';
import { placesOf } from '../meaning/placesOf.ts';
import type { PartKind, ReadOptions } from '../meaning/reading.ts';
import { ENGLISH } from './english.ts';
import { dayName, ruleText } from './ruleWords.ts';
import { dateIn, needsYear, weekdayNames, type Speech } from './speech.ts';
import type { Unit } from '../grammar/words.ts';

/** One part of a sentence. Every kind but `text` and `title` is something that a person can change. */
export interface SentencePart {
  kind: 'text' | 'title' | 'mode' | PartKind;
  text: string;
}

/** How the start of what repeats is said: not at all, as its first day, as what it counts from. */
export type StartJoint = 'none' | 'first' | 'counted';

/** The parts of a definition but for its title, in the words of a language. */
export class Words {
  constructor(
    readonly speech: Speech,
    private readonly today: LocalDate,
    private readonly options: ReadOptions,
  ) {}

  date(date: LocalDate, weekday = false): string {
    return dateIn(this.speech, date, { weekday, year: needsYear(date, this.today) });
  }

  span(span: Span): string {
    return spanIn(this.speech, span);
  }

  dates(dates: readonly LocalDate[], year = false): string {
    return this.speech.list(
      dates.map((date) => (year ? dateIn(this.speech, date, { year }) : this.date(date))),
    );
  }

  /** “14 days”, “10 working days”, “1 week and 3 working days”. */
  every({ every, workdays }: RepeatOf<'completion'>): string {
    const days = Number(/(\d+)D/u.exec(every)?.[1] ?? 0);
    if (!workdays || !days) return this.span(every);
    const rest = every.replace(/\d+D/u, '');
    return this.speech.list([
      ...(rest === 'P' ? [] : [this.span(rest)]),
      this.speech.workdays(days),
    ]);
  }

  onto({ onto }: RepeatOf<'completion'>): string | null {
    if (onto === undefined) return null;
    const rule = parseRule(onto);
    const days = rule.byDay.map(({ weekday }) => weekday);
    const plain = formatRule({ ...plainRule('WEEKLY'), byDay: rule.byDay }) === formatRule(rule);
    const inOrder = WEEKDAYS.filter((day) => days.includes(day)).join() === days.join();
    return plain && days.length && inOrder
      ? this.speech.thenOn(days.map((day) => dayName(day, this.speech)))
      : this.speech.thenBy(formatRule(rule));
  }

  /** How a definition repeats by the calendar. */
  calendar(repeat: NotCounted): string {
    const { speech } = this;
    if (repeat.by === 'dates') return speech.onDates(this.dates(repeat.dates));
    if (repeat.by === 'quota') return speech.quota(repeat.times, repeat.per);
    if ('rule' in repeat) return ruleText(repeat.rule, this.options.weekStart ?? 'MO', speech);
    return 'workday' in repeat
      ? speech.nthWorkday(repeat.workday, repeat.per)
      : speech.everyWorkday(repeat.everyWorkdays);
  }

  /** The dates that were left out and added. */
  edits(repeat: NotCounted): string[] {
    if (!('rule' in repeat)) return [];
    const { except, extra } = repeat;
    const whole = (all: readonly LocalMoment[] = []) => all.filter((it) => it.length === 10);
    const single = (all: readonly LocalMoment[] = []) =>
      all
        .filter((it) => it.length > 10)
        .map((it) => ({
          time: it.slice(11),
          date: dateIn(this.speech, it.slice(0, 10), { year: true }),
        }));
    const said = (words: (it: string) => string, text: string) => (text ? [words(text)] : []);
    // With their years: a date without one is read as the next such day after the start.
    return [
      ...said(this.speech.except, this.dates(whole(except), true)),
      ...said(this.speech.exceptAt, this.speech.list(single(except).map(this.speech.momentOn))),
      ...said(this.speech.extra, this.dates(whole(extra), true)),
      ...said(this.speech.extraAt, this.speech.list(single(extra).map(this.speech.momentOn))),
    ];
  }

  /** What becomes of one that is left unfinished, where it does not go along day by day. */
  late({ late, grace, owe }: Series): string[] {
    return [
      ...(late === 'wait' ? [this.speech.waits] : []),
      ...(late === 'lapse'
        ? [this.speech.lapses(grace === undefined ? null : this.span(grace))]
        : []),
      ...(owe === 'every' ? [this.speech.owes] : []),
    ];
  }

  reminders(reminders: readonly Reminder[]): string {
    const tails = reminders.map(({ before, on, at, of, channel, again }) =>
      this.speech.reminder({
        before: before === undefined || before === AT_DUE ? null : this.span(before),
        isAtDue: before === AT_DUE,
        on: on === undefined ? null : weekdayNames(this.speech)[WEEKDAYS.indexOf(on)]!,
        at: at ?? null,
        of: of ?? 'due',
        channel: channel ?? null,
        again: again ? { every: this.span(again.every), atMost: again.atMost } : null,
      }),
    );
    return tails.join(this.speech.joints.and);
  }

  pauses(series: Series): string[] {
    return (series.pauses ?? []).map(({ from, to }) =>
      this.speech.paused(
        dateIn(this.speech, from, { year: true }),
        to === null ? null : dateIn(this.speech, to, { year: true }),
      ),
    );
  }

  /** What the table of parts needs of this language. */
  private saying(): SayingWords {
    const { speech, options } = this;
    return {
      span: (span) => this.span(span),
      joints: speech.joints,
      item: itemText,
      list: (items, link) => speech.list(items, link),
      days: (n) => speech.count(n, 'day'),
      placeName: (id) => nameText(placesOf(options).find((place) => place.id === id)?.name ?? id),
      what: speech.what,
    };
  }

  /** What is said behind how it repeats and when: each part with the joint before it. */
  details(series: Definition): { joint: string; kind: PartKind; text: string }[] {
    const { speech } = this;
    const { joints } = speech;
    const said = (joint: string, kind: PartKind, text: string | undefined) =>
      text === undefined ? [] : [{ joint, kind, text }];
    const { closedDays, opensBefore, reminders } = series;
    const given = series as unknown as Record<string, unknown>;
    return [
      ...said(', ', 'closed', closedDays && speech.closed[closedDays]),
      ...said(joints.opens, 'opens', opensBefore && speech.opens(this.span(opensBefore))),
      ...this.late(series).flatMap((text) => said(', ', 'late', text)),
      ...said(joints.remind, 'remind', reminders && this.reminders(reminders)),
      ...PARTS.flatMap(({ key, kind, says }) => {
        const value = given[key];
        if (!says || value === undefined || value === null) return [];
        const { joint, text } = says(value as never, this.saying());
        return said(joint, kind, text);
      }),
      ...this.pauses(series).flatMap((text) => said(', ', 'pauses', text)),
    ];
  }
}

/** A definition in parts, with its title as given. */
export function partsOf(
  series: Definition,
  title: string,
  words: Words,
  start: StartJoint,
): SentencePart[] {
  const { speech } = words;
  const { joints } = speech;
  const parts: SentencePart[] = [{ kind: 'title', text: title }];
  const add = (joint: string, kind: SentencePart['kind'], text: string) =>
    parts.push({ kind: 'text', text: joint }, { kind, text });
  const { repeat, ends } = series;
  if (!repeat) {
    if (series.start === null) add(joints.undated, 'start', speech.undated);
    else {
      add(joints.once, 'repeat', speech.once);
      add(joints.onDay, 'start', words.date(series.start, true));
    }
  } else if (repeat.by === 'completion') {
    add(joints.comesBack, 'repeat', words.every(repeat));
    add(joints.mode, 'mode', speech.mode);
    const onto = words.onto(repeat);
    if (onto) add(', ', 'repeat', onto);
  } else {
    add(joints.comesBack, 'repeat', words.calendar(repeat));
    for (const edit of words.edits(repeat)) add(', ', 'repeat', edit);
  }
  if (series.at?.length) add(joints.at, 'at', speech.list(series.at));
  if (ends && 'on' in ends) add(joints.until, 'ends', words.date(ends.on));
  if (ends && 'after' in ends) add(', ', 'ends', speech.times(ends.after));
  if (ends && 'within' in ends) add(joints.within, 'ends', words.span(ends.within));
  const joint = startJoint(series, start);
  if (joint) add(joints[joint], 'start', words.date(series.start!, true));
  for (const { joint: before, kind, text } of words.details(series)) add(before, kind, text);
  parts.push({ kind: 'text', text: '.' });
  return parts;
}

/** What stands before the start: where the start need not be a slot it is not called the first. */
function startJoint(
  { repeat, start }: Series,
  joint: StartJoint,
): 'first' | 'from' | 'counted' | null {
  if (!repeat || start === null) return null;
  if (repeat.by === 'dates') return repeat.dates[0] === start ? null : 'from';
  if (repeat.by === 'quota' || 'workday' in repeat || 'everyWorkdays' in repeat) return 'from';
  return joint === 'counted' ? 'counted' : 'first';
}

/**
 * A definition as one plain sentence for looking at: it is not held against what reading it would give.
 * @param today the person’s date
 */
export function sayPlainly(
  series: Definition,
  today: LocalDate,
  options: ReadOptions = {},
): string {
  const words = new Words(ENGLISH, today, options);
  return partsOf(series, series.title, words, 'first')
    .map(({ text }) => text)
    .join('');
}

/** What is read behind a sign alone: else it would be title. */
const HANGS: ReadonlySet<PartKind> = new Set(
  'importance tags steps questions someday takingUp then pauses'.split(' '),
);

/** Words of a person’s own, which only a sign ends. */
export const OWN_WORDS: ReadonlySet<PartKind> = new Set('tags steps questions then'.split(' '));

/** Stretches one after another; one that begins with a comma stands right behind the one before. */
export const joinedTexts = (texts: readonly string[]): string =>
  texts.reduce((before, text) => before + (text.startsWith(',') ? '' : ' ') + text);

/** The stretches of {@link typed} in order, each with the part that it is about; no title, no start. */
export function typedParts(
  series: Definition,
  today: LocalDate,
  options: ReadOptions = {},
): { kind: PartKind; text: string }[] {
  const words = new Words(ENGLISH, today, options);
  const { repeat, ends } = series;
  const parts: { kind: PartKind; text: string }[] = [];
  const add = (kind: PartKind, text: string) => {
    const hangs = HANGS.has(kind) || OWN_WORDS.has(parts.at(-1)?.kind ?? '');
    parts.push({ kind, text: hangs ? `, ${text}` : text });
  };
  if (!repeat) {
    if (series.start !== null) add('start', words.date(series.start));
  } else if (repeat.by === 'completion') {
    const onto = words.onto(repeat);
    add('repeat', `${words.every(repeat)} after done${onto ? ` ${onto}` : ''}`);
  } else add('repeat', [words.calendar(repeat), ...words.edits(repeat)].join(' '));
  if (series.at?.length) add('at', `at ${ENGLISH.list(series.at)}`);
  if (ends && 'on' in ends) add('ends', `until ${words.date(ends.on)}`);
  if (ends && 'after' in ends) add('ends', ENGLISH.times(ends.after));
  if (ends && 'within' in ends) add('ends', `for ${words.span(ends.within)}`);
  for (const { joint, kind, text } of words.details(series))
    add(kind, `${joint.replace(/^, /u, '')}${text}`);
  return parts;
}

type RepeatOf<K extends Repeat['by']> = Extract<Repeat, { by: K }>;

/** What does not depend on when the one before was done. */
type NotCounted = Exclude<Repeat, { by: 'completion' }>;

/** How a definition repeats, in the short words of a list: “every Friday”, “14 days after done”, “once”. */
export function repeatText(series: Series, options: ReadOptions = {}): string {
  const { repeat, start } = series;
  if (!repeat) return start === null ? 'no date yet' : `once${timesText(series)}`;
  // Without a date in it, no day is needed to say it.
  const words = new Words(ENGLISH, start!, options);
  if (repeat.by === 'completion') {
    const onto = words.onto(repeat);
    return `${words.every(repeat)} after done${onto ? `, ${onto}` : ''}`;
  }
  if (repeat.by === 'dates') return ENGLISH.onSomeDates(repeat.dates.length) + timesText(series);
  return words.calendar(repeat).replace(/ of each month\b/u, '') + timesText(series);
}

/** Several times of day, where a list says how a to-do repeats. */
function timesText({ at = [] }: Series): string {
  if (at.length < 2) return '';
  return at.length < 4 ? ` at ${ENGLISH.list(at)}` : ` at ${at.length} times of day`;
}

/**
 * A date in words: “5 December”, “Saturday 5 December”; with its year where it is past or more
 * than ten months off, so that the words mean just that day.
 */
export function dateText(date: LocalDate, today: LocalDate, weekday = false): string {
  return dateIn(ENGLISH, date, { weekday, year: needsYear(date, today) });
}

/** A span in words: “14 days”, “1 month and 3 days”, “36 hours”. */
export function spanText(span: Span): string {
  return spanIn(ENGLISH, span);
}

const SPAN_UNITS: readonly Unit[] = ['year', 'month', 'week', 'day', 'hour', 'minute'];

/** A span in the units in which it is written: it is read back as the same. */
function spanIn(speech: Speech, span: Span): string {
  const counts = spanUnits(span) ?? [];
  return speech.list(
    SPAN_UNITS.flatMap((unit, i) => {
      const n = counts[i];
      return n === null || n === undefined ? [] : [speech.count(n, unit)];
    }),
  );
}

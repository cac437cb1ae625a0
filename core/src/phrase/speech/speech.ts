import { parseDay, type LocalDate } from '../../calendar/day.ts';
import type { ClosedDays } from '../../calendar/workdays.ts';
import type { Per } from '../../rule/workdays.ts';
import type { QuotaPer } from '../../series/plan/quota.ts';
import type { Channel, ReminderOf } from '../../series/reminding/reminders.ts';
import type { WhatWords } from '../../definition/parts.ts';
import type { Unit } from '../grammar/words.ts';

export type Language = 'en' | 'de';

/** Which days of which months a rule is about, in words: “of each month”, “of March and July”. */
export interface OfMonths {
  /** The step in months. */
  n: number;
  /** The names of the months that it is about, where they are named in place of “each month”. */
  named: readonly string[];
  /** What follows “of each month”: “in June”, “except in August”, or nothing. */
  inMonths: string;
}

/** So many days of a week that are counted together in a month. */
export type DaySet = 'weekday' | 'weekend';

/**
 * The words of one language, with which a definition is said back. Each gives a stretch without
 * the signs around it. Names of days and months come from Intl (ECMA-402).
 */
export interface Speech {
  language: Language;
  /** For Intl. */
  locale: string;

  list(items: readonly string[], link?: 'and' | 'or'): string;
  count(n: number, unit: Unit): string;
  workdays(n: number): string;

  /** What stands between the parts of a sentence. */
  joints: {
    comesBack: string;
    undated: string;
    once: string;
    onDay: string;
    mode: string;
    at: string;
    until: string;
    within: string;
    first: string;
    from: string;
    counted: string;
    opens: string;
    remind: string;
    takes: string;
    place: string;
    /** Between reminders. */
    and: string;
  };
  undated: string;
  once: string;
  mode: string;
  times(n: number): string;

  every(n: number, unit: Unit): string;
  onDays(names: readonly string[], isMondayToFriday: boolean): string;
  weeksOn(n: number, names: readonly string[]): string;
  inMonths(names: readonly string[]): string;
  exceptMonths(names: readonly string[]): string;
  /** Days of a month, from its end where negative; `lacking` is what comes of one that it lacks. */
  monthDays(days: readonly number[], of: OfMonths, lacking: 'last' | 'omit' | null): string;
  /** The nth weekdays of a month; each group is its numbers and its names of days. */
  positions(groups: readonly { nth: number[]; names: string[] }[], of: OfMonths): string;
  ofSet(nth: readonly number[], set: DaySet, of: OfMonths): string;
  /** How a place is said, from the end where negative; null where there is no word for it. */
  isPlace(nth: number): boolean;
  yearlyOn(n: number, day: number, month: string): string;
  yearly(n: number, what: string): string;
  nthWorkday(nth: number, per: Per): string;
  everyWorkday(n: number): string;
  onDates(dates: string): string;
  onSomeDates(n: number): string;
  quota(n: number, per: QuotaPer): string;
  except(dates: string): string;
  extra(dates: string): string;
  /** Single times of the several of a day. */
  exceptAt(moments: string): string;
  extraAt(moments: string): string;
  momentOn(parts: { time: string; date: string }): string;
  thenOn(names: readonly string[]): string;
  thenBy(rule: string): string;
  by(rule: string): string;

  closed: Record<ClosedDays, string>;
  opens(span: string): string;
  waits: string;
  lapses(grace: string | null): string;
  owes: string;
  reminder(parts: {
    before: string | null;
    /** In place of a span: at the due moment. */
    isAtDue: boolean;
    /** The name of a weekday, in place of a span before. */
    on: string | null;
    at: string | null;
    of: ReminderOf;
    channel: Channel | null;
    again: { every: string; atMost: number } | null;
  }): string;
  paused(from: string, to: string | null): string;
  what: WhatWords;
}

const FORMATS = new Map<string, Intl.DateTimeFormat>();

function format(locale: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${locale} ${JSON.stringify(options)}`;
  const known = FORMATS.get(key);
  if (known) return known;
  const made = new Intl.DateTimeFormat(locale, { ...options, timeZone: 'UTC' });
  FORMATS.set(key, made);
  return made;
}

/** Whether a date is past or more than ten months off, so that it needs its year to mean just that day. */
export function needsYear(date: LocalDate, today: LocalDate): boolean {
  const away = parseDay(date) - parseDay(today);
  return away < 0 || away >= 300;
}

/** A date in words, in the order of the language: “Saturday 5 December 2026”. */
export function dateIn(
  { locale, language }: Speech,
  date: LocalDate,
  { weekday = false, year = false }: { weekday?: boolean; year?: boolean } = {},
): string {
  const text = format(locale, {
    day: 'numeric',
    month: 'long',
    ...(weekday ? { weekday: 'long' as const } : {}),
    ...(year ? { year: 'numeric' as const } : {}),
  }).format(new Date(`${date}T00:00:00Z`));
  // In English the comma behind the weekday comes and goes with the year; without it all are alike.
  return language === 'en' ? text.replace(',', '') : text;
}

const NAMES = new Map<string, string[]>();

function names(key: string, make: () => string[]): readonly string[] {
  const known = NAMES.get(key) ?? make();
  NAMES.set(key, known);
  return known;
}

/** The names of the weekdays from Monday. */
export function weekdayNames({ locale }: Speech): readonly string[] {
  return names(`${locale} days`, () =>
    // 4 January 2027 is a Monday.
    Array.from({ length: 7 }, (_, i) =>
      format(locale, { weekday: 'long' }).format(Date.UTC(2027, 0, 4 + i)),
    ),
  );
}

/** The names of the months from January. */
export function monthNames({ locale }: Speech): readonly string[] {
  return names(`${locale} months`, () =>
    Array.from({ length: 12 }, (_, i) =>
      format(locale, { month: 'long' }).format(Date.UTC(2027, i, 1)),
    ),
  );
}

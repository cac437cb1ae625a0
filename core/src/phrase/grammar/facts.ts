import type { Day, Weekday } from '../../calendar/day.ts';
import type { Span } from '../../calendar/span.ts';
import type { ClosedDays, OpenDays } from '../../calendar/workdays.ts';
import type { WeekdayPart } from '../../rule/rule.ts';
import type { Per } from '../../rule/workdays.ts';
import type { QuotaPer } from '../../series/plan/quota.ts';
import type { Reminder } from '../../series/reminding/reminders.ts';
import type { Token } from './tokens.ts';
import type { Unit } from './words.ts';

/** A date as written: it may lack its year, its month, or name no day of the calendar. */
export type WrittenDate = (
  | { kind: 'day'; day: Day }
  /** The next such day on or after another one. */
  | { kind: 'yearless'; month: number; day: number }
  | { kind: 'monthEnd'; month: number }
  /** A month alone: its first day where something begins, its last where something ends. */
  | { kind: 'month'; month: number; year?: number }
  | { kind: 'dayOfMonth'; day: number }
  | { kind: 'impossible'; message: string }
) & {
  /** What the same words may mean as well. */
  or?: OtherDate;
};

/** Another date that was meant perhaps, with the words in the text that say the one or the other. */
export interface OtherDate {
  why: 'nextDay' | 'dateOrder';
  date: WrittenDate;
  from: number;
  to: number;
}

/** What one clause of a sentence says. */
export type Fact =
  | { fact: 'every'; n: number; unit: Unit }
  | { fact: 'weekdays'; days: Weekday[]; n: number; repeats: boolean; nth?: number }
  | { fact: 'notOn'; days: Weekday[] }
  | {
      fact: 'monthDays';
      days: number[];
      n: number;
      repeats: boolean;
      lacking?: 'last' | 'omit';
      months?: number[];
    }
  | { fact: 'positions'; days: WeekdayPart[]; n: number; repeats: boolean; months?: number[] }
  /** The first, last … of a set of days, as “the last weekday of the month”. */
  | {
      fact: 'ofSet';
      days: Weekday[];
      nth: number[];
      n: number;
      repeats: boolean;
      months?: number[];
    }
  | { fact: 'months'; months: number[] }
  | { fact: 'quota'; n: number; per: QuotaPer | 'year' }
  | { fact: 'workday'; n: number; per: Per }
  | { fact: 'everyWorkdays'; n: number }
  | { fact: 'dates'; dates: WrittenDate[] }
  | { fact: 'except'; dates: WrittenDate[] }
  | { fact: 'extra'; dates: WrittenDate[] }
  /** Single times of several a day. */
  | { fact: 'exceptAt'; moments: { minute: number; date: WrittenDate }[] }
  | { fact: 'extraAt'; moments: { minute: number; date: WrittenDate }[] }
  | { fact: 'onto'; days: Weekday[] }
  | { fact: 'ontoRule'; from: number; to: number }
  | { fact: 'closed'; how: ClosedDays }
  | { fact: 'after'; every: Span; workdays: boolean }
  /** By the calendar, said in so many words. */
  | { fact: 'fixed' }
  | { fact: 'date'; date: WrittenDate }
  /** With `isWeak` only where something comes back: “A letter from May” is a title. */
  | { fact: 'start'; date: WrittenDate; isWeak?: boolean }
  /** The day that it is counted from, which need be none of its own. */
  | { fact: 'counted'; date: WrittenDate }
  /** The day on which it was done the last time. */
  | { fact: 'lastDone'; date: WrittenDate }
  | { fact: 'until'; date: WrittenDate }
  | { fact: 'range'; from: WrittenDate; to: WrittenDate }
  | { fact: 'times'; n: number }
  | { fact: 'within'; within: Span }
  /** With `eachDay` the times alone say that it comes back. */
  | {
      fact: 'at';
      minutes: number[];
      /** One hour that may be meant of the other half of the day. */
      bareHour?: boolean;
      /** No hour says its half of the day. */
      isBare?: boolean;
      eachDay?: boolean;
    }
  | { fact: 'part'; minute: number }
  | { fact: 'opens'; before: Span }
  | { fact: 'waits' }
  | { fact: 'lapses'; grace: Span | null }
  | { fact: 'owes' }
  | { fact: 'remind'; reminders: Reminder[] }
  /** A part of the definition, as the table of parts has it read. */
  | { fact: 'part of it'; part: string; value: unknown }
  | { fact: 'pause'; from: WrittenDate; to: WrittenDate | null }
  | { fact: 'once' }
  | { fact: 'undated' }
  | { fact: 'rule'; from: number; to: number }
  /** Said without saying exactly when: the exact ways to say it, the first of which is taken. */
  | { fact: 'vague'; asks: string; choices: readonly string[] }
  /** Words that only join others. */
  | { fact: 'filler' };

export type FactOf<K extends Fact['fact']> = Extract<Fact, { fact: K }>;

/** In which order the numbers of a date are written. */
export type DateOrder = 'dmy' | 'mdy' | 'ymd';

/** What the words of a sentence depend on beside each other. */
export interface Context {
  today: Day;
  dateOrder: DateOrder;
  /** The person's first day of the week, 0 for Monday. */
  weekStart: number;
  /** The places that the person has, as lower-case words. */
  places: readonly { id: string; name: string; words: readonly string[] }[];
  text: string;
  /** The person's working days and holidays. */
  open: OpenDays;
  /** Whether a clause begins at a token. */
  begins(tokens: readonly Token[], at: number): boolean;
  /** What a text of clauses alone says; null where some of it is none. */
  factsOf(words: string): Fact[] | null;
  /** Whether a clause ends just before a token. */
  isBehind(at: number): boolean;
}

/** A piece that was read: its value and the index of the token behind it. */
export type Read<T> = { value: T; next: number } | null;
export type Reader<T> = (tokens: readonly Token[], at: number, context: Context) => Read<T>;

/** Stands for any number, date or time in figures among the beginnings of a clause. */
export const FIGURES = '#';

export interface Clause {
  (tokens: readonly Token[], at: number, context: Context): { facts: Fact[]; next: number } | null;
  /** The words that it can begin with, {@link FIGURES} for numbers; left out: any that may begin one. */
  starts?: ReadonlySet<string>;
}

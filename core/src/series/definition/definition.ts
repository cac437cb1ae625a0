import { parseDay, type Day, type LocalDate } from '../../calendar/day.ts';
import type { Span } from '../../calendar/span.ts';
import { parseTime, type LocalMoment, type LocalTime } from '../../calendar/time.ts';
import type { ClosedDays } from '../../calendar/workdays.ts';
import type { Per } from '../../rule/workdays.ts';
import type { Pause } from '../plan/pauses.ts';
import type { QuotaPer } from '../plan/quota.ts';
import type { Reminder } from '../reminding/reminders.ts';

/** How a to-do repeats. */
export type Repeat =
  /**
   * By the calendar, whatever day it gets done; `rule` is an RRULE value (RFC 5545 §3.3.10). A date that is
   * excepted or added has all times of day, a date and time that one.
   */
  | { by: 'calendar'; rule: string; except?: LocalMoment[]; extra?: LocalMoment[] }
  /** The nth working day of each month, quarter or year, from its end where it is negative. */
  | { by: 'calendar'; workday: number; per: Per }
  /** Each nth working day. */
  | { by: 'calendar'; everyWorkdays: number }
  /** A span after it was last done; then on to the first date of the RRULE value `onto`. */
  | { by: 'completion'; every: Span; workdays?: boolean; onto?: string }
  /** On dates that were picked. */
  | { by: 'dates'; dates: LocalDate[] }
  /** So many times in each day, week or month, on no set day. */
  | { by: 'quota'; times: number; per: QuotaPer };

/** When a to-do ends: with a date, after so many times, or after a span from its start. */
export type Ends = { on: LocalDate } | { after: number } | { within: Span };

/** When a to-do comes back: all that the machine reads. What it is, is in `Details`. */
export interface Series {
  /** No time falls before it; null only for a one-off with no date yet. */
  start: LocalDate | null;
  /** The times of day, in order; absent for any time that day. Several are several times a day. */
  at?: LocalTime[];
  /** Null for a one-off. */
  repeat: Repeat | null;
  ends?: Ends | null;
  /** What becomes of a due day that is closed; default `keep`. */
  closedDays?: ClosedDays;
  /** How long before due it opens. */
  opensBefore?: Span;
  /**
   * What becomes of one left unfinished: its plan goes along day by day, it waits as it is, or it
   * ends as missed when it is over; default `roll`.
   */
  late?: Late;
  /** With `lapse`: how long after due it may still be done. */
  grace?: Span;
  /** Whether an older open one ends when a newer one opens; default `latest`. */
  owe?: Owe;
  /** The stretches of days in which nothing comes, in order. */
  pauses?: Pause[];
  /** When to speak up about each time; none where left out. */
  reminders?: Reminder[];
}

export type Late = 'roll' | 'wait' | 'lapse';
export type Owe = 'latest' | 'every';

/** The rule of a definition that repeats by one, or null. */
export function ruleOf({ repeat }: Series): string | null {
  return repeat && 'rule' in repeat ? repeat.rule : null;
}

/** The first time of day of a definition in minutes, or null for any time that day. */
export function minuteOf(series: Series): number | null {
  return series.at?.[0] === undefined ? null : parseTime(series.at[0]);
}

/** The day on which nothing may start or continue before. @internal */
export function startDay(series: Series): Day | null {
  return series.start === null ? null : parseDay(series.start);
}

import type { Weekday } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';

export type Frequency = 'DAILY' | 'WEEKLY' | 'MONTHLY' | 'YEARLY';

/** What to do with a day that a month lacks (RFC 7529 §4.1). */
export type Skip = 'OMIT' | 'BACKWARD' | 'FORWARD';

/** A day of the week; with an ordinal, the nth of the month or year, from its end when negative. */
export interface WeekdayPart {
  ordinal: number | null;
  weekday: Weekday;
}

/** A recurrence rule by days (RFC 5545 §3.3.10), as read from text. */
export interface Rule {
  freq: Frequency;
  /** 1 and more. */
  interval: number;
  byDay: WeekdayPart[];
  /** 1 to 31, or −1 to −31 from the end of the month. */
  byMonthDay: number[];
  /** 1 to 12. */
  byMonth: number[];
  count: number | null;
  until: LocalMoment | null;
  weekStart: Weekday;
  skip: Skip;
}

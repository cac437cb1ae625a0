import { WEEKDAYS, type Weekday } from '../calendar/day.ts';

export type Frequency =
  'SECONDLY' | 'MINUTELY' | 'HOURLY' | 'DAILY' | 'WEEKLY' | 'MONTHLY' | 'YEARLY';

/** What to do with a day that a month lacks (RFC 7529 §4.1). */
export type Skip = 'OMIT' | 'BACKWARD' | 'FORWARD';

/** A day of the week; with an ordinal, the nth of the month or year, from its end when negative. */
export interface WeekdayPart {
  ordinal: number | null;
  weekday: Weekday;
}

/** A recurrence rule (RFC 5545 §3.3.10), as read from text. Lists that were not given are empty. */
export interface Rule {
  freq: Frequency;
  /** 1 and more. */
  interval: number;
  /** 0 to 60; 60 counts as 59 (RFC 5545 §3.3.12). */
  bySecond: number[];
  /** 0 to 59. */
  byMinute: number[];
  /** 0 to 23. */
  byHour: number[];
  byDay: WeekdayPart[];
  /** 1 to 31, or −1 to −31 from the end of the month. */
  byMonthDay: number[];
  /** 1 to 366, or −1 to −366 from the end of the year. */
  byYearDay: number[];
  /** 1 to 53, or −1 to −53 from the end of the year. */
  byWeekNo: number[];
  /** 1 to 12. */
  byMonth: number[];
  /** 1 to 366, or −1 to −366 from the end of each period’s set. */
  bySetPos: number[];
  count: number | null;
  /** `2027-01-31`, `2027-01-31T09:00` or `…:30`; with `Z` at its end it is in UTC. Inclusive. */
  until: string | null;
  weekStart: Weekday;
  skip: Skip;
}

/** Days of the week, in its order, as the parts of a weekly rule. */
export function weekdayParts(days: readonly Weekday[]): WeekdayPart[] {
  return WEEKDAYS.filter((day) => days.includes(day)).map((weekday) => ({
    ordinal: null,
    weekday,
  }));
}

/** A rule with nothing but its frequency. */
export function plainRule(freq: Frequency): Rule {
  return {
    freq,
    interval: 1,
    bySecond: [],
    byMinute: [],
    byHour: [],
    byDay: [],
    byMonthDay: [],
    byYearDay: [],
    byWeekNo: [],
    byMonth: [],
    bySetPos: [],
    count: null,
    until: null,
    weekStart: 'MO',
    skip: 'OMIT',
  };
}

const CLOCK_FREQUENCIES: readonly Frequency[] = ['SECONDLY', 'MINUTELY', 'HOURLY'];

/** Whether a rule counts in hours, minutes or seconds. */
export function isSubDaily(rule: Rule): boolean {
  return CLOCK_FREQUENCIES.includes(rule.freq);
}

/** Whether a rule says something about the time of day, and not about days alone. */
export function hasTimes(rule: Rule): boolean {
  return (
    rule.byHour.length > 0 ||
    rule.byMinute.length > 0 ||
    rule.bySecond.length > 0 ||
    isSubDaily(rule)
  );
}

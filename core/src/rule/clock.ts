import { LAST_DAY, type Day } from '../calendar/day.ts';
import { dayFilterOf } from './days.ts';
import { atPlaces, greatestCommonDivisor, inOrder } from './periods.ts';
import type { Rule } from './rule.ts';
import type { Periods } from './sequence.ts';

/** Seconds since 1970-01-01T00:00 of a civil date and time, as though it had no zone. */
export type Stamp = number;

export const DAY_SECONDS = 86400;

const HOUR = 3600;
const MINUTE = 60;

/**
 * The times of day of a rule of days, in seconds, each once and in order: BYHOUR, BYMINUTE, BYSECOND.
 * Those of a DAILY rule are the set of its period, from which BYSETPOS chooses.
 */
export function timesOf(rule: Rule, start: Stamp): number[] {
  const time = start - Math.floor(start / DAY_SECONDS) * DAY_SECONDS;
  if (
    !rule.byHour.length &&
    !rule.byMinute.length &&
    !rule.bySecond.length &&
    !rule.bySetPos.length
  )
    return [time];
  const hours = rule.byHour.length ? rule.byHour : [Math.floor(time / HOUR)];
  const minutes = minutesOf(rule, time);
  const all = ordered(hours.flatMap((hour) => minutes.map((rest) => hour * HOUR + rest)));
  return rule.freq === 'DAILY' && rule.bySetPos.length ? atPlaces(all, rule.bySetPos) : all;
}

/** Seconds within the hour. */
function minutesOf(rule: Rule, time: number): number[] {
  const minutes = rule.byMinute.length ? rule.byMinute : [Math.floor((time % HOUR) / MINUTE)];
  return minutes.flatMap((minute) => secondsOf(rule, time).map((rest) => minute * MINUTE + rest));
}

/** Seconds within the minute; 60 counts as 59 (RFC 5545 §3.3.12). */
function secondsOf(rule: Rule, time: number): number[] {
  return rule.bySecond.length
    ? rule.bySecond.map((second) => Math.min(second, 59))
    : [time % MINUTE];
}

const ordered = (items: readonly number[]) => [...new Set(items)].sort((a, b) => a - b);

/** The periods of a rule of days, with each of its days at each of its times. */
export function withTimes(days: Periods, times: readonly number[]): Periods {
  const room = days.room * times.length;
  const count = times.length;
  return {
    spills: days.spills,
    size: days.size === null ? null : days.size * count,
    empty: days.empty,
    room,
    indexOf: (at) => days.indexOf(Math.floor(at / DAY_SECONDS)),
    begins: (index) => days.begins(index) * DAY_SECONDS,
    skip: count ? days.skip : () => -1,
    fill(index, into) {
      const n = days.fill(index, into);
      // From behind, so that a day is read before its place is written.
      for (let i = n - 1; i >= 0; i--) {
        const begins = into[i]! * DAY_SECONDS;
        for (let k = count - 1; k >= 0; k--) into[i * count + k] = begins + times[k]!;
      }
      return n * count;
    },
  };
}

/** Leaves of each period the candidates at these places (RFC 5545 §3.3.10, BYSETPOS). */
export function atPositions(periods: Periods, positions: readonly number[]): Periods {
  const places = ordered(positions);
  const all = new Array<number>(Math.max(1, periods.room)).fill(0);
  return {
    ...periods,
    size: null,
    room: places.length,
    fill(index, into) {
      const n = periods.fill(index, all);
      let kept = 0;
      for (const place of places) {
        const at = place > 0 ? place - 1 : n + place;
        if (at >= 0 && at < n) into[kept++] = all[at]!;
      }
      return inOrder(into, kept, 0);
    },
  };
}

const UNIT = { HOURLY: HOUR, MINUTELY: MINUTE, SECONDLY: 1 } as const;

/**
 * Cuts a rule in hours, minutes or seconds into its periods. What BYMONTH, BYYEARDAY, BYMONTHDAY,
 * BYDAY, BYHOUR, BYMINUTE and BYSECOND limit is jumped over, not walked through.
 */
export function clockPeriodsOf(rule: Rule, start: Stamp): Periods {
  const unit = UNIT[rule.freq as keyof typeof UNIT];
  const step = unit * rule.interval;
  const origin = Math.floor(start / unit) * unit;
  const time = start - Math.floor(start / DAY_SECONDS) * DAY_SECONDS;
  const all = ordered(
    unit === HOUR ? minutesOf(rule, time) : unit === MINUTE ? secondsOf(rule, time) : [0],
  );
  // Every period that is not jumped over has the same set: BYSETPOS chooses from it once for all.
  const within = rule.bySetPos.length ? atPlaces(all, rule.bySetPos) : all;
  const filter = dayFilterOf(rule);
  const clock = clockLimit(rule, unit);
  const never = within.length === 0 || isNever();
  const indexAt = (at: Stamp) => Math.ceil((at - origin) / step);

  /** Whether no period ever begins at a time of day, or on a weekday, that is wanted. */
  function isNever(): boolean {
    const first = Math.floor(origin / DAY_SECONDS);
    const weeks = step % (7 * DAY_SECONDS) === 0;
    if (filter && weeks && rule.byDay.length && filter.from(first) !== first && !anyWeekday(first))
      return true;
    if (!clock) return false;
    const every = greatestCommonDivisor(step, DAY_SECONDS);
    for (let at = (origin - first * DAY_SECONDS) % every; at < DAY_SECONDS; at += every)
      if (clock(at) === at) return false;
    return true;
  }

  function skipTo(index: number): number {
    if (never) return -1;
    for (let i = index; ;) {
      const at = origin + i * step;
      const day = Math.floor(at / DAY_SECONDS);
      if (day > LAST_DAY) return -1;
      const fitting = filter ? filter.from(day) : day;
      if (fitting === Infinity) return -1;
      if (fitting > day) {
        i = indexAt(fitting * DAY_SECONDS);
        continue;
      }
      const time = at - day * DAY_SECONDS;
      const wanted = clock ? clock(time) : time;
      if (wanted === time) return i;
      i = indexAt(wanted === Infinity ? (day + 1) * DAY_SECONDS : day * DAY_SECONDS + wanted);
    }
  }

  function anyWeekday(day: Day): boolean {
    const test = dayFilterOf({ ...rule, byMonth: [], byMonthDay: [], byYearDay: [] });
    return test === null || test.fits(day);
  }

  return {
    spills: 0,
    size: filter || clock ? null : within.length,
    empty: NEVER_ENDS,
    room: within.length,
    indexOf: (at) => Math.floor((at - origin) / step),
    begins: (index) => origin + index * step,
    skip: filter || clock || never ? skipTo : null,
    fill(index, into) {
      const at = origin + index * step;
      const day = Math.floor(at / DAY_SECONDS);
      if (filter && !filter.fits(day)) return 0;
      const time = at - day * DAY_SECONDS;
      if (clock && clock(time) !== time) return 0;
      for (let k = 0; k < within.length; k++) into[k] = at + within[k]!;
      return within.length;
    },
  };
}

/** Periods that hold nothing are jumped over: there is no need to give up. */
const NEVER_ENDS = 2 ** 30;

/**
 * The times of day at which a period may begin, where BYHOUR, BYMINUTE or BYSECOND limit it: gives
 * the first such time from `time` on, or Infinity when there is none left that day.
 */
function clockLimit(rule: Rule, unit: number): ((time: number) => number) | null {
  const hours = rule.byHour.length ? ordered(rule.byHour) : null;
  const minutes = unit < HOUR && rule.byMinute.length ? ordered(rule.byMinute) : null;
  const seconds = unit < MINUTE && rule.bySecond.length ? ordered(secondsOf(rule, 0)) : null;
  if (!hours && !minutes && !seconds) return null;
  const nextIn = (items: readonly number[] | null, from: number, most: number): number => {
    if (!items) return from <= most ? from : -1;
    const found = items.find((item) => item >= from);
    return found === undefined ? -1 : found;
  };
  return (time) => {
    let hour = Math.floor(time / HOUR);
    let minute = Math.floor((time % HOUR) / MINUTE);
    let second = time % MINUTE;
    for (;;) {
      const h = nextIn(hours, hour, 23);
      if (h < 0) return Infinity;
      if (h > hour) minute = second = 0;
      const m = nextIn(minutes, minute, 59);
      if (m < 0) {
        hour = h + 1;
        minute = second = 0;
        continue;
      }
      if (m > minute) second = 0;
      const s = nextIn(seconds, second, 59);
      if (s < 0) {
        hour = h;
        minute = m + 1;
        second = 0;
        continue;
      }
      return h * HOUR + m * MINUTE + s;
    }
  };
}

import { parseDay, type Day } from '../../calendar/day.ts';
import { parseTime, type CivilMoment } from '../../calendar/time.ts';
import type { OpenDays } from '../../calendar/workdays.ts';
import { parseRule } from '../../rule/parse.ts';
import { ruleOf, type Series } from '../definition/definition.ts';
import { slotDaysOf } from './slotDays.ts';

/** The slots of a to-do that repeats by the calendar, in order: each of its days at each of its times. */
export interface Slots {
  /** The first after `after`, or the first of all. */
  next(after: CivilMoment | null): CivilMoment | null;
  /** The last before `before`, or null. */
  previous(before: CivilMoment): CivilMoment | null;
  /** The day of the last slot before this day, or null. */
  dayBefore(day: Day): Day | null;
  /** How many there are after `after` (exclusive; of all where it is null), up to `to` (inclusive). */
  count(after: CivilMoment | null, to: CivilMoment): number;
}

/**
 * The slots of a definition (R1, R4, R11), up to `last`; null where the calendar does not yield
 * them. Each date gives one slot for each time of day. COUNT of a rule counts dates; how many times
 * there were (`after`) is counted as they come, by what is left of them.
 * @param momentOf the person’s local date and time at an instant, for an UNTIL in UTC
 */
export function slotsOf(
  series: Series,
  last: Day,
  open: OpenDays,
  momentOf: (utc: string) => CivilMoment,
  spend: () => void = () => undefined,
): Slots | null {
  const minutes = series.at?.map((time) => parseTime(time)) ?? [null];
  const until = untilOf(series, minutes, momentOf);
  const each = minutes.length;
  const cut = (day: Day): readonly (number | null)[] => {
    if (each === 1 || day !== until.cutDay) return minutes;
    return minutes.filter((minute) => minute! <= until.minute!);
  };
  const found = slotDaysOf(series, last, open, until.day, cut as (day: Day) => number[], spend);
  if (!found || series.start === null) return null;
  const { days, edited } = found;
  const start = parseDay(series.start);
  const timesOn = (day: Day) => edited.get(day) ?? cut(day);
  /** Days with other times than the usual ones. */
  const other = [...new Set([...edited.keys(), ...(until.cutDay === null ? [] : [until.cutDay])])];
  const holds = (day: Day) => days.next(day - 1) === day;
  /** How many there are on one day after the one time of day, up to the other. */
  const within = (day: Day, after: number, to: number): number =>
    holds(day) ? timesOn(day).filter((time) => (time ?? 0) > after && (time ?? 0) <= to).length : 0;
  /** How many there are on whole days after `after`, up to `to`. */
  const onDays = (after: Day, to: Day): number => {
    if (to <= after) return 0;
    const fewer = other
      .filter((day) => day > after && day <= to && holds(day))
      .map((day) => each - timesOn(day).length);
    return days.count(after, to) * each - fewer.reduce((sum, n) => sum + n, 0);
  };
  const count = (after: CivilMoment | null, to: CivilMoment): number => {
    const end = to.minute ?? 1440;
    if (after === null || after.day < start)
      return onDays(start - 1, to.day - 1) + within(to.day, -1, end);
    const since = after.minute ?? 1440;
    if (after.day >= to.day) return after.day > to.day ? 0 : within(to.day, since, end);
    return within(after.day, since, 1440) + onDays(after.day, to.day - 1) + within(to.day, -1, end);
  };

  return {
    next(from) {
      // A day of which only the first times have gone by.
      const since = from?.minute ?? 1440;
      if (from && minutes.at(-1)! > since && holds(from.day)) {
        const minute = timesOn(from.day).find((time) => time! > since);
        if (minute !== undefined) return { day: from.day, minute };
      }
      const day = days.next(from ? from.day : start - 1);
      return day === null ? null : { day, minute: timesOn(day)[0]! };
    },
    previous(before) {
      if (minutes[0] !== null && holds(before.day)) {
        const minute = timesOn(before.day).findLast((time) => time! < (before.minute ?? 0));
        if (minute !== undefined) return { day: before.day, minute };
      }
      const day = days.previous(before.day);
      return day === null ? null : { day, minute: timesOn(day).at(-1)! };
    },
    dayBefore: (day) => days.previous(day),
    count,
  };
}

interface Until {
  /** The last day on which the rule may yield a slot; null without an UNTIL. */
  day: Day | null;
  /** The day on which times of day later than `minute` are beyond it. */
  cutDay: Day | null;
  minute: number | null;
}

const NO_UNTIL: Until = { day: null, cutDay: null, minute: null };

/**
 * What UNTIL allows (RFC 5545 §3.3.10: inclusive; a date-time in UTC is brought to the zone of the
 * start). An added date is not of the rule and keeps all its times.
 */
function untilOf(
  series: Series,
  minutes: readonly (number | null)[],
  momentOf: (utc: string) => CivilMoment,
): Until {
  const rule = ruleOf(series);
  const until = rule === null ? null : parseRule(rule).until;
  if (until === null) return NO_UNTIL;
  const { day, minute } = until.endsWith('Z')
    ? momentOf(until)
    : { day: parseDay(until.slice(0, 10)), minute: until.includes('T') ? clock(until) : null };
  if (minute === null || minutes[0] === null) return { ...NO_UNTIL, day };
  if (minutes[0]! > minute) return { ...NO_UNTIL, day: day - 1 };
  const repeat = series.repeat as { extra?: string[] };
  const added = repeat.extra?.some((it) => it.length === 10 && parseDay(it) === day);
  return { day, cutDay: added ? null : day, minute };
}

const clock = (until: string) => parseTime(until.slice(11, 16));

import { LAST_DAY, formatDay, parseDay, type Day } from '../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../calendar/span.ts';
import { formatMoment, type LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { datesOf } from '../rule/expand.ts';
import { parseRule } from '../rule/parse.ts';
import { minuteOf, startDay, type Series } from './definition.ts';
import { UNDATED, type Pending, type Progress } from './progress.ts';
import { clockOf, type PersonalClock, type Settings } from './settings.ts';

/** A definition made ready to compute with: where its next slots are. */
export interface Plan {
  series: Series;
  clock: PersonalClock;
  /** When a time with this due moment opens. */
  opensAt(due: LocalMoment): Instant;
  /** By the calendar: the first slot after `after`, or the first of all; null when there is none. */
  slotAfter(after: LocalMoment | null): Pending | null;
  /** By the calendar: the day of the slot before this day, or null. */
  slotDayBefore(day: Day): Day | null;
  /** The first time of a one-off or an after-I-finish repeat; `at` is when the to-do came to be. */
  first(at: Instant): Pending | null;
  /** After I finish: the time that follows one that ended at `ended`, counted as R7 and R8 say. */
  following(
    from: { day: Day; instant: Instant },
    previous: LocalMoment | null,
    done: number,
  ): Pending | null;
}

/** Prepares a checked definition for a person with these settings. */
export function planOf(series: Series, settings: Settings): Plan {
  const clock = clockOf(settings);
  const minute = minuteOf(series);
  const start = startDay(series);
  const last = lastDayOf(series);
  const lead = series.opensBefore === undefined ? null : parseSpan(series.opensBefore);

  const opensAt = (due: LocalMoment): Instant => {
    if (!lead) return clock.startOf(clock.dayOfMoment(due));
    if (!isClockSpan(lead)) return clock.startOf(addToDay(clock.dayOfMoment(due), lead, -1));
    const early = clock.instantOf(due) - lead.minutes * 60000;
    return clock.startOf(clock.dayAt(early));
  };
  const pending = (slot: LocalMoment): Pending => {
    const due = clock.shown(slot);
    return { slot, due, opensAt: opensAt(due) };
  };
  const onDay = (day: Day): Pending => pending(formatMoment({ day, minute }));

  const dates =
    series.repeat?.by === 'calendar' && start !== null
      ? datesOf(withEnds(series, last), start)
      : null;
  const every = series.repeat?.by === 'completion' ? parseSpan(series.repeat.every) : null;

  return {
    series,
    clock,
    opensAt,
    slotAfter(after) {
      const day = dates?.next(after === null ? start! - 1 : parseDay(after.slice(0, 10))) ?? null;
      return day === null ? null : onDay(day);
    },
    slotDayBefore: (day) => dates?.previous(day) ?? null,
    first(at) {
      if (dates) return null;
      if (start === null) return { slot: UNDATED, due: null, opensAt: at };
      return onDay(start);
    },
    following(from, previous, done) {
      if (!every) return null;
      if (series.ends && 'after' in series.ends && done >= series.ends.after) return null;
      if (!isClockSpan(every)) {
        const day = addToDay(from.day, every);
        return day > last ? null : onDay(day);
      }
      const due = clock.momentAt(from.instant + every.minutes * 60000);
      const day = clock.dayOfMoment(due);
      if (day > last) return null;
      // A second one on a day that already had one opens when it is due (R5).
      const again = previous !== null && clock.dayOfMoment(previous) === day;
      return { slot: due, due, opensAt: again ? clock.instantOf(due) : opensAt(due) };
    },
  };
}

/** The last day on which a slot may fall (R11): `within` is half open. */
export function lastDayOf(series: Series): Day {
  const { ends } = series;
  if (!ends) return LAST_DAY;
  if ('on' in ends) return parseDay(ends.on);
  if ('within' in ends && series.start !== null)
    return addToDay(parseDay(series.start), parseSpan(ends.within)) - 1;
  return LAST_DAY;
}

function withEnds(series: Series, last: Day) {
  const rule = parseRule(series.repeat?.by === 'calendar' ? series.repeat.rule : '');
  const after = series.ends && 'after' in series.ends ? series.ends.after : Infinity;
  const count = Math.min(rule.count ?? Infinity, after);
  const until = rule.until === null ? last : Math.min(last, parseDay(rule.until.slice(0, 10)));
  return { ...rule, count: count === Infinity ? null : count, until: formatDay(until) };
}

/** The next time that has not opened, or null: by the calendar the first one not finished ahead. */
export function upcoming(plan: Plan, progress: Progress): Pending | null {
  if (plan.series.repeat?.by !== 'calendar') return progress.pending;
  let next = plan.slotAfter(progress.passed);
  while (next && progress.ahead.includes(next.slot)) next = plan.slotAfter(next.slot);
  return next;
}

/**
 * Takes a to-do over to other settings of its person: what has not opened opens by the new ones.
 * `progress` has been advanced to now by the old ones.
 */
export function resettle(from: Plan, to: Plan, progress: Progress): Progress {
  const { pending } = progress;
  if (!pending || pending.due === null) return progress;
  const atItsDay = pending.opensAt === from.opensAt(pending.due);
  const opensAt = atItsDay ? to.opensAt(pending.due) : to.clock.instantOf(pending.due);
  return { ...progress, pending: { ...pending, opensAt } };
}

import { LAST_DAY, parseDay, type Day, type LocalDate, type Weekday } from '../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../calendar/span.ts';
import { formatMoment, type LocalMoment } from '../calendar/time.ts';
import { moved, openDaysOf, type OpenDays } from '../calendar/workdays.ts';
import type { Instant } from '../calendar/zone.ts';
import { datesOf } from '../rule/expand.ts';
import { parseRule } from '../rule/parse.ts';
import { minuteOf, startDay, type Repeat, type Series } from './definition.ts';
import { UNDATED, type Pending, type Progress } from './progress.ts';
import { DEFAULT_WORKDAYS, clockOf, type PersonalClock, type Settings } from './settings.ts';
import { slotDaysOf } from './slotDays.ts';

/** A definition made ready to compute with: where its next slots are. */
export interface Plan {
  series: Series;
  clock: PersonalClock;
  /** When a time with this due moment opens. */
  opensAt(due: LocalMoment): Instant;
  /** Whether the calendar yields its slots, and not what became of the one before. */
  byCalendar: boolean;
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

const NO_HOLIDAYS: readonly LocalDate[] = [];

/** Open days made so far, by the list of holidays: all to-dos of a person share theirs. */
const made = new WeakMap<readonly LocalDate[], Map<string, OpenDays>>();

function openDaysFor(workdays: readonly Weekday[], holidays: readonly LocalDate[]): OpenDays {
  const byWorkdays = made.get(holidays) ?? new Map<string, OpenDays>();
  made.set(holidays, byWorkdays);
  const key = workdays.join();
  const open = byWorkdays.get(key) ?? openDaysOf(workdays, holidays);
  byWorkdays.set(key, open);
  return open;
}

/**
 * Prepares a checked definition for a person with these settings.
 * @param holidays the public holidays of their region, as dates
 */
export function planOf(
  series: Series,
  settings: Settings,
  holidays: readonly LocalDate[] = NO_HOLIDAYS,
): Plan {
  const clock = clockOf(settings);
  const minute = minuteOf(series);
  const start = startDay(series);
  const last = lastDayOf(series);
  const lead = series.opensBefore === undefined ? null : parseSpan(series.opensBefore);
  const open = openDaysFor(settings.workdays ?? DEFAULT_WORKDAYS, holidays);
  const { repeat, closedDays = 'keep' } = series;

  const opensAt = (due: LocalMoment): Instant => {
    if (!lead) return clock.startOf(clock.dayOfMoment(due));
    if (!isClockSpan(lead)) return clock.startOf(addToDay(clock.dayOfMoment(due), lead, -1));
    const early = clock.instantOf(due) - lead.minutes * 60000;
    return clock.startOf(clock.dayAt(early));
  };
  /** The slot keeps its day; its due day goes to an open one (R4). */
  const onDay = (day: Day, dueDay = moved(open, day, closedDays) ?? day): Pending => {
    const due = clock.shown(formatMoment({ day: dueDay, minute }));
    return { slot: formatMoment({ day, minute }), due, opensAt: opensAt(due) };
  };
  const days = slotDaysOf(series, last, open);
  const after = repeat?.by === 'completion' ? completionOf(repeat, start!, open) : null;

  return {
    series,
    clock,
    opensAt,
    byCalendar: days !== null,
    slotAfter(slot) {
      const day = days?.next(slot === null ? start! - 1 : parseDay(slot.slice(0, 10))) ?? null;
      return day === null ? null : onDay(day);
    },
    slotDayBefore: (day) => days?.previous(day) ?? null,
    first(at) {
      if (days) return null;
      if (start === null) return { slot: UNDATED, due: null, opensAt: at };
      return onDay(start);
    },
    following(from, previous, done) {
      if (!after) return null;
      if (series.ends && 'after' in series.ends && done >= series.ends.after) return null;
      if (after.minutes === 0) {
        const day = after.dayFrom(from.day);
        if (day === null || day > last) return null;
        const due = moved(open, day, closedDays) ?? day;
        // It never comes back on the day it is counted from, or before it (R4).
        return onDay(day, due > from.day ? due : (moved(open, day, 'after') ?? day));
      }
      const due = clock.momentAt(from.instant + after.minutes * 60000);
      const day = clock.dayOfMoment(due);
      if (day > last) return null;
      // A second one on a day that already had one opens when it is due (R5).
      const again = previous !== null && clock.dayOfMoment(previous) === day;
      return { slot: due, due, opensAt: again ? clock.instantOf(due) : opensAt(due) };
    },
  };
}

/** How far after the finish the next one is: so many minutes, or a day found from that day (R3, R7). */
function completionOf(
  repeat: Extract<Repeat, { by: 'completion' }>,
  start: Day,
  open: OpenDays,
): { minutes: number; dayFrom(day: Day): Day | null } {
  const span = parseSpan(repeat.every);
  const onto = repeat.onto === undefined ? null : datesOf(parseRule(repeat.onto), start);
  // Weeks stay weeks; days alone are counted in working days.
  const inDays = repeat.workdays ? Number(/(\d+)D/u.exec(repeat.every)?.[1] ?? 0) : 0;
  const calendar = { ...span, days: span.days - inDays };
  return {
    minutes: span.minutes,
    dayFrom(day) {
      const reached = addToDay(day, calendar);
      const due = inDays ? open.withRank(open.rank(reached) + inDays) : reached;
      return due === null || !onto ? due : onto.next(due - 1);
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

/** The next time that has not opened, or null: by the calendar the first one not finished ahead. */
export function upcoming(plan: Plan, progress: Progress): Pending | null {
  if (!plan.byCalendar) return progress.pending;
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

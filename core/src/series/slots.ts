import { LAST_DAY, parseDay, type Day, type LocalDate, type Weekday } from '../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../calendar/span.ts';
import { formatMoment, parseMoment, type CivilMoment, type LocalMoment } from '../calendar/time.ts';
import { moved, openDaysOf, type OpenDays } from '../calendar/workdays.ts';
import { parseInstant, type Instant } from '../calendar/zone.ts';
import { datesOf } from '../rule/expand.ts';
import { parseRule } from '../rule/parse.ts';
import { minuteOf, startDay, type Repeat, type Series } from './definition.ts';
import { UNDATED, type Pending, type Progress } from './progress.ts';
import { DEFAULT_WORKDAYS, clockOf, type PersonalClock, type Settings } from './settings.ts';
import { slotsOf } from './slotTimes.ts';

/** A definition made ready to compute with: where its next slots are. */
export interface Plan {
  series: Series;
  clock: PersonalClock;
  /** When a time with this due moment opens. */
  opensAt(due: LocalMoment): Instant;
  /** Whether the calendar yields its slots, and not what became of the one before. */
  byCalendar: boolean;
  /** By the calendar: the first slot after `after`, or the first of all; null when there is none. */
  slotAfter(after: LocalMoment | null): CalendarSlot | null;
  /** By the calendar: whether times open in another order than that of their slots. */
  crossed: boolean;
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

/** A slot that has not opened; `leads` where it is the first one of its day and opens with that day. */
export interface CalendarSlot extends Pending {
  due: LocalMoment;
  leads: boolean;
}

const MOST_MET = 5000;
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
  const several = (series.at?.length ?? 0) > 1;
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
  const openDay = (day: Day) => moved(open, day, closedDays) ?? day;
  const dueOf = (day: Day, at = minute) => clock.shown(formatMoment({ day, minute: at }));
  const onDay = (day: Day, dueDay = openDay(day)): Pending => {
    const due = dueOf(dueDay);
    return { slot: formatMoment({ day, minute }), due, opensAt: opensAt(due) };
  };
  const slots = slotsOf(series, last, open, (utc) =>
    parseMoment(clock.momentAt(parseInstant(utc))),
  );
  /** The slot keeps its day; its due day goes to an open one (R4). */
  const dueAt = (slot: CivilMoment) => dueOf(openDay(slot.day), slot.minute);
  const calendarSlot = (slot: CivilMoment): CalendarSlot => {
    const due = dueAt(slot);
    const before = several ? slots!.previous(slot) : null;
    const leads = before === null || clock.dayOfMoment(dueAt(before)) !== clock.dayOfMoment(due);
    return {
      slot: formatMoment(slot),
      due,
      opensAt: leads ? opensAt(due) : clock.instantOf(due),
      leads,
    };
  };
  const slotAfter = (after: LocalMoment | null): CalendarSlot | null => {
    const slot = slots?.next(after === null ? null : parseMoment(after)) ?? null;
    return slot && calendarSlot(slot);
  };
  const crossed = slots !== null && several && lead !== null;
  const met = new Map<LocalMoment | null, CalendarSlot | null>();
  const after = repeat?.by === 'completion' ? completionOf(repeat, start!, open) : null;

  return {
    series,
    clock,
    opensAt,
    byCalendar: slots !== null,
    slotAfter(after) {
      if (!crossed) return slotAfter(after);
      // Crossed openings walk over the same slots again and again.
      const known = met.get(after);
      if (known !== undefined) return known;
      if (met.size >= MOST_MET) met.clear();
      const found = slotAfter(after);
      met.set(after, found);
      return found;
    },
    crossed,
    slotDayBefore: (day) => slots?.dayBefore(day) ?? null,
    first(at) {
      if (slots) return null;
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
 * The time that opens next, or null: the next slot, but where the first time of a later day opens
 * long before, that one, though others before it are still to open at their own times (R5).
 */
export function nextOpening(plan: Plan, progress: Progress): Pending | null {
  let best = upcoming(plan, progress);
  if (!plan.crossed) return best;
  let slot = best && plan.slotAfter(progress.passed);
  for (; slot; slot = plan.slotAfter(slot.slot)) {
    if (progress.ahead.includes(slot.slot)) continue;
    if (slot.opensAt < best!.opensAt) best = slot;
    // Those that lead a day open in their order, and so do the others.
    if (slot.leads) break;
  }
  return best;
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

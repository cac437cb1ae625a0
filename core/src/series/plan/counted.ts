import { LAST_DAY, parseDay, type Day } from '../../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../../calendar/span.ts';
import { formatMoment, parseMoment, type LocalMoment } from '../../calendar/time.ts';
import { moved, type OpenDays } from '../../calendar/workdays.ts';
import type { Instant } from '../../calendar/zone.ts';
import { datesOf } from '../../rule/expand.ts';
import { parseRule } from '../../rule/parse.ts';
import { minuteOf, startDay, type Repeat } from '../definition/definition.ts';
import { UNDATED, type Pending } from '../life/progress.ts';
import type { PersonalClock } from '../person/settings.ts';
import type { Counted, PlanContext } from './plan.ts';

/** When one that is counted opens, and is due, that a person moved so as to be due at a moment. */
export function countedOn({ series, clock, paused, opensAt }: PlanContext): Counted['countedOn'] {
  const { repeat } = series;
  const inHours = repeat?.by === 'completion' && isClockSpan(parseSpan(repeat.every));
  return (base, wanted) => {
    const pause = repeat && paused.at(clock.dayOfMoment(wanted));
    if (pause && pause.to === Infinity) return 'held';
    const due = pause
      ? clock.shown(formatMoment({ ...parseMoment(wanted), day: pause.to + 1 }))
      : wanted;
    const isAgain =
      inHours &&
      base.previous !== null &&
      clock.dayOfMoment(base.previous) === clock.dayOfMoment(due);
    return { due, opensAt: isAgain ? clock.instantOf(due) : opensAt(due) };
  };
}

/** What comes of a one-off, or after the one before was finished. */
export function countedBy(context: PlanContext): Counted['counted'] {
  const { series, clock, open, last, paused, openDay, opensAt } = context;
  const { repeat, closedDays = 'keep', ends } = series;
  const minute = minuteOf(series);
  const start = startDay(series);
  const after = repeat?.by === 'completion' ? completionOf(repeat, start!, open) : null;
  const most = ends && 'after' in ends ? ends.after : Infinity;
  const onDay = (day: Day, at: number | null, wanted: Day): Pending | 'held' => {
    let dueDay = wanted;
    for (;;) {
      if (dueDay > LAST_DAY) return 'held';
      const due = clock.shown(formatMoment({ day: dueDay, minute: at }));
      const pause = paused.at(clock.dayOfMoment(due));
      // A due day inside a pause goes to the first day after it (R12).
      if (!pause) return { slot: formatMoment({ day, minute: at }), due, opensAt: opensAt(due) };
      if (pause.to === Infinity) return 'held';
      const next = Math.max(pause.to, dueDay) + 1;
      dueDay = closedDays === 'keep' ? next : (moved(open, next, 'after') ?? next);
    }
  };
  return (base, done) => {
    if (base.used) return null;
    if (base.from === null) {
      const day = base.on === undefined ? start : parseDay(base.on);
      if (day === null) return { slot: UNDATED, due: null, opensAt: base.at };
      return onDay(day, minute, openDay(day));
    }
    if (!after || done >= most) return null;
    if (after.minutes === 0) {
      const day = after.dayFrom(base.from.day);
      if (day === null || day > last) return null;
      const due = openDay(day);
      // It never comes back on the day it is counted from, or before it (R4).
      const later = due > base.from.day ? due : (moved(open, day, 'after') ?? day);
      const moment = formatMoment({ day: later, minute });
      const isLater = clock.dayOfMoment(clock.shown(moment)) > base.from.day;
      if (isLater) return onDay(day, minute, later);
      const next = closedDays === 'keep' ? later + 1 : moved(open, later + 1, 'after');
      return onDay(day, minute, next ?? later + 1);
    }
    if (base.from.instant + after.minutes * 60000 > LAST_DAY * 86400000) return null;
    const due = hoursLater(clock, base.from.instant, after.minutes);
    const day = clock.dayOfMoment(due);
    if (day > last) return null;
    const { day: date, minute: at } = parseMoment(due);
    const pending = onDay(date, at, date);
    // A second one on a day that already had one opens when it is due (R5).
    const again = base.previous !== null && clock.dayOfMoment(base.previous) === day;
    if (pending === 'held' || !again || pending.due !== due) return pending;
    return { ...pending, opensAt: clock.instantOf(due) };
  };
}

/**
 * The moment so many minutes after an instant. Of a local time that comes twice the first is meant
 * (R16): where that would not be after the instant any more, it is later by what came twice.
 */
function hoursLater(clock: PersonalClock, from: Instant, minutes: number): LocalMoment {
  const at = from + minutes * 60000;
  const due = clock.momentAt(at);
  const meant = clock.instantOf(due);
  return meant > from ? due : clock.momentAt(at + Math.floor((at - meant) / 60000) * 60000);
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

/**
 * The day on which an after-I-finish one is due that was done on a day (R7), to begin with; null for one
 * that does not count from when it was finished, and where that is out of the calendar.
 */
export function firstAfterDone(repeat: Repeat | null, last: Day, open: OpenDays): Day | null {
  if (repeat?.by !== 'completion') return null;
  const { minutes, dayFrom } = completionOf(repeat, last, open);
  return minutes ? last + Math.floor(minutes / 1440) : dayFrom(last);
}

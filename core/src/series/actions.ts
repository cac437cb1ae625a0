import { formatDay, parseDay, type LocalDate } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import { parseMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { occurrenceOf } from './advance.ts';
import type { Course, Occurrence, Pending, Progress } from './progress.ts';
import { upcoming, type Plan } from './slots.ts';

/** What a person does with one time of a to-do. Without `slot` it is the earliest open one. */
export type Deed =
  | { do: 'done'; slot?: LocalMoment }
  | { do: 'skip'; slot?: LocalMoment }
  /** For this time only: the day to do it, the due moment, or both. */
  | { do: 'move'; slot?: LocalMoment; plan?: LocalDate; due?: LocalMoment };

/** What came of a deed: the course, and the time it was done to; `before` is that time as it was. */
export interface Deeded extends Course {
  time: Occurrence;
  before: Occurrence | null;
}

/**
 * Does a deed at `at`, to a to-do that has been advanced to then. `past` are ended times that the
 * deed may mean: a missed one can still be marked as done (R6). Gives null where no time is found.
 */
export function deed(
  plan: Plan,
  progress: Progress,
  it: Deed,
  at: Instant,
  past: readonly Occurrence[] = [],
): Deeded | null {
  const now: Progress = { ...progress, open: progress.open.map((time) => ({ ...time })) };
  const open = it.slot === undefined ? now.open[0] : now.open.find((time) => time.slot === it.slot);
  if (open) {
    const before = { ...open };
    if (it.do === 'move') {
      move(plan, open, it);
      return { progress: now, ended: [], time: open, before };
    }
    close(plan, now, open, it.do, at);
    now.open = now.open.filter((time) => time !== open);
    return { progress: now, ended: [open], time: open, before };
  }
  if (it.slot === undefined || it.do === 'move') return null;
  const missed = past.find((time) => time.slot === it.slot && time.status === 'missed');
  if (missed) return it.do === 'done' ? finishMissed(plan, now, missed, at) : null;
  return finishAhead(plan, now, it.slot, it.do, at);
}

/** Moves a time (R9): `due` alone takes the plan along unless that had been moved by itself. */
function move(plan: Plan, time: Occurrence, to: { plan?: LocalDate; due?: LocalMoment }): void {
  if (to.due !== undefined) {
    const due = plan.clock.shown(to.due);
    parseMoment(due, 'due');
    time.due = due;
    if (to.plan === undefined && time.planBy !== 'person')
      time.plan = formatDay(plan.clock.dayOfMoment(due));
  }
  if (to.plan !== undefined) {
    parseDay(to.plan, 'plan');
    time.plan = to.plan;
    time.planBy = 'person';
  }
  time.moved = true;
}

function close(
  plan: Plan,
  now: Progress,
  time: Occurrence,
  how: 'done' | 'skip',
  at: Instant,
): void {
  time.status = how === 'done' ? 'done' : 'skipped';
  time.closedAt = at;
  if (how === 'done') countDone(plan, now, time, at);
  now.pending = following(plan, now, time, how, at);
}

function countDone(plan: Plan, now: Progress, time: Occurrence, at: Instant): void {
  now.done += 1;
  now.lastDone = Math.max(now.lastDone ?? at, at);
  if (time.due !== null) {
    const late = plan.clock.dayAt(at) - plan.clock.dayOfMoment(time.due);
    now.lateness = [...now.lateness, late].slice(-5);
  }
}

/** What comes after a time that just ended: R7 from the finish, R8 from the due day if to come. */
function following(
  plan: Plan,
  now: Progress,
  time: Occurrence,
  how: 'done' | 'skip',
  at: Instant,
): Pending | null {
  const from = { day: plan.clock.dayAt(at), instant: at };
  if (how === 'skip' && time.due !== null) {
    from.day = Math.max(from.day, plan.clock.dayOfMoment(time.due));
    from.instant = Math.max(from.instant, plan.clock.instantOf(time.due));
  }
  return plan.following(from, time.due, now.done);
}

/** A missed time that was done after all: only its outcome changes. */
function finishMissed(plan: Plan, now: Progress, missed: Occurrence, at: Instant): Deeded {
  const time: Occurrence = { ...missed, status: 'done', closedAt: at };
  countDone(plan, now, time, at);
  return { progress: now, ended: [time], time, before: missed };
}

/** Finishes or skips a slot that has not opened: it closes that slot alone. */
function finishAhead(
  plan: Plan,
  now: Progress,
  slot: LocalMoment,
  how: 'done' | 'skip',
  at: Instant,
): Deeded | null {
  const coming = comingAt(plan, now, slot);
  if (!coming) return null;
  const time = occurrenceOf(plan, now, coming, null);
  close(plan, now, time, how, at);
  if (plan.byCalendar) now.ahead = [...now.ahead, slot].sort();
  return { progress: now, ended: [time], time, before: null };
}

function comingAt(plan: Plan, now: Progress, slot: LocalMoment): Pending | null {
  const first = upcoming(plan, now);
  if (!first || !plan.byCalendar) return first?.slot === slot ? first : null;
  if (slot < first.slot || now.ahead.includes(slot)) return null;
  // The slots of that day, from its first one on.
  let found = plan.slotAfter(formatDay(parseMoment(slot, 'slot').day - 1));
  while (found && found.slot < slot) found = plan.slotAfter(found.slot);
  return found?.slot === slot ? found : null;
}

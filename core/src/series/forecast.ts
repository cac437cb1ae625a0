import { LAST_DAY, parseDay, type Day } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import type { Occurrence, Progress } from './progress.ts';
import { upcoming, type Plan } from './slots.ts';

/** A time to come: one that the calendar fixes, or one that depends on when the one before is done. */
export interface Ahead {
  slot: LocalMoment;
  due: LocalMoment;
  kind: 'firm' | 'expected';
}

/**
 * The times of a to-do that have not opened, in order, up to a day and at most `limit` (R18).
 * After-I-finish times are each taken to be done their usual lateness after due; an open one that
 * is overdue counts as finished at `now`. Open times are not in it.
 */
export function forecast(
  plan: Plan,
  progress: Progress,
  now: Instant,
  until: Day = LAST_DAY,
  limit = 1000,
): Ahead[] {
  const found: Ahead[] = [];
  if (plan.series.repeat?.by !== 'completion') {
    let next = upcoming(plan, progress);
    while (next && next.due !== null && found.length < limit) {
      if (plan.clock.dayOfMoment(next.due) > until) break;
      if (!progress.ahead.includes(next.slot))
        found.push({ slot: next.slot, due: next.due, kind: 'firm' });
      if (!plan.byCalendar) break;
      next = plan.slotAfter(next.slot);
    }
    return found;
  }
  const usual = usualLateness(progress.lateness);
  let { done } = progress;
  let next = progress.pending;
  if (!next && progress.open[0]) {
    next = after(plan, progress.open[0].due!, usual, now, ++done);
  }
  while (next && found.length < limit) {
    if (plan.clock.dayOfMoment(next.due!) > until) break;
    found.push({ slot: next.slot, due: next.due!, kind: 'expected' });
    next = after(plan, next.due!, usual, now, ++done);
  }
  return found;
}

function after(plan: Plan, due: LocalMoment, usual: number, now: Instant, done: number) {
  const instant = Math.max(plan.clock.instantOf(due) + usual * 86400000, now);
  const day = Math.max(plan.clock.dayOfMoment(due) + usual, plan.clock.dayAt(now));
  return plan.following({ day, instant }, due, done);
}

/** The median of the last five, none below three, never below zero; of an even number the lower middle. */
function usualLateness(lateness: readonly number[]): number {
  if (lateness.length < 3) return 0;
  const sorted = [...lateness].sort((a, b) => a - b);
  return Math.max(0, sorted[Math.floor((sorted.length - 1) / 2)]!);
}

/**
 * The due date of the first time that has not opened, or null: there is none, or it depends on an
 * open after-I-finish time.
 */
export function nextDue(plan: Plan, progress: Progress): LocalMoment | null {
  return upcoming(plan, progress)?.due ?? null;
}

/** How much of the way from one time to the next has gone by, 0 to 1, and in days. */
export interface Way {
  /** Days gone by since the span began; never below 0. */
  gone: number;
  /** Days from its beginning to its end, at least 1. */
  of: number;
}

/**
 * Where a time stands in the span that leads to its due day: from the one before it (the day it
 * was done, or by the calendar the slot before) to due. Null without a due date or a repeat.
 */
export function wayOf(
  plan: Plan,
  progress: Progress,
  time: Pick<Occurrence, 'slot' | 'due'>,
  now: Instant,
): Way | null {
  if (time.due === null || plan.series.repeat === null) return null;
  const due = plan.clock.dayOfMoment(time.due);
  const from =
    plan.series.repeat.by === 'completion'
      ? lastDay(plan, progress)
      : plan.slotDayBefore(parseDay(time.slot.slice(0, 10)));
  if (from === null || from >= due) return null;
  const today = plan.clock.dayAt(now);
  return { gone: Math.max(0, today - from), of: due - from };
}

const lastDay = (plan: Plan, progress: Progress): Day | null =>
  progress.lastDone === null ? null : plan.clock.dayAt(progress.lastDone);

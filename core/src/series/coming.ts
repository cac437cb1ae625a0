import { LAST_DAY, formatDay } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Pending, Progress } from './progress.ts';
import { justBefore, type CalendarSlot, type Plan, type Planner } from './slots.ts';

/** What is still to come of a to-do: slots in order, without what went by, was taken out or paused. */

interface Found {
  slot: CalendarSlot;
  plan: Plan;
}

/** The first slot after `after`, by the definition that holds from there on (R13). */
function rawAfter(planner: Planner, progress: Progress, after: LocalMoment | null): Found | null {
  let from = after;
  let series = progress.series;
  for (let i = 0; ; i++) {
    const plan = planner(series);
    const turn = progress.turns[i];
    const slot = plan.slotAfter(from);
    if (slot && (!turn || slot.slot < turn.from)) return { slot, plan };
    if (!turn) return null;
    series = turn.series;
    const start = justBefore(turn.from);
    if (from === null || start > from) from = start;
  }
}

/**
 * The slots that will come by the calendar, in order. Those that were finished ahead, or opened
 * already, are counted and left out.
 * @param waits whether pauses without an end hold what lies in them; without, they are passed over
 */
function* coming(planner: Planner, progress: Progress, waits = true): Generator<Found> {
  const { ahead, out, stop } = progress;
  let used = progress.count;
  let after = progress.passed;
  for (;;) {
    const found = rawAfter(planner, progress, after);
    if (!found || (stop !== null && found.slot.slot >= stop)) return;
    const { slot, plan } = found;
    after = slot.slot;
    const gone = ahead.includes(slot.slot);
    if (!gone) {
      if (out.includes(slot.slot)) continue;
      const pause = plan.pauseOf(slot);
      if (pause && pause.to !== Infinity) {
        // Nothing of the pause is gone through but its last days.
        const end = formatDay(Math.min(pause.to, LAST_DAY) - 1);
        if (end > after && !ahead.length && !plan.quota) after = end;
        continue;
      }
      if (pause && waits) return;
    }
    const { ends } = plan.series;
    if (ends && 'after' in ends && used >= ends.after) return;
    used++;
    if (!gone) yield found;
  }
}

function firstOf(planner: Planner, progress: Progress, waits = true): Pending | 'held' | null {
  const plan = planner(progress.series);
  if (plan.byCalendar) {
    for (const { slot } of coming(planner, progress, waits)) return slot;
    return null;
  }
  const pending = progress.base && plan.counted(progress.base, progress.done);
  if (!pending || pending === 'held') return pending;
  return progress.stop !== null && pending.slot >= progress.stop ? null : pending;
}

/** The next time that has not opened, in the order of the slots, or null. */
export function upcoming(planner: Planner, progress: Progress): Pending | null {
  const next = firstOf(planner, progress);
  return next === 'held' ? null : next;
}

/** Whether anything will come once a pause without an end is over: such a pause is no end (R11). */
export function willCome(planner: Planner, progress: Progress): boolean {
  return firstOf(planner, progress, false) !== null;
}

/**
 * The time that opens next, or null: the next slot, but where the first time of a later day opens
 * long before, that one, though others before it are still to open at their own times (R5).
 */
export function nextOpening(planner: Planner, progress: Progress): Pending | null {
  if (!planner(progress.series).crossed) return upcoming(planner, progress);
  let best: CalendarSlot | null = null;
  for (const { slot } of coming(planner, progress)) {
    if (!best || slot.opensAt < best.opensAt) best = slot;
    // Those that lead a day open in their order, and so do the others.
    if (slot.leads) break;
  }
  return best;
}

/** The times to come by the calendar, in order. */
export function* comingTimes(planner: Planner, progress: Progress): Generator<CalendarSlot> {
  for (const { slot } of coming(planner, progress)) yield slot;
}

/** A time to come by its slot, or null where none of that name will come. */
export function comingAt(planner: Planner, progress: Progress, slot: LocalMoment): Pending | null {
  if (!planner(progress.series).byCalendar) {
    const next = upcoming(planner, progress);
    return next?.slot === slot ? next : null;
  }
  if (progress.passed !== null && slot <= progress.passed) return null;
  // Looked up first, so that a day far off that is none is not walked to.
  if (rawAfter(planner, progress, justBefore(slot))?.slot.slot !== slot) return null;
  for (const { slot: next } of coming(planner, progress)) {
    if (next.slot === slot) return next;
    if (next.slot > slot) return null;
  }
  return null;
}

/** Marks a slot as gone by; `passed` goes on over all slots that have, without a gap. */
export function goBy(planner: Planner, now: Progress, slot: LocalMoment): void {
  if (planner(now.series).crossed) {
    const gone = new Set([...now.ahead, slot]);
    for (;;) {
      const next = rawAfter(planner, now, now.passed);
      if (!next || !gone.delete(next.slot.slot)) break;
      now.passed = next.slot.slot;
      now.count++;
    }
    now.ahead = [...gone].sort();
  } else {
    now.count += 1 + now.ahead.filter((other) => other < slot).length;
    now.passed = slot;
    now.ahead = now.ahead.filter((other) => other > slot);
  }
  now.out = now.out.filter((other) => now.passed === null || other > now.passed);
  while (now.turns[0] && now.passed !== null && now.passed >= now.turns[0].from) {
    now.series = now.turns[0].series;
    now.turns = now.turns.slice(1);
  }
}

import { LAST_DAY, parseDay, type Day, type LocalDate } from '../../calendar/day.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import { comingTimes, movedTimes, upcoming } from './coming.ts';
import { parseRule } from '../../rule/parse.ts';
import type { Series } from '../definition/definition.ts';
import type { Base, Occurrence, Pending, Progress } from '../life/progress.ts';
import { isSlotted, type Planner } from './plan.ts';

/** A time to come: one that the calendar fixes, or one that depends on when the one before is done. */
export interface Ahead {
  slot: LocalMoment;
  due: LocalMoment;
  kind: 'firm' | 'expected';
  /** Where the person moved it: the day it is planned for, and the hour of that day. */
  plan?: LocalDate;
  planAt?: LocalMoment;
}

const aheadOf = ({ slot, due, moved }: Pending, kind: Ahead['kind']): Ahead => ({
  slot,
  due: due!,
  kind,
  ...(moved ? { plan: moved.plan } : {}),
  ...(moved?.planAt === undefined ? {} : { planAt: moved.planAt }),
});

/** The times to come by the calendar in order of when they are due, moved ones among the others (R9). */
function* firmTimes(
  planner: Planner,
  progress: Progress,
): Generator<Pending & { due: LocalMoment }> {
  const moved = movedTimes(planner, progress).sort((a, b) =>
    a.due < b.due || (a.due === b.due && a.slot < b.slot) ? -1 : 1,
  );
  for (const time of comingTimes(planner, progress)) {
    while (moved[0] && moved[0].due <= time.due) yield moved.shift()!;
    yield time;
  }
  yield* moved;
}

/**
 * The times of a to-do that have not opened, in order of their due days, up to a day and at most `limit` (R18).
 * After-I-finish times are each taken to be done their usual lateness after due; an open one that
 * is overdue counts as finished at `now`. Open times are not in it.
 */
export function forecast(
  planner: Planner,
  progress: Progress,
  now: Instant,
  until: Day = LAST_DAY,
  limit = 1000,
): Ahead[] {
  const { clock } = planner;
  const plan = planner(progress.series);
  const found: Ahead[] = [];
  if (isSlotted(plan)) {
    if (limit > 0)
      for (const time of firmTimes(planner, progress)) {
        if (clock.dayOfMoment(time.due) > until) break;
        found.push(aheadOf(time, 'firm'));
        if (found.length >= limit) break;
      }
    return found;
  }
  const kind = plan.series.repeat === null ? 'firm' : 'expected';
  const usual = usualLateness(progress.lateness);
  const stop = progress.stop;
  let { done } = progress;
  const after = (due: LocalMoment) => {
    const instant = Math.max(clock.instantOf(due) + usual * 86400000, now);
    const day = Math.max(clock.dayOfMoment(due) + usual, clock.dayAt(now));
    const base: Base = { from: { day, instant }, previous: due, at: now, used: false };
    const next = plan.counted(base, ++done);
    return next === 'held' || (stop !== null && next && next.slot >= stop) ? null : next;
  };
  const open = progress.open.at(-1);
  let next = open?.due ? after(open.due) : upcoming(planner, progress);
  while (next?.due && found.length < limit) {
    if (clock.dayOfMoment(next.due) > until) break;
    found.push(aheadOf(next, kind));
    next = after(next.due);
  }
  return found;
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
export function nextDue(planner: Planner, progress: Progress): LocalMoment | null {
  if (!isSlotted(planner(progress.series))) return upcoming(planner, progress)?.due ?? null;
  for (const { due } of firmTimes(planner, progress)) return due;
  return null;
}

/**
 * How many times are still to come, open ones not among them; null where that has no end, or
 * depends on when they are done.
 */
export function leftOf(planner: Planner, progress: Progress): number | null {
  const { series } = progress;
  const byCalendar = isSlotted(planner(series));
  const { ends } = series;
  if (!byCalendar)
    return ends && 'after' in ends
      ? Math.max(0, ends.after - progress.done - progress.open.length)
      : null;
  if (progress.turns.every(({ series: later }) => isEndless(later)) && isEndless(series))
    return null;
  let n = progress.moved?.length ?? 0;
  for (const _time of comingTimes(planner, progress)) if (++n > MOST_LEFT) return null;
  return n;
}

const MOST_LEFT = 999;

function isEndless({ ends, repeat }: Series): boolean {
  if (ends || !repeat || repeat.by === 'dates') return false;
  if (!('rule' in repeat)) return true;
  const { count, until } = parseRule(repeat.rule);
  return count === null && until === null;
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
  planner: Planner,
  progress: Progress,
  time: Pick<Occurrence, 'slot' | 'due'>,
  now: Instant,
): Way | null {
  const { clock } = planner;
  const plan = planner(progress.series);
  if (time.due === null || plan.series.repeat === null) return null;
  const due = clock.dayOfMoment(time.due);
  const from =
    plan.series.repeat.by === 'completion'
      ? progress.lastDone === null
        ? null
        : clock.dayAt(progress.lastDone)
      : plan.kind === 'quota'
        ? parseDay(time.slot) - 1
        : isSlotted(plan)
          ? plan.slotDayBefore(parseDay(time.slot.slice(0, 10)))
          : null;
  if (from === null || from >= due) return null;
  return { gone: Math.max(0, clock.dayAt(now) - from), of: due - from };
}

import {
  advance,
  comingAt,
  forecast,
  formatDay,
  formatInstant,
  hasEnded,
  hasReminders,
  remindersIn,
  wayOf,
  type Ahead,
  type Instant,
  type Occurrence,
  type Planner,
  type Progress,
} from '@back-again/core';
import type { TimeView, TodoView } from '@back-again/contract';
import type { Kept } from './tasks.ts';

/** Until when nothing is said of a time, as an ISO 8601 instant; null where it was not put off. */
export function putOffTo({ later }: Progress, slot: string): string | null {
  const putOff = later?.find((it) => it.slot === slot);
  return putOff ? formatInstant(putOff.to) : null;
}

const instantOf = (at: Instant | null) => (at === null ? null : formatInstant(at));

/** One time as it is shown. */
export function timeView(
  planner: Planner,
  progress: Progress,
  time: Occurrence,
  now: Instant,
): TimeView {
  const { number, slot, due, plan, planBy, status, rolled } = time;
  return {
    number,
    slot,
    due,
    plan,
    planBy,
    status,
    openedAt: instantOf(time.openedAt),
    closedAt: instantOf(time.closedAt),
    rolled,
    part: time.part ?? null,
    tally: time.tally ?? null,
    note: time.note ?? null,
    later: putOffTo(progress, slot),
    way: status === 'open' ? wayOf(planner, progress, time, now) : null,
  };
}

/** A to-do as it is shown at `now`. What is kept may be a moment behind: it is advanced for the view. */
export function viewOf(
  planner: Planner,
  { id, progress: kept }: Kept,
  createdAt: string,
  now: Instant,
): TodoView {
  const { progress } = advance(planner, kept, now);
  const [next] = forecast(planner, progress, now, undefined, 1);
  return {
    id,
    series: progress.series,
    createdAt,
    open: progress.open.map((time) => timeView(planner, progress, time, now)),
    next: next ?? null,
    nextWay: progress.open.length || !next ? null : wayOf(planner, progress, next, now),
    ended: hasEnded(planner, progress),
    lastDone: progress.lastDone === null ? null : formatDay(planner.clock.dayAt(progress.lastDone)),
    done: progress.done,
    turns: progress.turns,
    quota: planner(progress.series).quota?.times ?? null,
    wrong: null,
  };
}

/** A to-do that the core cannot work out, as it is kept, with what is wrong. */
export function brokenView({ id, progress }: Kept, createdAt: string, wrong: string): TodoView {
  return {
    id,
    series: progress.series,
    createdAt,
    open: [],
    next: null,
    nextWay: null,
    ended: false,
    lastDone: null,
    done: progress.done,
    turns: [],
    quota: null,
    wrong,
  };
}

/** The times of one to-do that are still to come on the day of `now`. */
export function laterRowsOf(planner: Planner, progress: Progress, now: Instant): Ahead[] {
  const { clock } = planner;
  const day = clock.dayAt(now);
  return forecast(planner, progress, now, day).filter(({ due }) => clock.dayOfMoment(due) === day);
}

/** What will still be said of one to-do on the day of `now`. */
export function dayRemindersOf(planner: Planner, { progress, settings }: Kept, now: Instant) {
  if (!hasReminders(progress)) return [];
  const { clock } = planner;
  const end = clock.startOf(clock.dayAt(now) + 1) - 1;
  const { title } = progress.series;
  return remindersIn(planner, progress, settings, now, end).map(({ at, due }) => ({
    at: formatInstant(at),
    due,
    title,
  }));
}

/** How a time of which something was said stands. */
export interface Standing {
  due: string | null;
  /** The time as it is now; null where it has not opened, or is no more. */
  time: TimeView | null;
  /** Whether it can be done, put off or skipped. */
  canAct: boolean;
  /** Whether what was said of it still holds. */
  holds: boolean;
  later: string | null;
}

export function standingOf(
  planner: Planner,
  it: { todo: Kept; slot: string; due: string | null; ended: Occurrence | null; now: Instant },
): Standing {
  const { slot, due, now } = it;
  const { progress } = advance(planner, it.todo.progress, now);
  const open = progress.open.find((time) => time.slot === slot);
  const time = open ?? it.ended;
  const toCome = !open && comingAt(planner, progress, slot)?.due === due;
  const putOff = progress.later?.find((one) => one.slot === slot);
  const isPutOff = putOff !== undefined && putOff.to > now;
  const isHeld = planner(progress.series).paused.at(planner.clock.dayAt(now)) !== null;
  return {
    due: open?.due ?? due,
    time: time && timeView(planner, progress, time, now),
    canAct: open !== undefined || (!time && toCome),
    holds: !isPutOff && (open ? open.due === due && !isHeld : toCome),
    later: isPutOff ? formatInstant(putOff.to) : null,
  };
}

import { formatDay, type LocalDate } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import { formatInstant, type Instant } from '../calendar/zone.ts';
import { advance, hasEnded } from '../series/life/advance.ts';
import { comingAt } from '../series/plan/coming.ts';
import { definitionOf } from '../definition/check.ts';
import type { Definition } from '../definition/definition.ts';
import type { Details, Filled } from '../definition/details.ts';
import { forecast, wayOf, type Ahead, type Way } from '../series/plan/forecast.ts';
import type { Occurrence, Progress, Status, Turn } from '../series/life/progress.ts';
import { hasReminders, remindersIn, type Hours } from '../series/reminding/reminding.ts';
import type { Planner } from '../series/plan/plan.ts';
import type { KeptTodo } from './kept.ts';

/** To-dos and times as they are shown. */

/** A to-do as it is kept, with what it is. */
export type DescribedTodo = KeptTodo & { details: Details };

/** One time of a to-do as it is shown; instants are ISO 8601 with `Z`. */
export interface TimeView {
  number: number;
  slot: LocalMoment;
  due: LocalMoment | null;
  plan: LocalDate | null;
  planBy: 'due' | 'person' | 'roll';
  status: Status;
  openedAt: string | null;
  closedAt: string | null;
  rolled: number;
  /** How much of it is done, 1 to 99 in a hundred. */
  part: number | null;
  /** So many times a period: how many times it was done. */
  tally: number | null;
  note: string | null;
  /** What was written down with it; absent where nothing was. */
  filled?: Filled;
  /** How far it is on its way to due; null without a span to measure. */
  way: Way | null;
  /** Until when nothing is said of it, where the person put it off. */
  later: string | null;
}

/** A to-do as it stands. */
export interface TodoView {
  id: string;
  /** When it comes back, and what it is. */
  series: Definition;
  createdAt: string;
  /** Its open times, oldest first. */
  open: TimeView[];
  /** The next time that has not opened, or is expected after the open one. */
  next: Ahead | null;
  /** Where nothing is open: how far it is on its way to the next time. */
  nextWay: Way | null;
  /** Nothing is open and nothing will come. */
  ended: boolean;
  /** The day on which it was last done. */
  lastDone: LocalDate | null;
  done: number;
  /** What it will be from a later time on. */
  turns: Turn[];
  /** So many times a period: how many. */
  quota: number | null;
  /** What was written down with the last two times, by their numbers. */
  written?: Progress['written'];
  /** In words, why it cannot be worked out; null, as a rule. */
  wrong: string | null;
}

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
    ...(time.filled ? { filled: time.filled } : {}),
    later: putOffTo(progress, slot),
    way: status === 'open' ? wayOf(planner, progress, time, now) : null,
  };
}

/** A to-do as it is shown at `now`. What is kept may be a moment behind: it is advanced for the view. */
export function viewOf(
  planner: Planner,
  { id, made, details, progress: kept }: DescribedTodo,
  now: Instant,
): TodoView {
  const { progress } = advance(planner, kept, now);
  const [next] = forecast(planner, progress, now, undefined, 1);
  const plan = planner(progress.series);
  return {
    id,
    series: definitionOf(progress.series, details),
    createdAt: formatInstant(made ?? 0),
    open: progress.open.map((time) => timeView(planner, progress, time, now)),
    next: next ?? null,
    nextWay: progress.open.length || !next ? null : wayOf(planner, progress, next, now),
    ended: hasEnded(planner, progress),
    lastDone: progress.lastDone === null ? null : formatDay(planner.clock.dayAt(progress.lastDone)),
    done: progress.done,
    turns: progress.turns,
    quota: plan.kind === 'quota' ? plan.times : null,
    ...(progress.written ? { written: progress.written } : {}),
    wrong: null,
  };
}

/** A to-do that the core cannot work out, as it is kept, with what is wrong. */
export function brokenView(
  { id, made, details, progress }: DescribedTodo,
  wrong: string,
): TodoView {
  return {
    id,
    series: definitionOf(progress.series, details),
    createdAt: formatInstant(made ?? 0),
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

/** Something that will still be said today. */
export interface DayReminder {
  at: string;
  due: LocalMoment;
  title: string;
}

/** What will still be said of one to-do on the day of `now`. */
export function dayRemindersOf(
  planner: Planner,
  { progress, details: { title } }: Pick<DescribedTodo, 'progress' | 'details'>,
  settings: Hours,
  now: Instant,
): DayReminder[] {
  if (!hasReminders(progress)) return [];
  const { clock } = planner;
  const end = clock.startOf(clock.dayAt(now) + 1) - 1;
  return remindersIn(planner, progress, settings, now, end).map(({ at, due }) => ({
    at: formatInstant(at),
    due,
    title,
  }));
}

/** How a time of which something was said stands. */
export interface SpokenOf {
  due: string | null;
  /** The time as it is now; null where it has not opened, or is no more. */
  time: TimeView | null;
  /** Whether it can be done, put off or skipped. */
  canAct: boolean;
  /** Whether what was said of it still holds. */
  holds: boolean;
  later: string | null;
}

export function spokenOf(
  planner: Planner,
  it: {
    progress: Progress;
    slot: string;
    due: string | null;
    ended: Occurrence | null;
    now: Instant;
  },
): SpokenOf {
  const { slot, due, now } = it;
  const { progress } = advance(planner, it.progress, now);
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

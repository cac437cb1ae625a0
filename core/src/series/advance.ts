import { formatDay, parseDay, type Day } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { goBy, nextOpening, willCome } from './coming.ts';
import { countFrom } from './counting.ts';
import type { Series } from './definition.ts';
import type { Occurrence, Pending, Progress, Course } from './progress.ts';
import type { Plan, Planner } from './slots.ts';

/** A to-do of which nothing has happened yet; `at` is when it came to be. */
export function begin(series: Series, at: Instant): Progress {
  return {
    series,
    turns: [],
    through: null,
    number: 1,
    open: [],
    passed: null,
    opened: null,
    ahead: [],
    out: [],
    count: 0,
    base: { from: null, previous: null, at, used: false },
    stop: null,
    done: 0,
    lastDone: null,
    lateness: [],
  };
}

/**
 * Lets time pass up to and including `until`: times open, older ones end as missed, unfinished
 * ones roll over or lapse (R5, R10). One step or a thousand give the same. `progress` is not
 * changed.
 */
export function advance(planner: Planner, progress: Progress, until: Instant): Course {
  if (progress.through !== null && until < progress.through) return { progress, ended: [] };
  const { clock } = planner;
  const now = copyOf(progress);
  const ended: Occurrence[] = [];
  for (;;) {
    const next = nextOpening(planner, now);
    const at = Math.max(
      Math.min(next?.opensAt ?? Infinity, endsAt(planner, now)),
      now.through ?? -Infinity,
    );
    if (at > until) break;
    rollOver(planner, now, clock.dayAt(at - 1));
    ended.push(...openAll(planner, now, next, at));
    ended.push(...supersede(planner, now, at));
    rollOver(planner, now, clock.dayAt(at));
    ended.push(...lapse(planner, now, at));
    now.through = at;
  }
  rollOver(planner, now, clock.dayAt(until));
  now.through = until;
  return { progress: now, ended };
}

/** A copy whose lists and open times can be changed. */
export function copyOf(progress: Progress): Progress {
  return { ...progress, open: progress.open.map((time) => ({ ...time })) };
}

/**
 * The next instant at which something happens by itself, or null when nothing ever will: an
 * opening, a roll, or the end of a time.
 */
export function wakeAt(planner: Planner, progress: Progress): Instant | null {
  const { clock } = planner;
  const plan = planner(progress.series);
  let at = Math.min(nextOpening(planner, progress)?.opensAt ?? Infinity, endsAt(planner, progress));
  if (rolls(plan))
    for (const time of progress.open) {
      if (time.plan === null || time.openedAt === null) continue;
      const next = rolledFrom(planner, progress, time) + 1;
      const pause = plan.paused.at(next);
      const day = pause ? pause.to + 1 : next;
      if (day !== Infinity) at = Math.min(at, clock.startOf(day));
    }
  return at === Infinity ? null : at;
}

/** Whether nothing is open and nothing will come: the to-do has ended by itself (R11). */
export function hasEnded(planner: Planner, progress: Progress): boolean {
  return progress.open.length === 0 && !willCome(planner, progress);
}

const rolls = (plan: Plan) => !plan.quota && (plan.series.late ?? 'roll') === 'roll';
const keepsLatest = (plan: Plan) => plan.series.owe !== 'every';

/** Makes a time of a slot, with the next running number. */
export function occurrenceOf(
  planner: Planner,
  now: Progress,
  of: Pending,
  openedAt: Instant | null,
): Occurrence {
  return {
    number: now.number++,
    slot: of.slot,
    due: of.due,
    plan: of.due === null ? null : formatDay(planner.clock.dayOfMoment(of.due)),
    planBy: 'due',
    moved: false,
    status: 'open',
    openedAt,
    closedAt: null,
    rolled: 0,
    ...(planner(now.series).quota ? { tally: 0 } : {}),
  };
}

/** Opens everything that opens at `at`, so that openings come before rolls at one instant. */
function openAll(
  planner: Planner,
  now: Progress,
  first: Pending | null,
  at: Instant,
): Occurrence[] {
  const ended: Occurrence[] = [];
  for (let next = first; next && next.opensAt <= at; next = nextOpening(planner, now)) {
    const byCalendar = planner(now.series).byCalendar;
    if (byCalendar) {
      if (now.opened === null || next.slot > now.opened) now.opened = next.slot;
      goBy(planner, now, next.slot);
    } else now.base = { ...now.base!, used: true };
    const time = occurrenceOf(planner, now, next, at);
    if (byCalendar) ended.push(...replaced(planner, now, time, at));
    now.open = [...now.open, time].sort(inOrder);
  }
  return ended;
}

export const inOrder = (a: Occurrence, b: Occurrence) =>
  a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : a.number - b.number;

/** The open times of the same day that a newer one ends as it opens (R5, `latest`). */
function replaced(planner: Planner, now: Progress, newer: Occurrence, at: Instant): Occurrence[] {
  if (!keepsLatest(planner(now.series))) return [];
  const { clock } = planner;
  const day = clock.dayOfMoment(newer.due!);
  const sameDay = (time: Occurrence) => time.due !== null && clock.dayOfMoment(time.due) === day;
  return miss(now, at, (time) => time.slot < newer.slot && !time.moved && sameDay(time));
}

/** The day with whose end an open time can end as missed: its due day, or a later planned one. */
function lastDayOpen(planner: Planner, time: Occurrence): Day {
  const due = planner.clock.dayOfMoment(time.due!);
  return time.moved && time.plan !== null ? Math.max(due, parseDay(time.plan)) : due;
}

/** When an open time ends because a newer one has opened and its days are over (R5, `latest`). */
function supersededAt(planner: Planner, now: Progress, time: Occurrence): Instant {
  if (now.opened === null || time.slot >= now.opened || time.due === null) return Infinity;
  if (!keepsLatest(planner(now.series))) return Infinity;
  return planner.clock.startOf(lastDayOpen(planner, time) + 1);
}

/** When the first open time ends as missed: superseded, or over. */
function endsAt(planner: Planner, now: Progress): Instant {
  const plan = planner(now.series);
  let at = Infinity;
  for (const time of now.open)
    at = Math.min(at, supersededAt(planner, now, time), plan.overAt(time) ?? Infinity);
  return at;
}

function supersede(planner: Planner, now: Progress, at: Instant): Occurrence[] {
  return miss(now, at, (time) => supersededAt(planner, now, time) <= at);
}

/** Ends what lapses; after I finish, the next is counted from there (R10). */
function lapse(planner: Planner, now: Progress, at: Instant): Occurrence[] {
  const { overAt } = planner(now.series);
  const missed = miss(now, at, (time) => (overAt(time) ?? Infinity) <= at);
  // As from a finish at that instant.
  for (const time of missed) countFrom(planner, now, time, 'done', at);
  return missed;
}

function miss(now: Progress, at: Instant, over: (time: Occurrence) => boolean): Occurrence[] {
  const missed = now.open.filter(over);
  for (const time of missed) {
    time.status = 'missed';
    time.closedAt = at;
  }
  if (missed.length) now.open = now.open.filter((time) => time.status === 'open');
  for (const { slot } of missed) noLater(now, slot);
  return missed;
}

/** What was put off about a time that ended or moved is no more. */
export function noLater(now: Progress, slot: LocalMoment): void {
  const left = now.later?.filter((it) => it.slot !== slot);
  if (left?.length) now.later = left;
  else delete now.later;
}

/** The day up to which an open time has rolled: it rolls with the days after it. */
function rolledFrom(planner: Planner, now: Progress, time: Occurrence): Day {
  const settled = now.through === null ? -Infinity : planner.clock.dayAt(now.through);
  return Math.max(parseDay(time.plan!), settled, planner.clock.dayAt(time.openedAt!));
}

/**
 * Gives each open time planned for a day before `today` that day as its plan (R10); days in a pause
 * hold it (R12).
 */
function rollOver(planner: Planner, now: Progress, today: Day): void {
  const plan = planner(now.series);
  if (!rolls(plan)) return;
  for (const time of now.open) {
    if (time.plan === null || time.openedAt === null || parseDay(time.plan) >= today) continue;
    const { count, last } = plan.paused.free(rolledFrom(planner, now, time) + 1, today);
    if (last === null) continue;
    time.rolled += count;
    time.plan = formatDay(last);
    time.planBy = 'roll';
  }
}

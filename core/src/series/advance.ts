import { formatDay, parseDay, type Day } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import type { Occurrence, Pending, Progress, Course } from './progress.ts';
import { nextOpening, upcoming, type Plan } from './slots.ts';

/** A to-do of which nothing has happened yet; `at` is when it came to be. */
export function begin(plan: Plan, at: Instant): Progress {
  return {
    through: null,
    number: 1,
    open: [],
    passed: null,
    opened: null,
    ahead: [],
    pending: plan.first(at),
    done: 0,
    lastDone: null,
    lateness: [],
  };
}

/**
 * Lets time pass up to and including `until`: times open, older ones end as missed, unfinished
 * ones roll over (R5, R10). One step or a thousand give the same. `progress` is not changed.
 */
export function advance(plan: Plan, progress: Progress, until: Instant): Course {
  if (progress.through !== null && until <= progress.through) return { progress, ended: [] };
  const now: Progress = { ...progress, open: progress.open.map((time) => ({ ...time })) };
  const ended: Occurrence[] = [];
  for (;;) {
    const next = nextOpening(plan, now);
    const at = Math.max(
      Math.min(next?.opensAt ?? Infinity, supersededAt(plan, now)),
      now.through ?? -Infinity,
    );
    if (at > until) break;
    rollOver(plan, now, plan.clock.dayAt(at - 1));
    ended.push(...openAll(plan, now, next, at));
    ended.push(...supersede(plan, now, at));
    rollOver(plan, now, plan.clock.dayAt(at));
    now.through = at;
  }
  rollOver(plan, now, plan.clock.dayAt(until));
  now.through = until;
  return { progress: now, ended };
}

/**
 * The next instant at which something happens by itself, or null when nothing ever will: an
 * opening, a roll, or the end of an older time.
 */
export function wakeAt(plan: Plan, progress: Progress): Instant | null {
  let at = Math.min(nextOpening(plan, progress)?.opensAt ?? Infinity, supersededAt(plan, progress));
  if (rolls(plan))
    for (const time of progress.open)
      if (time.plan !== null) at = Math.min(at, plan.clock.startOf(parseDay(time.plan) + 1));
  return at === Infinity ? null : at;
}

/** Whether nothing is open and nothing will come: the to-do has ended by itself (R11). */
export function hasEnded(plan: Plan, progress: Progress): boolean {
  return progress.open.length === 0 && upcoming(plan, progress) === null;
}

const rolls = (plan: Plan) => (plan.series.late ?? 'roll') === 'roll';

/** Makes a time of a slot, with the next running number. */
export function occurrenceOf(
  plan: Plan,
  now: Progress,
  of: Pending,
  openedAt: Instant | null,
): Occurrence {
  return {
    number: now.number++,
    slot: of.slot,
    due: of.due,
    plan: of.due === null ? null : formatDay(plan.clock.dayOfMoment(of.due)),
    planBy: 'due',
    moved: false,
    status: 'open',
    openedAt,
    closedAt: null,
    rolled: 0,
  };
}

/** Opens everything that opens at `at`, so that openings come before rolls at one instant. */
function openAll(plan: Plan, now: Progress, first: Pending | null, at: Instant): Occurrence[] {
  const ended: Occurrence[] = [];
  for (let next = first; next && next.opensAt <= at; next = nextOpening(plan, now)) {
    const time = occurrenceOf(plan, now, next, at);
    if (plan.byCalendar) {
      ended.push(...replaced(plan, now, time, at));
      if (now.opened === null || next.slot > now.opened) now.opened = next.slot;
      goBy(plan, now, next.slot);
    } else now.pending = null;
    now.open = [...now.open, time].sort(inOrder);
  }
  return ended;
}

const inOrder = (a: Occurrence, b: Occurrence) =>
  a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : a.number - b.number;

/** Marks a slot as gone by; `passed` goes on over all slots that have, without a gap. */
function goBy(plan: Plan, now: Progress, slot: LocalMoment): void {
  if (!plan.crossed) {
    now.passed = slot;
    now.ahead = now.ahead.filter((other) => other > slot);
    return;
  }
  const gone = new Set([...now.ahead, slot]);
  for (
    let next = plan.slotAfter(now.passed);
    next && gone.delete(next.slot);
    next = plan.slotAfter(next.slot)
  )
    now.passed = next.slot;
  now.ahead = [...gone].sort();
}

/** The open times of the same day that a newer one ends as it opens (R5, `latest`). */
function replaced(plan: Plan, now: Progress, newer: Occurrence, at: Instant): Occurrence[] {
  const day = plan.clock.dayOfMoment(newer.due!);
  return miss(
    now,
    at,
    (time) =>
      time.slot < newer.slot &&
      !time.moved &&
      time.due !== null &&
      plan.clock.dayOfMoment(time.due) === day,
  );
}

/** The day with whose end an open time can end as missed: its due day, or a later planned one. */
function lastDayOpen(plan: Plan, time: Occurrence): Day {
  const due = plan.clock.dayOfMoment(time.due!);
  return time.moved && time.plan !== null ? Math.max(due, parseDay(time.plan)) : due;
}

const isOlder = (now: Progress, time: Occurrence) => now.opened !== null && time.slot < now.opened;

/** When the first of the older open times ends because a newer one has opened (R5, `latest`). */
function supersededAt(plan: Plan, now: Progress): Instant {
  let at = Infinity;
  for (const time of now.open)
    if (isOlder(now, time)) at = Math.min(at, plan.clock.startOf(lastDayOpen(plan, time) + 1));
  return at;
}

function supersede(plan: Plan, now: Progress, at: Instant): Occurrence[] {
  return miss(
    now,
    at,
    (time) => isOlder(now, time) && plan.clock.startOf(lastDayOpen(plan, time) + 1) <= at,
  );
}

function miss(now: Progress, at: Instant, over: (time: Occurrence) => boolean): Occurrence[] {
  const missed = now.open.filter(over);
  for (const time of missed) {
    time.status = 'missed';
    time.closedAt = at;
  }
  if (missed.length) now.open = now.open.filter((time) => time.status === 'open');
  return missed;
}

/** Gives each open time planned for a day before `today` that day as its plan (R10). */
function rollOver(plan: Plan, now: Progress, today: Day): void {
  if (!rolls(plan)) return;
  const settled = now.through === null ? -Infinity : plan.clock.dayAt(now.through);
  for (const time of now.open) {
    if (time.plan === null || time.openedAt === null) continue;
    const planned = parseDay(time.plan);
    if (planned >= today) continue;
    const from = Math.max(planned, settled, plan.clock.dayAt(time.openedAt));
    if (today <= from) continue;
    time.rolled += today - from;
    time.plan = formatDay(today);
    time.planBy = 'roll';
  }
}

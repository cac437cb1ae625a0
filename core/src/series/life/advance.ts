import { formatDay, parseDay, type Day } from '../../calendar/day.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import { goBy, nextOpening, openingsOf, willCome, type Openings } from '../plan/coming.ts';
import { countFrom } from '../deeds/counting.ts';
import { MOST_OWED } from '../definition/limits.ts';
import { forgetMoved, plannedOf, settled, standOn, takeMove } from '../deeds/moves.ts';
import { Endings, placeOf } from './openTimes.ts';
import type { Occurrence, Pending, Progress, Course } from './progress.ts';
import { isSlotted, type Plan, type Planner } from '../plan/plan.ts';

/**
 * Lets time pass up to and including `until`: times open, older ones end as missed, unfinished
 * ones roll over or lapse (R5, R10). One step or a thousand give the same. `progress` is not
 * changed. The cost is that of the times that open.
 */
export function advance(planner: Planner, progress: Progress, until: Instant): Course {
  if (progress.through !== null && until < progress.through) return { progress, ended: [] };
  const now = copyOf(progress);
  const passing = new Passing(planner, now);
  passing.to(until);
  return { progress: now, ended: passing.ended };
}

/** A to-do through which time passes: what is open is kept by when it ends, and rolls when it matters. */
class Passing {
  readonly ended: Occurrence[] = [];
  private readonly planner: Planner;
  private readonly now: Progress;
  private plan: Plan;
  private openings: Openings;
  private endings = new Endings();
  /** Open times, in order, that no newer one has put in question yet (R5, `latest`). */
  private newest: Occurrence[] = [];
  /** Days up to this one have been rolled through. */
  private settled: Day;

  constructor(planner: Planner, now: Progress) {
    this.planner = planner;
    this.now = now;
    this.plan = planner(now.series);
    this.openings = openingsOf(planner, now);
    this.settled = now.through === null ? -Infinity : planner.clock.dayAt(now.through);
    this.watchAll();
  }

  to(until: Instant): void {
    const { now, planner } = this;
    for (;;) {
      planner.spend();
      const next = this.openings.next();
      const first = Math.min(next?.opensAt ?? Infinity, this.endings.first());
      const at = Math.max(first, now.through ?? -Infinity);
      if (at > until) break;
      // At one instant openings come first, then what a newer one ends, then what lapses.
      this.openAll(next, at);
      this.endAll(at);
      now.through = at;
    }
    const today = planner.clock.dayAt(until);
    for (const time of now.open) this.roll(time, today);
    forgetMoved(planner, now, today);
    now.through = until;
  }

  private openAll(first: Pending | null, at: Instant): void {
    const { now, planner } = this;
    for (let next = first; next && next.opensAt <= at; next = this.openings.next()) {
      const byCalendar = isSlotted(this.plan);
      if (byCalendar) {
        const isFirst = this.openings.open(next.slot);
        if (now.opened === null || next.slot > now.opened) now.opened = next.slot;
        const before = now.series;
        if (!next.moved) {
          if (now.turns.length && next.slot >= now.turns[0]!.from) this.rollAll(at);
          goBy(now, next.slot, isFirst);
          if (now.series !== before) this.turn();
        }
      } else now.base = { ...now.base!, used: true };
      const time = occurrenceOf(planner, now, next, at);
      if (next.moved) movedOpens(planner, now, next);
      if (byCalendar) this.replace(time, at);
      now.open.splice(placeOf(now.open, time), 0, time);
      this.watch(time, at);
    }
  }

  /** Another definition is in force from here on (R13). */
  private turn(): void {
    this.plan = this.planner(this.now.series);
    this.openings = openingsOf(this.planner, this.now);
    this.watchAll();
  }

  private watchAll(): void {
    this.endings = new Endings();
    this.newest = [];
    const { now } = this;
    for (const time of now.open) this.watch(time, now.through ?? -Infinity);
  }

  /** Keeps when an open time ends, and what it puts in question. */
  private watch(time: Occurrence, at: Instant): void {
    const { now, plan, endings, newest } = this;
    endings.add(time, overAt(plan, time));
    if (!keepsLatest(plan)) return;
    newest.splice(placeOf(newest, time), 0, time);
    const { opened: last } = now;
    let n = 0;
    for (; last !== null && n < newest.length && newest[n]!.slot < last; n++) {
      const older = newest[n]!;
      if (older.status !== 'open' || older.due === null) continue;
      if (at !== -Infinity) this.roll(older, this.planner.clock.dayAt(at - 1));
      endings.add(older, supersededAt(this.planner, older));
    }
    if (n) newest.splice(0, n);
  }

  /** Ends what the one that opens takes the place of: open ones of the same day, or the oldest that is owed. */
  private replace(newer: Occurrence, at: Instant): void {
    const { now, plan } = this;
    const { clock } = this.planner;
    if (!keepsLatest(plan)) {
      if (now.open.length >= MOST_OWED) this.miss([now.open[0]!], at);
      return;
    }
    const day = clock.dayOfMoment(newer.due!);
    const gone: Occurrence[] = [];
    for (let i = placeOf(now.open, newer) - 1; i >= 0; i--) {
      const time = now.open[i]!;
      if (time.moved || time.due === null || time.slot === newer.slot) continue;
      if (clock.dayOfMoment(time.due) !== day) break;
      gone.unshift(time);
    }
    this.miss(gone, at);
  }

  /** Ends what is over; after I finish, the next is counted from there, as from a finish (R10). */
  private endAll(at: Instant): void {
    const over = this.endings.takeUntil(at);
    this.miss(over, at);
    for (const time of over) countFrom(this.planner, this.now, time, 'done', at);
  }

  private miss(times: readonly Occurrence[], at: Instant): void {
    const { now } = this;
    for (const time of times) {
      this.roll(time, this.planner.clock.dayAt(at - 1));
      time.status = 'missed';
      time.closedAt = at;
      settled(time);
      now.open.splice(placeOf(now.open, time), 1);
      noLater(now, time.slot);
      this.ended.push(time);
    }
  }

  private rollAll(at: Instant): void {
    const day = this.planner.clock.dayAt(at - 1);
    for (const time of this.now.open) this.roll(time, day);
    this.settled = Math.max(this.settled, day);
  }

  /**
   * Gives an open time planned for a day before `today` that day as its plan (R10); days in a pause
   * hold it (R12).
   */
  private roll(time: Occurrence, today: Day): void {
    const from = rolls(this.plan) ? rolledFrom(this.planner, time, this.settled) : null;
    if (from === null || from >= today) return;
    const { count, last } = this.plan.paused.free(from + 1, today);
    if (last === null) return;
    time.rolled += count;
    if (time.planBy === 'person') time.meant = time.plan!;
    time.plan = formatDay(last);
    delete time.withDue;
    delete time.planAt;
    time.planBy = 'roll';
  }
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
  const settled = progress.through === null ? -Infinity : clock.dayAt(progress.through);
  let at = nextOpening(planner, progress)?.opensAt ?? Infinity;
  for (const time of progress.open) {
    planner.spend();
    if (progress.through === null) at = Math.min(at, time.openedAt ?? at);
    at = Math.min(at, endsAt(planner, progress, time));
    const from = rolls(plan) ? rolledFrom(planner, time, settled) : null;
    if (from === null) continue;
    const next = from + 1;
    const pause = plan.paused.at(next);
    const day = pause ? pause.to + 1 : next;
    if (day !== Infinity) at = Math.min(at, clock.startOf(day));
  }
  return at === Infinity ? null : at;
}

/** The day up to which an open time has rolled: it rolls with the days after it; null where it has none. */
function rolledFrom({ clock }: Planner, time: Occurrence, settled: Day): Day | null {
  if (time.plan === null || time.openedAt === null) return null;
  return Math.max(parseDay(time.plan), settled, clock.dayAt(time.openedAt));
}

/** When an open time ends as missed by itself: a newer one took its place, or it is over. */
function endsAt(planner: Planner, now: Progress, time: Occurrence): Instant {
  const plan = planner(now.series);
  const isOlder = now.opened !== null && time.slot < now.opened && time.due !== null;
  return isOlder && keepsLatest(plan)
    ? Math.min(supersededAt(planner, time), overAt(plan, time))
    : overAt(plan, time);
}

/** When an open time is over; none ends before it opened. */
function overAt(plan: Plan, time: Occurrence): Instant {
  return Math.max(plan.overAt(time) ?? Infinity, time.openedAt ?? -Infinity);
}

/** Whether nothing is open and nothing will come: the to-do has ended by itself (R11). */
export function hasEnded(planner: Planner, progress: Progress): boolean {
  return progress.open.length === 0 && !willCome(planner, progress);
}

const rolls = (plan: Plan) => plan.kind !== 'quota' && (plan.series.late ?? 'roll') === 'roll';
/** A quota's time ends with its period alone, whatever opens. */
const keepsLatest = (plan: Plan) => plan.kind !== 'quota' && plan.series.owe !== 'every';

/** Makes a time of a slot, with the next running number. */
export function occurrenceOf(
  planner: Planner,
  now: Progress,
  of: Pending,
  openedAt: Instant | null,
): Occurrence {
  const { byDue, setDue: _setDue, ...moved } = of.moved ?? {};
  return {
    number: now.number++,
    ...moved,
    slot: of.slot,
    ...plannedOf(planner, of),
    moved: of.moved !== undefined,
    status: 'open',
    openedAt,
    ...(openedAt !== null && byDue !== undefined && byDue > openedAt ? { wouldOpen: byDue } : {}),
    closedAt: null,
    rolled: 0,
    ...(planner(now.series).kind === 'quota' ? { tally: 0 } : {}),
  };
}

/** A time that was moved before opens, or is finished ahead: what it is to come is no more. */
export function movedOpens(planner: Planner, now: Progress, { slot, due }: Pending): void {
  takeMove(now, slot);
  if (isSlotted(planner(now.series))) standOn(now, { slot, due: due! });
}

/** The day with whose end an open time can end as missed: its due day, or a later planned one. */
function lastDayOpen(planner: Planner, time: Occurrence): Day {
  const due = planner.clock.dayOfMoment(time.due!);
  return time.moved && time.plan !== null ? Math.max(due, parseDay(time.plan)) : due;
}

/** When an open time ends, now that a newer one has opened: when its days are over (R5, `latest`). */
function supersededAt(planner: Planner, time: Occurrence): Instant {
  return Math.max(
    planner.clock.startOf(lastDayOpen(planner, time) + 1),
    time.openedAt ?? -Infinity,
  );
}

/** What was put off about a time that ended or moved is no more. */
export function noLater(now: Progress, slot: LocalMoment): void {
  const left = now.later?.filter((it) => it.slot !== slot);
  if (left?.length) now.later = left;
  else delete now.later;
}

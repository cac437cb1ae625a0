import type { Day } from '../../calendar/day.ts';
import { isClockSpan, parseSpan } from '../../calendar/span.ts';
import type { Instant } from '../../calendar/zone.ts';
import { occurrenceOf } from './advance.ts';
import { comingTimes } from '../plan/coming.ts';
import { minuteOf, type Series } from '../definition/definition.ts';
import type { Base, Occurrence, Pending, Progress } from './progress.ts';
import {
  isSlotted,
  type CalendarSlot,
  type Plan,
  type Planner,
  type SlottedPlan,
  type CountedPlan,
} from '../plan/plan.ts';

/** A to-do of which nothing has happened yet, that came to be so long ago that it hinders nothing. */
export function beginLongAgo(series: Series, at: Instant): Progress {
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
 * A to-do that is made at an instant (R5, before it was made): of the slots that are due before that
 * day the last alone is open, unless another is due on that day and the latest is kept, or it would
 * have lapsed. The others have gone by; they are jumped, not walked.
 */
export function begin(planner: Planner, series: Series, made: Instant): Progress {
  const now = beginLongAgo(series, made);
  if (series.start === null) return now;
  const plan = planner(series);
  const today = planner.clock.dayAt(made);
  if (!isSlotted(plan)) return counted(planner, plan, now, made, today);
  const last = plan.dueBefore(today);
  if (!last) return now;
  const { ends } = series;
  let slot = last;
  now.count = plan.countTo(slot.slot);
  if (ends && 'after' in ends && now.count > ends.after) {
    slot = lastCounted(planner, beginLongAgo(series, made));
    now.count = ends.after;
  }
  now.passed = last.slot;
  if (plan.kind === 'quota' || isOver(plan, slot, made)) return now;
  if (series.owe !== 'every' && isDueOn(planner, plan, now, today)) return now;
  now.opened = slot.slot;
  return openLate(planner, now, slot, made);
}

const isOver = (plan: Plan, time: Pending, at: Instant) => (plan.overAt(time) ?? Infinity) <= at;

function openLate(planner: Planner, now: Progress, slot: Pending, made: Instant): Progress {
  const time: Occurrence = occurrenceOf(planner, now, slot, made);
  now.open = [time];
  return now;
}

/** Whether one that will come is due on a day. */
function isDueOn(planner: Planner, plan: SlottedPlan, now: Progress, day: Day): boolean {
  const { ends } = now.series;
  if (ends && 'after' in ends && now.count >= ends.after) return false;
  let slot = plan.slotAfter(now.passed);
  while (slot && planner.clock.dayOfMoment(slot.due) === day) {
    if (!plan.pauseOf(slot)) return true;
    slot = plan.slotAfter(slot.slot);
  }
  return false;
}

/** The last slot of a to-do that ends after so many times; it does so before it was made. */
function lastCounted(planner: Planner, now: Progress): CalendarSlot {
  let last: CalendarSlot | null = null;
  for (const slot of comingTimes(planner, now)) last = slot;
  return last!;
}

/**
 * What the calendar does not yield: what would have lapsed has lapsed, unrecorded, and the next is
 * counted from there; one that was due before the day opens at the moment of making.
 */
function counted(
  planner: Planner,
  plan: CountedPlan,
  now: Progress,
  made: Instant,
  today: Day,
): Progress {
  const { clock } = planner;
  for (;;) {
    planner.spend();
    const next = plan.counted(now.base!, now.done);
    if (!next || next === 'held' || next.due === null) return now;
    if (clock.dayOfMoment(next.due) >= today) return now;
    if (!isOver(plan, next, made)) {
      now.base = { ...now.base!, used: true };
      return openLate(planner, now, next, made);
    }
    if (now.series.repeat === null) {
      now.base = { ...now.base!, used: true };
      return now;
    }
    now.base = lapsed(planner, plan, next, made);
  }
}

const DAY = 86_400_000;
/** A zone keeps one offset for longer than these between two changes (see `calendar/zone.ts`). */
const STRETCHES = [10 * DAY, DAY];

/** From where the next is counted after one has lapsed, many rounds at a time where all are alike. */
function lapsed(planner: Planner, plan: Plan, time: Pending, made: Instant): Base {
  const { clock } = planner;
  const over = plan.overAt(time)!;
  const gone = alike(planner, plan, over, made);
  const instant = over + gone;
  return {
    from: { day: clock.dayAt(instant), instant },
    previous: gone ? clock.momentAt(clock.instantOf(time.due!) + gone) : time.due,
    at: made,
    used: false,
  };
}

/**
 * For how long after an instant rounds follow on each other evenly, in whole rounds: no pause is near,
 * and the clock does not change. 0 where that is not known.
 */
function alike(planner: Planner, plan: Plan, from: Instant, made: Instant): number {
  const round = roundOf(planner, plan.series);
  if (round === null) return 0;
  const stretch = STRETCHES.find(
    (it) => from + it + round + DAY < made && isEven(planner, plan, from, from + it + round),
  );
  return Math.floor((stretch ?? 0) / round) * round;
}

/** From one lapse to the next, where the clock does not change: in milliseconds, or null where that varies. */
function roundOf({ clock }: Planner, series: Series): number | null {
  const { repeat, grace, closedDays = 'keep' } = series;
  if (repeat?.by !== 'completion' || repeat.onto || repeat.workdays) return null;
  const [every, more] = [parseSpan(repeat.every), grace === undefined ? NONE : parseSpan(grace)];
  if (every.months || more.months || (more.days && more.minutes)) return null;
  if (isClockSpan(every)) return more.days ? null : (every.minutes + more.minutes) * 60_000;
  const minute = minuteOf(series);
  const isEarly = minute !== null && clock.startOf(0) > clock.instantAt(0, minute);
  if (closedDays !== 'keep' || more.minutes || isEarly) return null;
  return (every.days + more.days + (minute === null ? 1 : 0)) * DAY;
}

const NONE = { months: 0, days: 0, minutes: 0 };

/** Whether all days from one instant to another have 24 hours and are in no pause. */
function isEven({ clock }: Planner, { paused }: Plan, from: Instant, to: Instant): boolean {
  const [first, last] = [clock.dayAt(from), clock.dayAt(to) + 1];
  const isLong = clock.startOf(last) - clock.startOf(first) === (last - first) * DAY;
  return isLong && paused.free(first, last).count === last - first + 1;
}

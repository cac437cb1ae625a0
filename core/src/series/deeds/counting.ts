import type { Instant } from '../../calendar/zone.ts';
import type { Occurrence, Progress } from '../life/progress.ts';
import { isSlotted, type Planner } from '../plan/plan.ts';

/** Counts a time as done at an instant. @internal */
export function countDone(planner: Planner, now: Progress, time: Occurrence, at: Instant): void {
  now.done += 1;
  now.lastDone = Math.max(now.lastDone ?? at, at);
  if (time.due !== null) {
    const late = planner.clock.dayAt(at) - planner.clock.dayOfMoment(time.due);
    now.lateness = [...now.lateness, late].slice(-5);
  }
}

/** From where the next one is counted: R7 from the finish, R8 from the due day if to come. @internal */
export function countFrom(
  planner: Planner,
  now: Progress,
  time: Pick<Occurrence, 'due'>,
  how: 'done' | 'skip',
  at: Instant,
): void {
  const { clock } = planner;
  if (isSlotted(planner(now.series))) return;
  const from = { day: clock.dayAt(at), instant: at };
  if (how === 'skip' && time.due !== null) {
    from.day = Math.max(from.day, clock.dayOfMoment(time.due));
    from.instant = Math.max(from.instant, clock.instantOf(time.due));
  }
  now.base = { from, previous: time.due, at, used: false };
}

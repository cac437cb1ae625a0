import type { LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import { movedOpens, noLater, occurrenceOf } from '../life/advance.ts';
import type { Occurrence, Progress } from '../life/progress.ts';
import { comingAt, withSlot } from '../plan/coming.ts';
import { isSlotted, type Planner } from '../plan/plan.ts';
import { countDone, countFrom } from './counting.ts';
import { didTo, type Deeded, type With } from './deeds.ts';
import { settled } from './moves.ts';

/** Ends a time as done or skipped, open or not yet. */

/** Ends an open time. */
export function closeOpen(
  { planner, now, at }: With,
  open: Occurrence,
  how: 'done' | 'skip',
): Deeded {
  const before = { ...open };
  close(planner, now, open, how, at);
  now.open = now.open.filter((time) => time !== open);
  return didTo(now, open, before, [open]);
}

function close(
  planner: Planner,
  now: Progress,
  time: Occurrence,
  how: 'done' | 'skip',
  at: Instant,
): void {
  time.status = how === 'done' ? 'done' : 'skipped';
  noLater(now, time.slot);
  time.closedAt = at;
  settled(time);
  if (how === 'done') countDone(planner, now, time, at);
  countFrom(planner, now, time, how, at);
}

/** Finishes or skips a slot that has not opened: it closes that slot alone. */
export function closeAhead(
  { planner, now, at }: With,
  slot: LocalMoment,
  how: 'done' | 'skip',
): Deeded | null {
  const next = comingAt(planner, now, slot);
  if (!next) return null;
  const time = occurrenceOf(planner, now, next, null);
  close(planner, now, time, how, at);
  if (next.moved) movedOpens(planner, now, next);
  else if (isSlotted(planner(now.series))) now.ahead = withSlot(now.ahead, slot);
  return didTo(now, time, null, [time]);
}

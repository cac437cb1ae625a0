import type { LocalMoment } from '../../calendar/time.ts';
import { noLater } from '../life/advance.ts';
import type { Progress } from '../life/progress.ts';
import { comingAt, withSlot } from '../plan/coming.ts';
import { isSlotted, type Planner } from '../plan/plan.ts';
import { changed, didTo, openOf, type Deeded, type Doing } from './deeds.ts';
import { movedSlot, moveTime, putMove, standOn, type Move } from './moves.ts';

/** Another day for one time, or another due moment (R9). */
export const move: Doing<'move'> = (it, { planner, now }) => {
  const open = openOf(now, it.slot);
  if (!open) return it.slot === undefined ? null : moveAhead(planner, now, it.slot, it);
  const before = { ...open };
  moveTime(planner, open, it);
  open.moved = true;
  noLater(now, open.slot);
  if (open.due !== null && isSlotted(planner(now.series)))
    standOn(now, { slot: open.slot, due: open.due });
  return didTo(now, open, before);
};

/** Moves a slot that has not opened (R9): it keeps its name and stays to come. */
function moveAhead(planner: Planner, now: Progress, slot: LocalMoment, to: Move): Deeded | null {
  const next = comingAt(planner, now, slot);
  if (!next) return null;
  putMove(now, movedSlot(planner, next, to));
  noLater(now, slot);
  // Where it was it has gone by, and counts.
  const isOwn = isSlotted(planner(now.series)) && !next.moved;
  if (isOwn) now.ahead = withSlot(now.ahead, slot);
  return changed(now);
}

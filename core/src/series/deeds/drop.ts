import { comingAt, withSlot } from '../plan/coming.ts';
import { countFrom } from './counting.ts';
import { changed, openOf, type Doing } from './deeds.ts';
import { takeMove } from './moves.ts';
import { isSlotted } from '../plan/plan.ts';

/** A time is no more: by the calendar as if its date had been left out, else as if skipped. */
export const drop: Doing<'drop'> = ({ slot }, { planner, now, at }) => {
  const byCalendar = isSlotted(planner(now.series));
  const open = openOf(now, slot);
  const next = open ? null : slot === undefined ? null : comingAt(planner, now, slot);
  const time = open ?? next;
  if (!time) return null;
  now.open = now.open.filter((other) => other !== open);
  takeMove(now, time.slot);
  if (!byCalendar) countFrom(planner, now, time, 'skip', at);
  else if (next && now.passed !== null && next.slot <= now.passed) now.count--;
  else if (next) {
    now.ahead = now.ahead.filter((other) => other !== next.slot);
    now.out = withSlot(now.out, next.slot);
  } else if (now.ahead.includes(time.slot)) {
    now.ahead = now.ahead.filter((other) => other !== time.slot);
    now.out = withSlot(now.out, time.slot);
  } else now.count--;
  return changed(now, open ? [open] : []);
};

import { formatDay } from '../../calendar/day.ts';
import { changed, type Doing } from './deeds.ts';
import { isSlotted } from '../plan/plan.ts';

/** An ended to-do comes back, from today on. */
export const reopen: Doing<'reopen'> = (_it, { planner, now, at }) => {
  const today = planner.clock.dayAt(at);
  const byCalendar = isSlotted(planner(now.series));
  const { series } = now;
  const wasOnce = series.repeat === null && !byCalendar && !now.open.length;
  if (now.stop === null && !wasOnce) return null;
  now.stop = null;
  if (byCalendar) {
    // What would have come meanwhile does not come.
    const cursor = formatDay(today - 1);
    if (now.passed === null || cursor > now.passed) now.passed = cursor;
  } else if (!now.open.length)
    now.base = {
      from: null,
      previous: now.base?.previous ?? null,
      ...(series.start === null ? {} : { on: formatDay(today) }),
      at,
      used: false,
    };
  return changed(now);
};

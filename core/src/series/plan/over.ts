import { LAST_DAY, parseDay, type Day } from '../../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../../calendar/span.ts';
import { formatMoment, parseMoment, type LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import type { CommonPlan, PlanContext } from './plan.ts';
import { periodOf } from './quota.ts';

/**
 * When what lapses is over (R10): a due day at its end, and `grace` after it; a period of a quota at
 * its end. One that is held in a pause is over with the pause at the earliest (R12).
 */
export function overAtOf({ series, settings, clock, paused }: PlanContext): CommonPlan['overAt'] {
  const { repeat } = series;
  // A period ends by itself, wherever its due day was moved (R9).
  if (repeat?.by === 'quota')
    return ({ slot }) =>
      clock.startOf(periodOf(repeat.per, parseDay(slot), settings.weekStart).last + 1);
  if (series.late !== 'lapse') return () => null;
  const grace = series.grace === undefined ? null : parseSpan(series.grace);
  const raw = (due: LocalMoment): Instant => {
    const { day, minute } = parseMoment(due);
    const end = (of: Day) => (minute === null ? clock.startOf(of + 1) : clock.instantOf(due));
    if (!grace) return end(day);
    if (isClockSpan(grace)) return end(day) + grace.minutes * 60000;
    const later = Math.min(addToDay(day, grace), LAST_DAY);
    return minute === null
      ? clock.startOf(later + 1)
      : clock.instantOf(formatMoment({ day: later, minute }));
  };
  return ({ due }) => {
    if (due === null) return null;
    const at = raw(due);
    const pause = paused.at(clock.dayAt(at - 1));
    if (!pause) return at;
    return pause.to === Infinity ? null : Math.max(at, clock.startOf(pause.to + 1));
  };
}

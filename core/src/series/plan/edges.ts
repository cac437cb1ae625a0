import { LAST_DAY, formatDay, parseDay, type Day } from '../../calendar/day.ts';
import { addToDay, parseSpan } from '../../calendar/span.ts';
import { formatTime, parseMoment, type LocalMoment } from '../../calendar/time.ts';
import type { Series } from '../definition/definition.ts';

/** The last day on which a slot may fall (R11): `within` is half open. */
export function lastDayOf(series: Series): Day {
  const { ends } = series;
  if (!ends) return LAST_DAY;
  if ('on' in ends) return parseDay(ends.on);
  if ('within' in ends && series.start !== null)
    return addToDay(parseDay(series.start), parseSpan(ends.within)) - 1;
  return LAST_DAY;
}

/** A moment just before another, to find the slots from that one on. */
export function justBefore(moment: LocalMoment): LocalMoment {
  const { day, minute } = parseMoment(moment);
  return minute === null || minute === 0
    ? formatDay(day - 1)
    : `${formatDay(day)}T${formatTime(minute - 1)}`;
}

import { formatDay, parseDay, type LocalDate } from '../calendar/day.ts';
import type { Series } from '../series/definition/definition.ts';
import { lastDayOf } from '../series/plan/edges.ts';

/** A habit that is being taken up: one at a time, for so many days. */

/** The last day of a to-do that ends on one; null for no such day. */
export function lastDayOfHabit(series: Series): LocalDate | null {
  const { start, ends } = series;
  const isDated = start !== null && ends && ('on' in ends || 'within' in ends);
  return isDated ? formatDay(lastDayOf(series)) : null;
}

/** On which day of how many a habit is; null before it begins, after it, and where it has no last day. */
export function habitDay(series: Series, today: LocalDate): { day: number; of: number } | null {
  const last = lastDayOfHabit(series);
  if (last === null || series.start === null || today < series.start || today > last) return null;
  const start = parseDay(series.start);
  return { day: parseDay(today) - start + 1, of: parseDay(last) - start + 1 };
}

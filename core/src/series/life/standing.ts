import { parseDay, type LocalDate } from '../../calendar/day.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import type { Series } from '../definition/definition.ts';
import type { Pause } from '../plan/pauses.ts';
import { clockOf, type Settings } from '../person/settings.ts';

/** How many days a time is past due, in the person's days; 0 where it is not. */
export function daysLate(
  { due }: { due: LocalMoment | null },
  today: LocalDate,
  settings: Settings,
): number {
  if (due === null) return 0;
  return Math.max(0, parseDay(today) - clockOf(settings).dayOfMoment(due));
}

/** The pause in which a to-do is on a date; undefined for none. */
export function pauseOn({ pauses }: Series, date: LocalDate): Pause | undefined {
  return pauses?.find(({ from, to }) => from <= date && (to === null || to >= date));
}

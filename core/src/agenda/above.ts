import { formatDay, parseDay, type LocalDate } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import { CoreError } from '../errors.ts';

/** What a person puts above everything else on a day. */

export interface Above {
  day: LocalDate;
  todo: string;
  slot: LocalMoment;
}

/** So many times are put above all at most. */
export const MOST_ABOVE = 3;

/** Whether two name one time on one day. */
export const isSameAbove = (a: Above, b: Above) =>
  a.todo === b.todo && a.slot === b.slot && a.day === b.day;

/**
 * Puts a time above all for a day, behind those that are there; one that is there stays where it is.
 * @param at at which place it is put; left out: the last
 * @param isOpen whether one of the day is still open: an ended one takes no room
 * @throws CoreError `above.full`: a fourth finds no room
 */
export function putAbove(
  above: readonly Above[],
  it: Above,
  isOpen: (it: Above) => boolean,
  at = above.length,
): Above[] {
  if (above.some((one) => isSameAbove(one, it))) return [...above];
  const open = above.filter((one) => one.day === it.day && isOpen(one));
  if (open.length >= MOST_ABOVE)
    throw new CoreError(
      'above.full',
      'todo',
      'Three are above all today already: take one of them down first.',
    );
  const kept = recent(above, it.day);
  return [...kept.slice(0, at), it, ...kept.slice(at)];
}

export const takeDown = (above: readonly Above[], it: Above): Above[] =>
  above.filter((one) => !isSameAbove(one, it));

/** So many days of what was above all are kept. */
const KEPT_DAYS = 30;

const recent = (above: readonly Above[], day: LocalDate): Above[] => {
  const since = formatDay(parseDay(day) - KEPT_DAYS);
  return above.filter((one) => one.day >= since);
};

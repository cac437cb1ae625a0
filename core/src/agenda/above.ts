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
 * Puts a time above all for a day, behind those that are there.
 * @param isOpen whether one of the day is still open: an ended one takes no room
 * @returns the same list where it is there already; those of long ago are left out, which are the first
 * @throws CoreError `above.full`: a fourth finds no room
 */
export function putAbove(above: Above[], it: Above, isOpen: (it: Above) => boolean): Above[] {
  if (above.some((one) => isSameAbove(one, it))) return above;
  const open = above.filter((one) => one.day === it.day && isOpen(one));
  if (open.length >= MOST_ABOVE)
    throw new CoreError(
      'above.full',
      'todo',
      'Three are above all today already: take one of them down first.',
    );
  const since = formatDay(parseDay(it.day) - KEPT_DAYS);
  const first = above.findIndex(({ day }) => day >= since);
  return [...(first < 0 ? [] : above.slice(first)), it];
}

/** Takes a time down; gives the same list where it is not there. */
export function takeDown(above: Above[], it: Above): Above[] {
  const left = above.filter((one) => !isSameAbove(one, it));
  return left.length === above.length ? above : left;
}

/** So many days of what was above all are kept. */
const KEPT_DAYS = 30;

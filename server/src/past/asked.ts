import { CoreError, parseDay, within, type Day } from '@back-again/core';
import { noPlace } from '@back-again/contract';
import type { Database } from '../db/database.ts';
import { placesOf } from '../machine/places.ts';

/** What the views of the past are asked about: spans of days, and of what. */

/** About a hundred years. */
const MOST_DAYS = 36_525;

export interface DaySpan {
  from: string;
  to: string;
  first: Day;
  last: Day;
}

/**
 * A span of days, both inclusive.
 * @throws CoreError `past.span` where it ends before it begins, or is longer than a hundred years; `date.…`
 */
export function spanOf({ from, to }: { from: string; to: string }, most = MOST_DAYS): DaySpan {
  const [first, last] = [parseDay(from, 'from'), parseDay(to, 'to')];
  if (last < first)
    throw new CoreError('past.span', 'to', 'A span ends on the day it begins, or later.');
  if (last - first >= most) {
    const length = most === MOST_DAYS ? 'A hundred years' : `${most.toLocaleString('en')} days`;
    throw new CoreError('past.span', 'to', `${length} at most are looked at at once.`);
  }
  return { from, to, first, last };
}

/** Of what: as a condition on ended times, with what it needs. */
export interface About {
  sql: string;
  replacements: { aboutTodo?: string; aboutPlaces?: string[] };
}

/**
 * One to-do, a place with all that it holds, or everything.
 * @param isThere whether a place that was taken away is none
 * @throws CoreError `place.none`
 */
export async function aboutOf(
  db: Database,
  userId: string,
  { todo, place }: { todo?: string | null | undefined; place?: string | null | undefined },
  { isThere = false } = {},
): Promise<About> {
  if (todo) return { sql: 'AND o.seriesId = :aboutTodo', replacements: { aboutTodo: todo } };
  if (!place) return { sql: '', replacements: {} };
  const places = await placesOf(db, userId);
  if (!places.some(({ id, gone }) => id === place && !(isThere && gone))) throw noPlace();
  return {
    sql: 'AND o.place IN (:aboutPlaces)',
    replacements: { aboutPlaces: [...within(places, place)] },
  };
}

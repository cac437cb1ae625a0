import { parseDay, type Day } from '@back-again/core';
import type { TrailTime } from '@back-again/contract/past';
import { endingOf, type Ending } from './words.ts';

/** One arch of the trail, in days: from where it was counted, to where it was meant, to where it came. */
export interface Arch {
  from: Day;
  due: Day;
  /** Where it ended: the day it was done, its due day where it was not. */
  end: Day;
  ending: Ending;
}

/**
 * The arches of a trail: each is as wide as the span that was meant, from the end of the one before to its
 * due day. The first of them begins nowhere that is known: it has none.
 */
export function archesOf(trail: readonly TrailTime[]): Arch[] {
  let before: Day | null = null;
  return trail.map((time) => {
    const due = parseDay(time.dueOn);
    const end = time.doneOn === null ? due : parseDay(time.doneOn);
    const from = before ?? Math.min(due, end);
    before = Math.max(end, before ?? end);
    return { from: Math.min(from, due), due, end, ending: endingOf(time) };
  });
}

/** The days from the first foot to the last dot. */
export function reachOf(arches: readonly Arch[]): { first: Day; last: Day } {
  const all = arches.flatMap(({ from, due, end }) => [from, due, end]);
  return { first: Math.min(...all), last: Math.max(...all) };
}

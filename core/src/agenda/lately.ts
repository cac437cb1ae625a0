import type { Instant } from '../calendar/zone.ts';
import type { Deed } from '../series/deeds/deeds.ts';
import type { Occurrence } from '../series/life/progress.ts';
import { numberOf, type Outcome } from '../series/life/record.ts';
import type { PersonalClock } from '../series/person/settings.ts';

/** A time that the person ended since yesterday, and the action that ended it: so that it can be taken back. */
export interface Ended {
  time: Occurrence;
  action: string;
  /** When that was done. */
  at: Instant;
}

/** What was ended since the beginning of yesterday. */
export function sinceYesterday(
  lately: readonly Ended[],
  clock: PersonalClock,
  now: Instant,
): Ended[] {
  const since = clock.startOf(clock.dayAt(now) - 1);
  return lately.filter(({ at }) => at >= since);
}

const ENDS: readonly Deed['do'][] = ['done', 'tally', 'skip'];

/**
 * What was ended lately, after a deed was done to a to-do and nothing gone through again: the time that
 * it ended is added, one that it changed is as it is now.
 */
export function latelyAfter(
  lately: readonly Ended[],
  { times, entries }: Outcome,
  did: { action: string; at: Instant },
): Ended[] {
  const changed = new Map(times.map((time) => [time.number, time]));
  const after = lately.map((it) => ({ ...it, time: changed.get(it.time.number) ?? it.time }));
  const [entry] = entries;
  const number = entry && numberOf(entry);
  const time = typeof number === 'number' ? changed.get(number) : undefined;
  if (!entry || !time || !ENDS.includes(entry.step.deed.do) || time.status === 'open') return after;
  return [...after.filter((it) => it.time.number !== number), { time, ...did }];
}

import { formatDay, type LocalDate } from '../../calendar/day.ts';
import type { Instant } from '../../calendar/zone.ts';
import { awake, onDay } from './reminding.ts';
import { clockOf, type Settings } from '../person/settings.ts';

/** The moment of a morning overview, and the person's day that it is about. */
export interface Overview {
  day: LocalDate;
  at: Instant;
}

/**
 * The first morning overview after an instant: at the person's hour of a day, or when their quiet hours
 * end (R17). Null where they want none.
 */
export function nextOverview(settings: Settings, after: Instant): Overview | null {
  const { overview } = settings;
  if (overview === undefined) return null;
  const clock = clockOf(settings);
  for (let day = clock.dayAt(after) - 1; ; day++) {
    const at = awake(clock, settings, onDay(clock, day, overview));
    if (at > after) return { day: formatDay(clock.dayAt(at)), at };
  }
}

/** The last morning overview up to and including an instant: after an outage it alone is said. */
export function lastOverview(settings: Settings, until: Instant): Overview | null {
  let last = nextOverview(settings, until - 3 * 86_400_000);
  while (last) {
    const next = nextOverview(settings, last.at)!;
    if (next.at > until) return last.at <= until ? last : null;
    last = next;
  }
  return null;
}

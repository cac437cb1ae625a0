import { plannerOf, type LocalDate, type Planner, type Settings } from '@back-again/core';
import { holidaysOf } from '../holidays/holidays.ts';

/** The years of which public holidays are known; beyond them no day is closed for one. */
const [FROM, TO] = [2016, 2046];

const known = new Map<string, readonly LocalDate[]>();

/**
 * The public holidays of a person’s region, none where they named none; each region is worked out
 * once.
 * @throws CoreError `holidays.region`
 */
export function holidaysFor({ holidays }: Settings): readonly LocalDate[] {
  if (!holidays) return [];
  let dates = known.get(holidays);
  if (!dates) known.set(holidays, (dates = holidaysOf(holidays, FROM, TO)));
  return dates;
}

const planners = new WeakMap<Settings, Planner>();

/** The planner of a person, with the holidays of their region; the same for the same settings. */
export function plannerFor(settings: Settings): Planner {
  const planner = planners.get(settings) ?? plannerOf(settings, holidaysFor(settings));
  planners.set(settings, planner);
  return planner;
}

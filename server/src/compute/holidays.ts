import type { LocalDate, Settings } from '@back-again/core';

/** The years of which public holidays are known; beyond them no day is closed for one. */
export const [FROM, TO] = [2016, 2046];

/** The public holidays of the regions that were worked out so far. */
const known = new Map<string, readonly LocalDate[]>();
const NONE: readonly LocalDate[] = [];

/** Keeps the public holidays of a region. */
export function knowHolidays(region: string, dates: readonly LocalDate[]): void {
  known.set(region, dates);
}

/** The public holidays of a region, or null where they have not been worked out yet. */
export function knownHolidays(region: string | undefined): readonly LocalDate[] | null {
  return region ? (known.get(region) ?? null) : NONE;
}

/**
 * The public holidays of a person’s region, none where they named none.
 * @throws RangeError where they have not been worked out: whoever reads settings sees to that first
 */
export function holidaysFor({ holidays }: Settings): readonly LocalDate[] {
  const dates = knownHolidays(holidays);
  if (!dates) throw new RangeError(`The holidays of ${holidays} have not been worked out.`);
  return dates;
}

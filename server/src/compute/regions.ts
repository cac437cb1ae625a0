import Holidays from 'date-holidays';
import type { RegionView } from '@back-again/contract';
import { CoreError, type LocalDate } from '@back-again/core';

/**
 * The public holidays of a region from the open dataset date-holidays, as plain dates in order,
 * from one year to another, both inclusive.
 * @param region a country, with a part of it where there is one: `GB-ENG`, `DE-BE`, `US`
 * @throws CoreError `holidays.region` where the dataset knows no such region
 */
export function holidaysOf(region: string, fromYear: number, toYear: number): LocalDate[] {
  const [country = '', part] = region.split('-');
  const known = new Holidays();
  if (!(country in known.getCountries()) || (part && !(part in (known.getStates(country) ?? {}))))
    throw new CoreError('holidays.region', 'holidays', `No holidays are known for “${region}”.`);
  const dataset = part ? new Holidays(country, part) : new Holidays(country);
  const dates = new Set<LocalDate>();
  for (let year = fromYear; year <= toYear; year++)
    for (const { date, end, start, type } of dataset.getHolidays(year)) {
      if (type !== 'public') continue;
      // One that lasts for several days is closed on each of them.
      const length = Math.max(1, Math.round((end.getTime() - start.getTime()) / 86_400_000));
      const first = Date.parse(`${date.slice(0, 10)}T00:00:00Z`);
      for (let i = 0; i < length; i++)
        dates.add(new Date(first + i * 86_400_000).toISOString().slice(0, 10));
    }
  return [...dates].sort();
}

let all: RegionView[] | null = null;
/** Parts that the dataset names by words in the place of a code are left to their country. */
const CODE = /^[A-Z0-9]{1,3}$/u;

/** Every region of the dataset by its English name, as {@link holidaysOf} takes it: countries, and behind each its parts. */
export function regions(): readonly RegionView[] {
  if (all) return all;
  const known = new Holidays();
  const byName = (of: Record<string, string> | undefined) =>
    Object.entries(of ?? {}).sort(([, a], [, b]) => a.localeCompare(b, 'en'));
  all = byName(known.getCountries('en')).flatMap(([country, name]) => [
    { code: country, name },
    ...byName(known.getStates(country, 'en'))
      .filter(([part]) => CODE.test(part))
      .map(([part, its]) => ({ code: `${country}-${part}`, name: `${its}, ${name}` })),
  ]);
  return all;
}

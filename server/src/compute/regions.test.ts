import Holidays from 'date-holidays';
import {
  everyWorkdays,
  formatDay,
  moved,
  nthWorkdays,
  openDaysOf,
  parseDay,
  type Weekday,
} from '@back-again/core';
import { holidaysOf, regions } from './regions.ts';

const MONDAY_TO_FRIDAY: Weekday[] = ['MO', 'TU', 'WE', 'TH', 'FR'];
const REGIONS = ['GB-ENG', 'DE-BE', 'US'];
const [FROM, TO] = [2021, 2030];

/** Whether a day is open, from the dataset and the runtime’s own dates alone. */
function isOpenByDataset(region: string): (date: string) => boolean {
  const [country, part] = region.split('-') as [string, string?];
  const dataset = part ? new Holidays(country, part) : new Holidays(country);
  const closed = new Set<string>();
  for (let year = FROM; year <= TO; year++)
    for (const { date, type } of dataset.getHolidays(year))
      if (type === 'public') closed.add(date.slice(0, 10));
  return (date) => {
    const weekday = new Date(`${date}T00:00:00Z`).getUTCDay();
    return weekday > 0 && weekday < 6 && !closed.has(date);
  };
}

describe.each(REGIONS)('%s, ten years against the dataset', (region) => {
  const open = openDaysOf(MONDAY_TO_FRIDAY, holidaysOf(region, FROM, TO));
  const isOpen = isOpenByDataset(region);
  const first = parseDay(`${FROM}-01-01`);
  const last = parseDay(`${TO}-12-31`);
  const days = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const workdays = days.filter((day) => isOpen(formatDay(day)));

  test('each day is open or closed as the dataset says', () => {
    expect(days.filter(open.isOpen)).toEqual(workdays);
    expect(open.rank(last) - open.rank(first - 1)).toBe(workdays.length);
  });

  test('the first, fifth and last working day of each month, quarter and year', () => {
    for (const [per, key] of [
      ['month', (date: string) => date.slice(0, 7)],
      [
        'quarter',
        (date: string) => `${date.slice(0, 4)} ${Math.floor((Number(date.slice(5, 7)) - 1) / 3)}`,
      ],
      ['year', (date: string) => date.slice(0, 4)],
    ] as const)
      for (const nth of [1, 5, -1, -2, 22]) {
        const groups = new Map<string, number[]>();
        for (const day of workdays) {
          const group = key(formatDay(day));
          groups.set(group, [...(groups.get(group) ?? []), day]);
        }
        const expected = [...groups.values()].flatMap(
          (group) => group.at(nth > 0 ? nth - 1 : nth) ?? [],
        );
        expect(nthWorkdays(open, nth, per, first).list(first - 1, last, 1000)).toEqual(expected);
      }
  });

  test('each third working day, and the next far ahead', () => {
    const sequence = everyWorkdays(open, 3, first + 2);
    const from = workdays.findIndex((day) => day >= first + 2);
    const expected = workdays.slice(from).filter((_, i) => i % 3 === 0);
    expect(sequence.list(first, last, 5000)).toEqual(expected);
    expect(sequence.next(expected[700]! - 1)).toBe(expected[700]);
    expect(sequence.previous(expected[700]!)).toBe(expected[699]);
    expect(sequence.count(first, last)).toBe(expected.length);
  });

  test('a closed day goes before, after or to the nearest open one, the earlier on a tie', () => {
    for (const day of days.slice(10, -10)) {
      const before = workdays.findLast((it) => it <= day)!;
      const after = workdays.find((it) => it >= day)!;
      expect(moved(open, day, 'before')).toBe(before);
      expect(moved(open, day, 'after')).toBe(after);
      expect(moved(open, day, 'nearest')).toBe(day - before <= after - day ? before : after);
      expect(moved(open, day, 'drop')).toBe(isOpen(formatDay(day)) ? day : null);
      expect(moved(open, day, 'keep')).toBe(day);
    }
  });
});

test('the last working day of each month of 2027 in England (worked example)', () => {
  const open = openDaysOf(MONDAY_TO_FRIDAY, holidaysOf('GB-ENG', 2026, 2028));
  const start = parseDay('2027-01-01');
  expect(
    nthWorkdays(open, -1, 'month', start)
      .list(start - 1, start + 365, 6)
      .map(formatDay),
  ).toEqual(['2027-01-29', '2027-02-26', '2027-03-31', '2027-04-30', '2027-05-28', '2027-06-30']);
});

test('a region that the dataset does not know is refused by name', () => {
  expect(() => holidaysOf('XX', 2027, 2027)).toThrow('No holidays are known for “XX”.');
  expect(() => holidaysOf('GB-XYZ', 2027, 2027)).toThrow('No holidays are known for “GB-XYZ”.');
});

test('without a working day nothing ever comes', () => {
  const open = openDaysOf([]);
  expect(everyWorkdays(open, 1, 0).next(0)).toBeNull();
  expect(nthWorkdays(open, 1, 'month', 0).next(0)).toBeNull();
  expect(moved(open, 5, 'nearest')).toBe(5);
});

describe('the regions by name', () => {
  it('has countries and their parts, each code once', () => {
    const codes = regions().map(({ code }) => code);
    expect(new Set(codes).size).toBe(codes.length);
    expect(regions()).toContainEqual({ code: 'GB', name: 'United Kingdom' });
    expect(regions()).toContainEqual({ code: 'GB-ENG', name: 'England, United Kingdom' });
  });

  it('gives no region that Settings would refuse', () => {
    const wrong = regions().filter(({ code }) => !/^[A-Z]{2}(-[A-Z0-9]{1,3})?$/u.test(code));
    expect(wrong).toEqual([]);
  });
});

import type { chance } from '../../chance.ts';

/** Random rules for the checks against reference libraries: the same for the same seed. */

type Chance = ReturnType<typeof chance>;

const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

function some<T>(of: Chance, items: readonly T[], most: number): T[] {
  const found = new Set<T>();
  for (let i = 1 + of(most); i > 0; i--) found.add(items[of(items.length)]!);
  return [...found];
}

const signed = (of: Chance, low: number, high: number) =>
  (low + of(high - low + 1)) * (of(3) === 0 ? -1 : 1);

/** In order: rrule keeps the order in which BYHOUR and the like are given, a set has none. */
const several = (of: Chance, most: number, make: () => number) =>
  [...new Set(Array.from({ length: 1 + of(most) }, make))].sort((a, b) => a - b);

export interface RandomRule {
  rule: string;
  /** `YYYY-MM-DDTHH:MM:SS` */
  start: string;
}

const CORNER_DATES = [
  '02-28',
  '02-29',
  '12-28',
  '12-29',
  '12-30',
  '12-31',
  '01-01',
  '01-02',
  '01-03',
  '01-04',
  '03-31',
  '10-31',
];

/** A rule and a start, weighted to the ugly corners. */
export function randomRule(of: Chance): RandomRule {
  const freq = [
    'YEARLY',
    'YEARLY',
    'YEARLY',
    'MONTHLY',
    'MONTHLY',
    'MONTHLY',
    'WEEKLY',
    'WEEKLY',
    'DAILY',
    'HOURLY',
    'MINUTELY',
    'SECONDLY',
  ][of(12)]!;
  const small = freq === 'HOURLY' || freq === 'MINUTELY' || freq === 'SECONDLY';
  const parts = [`FREQ=${freq}`];
  const add = (name: string, values: readonly (string | number)[]) => {
    if (values.length) parts.push(`${name}=${values.join(',')}`);
  };
  const maybe = (oneIn: number) => of(oneIn) === 0;
  const interval = maybe(2)
    ? 1
    : 1 + of(small ? 50 : freq === 'YEARLY' ? 5 : freq === 'DAILY' ? 20 : 7);
  if (interval > 1) add('INTERVAL', [interval]);
  let bys = 0;
  const by = (name: string, values: readonly (string | number)[]) => {
    add(name, values);
    bys += values.length ? 1 : 0;
  };
  if (maybe(3))
    by(
      'BYMONTH',
      several(of, 3, () => 1 + of(12)),
    );
  const weeks = freq === 'YEARLY' && maybe(3);
  if (weeks)
    by(
      'BYWEEKNO',
      several(of, 3, () => (maybe(2) ? [1, 52, 53, -1, -52, -53][of(6)]! : signed(of, 1, 53))),
    );
  const yearDays = (freq === 'YEARLY' || small) && maybe(4);
  if (yearDays)
    by(
      'BYYEARDAY',
      several(of, 4, () =>
        maybe(2) ? [1, 59, 60, 61, 365, 366, -1, -365, -366][of(9)]! : signed(of, 1, 366),
      ),
    );
  if (freq !== 'WEEKLY' && maybe(weeks || yearDays ? 12 : 3))
    by(
      'BYMONTHDAY',
      several(of, 4, () => signed(of, 1, 31)),
    );
  if (weeks || maybe(2)) {
    const days = some(of, WEEKDAYS, 3);
    const ordinals = !weeks && (freq === 'MONTHLY' || freq === 'YEARLY') && maybe(2);
    const nth = () =>
      freq === 'YEARLY' && maybe(2) ? signed(of, 1, 53) : [1, 2, 3, 4, 5, -1, -2, -5][of(8)]!;
    by('BYDAY', ordinals ? days.map((day) => `${nth()}${day}`) : days);
  }
  if (maybe(6))
    by(
      'BYHOUR',
      several(of, 3, () => of(24)),
    );
  if (maybe(8))
    by(
      'BYMINUTE',
      several(of, 3, () => of(60)),
    );
  if (maybe(12))
    by(
      'BYSECOND',
      several(of, 2, () => of(60)),
    );
  if (bys && maybe(3))
    add(
      'BYSETPOS',
      several(of, 3, () => (maybe(8) ? signed(of, 1, 40) : [1, 1, -1, -1, 2, -2, 3][of(7)]!)),
    );
  if (maybe(3)) add('WKST', [WEEKDAYS[of(7)]!]);
  const year = 1995 + of(40);
  const ends = of(16);
  if (ends < 4) add('COUNT', [1 + of(30)]);
  else if (ends < 7)
    add('UNTIL', [`${year + of(6)}${String(1 + of(12)).padStart(2, '0')}15T120000Z`]);
  return { rule: parts.join(';'), start: randomStart(of, year) };
}

function randomStart(of: Chance, year: number): string {
  const two = (n: number) => String(n).padStart(2, '0');
  const corner = CORNER_DATES[of(CORNER_DATES.length)]!;
  const leap = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
  const date =
    of(2) === 0
      ? corner === '02-29' && !leap
        ? '02-28'
        : corner
      : `${two(1 + of(12))}-${two(1 + of(28))}`;
  const time = of(2) === 0 ? '09:00:00' : `${two(of(24))}:${two(of(60))}:${two(of(60))}`;
  return `${year}-${date}T${time}`;
}

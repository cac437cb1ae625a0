import type { Weekday } from '../../calendar/day.ts';
import { MONTH_NAMES, WEEKDAY_NAMES } from '../../calendar/names.ts';

export { MONTH_NAMES, WEEKDAY_NAMES };

/** The English words that are read, in one place. Keys are lower case. */

export const ORDINAL_NAMES: readonly string[] = ['first', 'second', 'third', 'fourth', 'fifth'];

export type Unit = 'minute' | 'hour' | 'day' | 'week' | 'month' | 'year';
export const UNITS: readonly Unit[] = ['minute', 'hour', 'day', 'week', 'month', 'year'];

const NUMBER_NAMES =
  'one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen twenty'.split(
    ' ',
  );
const MORE_ORDINALS =
  'sixth seventh eighth ninth tenth eleventh twelfth thirteenth fourteenth fifteenth sixteenth seventeenth eighteenth nineteenth twentieth twenty-first twenty-second twenty-third twenty-fourth twenty-fifth twenty-sixth twenty-seventh twenty-eighth twenty-ninth thirtieth thirty-first'.split(
    ' ',
  );

function table<T>(entries: Iterable<readonly [string, T]>): ReadonlyMap<string, T> {
  return new Map(entries);
}

const SHORT_WEEKDAYS = [
  ['mon', 'mons'],
  ['tue', 'tues'],
  ['wed', 'weds'],
  ['thu', 'thur', 'thurs'],
  ['fri', 'fris'],
  ['sat', 'sats'],
  ['sun', 'suns'],
];

/** Each weekday by its name, its short forms and its plural, as an index from Monday. */
export const WEEKDAYS_BY_WORD = table(
  WEEKDAY_NAMES.flatMap((name, i) => {
    const long = name.toLowerCase();
    return [long, `${long}s`, ...SHORT_WEEKDAYS[i]!].map((word) => [word, i] as const);
  }),
);

/** The plurals alone: “Fridays” says that it repeats; “tues” and “thurs” are one day. */
export const PLURAL_WEEKDAYS = new Set([
  ...WEEKDAY_NAMES.map((name) => `${name.toLowerCase()}s`),
  ...['mons', 'fris', 'sats', 'suns'],
]);

/** Each month by its name and short forms, from 1. */
export const MONTHS_BY_WORD = table(
  MONTH_NAMES.flatMap((name, i) => {
    const long = name.toLowerCase();
    return [long, long.slice(0, 3), ...(i === 8 ? ['sept'] : [])].map((w) => [w, i + 1] as const);
  }),
);

export const NUMBERS_BY_WORD = table<number>([
  ...NUMBER_NAMES.map((name, i) => [name, i + 1] as const),
  ['thirty', 30],
  ['forty', 40],
  ['fifty', 50],
  ['sixty', 60],
  ['ninety', 90],
  ['hundred', 100],
]);

export const ORDINALS_BY_WORD = table(
  [...ORDINAL_NAMES, ...MORE_ORDINALS].map((name, i) => [name, i + 1] as const),
);

export const UNITS_BY_WORD = table<{ n: number; unit: Unit }>([
  ...UNITS.flatMap((unit) => [
    [unit, { n: 1, unit }] as const,
    [`${unit}s`, { n: 1, unit }] as const,
  ]),
  ...['min', 'mins'].map((word) => [word, { n: 1, unit: 'minute' }] as const),
  ...['h', 'hr', 'hrs'].map((word) => [word, { n: 1, unit: 'hour' }] as const),
  ...['wk', 'wks'].map((word) => [word, { n: 1, unit: 'week' }] as const),
  ...['mth', 'mths'].map((word) => [word, { n: 1, unit: 'month' }] as const),
  ...['yr', 'yrs'].map((word) => [word, { n: 1, unit: 'year' }] as const),
  ['fortnight', { n: 2, unit: 'week' }],
  ['fortnights', { n: 2, unit: 'week' }],
  ['quarter', { n: 3, unit: 'month' }],
  ['quarters', { n: 3, unit: 'month' }],
]);

/** Words that are a whole repeat by themselves. */
export const ADVERBS = table<{ n: number; unit: Unit }>([
  ['hourly', { n: 1, unit: 'hour' }],
  ['daily', { n: 1, unit: 'day' }],
  ['weekly', { n: 1, unit: 'week' }],
  ['fortnightly', { n: 2, unit: 'week' }],
  ['monthly', { n: 1, unit: 'month' }],
  ['quarterly', { n: 3, unit: 'month' }],
  ['half-yearly', { n: 6, unit: 'month' }],
  ['yearly', { n: 1, unit: 'year' }],
  ['annually', { n: 1, unit: 'year' }],
]);

/**
 * The parts of the day, in minutes since midnight (common practice; the sentence says the time
 * that was taken).
 */
export const PARTS_OF_DAY = table<number>([
  ['morning', 8 * 60],
  ['lunchtime', 12 * 60],
  ['midday', 12 * 60],
  ['noon', 12 * 60],
  ['afternoon', 15 * 60],
  ['evening', 18 * 60],
  ['night', 21 * 60],
]);

/** The months of a season in the north (meteorological seasons, as weather services count them). */
export const SEASONS = table<readonly [number, number, number]>([
  ['spring', [3, 4, 5]],
  ['summer', [6, 7, 8]],
  ['autumn', [9, 10, 11]],
  ['winter', [12, 1, 2]],
]);

export const MONDAY_TO_FRIDAY: readonly Weekday[] = ['MO', 'TU', 'WE', 'TH', 'FR'];
export const WEEKEND: readonly Weekday[] = ['SA', 'SU'];

/** “12th”, “21st”, “33rd”. */
export function ordinalText(n: number): string {
  const tens = Math.floor(n / 10) % 10;
  const ending = tens === 1 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${ending}`;
}

/** The words that a clause without a word of its own can begin with. */
export const LEADS = new Set([
  ...'a an the every each once twice any all alternate alternating on at in by due from between last next this coming today tomorrow half three two quarter midday noon midnight whenever when first weekday weekdays weekend weekends working work couple dozen and except but not also end start beginning monthly quarterly yearly day until till ending up for'.split(
    ' ',
  ),
  ...[
    ADVERBS,
    MONTHS_BY_WORD,
    NUMBERS_BY_WORD,
    ORDINALS_BY_WORD,
    PARTS_OF_DAY,
    WEEKDAYS_BY_WORD,
  ].flatMap((table) => [...table.keys()]),
]);

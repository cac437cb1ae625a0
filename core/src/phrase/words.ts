import type { Weekday } from '../calendar/day.ts';

/** The words of the sentences, in one place. Keys are lower case. */

export const WEEKDAY_NAMES: readonly string[] = [
  'Monday',
  'Tuesday',
  'Wednesday',
  'Thursday',
  'Friday',
  'Saturday',
  'Sunday',
];

export const MONTH_NAMES: readonly string[] = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

export const ORDINAL_NAMES: readonly string[] = ['first', 'second', 'third', 'fourth', 'fifth'];

export type Unit = 'minute' | 'hour' | 'day' | 'week' | 'month' | 'year';
export const UNITS: readonly Unit[] = ['minute', 'hour', 'day', 'week', 'month', 'year'];

const NUMBER_NAMES = 'one two three four five six seven eight nine ten eleven twelve'.split(' ');

function table<T>(entries: Iterable<readonly [string, T]>): ReadonlyMap<string, T> {
  return new Map(entries);
}

/** Each weekday by its name, its short forms and its plural, as an index from Monday. */
export const WEEKDAYS_BY_WORD = table(
  WEEKDAY_NAMES.flatMap((name, i) => {
    const long = name.toLowerCase();
    const short = [long.slice(0, 3), ...(i === 1 ? ['tues'] : i === 3 ? ['thur', 'thurs'] : [])];
    return [long, `${long}s`, ...short].map((word) => [word, i] as const);
  }),
);

/** The plurals alone: “Fridays” says that it repeats. */
export const PLURAL_WEEKDAYS = new Set(WEEKDAY_NAMES.map((name) => `${name.toLowerCase()}s`));

/** Each month by its name and short forms, from 1. */
export const MONTHS_BY_WORD = table(
  MONTH_NAMES.flatMap((name, i) => {
    const long = name.toLowerCase();
    return [long, long.slice(0, 3), ...(i === 8 ? ['sept'] : [])].map((w) => [w, i + 1] as const);
  }),
);

export const NUMBERS_BY_WORD = table(NUMBER_NAMES.map((name, i) => [name, i + 1] as const));

export const ORDINALS_BY_WORD = table(ORDINAL_NAMES.map((name, i) => [name, i + 1] as const));

export const UNITS_BY_WORD = table(
  UNITS.flatMap((unit) => [
    [unit, unit] as const,
    [`${unit}s`, unit] as const,
    ...(unit === 'minute' ? [['min', unit] as const, ['mins', unit] as const] : []),
    ...(unit === 'hour' ? [['hrs', unit] as const] : []),
  ]),
);

/** Words that are a whole repeat by themselves. */
export const ADVERBS = table<{ n: number; unit: Unit }>([
  ['daily', { n: 1, unit: 'day' }],
  ['weekly', { n: 1, unit: 'week' }],
  ['fortnightly', { n: 2, unit: 'week' }],
  ['monthly', { n: 1, unit: 'month' }],
  ['quarterly', { n: 3, unit: 'month' }],
  ['yearly', { n: 1, unit: 'year' }],
  ['annually', { n: 1, unit: 'year' }],
]);

export const MONDAY_TO_FRIDAY: readonly Weekday[] = ['MO', 'TU', 'WE', 'TH', 'FR'];
export const WEEKEND: readonly Weekday[] = ['SA', 'SU'];

/** “12th”, “21st”, “33rd”. */
export function ordinalText(n: number): string {
  const tens = Math.floor(n / 10) % 10;
  const ending = tens === 1 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${ending}`;
}

/** “a, b and c”, or with another word between the last two. */
export function listText(items: readonly string[], link = 'and'): string {
  return items.length < 2
    ? items.join('')
    : `${items.slice(0, -1).join(', ')} ${link} ${items.at(-1)}`;
}

/** “1 day”, “14 days”. */
export function countText(n: number, unit: string): string {
  return `${n} ${unit}${n === 1 ? '' : 's'}`;
}

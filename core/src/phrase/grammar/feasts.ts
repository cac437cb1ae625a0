import { dateOf, dayOf, type Day } from '../../calendar/day.ts';
import type { Read } from './facts.ts';
import { done, words } from './numbers.ts';
import type { Token } from './tokens.ts';

/** Days of the year that people know by name, wherever they live. */

/** Easter Sunday of a year of the Gregorian calendar (J. Meeus, Astronomical Algorithms, 1991, chapter 8). */
export function easter(year: number): Day {
  const a = year % 19;
  const b = Math.floor(year / 100);
  const c = year % 100;
  const h =
    (19 * a + b - Math.floor(b / 4) - Math.floor((b - Math.floor((b + 8) / 25) + 1) / 3) + 15) % 30;
  const l = (32 + 2 * (b % 4) + 2 * Math.floor(c / 4) - h - (c % 4)) % 7;
  const m = Math.floor((a + 11 * h + 22 * l) / 451);
  const of = h + l - 7 * m + 114;
  return dayOf(year, Math.floor(of / 31), (of % 31) + 1);
}

const onThe = (month: number, day: number) => (year: number) => dayOf(year, month, day);

const FEASTS: readonly [pattern: string, of: (year: number) => Day][] = [
  ['christmas|xmas eve', onThe(12, 24)],
  ['christmas|xmas day?', onThe(12, 25)],
  ['boxing day', onThe(12, 26)],
  ["new year's|years eve", onThe(12, 31)],
  ["new year's|years day?", onThe(1, 1)],
  ['good friday', (year) => easter(year) - 2],
  ['easter monday', (year) => easter(year) + 1],
  ['easter sunday?', easter],
  ['ascension day', (year) => easter(year) + 39],
  ['whit monday', (year) => easter(year) + 50],
];

/** “Christmas”, “Good Friday”: the next such day on or after another. */
export function feast(tokens: readonly Token[], at: number, from: Day): Read<Day> {
  for (const [pattern, of] of FEASTS) {
    const next = words(tokens, at, pattern);
    if (next === null) continue;
    const { year } = dateOf(from);
    const this_ = of(year);
    return done(this_ >= from ? this_ : of(year + 1), next);
  }
  return null;
}

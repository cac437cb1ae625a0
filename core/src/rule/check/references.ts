import { runInNewContext } from 'node:vm';
import ICAL from 'ical.js';
import * as library from 'rrule';
import { parseDay } from '../../calendar/day.ts';
import { stampOf, stampsOf } from '../expand.ts';
import { parseRule } from '../parse.ts';
import type { RandomRule } from './random.ts';

/** The first moments of a rule, as stamps, by this engine and by the reference libraries. */

// As a module of either kind it gives its class by name, or under its default.
const { RRule } = 'RRule' in library ? library : (library as { default: typeof library }).default;

export const MOST = 40;
/** How long a library is waited for, in ms; most answer within one. */
const PATIENCE = 200;
/** How far from the start is looked, in days. */
const HORIZON = 12 * 366;

export function ours({ rule, start }: RandomRule): number[] {
  const from = stampOf(start);
  return stampsOf(parseRule(rule), from).list(from - 1, horizon(start), MOST);
}

export const horizon = (start: string) => (parseDay(start.slice(0, 10)) + HORIZON) * 86400;

/** What a library gives, or null where it has not answered for long: some look for ever. */
export function within(work: () => number[]): number[] | null {
  try {
    return runInNewContext('work()', { work }, { timeout: PATIENCE }) as number[];
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ERR_SCRIPT_EXECUTION_TIMEOUT') return null;
    throw error;
  }
}

/** By the library rrule; each moment once, as it gives one again where two positions meet. */
export function byRrule({ rule, start }: RandomRule, n: number): number[] {
  const found = new Set<number>();
  new RRule({ ...RRule.parseString(rule), dtstart: new Date(`${start}Z`) }, true).all((date) => {
    found.add(date.getTime() / 1000);
    return found.size < n;
  });
  return [...found];
}

/** By the library ical.js. */
export function byIcal({ rule, start }: RandomRule, n: number): number[] {
  const dtstart = ICAL.Time.fromDateTimeString(`${start}Z`);
  const iterator = ICAL.Recur.fromString(rule).iterator(dtstart);
  const found: number[] = [];
  while (found.length < n) {
    const next = iterator.next();
    if (!next || next.toUnixTime() > horizon(start)) break;
    found.push(next.toUnixTime());
  }
  return found;
}

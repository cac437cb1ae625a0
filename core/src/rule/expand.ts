import { FIRST_DAY, LAST_DAY, parseDay, type Day } from '../calendar/day.ts';
import { ROOM, periodsOf } from './periods.ts';
import type { Rule } from './rule.ts';

/** The dates of one rule counted from one start, prepared once and asked often. */
export interface Dates {
  /** The first date after `after`, or null when there is none. Pass `start − 1` for the first of all. */
  next(after: Day): Day | null;
  /** The last date before `before`, or null when there is none. */
  previous(before: Day): Day | null;
  /** The first `limit` dates after `after` (exclusive), up to `until` (inclusive). */
  list(after: Day, until: Day, limit: number): Day[];
}

/**
 * The dates of a rule counted from `start` (RFC 5545 §3.8.5.3, R1): none is before it, and a
 * start that is off the rule is no date of it. Dates are day numbers; UNTIL is taken by its day.
 *
 * A rule without COUNT is asked far ahead at the cost of one period; one with COUNT is walked
 * from its start.
 * @example datesOf(parseRule('FREQ=DAILY;INTERVAL=9'), start).next(start) // start + 9
 */
export function datesOf(rule: Rule, start: Day): Dates {
  const periods = periodsOf(rule, start);
  const buffer = new Int32Array(ROOM);
  const until = rule.until === null ? LAST_DAY : parseDay(rule.until.slice(0, 10), 'UNTIL');
  const most = rule.count ?? Infinity;

  /** Calls `see` with each date after `after` and up to `to`, in order, until it says stop. */
  function walk(after: Day, to: Day, see: (day: Day) => boolean): void {
    const end = Math.min(to, until);
    const lastPeriod = periods.indexOf(end);
    let last = Math.max(after, start - 1, FIRST_DAY - 1);
    for (let i = Math.max(0, periods.indexOf(last + 1) - periods.spills); i <= lastPeriod; i++) {
      const n = periods.fill(i, buffer);
      for (let k = 0; k < n; k++) {
        const day = buffer[k]!;
        if (day <= last) continue;
        if (day > end) return;
        last = day;
        if (!see(day)) return;
      }
    }
  }

  function list(after: Day, to: Day, limit: number): Day[] {
    const found: Day[] = [];
    if (limit < 1) return found;
    let seen = 0;
    walk(rule.count === null ? after : start - 1, Math.min(to, LAST_DAY), (day) => {
      if (day > after) found.push(day);
      return ++seen < most && found.length < limit;
    });
    return found;
  }

  function previous(before: Day): Day | null {
    if (rule.count !== null) return list(start - 1, before - 1, rule.count).at(-1) ?? null;
    const end = Math.min(before, until + 1, LAST_DAY);
    for (let i = periods.indexOf(end); i >= 0; i--)
      for (let k = periods.fill(i, buffer) - 1; k >= 0; k--)
        if (buffer[k]! < end) return buffer[k]! >= start ? buffer[k]! : null;
    return null;
  }

  return { list, previous, next: (after) => list(after, LAST_DAY, 1)[0] ?? null };
}

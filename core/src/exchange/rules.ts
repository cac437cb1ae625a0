import { WEEKDAYS, dateOf, weekdayIndex, type Day, type Weekday } from '../calendar/day.ts';
import { datesOf } from '../rule/expand.ts';
import { formatRule } from '../rule/format.ts';
import type { Rule } from '../rule/rule.ts';

/** A rule as other programs are told it (RFC 5545 §3.3.10, RFC 7529 §4.1). */

/** The first date of a rule on or after a day, whatever is excepted; null for one that never matches. */
export function firstOf(rule: Rule, start: Day): Day | null {
  return datesOf({ ...rule, until: null, count: null }, start).next(start - 1);
}

/** A rule with the parts written out that it takes from its start: who counts from elsewhere needs them. */
export function writtenOut(rule: Rule, start: Day): Rule {
  const { freq, byDay, byMonthDay, byYearDay, byWeekNo, byMonth } = rule;
  const { month, day } = dateOf(start);
  const weekday = { ordinal: null, weekday: WEEKDAYS[weekdayIndex(start)]! };
  const hasDay = byDay.length || byMonthDay.length || byYearDay.length;
  if (freq === 'WEEKLY' && !byDay.length) return { ...rule, byDay: [weekday] };
  if (freq === 'MONTHLY' && !hasDay) return { ...rule, byMonthDay: [day] };
  if (freq !== 'YEARLY' || hasDay) return rule;
  if (byWeekNo.length) return { ...rule, byDay: [weekday] };
  return { ...rule, byMonth: byMonth.length ? byMonth : [month], byMonthDay: [day] };
}

/**
 * A rule without SKIP where any reader can be told so: the last day of a month that lacks its day is the last
 * of its days from the 28th on. Gives whether RSCALE is needed.
 */
export function withoutSkip(rule: Rule): { rule: Rule; needsScale: boolean } {
  const { skip, byMonthDay, byDay, byYearDay, byWeekNo, bySetPos, freq, byMonth } = rule;
  if (skip === 'OMIT') return { rule, needsScale: false };
  const [day] = byMonthDay;
  const isPlain = byMonthDay.length === 1 && !byDay.length && !byYearDay.length && !byWeekNo.length;
  const isMonthly = freq === 'MONTHLY' || (freq === 'YEARLY' && byMonth.length === 1);
  if (day !== undefined && isPlain && day > 0 && day <= 28 && isMonthly)
    return { rule: { ...rule, skip: 'OMIT' }, needsScale: false };
  if (
    skip !== 'BACKWARD' ||
    !isPlain ||
    !isMonthly ||
    day === undefined ||
    day < 29 ||
    bySetPos.length
  )
    return { rule, needsScale: true };
  const days = Array.from({ length: day - 27 }, (_, i) => 28 + i);
  return {
    rule: { ...rule, skip: 'OMIT', byMonthDay: days, bySetPos: [-1] },
    needsScale: false,
  };
}

/** A rule as the value of RRULE in jCal: its parts in their order, none left out. */
export function recurOf(rule: Rule, needsScale: boolean): Record<string, unknown> {
  const parts = formatRule(rule).split(';');
  const found: Record<string, unknown> = needsScale ? { rscale: 'GREGORIAN' } : {};
  for (const part of parts) {
    const [name = '', value = ''] = part.split('=');
    found[name.toLowerCase()] = name === 'UNTIL' ? untilOf(value) : value;
  }
  return found;
}

/** A date, or a date and time, as jCal has it. */
const untilOf = (value: string) => {
  const [, y, m, d, time = ''] = /^(\d{4})(\d\d)(\d\d)(.*)$/u.exec(value)!;
  const [, h, min, s, z] = /^T(\d\d)(\d\d)(\d\d)(Z?)$/u.exec(time) ?? [];
  return h === undefined ? `${y}-${m}-${d}` : `${y}-${m}-${d}T${h}:${min}:${s}${z}`;
};

/** A rule of the library as it is written, from its parts, without its UNTIL. */
export function ruleText(recur: Record<string, unknown>): string {
  return Object.entries(recur)
    .filter(([name]) => name !== 'until')
    .map(
      ([name, value]) =>
        `${name.toUpperCase()}=${name === 'wkst' && typeof value === 'number' ? weekdayOf(value) : String(value)}`,
    )
    .join(';');
}
/** The library counts weekdays from 1 for Sunday. */
const weekdayOf = (n: number): Weekday => WEEKDAYS[(n + 5) % 7]!;

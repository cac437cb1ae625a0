import { spanUnits, type Span } from '../calendar/span.ts';
import { parseRule } from '../rule/parse.ts';
import type { Rule } from '../rule/rule.ts';
import type { Repeat, Series } from '../series/definition/definition.ts';
import { spreadOf } from './figures.ts';

/** How far apart the times of a to-do are meant to be, where that is a number of days or of weeks alone. */
export interface Interval {
  /** In days. */
  days: number;
  /** Whether it is said in weeks. */
  inWeeks: boolean;
}

/** The interval that a definition says; null where it is none of days or weeks alone. */
export function intervalOf({ repeat }: Pick<Series, 'repeat'>): Interval | null {
  if (repeat?.by === 'completion') {
    const { every, workdays, onto } = repeat;
    return workdays || onto !== undefined ? null : inDays(every);
  }
  if (repeat?.by !== 'calendar' || !('rule' in repeat)) return null;
  const rule = parseRule(repeat.rule);
  const { freq, interval, byDay } = rule;
  if (freq === 'DAILY' && hasNoOther(rule) && !byDay.length)
    return { days: interval, inWeeks: false };
  if (freq === 'WEEKLY' && hasNoOther(rule) && byDay.length <= 1)
    return { days: 7 * interval, inWeeks: true };
  return null;
}

function inDays(span: Span): Interval | null {
  const [years, months, weeks, days, hours, minutes] = (spanUnits(span) ?? []).map((n) => n ?? 0);
  if (years || months || hours || minutes) return null;
  if (weeks && days) return null;
  return weeks ? { days: 7 * weeks, inWeeks: true } : { days: days!, inWeeks: false };
}

const hasNoOther = (rule: Rule) =>
  [
    rule.bySecond,
    rule.byMinute,
    rule.byHour,
    rule.byMonthDay,
    rule.byYearDay,
    rule.byWeekNo,
    rule.byMonth,
    rule.bySetPos,
  ].every((part) => !part.length);

/** So many of the last gaps are looked at, and so many there have to be. */
export const LAST_GAPS = 12;
const LEAST_GAPS = 6;
/** So many days, and so many in a hundred, another interval is away from the one that is defined. */
const [LEAST_AWAY, LEAST_SHARE] = [2, 15];

/**
 * The interval that a to-do really has, where that is another than the one it is defined with: the usual of
 * its last gaps.
 * @param gaps days between one done day and the next, in their order
 */
export function insteadOf(series: Pick<Series, 'repeat'>, gaps: readonly number[]): Span | null {
  const last = gaps.slice(-LAST_GAPS);
  if (last.length < LEAST_GAPS) return null;
  const defined = intervalOf(series);
  const { usual } = spreadOf(last)!;
  if (!defined || usual < 1) return null;
  const away = Math.abs(usual - defined.days);
  if (away < LEAST_AWAY || away * 100 < LEAST_SHARE * defined.days) return null;
  return defined.inWeeks && usual % 7 === 0 ? `P${usual / 7}W` : `P${usual}D`;
}

/**
 * The repeat of a definition with another interval, everything else as it is.
 * @throws Error where {@link intervalOf} gives none for it
 */
export function withInterval(repeat: Repeat | null, every: Span): Repeat {
  const interval = inDays(every);
  if (repeat?.by === 'completion') return { ...repeat, every };
  if (!interval || repeat?.by !== 'calendar' || !('rule' in repeat))
    throw new Error('This repeat has no interval of its own.');
  const parts = repeat.rule.split(';').filter((part) => !isReplaced(part, interval.inWeeks));
  const freq = interval.inWeeks ? 'WEEKLY' : 'DAILY';
  const n = interval.inWeeks ? interval.days / 7 : interval.days;
  return { ...repeat, rule: [`FREQ=${freq}`, `INTERVAL=${n}`, ...parts].join(';') };
}

/** A day of the week has no place in a rule of days. */
const isReplaced = (part: string, inWeeks: boolean) =>
  /^(FREQ|INTERVAL)=/iu.test(part) || (!inWeeks && /^BYDAY=/iu.test(part));

import { CoreError } from '../errors.ts';
import { addMonths, type Day } from './day.ts';

/** A length of time as ISO 8601 text: `P3D`, `P2W`, `P1M`, `P1Y`, `PT36H`, `PT30M`. */
export type Span = string;

/** A span in integers. Calendar parts and clock parts are kept apart: a day may have 23 hours. */
export interface SpanParts {
  months: number;
  days: number;
  minutes: number;
}

type SixNumbers = [number, number, number, number, number, number];

const SPAN = /^P(?:(\d+)Y)?(?:(\d+)M)?(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?)?$/;

/**
 * How many years, months, weeks, days, hours and minutes a span is written with, in that order; null
 * for each that it lacks, and as a whole where it is not so written.
 */
export function spanUnits(text: string): (number | null)[] | null {
  const found = SPAN.exec(text);
  if (!found || text.endsWith('P') || text.endsWith('T')) return null;
  return found.slice(1).map((count) => (count === undefined ? null : Number(count)));
}

/** The longest span taken, in its own unit: about a hundred years of days. */
const MOST_DAYS = 36525;

/**
 * Reads an ISO 8601 duration without signs, fractions or seconds. Years count as 12 months, weeks
 * as 7 days.
 * @throws CoreError `span.form` when it is not so written, `span.empty` when it is no time at all,
 * `span.long` above a hundred years.
 * @example parseSpan('P2W') // { months: 0, days: 14, minutes: 0 }
 */
export function parseSpan(text: string, where = 'span'): SpanParts {
  const units = spanUnits(text);
  if (!units)
    throw new CoreError('span.form', where, `“${text}” is not a span written as P14D or PT36H.`);
  const [years, months, weeks, daysAlone, hours, minutes] = units.map((n) => n ?? 0) as SixNumbers;
  const span = {
    months: years * 12 + months,
    days: weeks * 7 + daysAlone,
    minutes: hours * 60 + minutes,
  };
  const days = span.months * 30.4 + span.days + span.minutes / 1440;
  if (days === 0)
    throw new CoreError('span.empty', where, 'A span must be longer than no time at all.');
  if (days > MOST_DAYS)
    throw new CoreError('span.long', where, 'A span can be a hundred years at most.');
  return span;
}

/** Whether a span has hours or minutes, so that it counts from an instant and not from a day. */
export function isClockSpan(span: SpanParts): boolean {
  return span.minutes > 0;
}

/**
 * Adds the calendar part of a span to a day, months before days: 31 January and a month is the
 * last of February. `sign` −1 takes it away. The clock part is left to the caller.
 */
export function addToDay(day: Day, span: SpanParts, sign: 1 | -1 = 1): Day {
  const moved = span.months ? addMonths(day, sign * span.months) : day;
  return moved + sign * span.days;
}

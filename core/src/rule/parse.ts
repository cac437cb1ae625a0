import { WEEKDAYS, parseDay, type Weekday } from '../calendar/day.ts';
import { formatMoment, parseTime, type LocalMoment } from '../calendar/time.ts';
import { CoreError } from '../errors.ts';
import type { Frequency, Rule, Skip, WeekdayPart } from './rule.ts';

const FREQUENCIES: readonly string[] = ['DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'];
const SKIPS: readonly string[] = ['OMIT', 'BACKWARD', 'FORWARD'];
const MOST = 1_000_000;

/**
 * Reads the value of an RRULE (RFC 5545 §3.3.10) by days: FREQ (DAILY to YEARLY), INTERVAL, BYDAY,
 * BYMONTHDAY, BYMONTH, COUNT, UNTIL, WKST, and SKIP of RFC 7529 §4.1. Parts may come in any
 * order and case. UNTIL is read as local time (a trailing `Z` is refused).
 * @throws CoreError with a code `rule.…`, naming the part and the reason.
 * @example parseRule('FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SA')
 */
export function parseRule(text: string, where = 'rule'): Rule {
  const parts = new Map<string, string>();
  for (const piece of text.split(';')) {
    const cut = piece.indexOf('=');
    const name = piece.slice(0, cut).toUpperCase();
    if (cut < 1 || cut === piece.length - 1)
      throw new CoreError('rule.form', where, `“${piece}” is not a part written as NAME=VALUE.`);
    if (parts.has(name)) throw new CoreError('rule.twice', where, `${name} is given twice.`);
    parts.set(name, piece.slice(cut + 1).toUpperCase());
  }
  const take = <T>(name: string, read: (value: string) => T, otherwise: T): T => {
    const value = parts.get(name);
    parts.delete(name);
    return value === undefined ? otherwise : read(value);
  };
  const fail = (part: string, reason: string): never => {
    throw new CoreError(`rule.${part.toLowerCase()}`, where, `${part}: ${reason}`);
  };
  const whole = (part: string) => (value: string) => {
    const n = /^\d+$/.test(value) ? Number(value) : 0;
    if (n < 1 || n > MOST) fail(part, `“${value}” is not a whole number from 1 to 1,000,000.`);
    return n;
  };
  const list = (part: string, low: number, high: number, negative: boolean) => (value: string) =>
    value.split(',').map((item) => {
      const n = /^[+-]?\d{1,2}$/.test(item) ? Number(item) : 0;
      const size = negative ? Math.abs(n) : n;
      if (size < low || size > high)
        fail(part, `“${item}” is not from ${low} to ${high}${negative ? ', or minus that' : ''}.`);
      return n;
    });

  const freq = take('FREQ', (value) => value, '');
  if (!FREQUENCIES.includes(freq))
    fail('FREQ', freq ? `“${freq}” is not one of ${FREQUENCIES.join(', ')}.` : 'it is missing.');
  const rule: Rule = {
    freq: freq as Frequency,
    interval: take('INTERVAL', whole('INTERVAL'), 1),
    byDay: take('BYDAY', (value) => value.split(',').map((item) => weekdayPart(item, fail)), []),
    byMonthDay: take('BYMONTHDAY', list('BYMONTHDAY', 1, 31, true), []),
    byMonth: take('BYMONTH', list('BYMONTH', 1, 12, false), []),
    count: take<number | null>('COUNT', whole('COUNT'), null),
    until: take<LocalMoment | null>('UNTIL', (value) => untilOf(value, fail), null),
    weekStart: take('WKST', (value) => weekday(value, 'WKST', fail), 'MO'),
    skip: take(
      'SKIP',
      (value) =>
        SKIPS.includes(value)
          ? (value as Skip)
          : fail('SKIP', `“${value}” is not one of ${SKIPS.join(', ')}.`),
      'OMIT',
    ),
  };
  const [unknown] = parts.keys();
  if (unknown !== undefined) fail(unknown, 'this part is not one that is read.');
  if (rule.count !== null && rule.until !== null)
    fail('COUNT', 'it cannot stand beside UNTIL (RFC 5545 §3.3.10).');
  if (rule.byMonthDay.length && rule.freq === 'WEEKLY')
    fail('BYMONTHDAY', 'it cannot stand in a WEEKLY rule (RFC 5545 §3.3.10).');
  if (
    rule.byDay.some((part) => part.ordinal !== null) &&
    rule.freq !== 'MONTHLY' &&
    rule.freq !== 'YEARLY'
  )
    fail('BYDAY', `a number before the day has no meaning in a ${rule.freq} rule.`);
  return rule;
}

type Fail = (part: string, reason: string) => never;

function weekday(text: string, part: string, fail: Fail): Weekday {
  return (WEEKDAYS as readonly string[]).includes(text)
    ? (text as Weekday)
    : fail(part, `“${text}” is not a day of the week (MO to SU).`);
}

function weekdayPart(text: string, fail: Fail): WeekdayPart {
  const found = /^([+-]?\d{1,2})?([A-Z]{2})$/.exec(text);
  if (!found) return fail('BYDAY', `“${text}” is not a day of the week (MO to SU).`);
  const ordinal = found[1] === undefined ? null : Number(found[1]);
  if (ordinal !== null && (ordinal === 0 || Math.abs(ordinal) > 53))
    fail('BYDAY', `“${text}” needs a number from 1 to 53, or minus that.`);
  return { ordinal, weekday: weekday(found[2]!, 'BYDAY', fail) };
}

function untilOf(text: string, fail: Fail): LocalMoment {
  const found = /^(\d{4})(\d{2})(\d{2})(?:T(\d{2})(\d{2})00)?$/.exec(text);
  if (!found) return fail('UNTIL', `“${text}” is not written as 20270131 or 20270131T090000.`);
  const day = parseDay(`${found[1]}-${found[2]}-${found[3]}`, 'UNTIL');
  const minute = found[4] === undefined ? null : parseTime(`${found[4]}:${found[5]}`, 'UNTIL');
  return formatMoment({ day, minute });
}

import { WEEKDAYS, parseDay, type Weekday } from '../calendar/day.ts';
import { CoreError } from '../errors.ts';
import {
  isSubDaily,
  plainRule,
  type Frequency,
  type Rule,
  type Skip,
  type WeekdayPart,
} from './rule.ts';

const FREQUENCIES: readonly string[] = [
  'SECONDLY',
  'MINUTELY',
  'HOURLY',
  'DAILY',
  'WEEKLY',
  'MONTHLY',
  'YEARLY',
];
const SKIPS: readonly string[] = ['OMIT', 'BACKWARD', 'FORWARD'];
const MOST = 1_000_000;
/** More than any rule needs: 366 days of the year, each with its sign and comma, many times over. */
const MOST_TEXT = 10_000;

/**
 * Reads the value of an RRULE: all of RFC 5545 §3.3.10, with SKIP and RSCALE=GREGORIAN of RFC 7529
 * §4.1. Parts may come in any order and case. SKIP may stand without RSCALE: no other calendar is
 * known here.
 * @throws CoreError with a code `rule.…`, naming the part and the reason.
 * @example parseRule('FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SA')
 */
export function parseRule(text: string, where = 'rule'): Rule {
  const fail: Fail = (part, reason) => {
    throw new CoreError(`rule.${part.toLowerCase()}`, where, `${part}: ${reason}`);
  };
  if (text.length > MOST_TEXT)
    throw new CoreError('rule.form', where, 'A rule has 10,000 characters at most.');
  const rule = plainRule('DAILY');
  const upper = text.toUpperCase();
  // Letters that grow when they are written large are in no rule: their places would be others.
  const given = upper.length === text.length ? upper : text;
  const seen: string[] = [];
  for (let from = 0; from <= given.length;) {
    const semicolon = given.indexOf(';', from);
    const end = semicolon < 0 ? given.length : semicolon;
    const cut = given.indexOf('=', from);
    if (cut <= from || cut >= end - 1)
      throw new CoreError(
        'rule.form',
        where,
        `“${text.slice(from, end).slice(0, 40)}” is not a part written as NAME=VALUE.`,
      );
    const name = given.slice(from, cut);
    if (seen.includes(name))
      throw new CoreError('rule.twice', where, `${name.slice(0, 40)} is given twice.`);
    seen.push(name);
    readPart(rule, name, given.slice(cut + 1, end), fail);
    from = end + 1;
  }
  if (!seen.includes('FREQ')) fail('FREQ', 'it is missing.');
  checkTogether(rule, fail);
  return rule;
}

type Fail = (part: string, reason: string) => never;

function readPart(rule: Rule, name: string, value: string, fail: Fail): void {
  switch (name) {
    case 'FREQ':
      if (!FREQUENCIES.includes(value))
        fail(name, `“${value.slice(0, 40)}” is not one of ${FREQUENCIES.join(', ')}.`);
      rule.freq = value as Frequency;
      return;
    case 'INTERVAL':
      rule.interval = whole(name, value, fail);
      return;
    case 'COUNT':
      rule.count = whole(name, value, fail);
      return;
    case 'UNTIL':
      rule.until = untilOf(value, fail);
      return;
    case 'WKST':
      rule.weekStart = weekday(value, name, fail);
      return;
    case 'BYSECOND':
      rule.bySecond = list(name, value, 0, 60, false, fail);
      return;
    case 'BYMINUTE':
      rule.byMinute = list(name, value, 0, 59, false, fail);
      return;
    case 'BYHOUR':
      rule.byHour = list(name, value, 0, 23, false, fail);
      return;
    case 'BYDAY':
      rule.byDay = value.split(',').map((item) => weekdayPart(item, fail));
      return;
    case 'BYMONTHDAY':
      rule.byMonthDay = list(name, value, 1, 31, true, fail);
      return;
    case 'BYYEARDAY':
      rule.byYearDay = list(name, value, 1, 366, true, fail);
      return;
    case 'BYWEEKNO':
      rule.byWeekNo = list(name, value, 1, 53, true, fail);
      return;
    case 'BYMONTH':
      rule.byMonth = list(name, value, 1, 12, false, fail);
      return;
    case 'BYSETPOS':
      rule.bySetPos = list(name, value, 1, 366, true, fail);
      return;
    case 'SKIP':
      if (!SKIPS.includes(value))
        fail(name, `“${value.slice(0, 40)}” is not one of ${SKIPS.join(', ')}.`);
      rule.skip = value as Skip;
      return;
    case 'RSCALE':
      if (value !== 'GREGORIAN') fail(name, 'only the Gregorian calendar is known here.');
      return;
    default:
      fail(name.slice(0, 40), 'there is no such part in a rule.');
  }
}

/** What the grammar forbids beside something else (RFC 5545 §3.3.10). */
function checkTogether(rule: Rule, fail: Fail): void {
  const { freq } = rule;
  if (rule.count !== null && rule.until !== null)
    fail('COUNT', 'it cannot stand beside UNTIL (RFC 5545 §3.3.10).');
  if (rule.byMonthDay.length && freq === 'WEEKLY')
    fail('BYMONTHDAY', 'it cannot stand in a WEEKLY rule (RFC 5545 §3.3.10).');
  if (rule.byYearDay.length && (freq === 'DAILY' || freq === 'WEEKLY' || freq === 'MONTHLY'))
    fail('BYYEARDAY', `it cannot stand in a ${freq} rule (RFC 5545 §3.3.10).`);
  if (rule.byWeekNo.length && freq !== 'YEARLY')
    fail('BYWEEKNO', 'it can stand in a YEARLY rule alone (RFC 5545 §3.3.10).');
  if (rule.byDay.some((part) => part.ordinal !== null)) {
    if (freq !== 'MONTHLY' && freq !== 'YEARLY')
      fail('BYDAY', `a number before the day has no meaning in a ${freq} rule.`);
    if (rule.byWeekNo.length)
      fail('BYDAY', 'a number before the day cannot stand beside BYWEEKNO (RFC 5545 §3.3.10).');
  }
  if (rule.bySetPos.length && !hasOtherPart(rule))
    fail('BYSETPOS', 'it needs another BY… part beside it (RFC 5545 §3.3.10).');
  if (rule.skip !== 'OMIT' && (freq === 'WEEKLY' || freq === 'DAILY' || isSubDaily(rule)))
    fail('SKIP', `no ${freq} rule comes to a day that a month lacks.`);
}

function hasOtherPart(rule: Rule): boolean {
  const { byDay, byMonthDay, byYearDay, byWeekNo, byMonth, byHour, byMinute, bySecond } = rule;
  const lists = [byDay, byMonthDay, byYearDay, byWeekNo, byMonth, byHour, byMinute, bySecond];
  return lists.some((items) => items.length > 0);
}

function whole(part: string, value: string, fail: Fail): number {
  const n = /^\d{1,9}$/.test(value) ? Number(value) : 0;
  if (n < 1 || n > MOST)
    fail(part, `“${value.slice(0, 40)}” is not a whole number from 1 to 1,000,000.`);
  return n;
}

const NUMBER = /^[+-]?\d{1,3}$/;

function list(
  part: string,
  value: string,
  low: number,
  high: number,
  negative: boolean,
  fail: Fail,
): number[] {
  const one = (item: string): number => {
    const n = NUMBER.test(item) ? Number(item) : Number.NaN;
    const size = negative ? Math.abs(n) : n;
    if (!(size >= low && size <= high))
      fail(
        part,
        `“${item.slice(0, 40)}” is not from ${low} to ${high}${negative ? ', or minus that' : ''}.`,
      );
    return n;
  };
  return value.includes(',') ? value.split(',').map(one) : [one(value)];
}

function weekday(text: string, part: string, fail: Fail): Weekday {
  return (WEEKDAYS as readonly string[]).includes(text)
    ? (text as Weekday)
    : fail(part, `“${text.slice(0, 40)}” is not a day of the week (MO to SU).`);
}

const WEEKDAY_PART = /^([+-]?\d{1,2})?([A-Z]{2})$/;

function weekdayPart(text: string, fail: Fail): WeekdayPart {
  if (text.length === 2 && (WEEKDAYS as readonly string[]).includes(text))
    return { ordinal: null, weekday: text as Weekday };
  const found = WEEKDAY_PART.exec(text);
  if (!found) return fail('BYDAY', `“${text.slice(0, 40)}” is not a day of the week (MO to SU).`);
  const ordinal = found[1] === undefined ? null : Number(found[1]);
  if (ordinal !== null && (ordinal === 0 || Math.abs(ordinal) > 53))
    fail('BYDAY', `“${text}” needs a number from 1 to 53, or minus that.`);
  return { ordinal, weekday: weekday(found[2]!, 'BYDAY', fail) };
}

const UNTIL = /^(\d{4})(\d{2})(\d{2})(?:T([01]\d|2[0-3])([0-5]\d)([0-5]\d|60)(Z?))?$/;

function untilOf(text: string, fail: Fail): string {
  const found = UNTIL.exec(text);
  if (!found)
    return fail('UNTIL', `“${text.slice(0, 40)}” is not written as 20270131 or 20270131T090000Z.`);
  const [, year, month, day, hour, minute, second, utc] = found;
  const date = `${year}-${month}-${day}`;
  parseDay(date, 'UNTIL');
  if (hour === undefined) return date;
  return `${date}T${hour}:${minute}${second === '00' ? '' : `:${second === '60' ? '59' : second}`}${utc}`;
}

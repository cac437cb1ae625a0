import type { Rule } from './rule.ts';

/**
 * Writes a rule as the value of an RRULE (RFC 5545 §3.3.10): FREQ first, the other parts in one
 * set order, nothing that is the default. Reading it gives the same rule.
 * @example formatRule(parseRule('byday=fr;freq=weekly;interval=1')) // 'FREQ=WEEKLY;BYDAY=FR'
 */
export function formatRule(rule: Rule): string {
  const parts = [`FREQ=${rule.freq}`];
  const add = (name: string, values: readonly (number | string)[]) => {
    if (values.length) parts.push(`${name}=${values.join(',')}`);
  };
  if (rule.interval !== 1) parts.push(`INTERVAL=${rule.interval}`);
  if (rule.skip !== 'OMIT') parts.push(`SKIP=${rule.skip}`);
  add('BYMONTH', rule.byMonth);
  add('BYWEEKNO', rule.byWeekNo);
  add('BYYEARDAY', rule.byYearDay);
  add('BYMONTHDAY', rule.byMonthDay);
  add(
    'BYDAY',
    rule.byDay.map(({ ordinal, weekday }) => `${ordinal ?? ''}${weekday}`),
  );
  add('BYHOUR', rule.byHour);
  add('BYMINUTE', rule.byMinute);
  add('BYSECOND', rule.bySecond);
  add('BYSETPOS', rule.bySetPos);
  if (rule.weekStart !== 'MO') parts.push(`WKST=${rule.weekStart}`);
  if (rule.count !== null) parts.push(`COUNT=${rule.count}`);
  if (rule.until !== null) parts.push(`UNTIL=${untilText(rule.until)}`);
  return parts.join(';');
}

function untilText(until: string): string {
  const utc = until.endsWith('Z');
  const digits = until.replace(/[-:Z]/g, '');
  const seconds = digits.length === 13 ? '00' : '';
  return `${digits}${seconds}${utc ? 'Z' : ''}`;
}

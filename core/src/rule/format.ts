import type { Rule } from './rule.ts';

/**
 * Writes a rule as the value of an RRULE (RFC 5545 §3.3.10): FREQ first, the other parts in one
 * set order, nothing that is the default. Reading it gives the same rule.
 * @example formatRule(parseRule('byday=fr;freq=weekly;interval=1')) // 'FREQ=WEEKLY;BYDAY=FR'
 */
export function formatRule(rule: Rule): string {
  const parts = [`FREQ=${rule.freq}`];
  if (rule.interval !== 1) parts.push(`INTERVAL=${rule.interval}`);
  if (rule.skip !== 'OMIT') parts.push(`SKIP=${rule.skip}`);
  if (rule.byMonth.length) parts.push(`BYMONTH=${rule.byMonth.join(',')}`);
  if (rule.byMonthDay.length) parts.push(`BYMONTHDAY=${rule.byMonthDay.join(',')}`);
  if (rule.byDay.length)
    parts.push(
      `BYDAY=${rule.byDay.map(({ ordinal, weekday }) => `${ordinal ?? ''}${weekday}`).join(',')}`,
    );
  if (rule.weekStart !== 'MO') parts.push(`WKST=${rule.weekStart}`);
  if (rule.count !== null) parts.push(`COUNT=${rule.count}`);
  if (rule.until !== null)
    parts.push(`UNTIL=${rule.until.replace(/[-:]/g, '')}${rule.until.includes('T') ? '00' : ''}`);
  return parts.join(';');
}

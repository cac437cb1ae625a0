import { WEEKDAYS, weekdayIndex, type Day } from '../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../calendar/span.ts';
import { parseMoment, parseTime, type LocalMoment } from '../calendar/time.ts';
import type { Series } from '../series/definition.ts';
import type { Reminder } from '../series/reminders.ts';
import { DEFAULT_REMIND_AT, type Settings } from '../series/settings.ts';
import { textProperty, type Component, type Property } from './jcal.ts';

/** Reminders as alarms (RFC 5545 §3.6.6): by a duration from when it is due that meets their hour. */

/** A length in minutes as a duration (RFC 5545 §3.3.6). */
export function durationText(minutes: number): string {
  const all = Math.abs(minutes);
  const [days, hours, rest] = [Math.floor(all / 1440), Math.floor((all % 1440) / 60), all % 60];
  const time = hours || rest ? `T${hours ? `${hours}H` : ''}${rest ? `${rest}M` : ''}` : '';
  const text = `P${days ? `${days}D` : ''}${time}`;
  return `${minutes < 0 ? '-' : ''}${text === 'P' ? 'PT0M' : text}`;
}

/** The minutes from when one is due to when a reminder of it is said. */
function minutesFrom(
  reminder: Reminder,
  series: Pick<Series, 'opensBefore'>,
  due: LocalMoment,
  settings: Settings,
): number {
  const { day, minute } = parseMoment(due);
  const dueMinute = minute ?? 0;
  const remindAt = parseTime(settings.remindAt ?? DEFAULT_REMIND_AT);
  const opens = series.opensBefore === undefined ? null : parseSpan(series.opensBefore);
  const isOpening = reminder.of === 'opens' && opens !== null && !isClockSpan(opens);
  const base: Day = isOpening ? addToDay(day, opens, -1) : day;
  const at = (when: Day, hour: number) => (when - day) * 1440 + hour - dueMinute;
  const hour = reminder.at === undefined ? remindAt : parseTime(reminder.at);
  if (reminder.on !== undefined) {
    const wanted = WEEKDAYS.indexOf(reminder.on);
    const back = (weekdayIndex(base) - wanted + 6) % 7;
    return at(base - 1 - back, hour);
  }
  const moment = isOpening || minute === null ? at(base, remindAt) : 0;
  // The due moment, and the due day.
  if (reminder.before === 'PT0M') return moment;
  if (reminder.before === undefined || reminder.before === 'P0D') return at(base, hour);
  const before = parseSpan(reminder.before);
  if (isClockSpan(before)) return moment - before.days * 1440 - before.minutes;
  return at(addToDay(base, before, -1), hour);
}

/** The alarms of a time that is due then. */
export function alarmsOf(
  series: Series,
  title: string,
  due: LocalMoment,
  settings: Settings & { email?: string },
): Component[] {
  return (series.reminders ?? []).map((reminder): Component => {
    const trigger = durationText(minutesFrom(reminder, series, due, settings));
    const isMail = reminder.channel === 'email' && settings.email !== undefined;
    const properties: Property[] = [
      textProperty('action', isMail ? 'EMAIL' : 'DISPLAY'),
      ['trigger', { related: 'END' }, 'duration', trigger],
      textProperty('description', title),
    ];
    if (isMail)
      properties.push(textProperty('summary', title), [
        'attendee',
        {},
        'cal-address',
        `mailto:${settings.email}`,
      ]);
    if (reminder.again)
      properties.push(
        ['repeat', {}, 'integer', reminder.again.atMost],
        ['duration', {}, 'duration', spanDuration(reminder.again.every)],
      );
    return ['valarm', properties, []];
  });
}

/** A span as a duration: months have none, and count as 30 days. */
function spanDuration(span: string): string {
  const { months, days, minutes } = parseSpan(span);
  return durationText((months * 30 + days) * 1440 + minutes);
}

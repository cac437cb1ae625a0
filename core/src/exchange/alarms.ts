import { WEEKDAYS, weekdayIndex, type Day } from '../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../calendar/span.ts';
import { formatTime, parseMoment, parseTime, type LocalMoment } from '../calendar/time.ts';
import type { Series } from '../series/definition/definition.ts';
import { AT_DUE, type Reminder } from '../series/reminding/reminders.ts';
import { MOST_REMINDERS } from '../series/definition/limits.ts';
import { DEFAULT_REMIND_AT, type Settings } from '../series/person/settings.ts';
import { lengthOf, numberOf, propertyOf, textOf, type Context, type Entry } from './entry.ts';
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
  if (reminder.before === AT_DUE) return moment;
  if (reminder.before === undefined) return at(base, hour);
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

/** Minutes from one local moment to a later one; 0 where it is not later. */
function minutesBetween(from: LocalMoment, to: LocalMoment): number {
  const [a, b] = [parseMoment(from), parseMoment(to)];
  return Math.max(0, (b.day - a.day) * 1440 + (b.minute ?? 0) - (a.minute ?? 0));
}

/** Two years (R19). */
const LONGEST = 730 * 1440;

/** Alarms as reminders: those up to when it is due that have a length; others are listed. */
export function remindersIn({ list, zones }: Context, main: Entry, due: LocalMoment): Reminder[] {
  const dueMinute = parseMoment(due).minute;
  const start = propertyOf(main.component, 'dtstart');
  const early = start ? minutesBetween(zones.local(start, String(start[3])).moment, due) : 0;
  const isOfDay = dueMinute === null;
  const found: Reminder[] = [];
  for (const part of main.component[2]) {
    const [name] = part;
    if (name !== 'valarm') {
      list(main, 'changed', `A part of it that only its program knows is left out (${name}).`);
      continue;
    }
    const trigger = propertyOf(part, 'trigger');
    const length = trigger?.[2] === 'duration' ? lengthOf(String(trigger[3])) : null;
    // It counts from the start, where nothing else is said (RFC 5545 §3.8.6.3).
    const isFromEnd = String(trigger?.[1].related ?? 'START').toUpperCase() === 'END';
    const minutes = length === null ? null : length - (isFromEnd ? 0 : early);
    const isLate = minutes !== null && (isOfDay ? minutes >= 1440 : minutes > 0);
    if (minutes === null || isLate || minutes < -LONGEST) {
      list(
        main,
        'changed',
        'An alarm of it cannot be said: it is at a fixed moment, after it is due, or years before.',
      );
      continue;
    }
    const channel =
      textOf(part, 'action')?.toUpperCase() === 'EMAIL' ? { channel: 'email' as const } : {};
    found.push({ ...beforeOf(minutes, isOfDay), ...channel, ...againIn({ list }, main, part) });
  }
  if (found.length > MOST_REMINDERS)
    list(main, 'changed', `It has more than ${MOST_REMINDERS} alarms: the others are left out.`);
  return found.slice(0, MOST_REMINDERS);
}

/** So many minutes from when it is due, none of them later. */
function beforeOf(minutes: number, isOfDay: boolean): Pick<Reminder, 'before' | 'at'> {
  if (!isOfDay) return { before: minutes === 0 ? AT_DUE : `PT${-minutes}M` };
  const days = Math.ceil(-minutes / 1440);
  // Of a date whole days before mean that day, and not its midnight: it is said at the person’s hour.
  if (minutes === -days * 1440) return days > 0 ? { before: `P${days}D` } : {};
  const at = formatTime(minutes + days * 1440);
  return days > 0 ? { before: `P${days}D`, at } : { at };
}

const MOST_AGAIN = 99;

function againIn(
  { list }: Pick<Context, 'list'>,
  main: Entry,
  alarm: Component,
): Pick<Reminder, 'again'> {
  const repeat = numberOf(alarm, 'repeat');
  const every = lengthOf(textOf(alarm, 'duration'));
  if (!repeat || every === null) return {};
  if (every < 1 || every > LONGEST) {
    list(main, 'changed', 'How often an alarm is said again cannot be said: it is said once.');
    return {};
  }
  const span = every % 1440 ? `PT${every}M` : `P${every / 1440}D`;
  return { again: { every: span, atMost: Math.min(MOST_AGAIN, repeat) } };
}

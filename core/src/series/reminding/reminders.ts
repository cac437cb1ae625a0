import { WEEKDAYS, type Weekday } from '../../calendar/day.ts';
import { isClockSpan, parseSpan, type Span } from '../../calendar/span.ts';
import { parseTime, type LocalTime } from '../../calendar/time.ts';
import { CoreError } from '../../errors.ts';
import { MOST_REMINDERS, checkTwoYears } from '../definition/limits.ts';

/** When to speak up about a time (R17). Left out altogether: at the person's hour on its due day. */
export interface Reminder {
  /** How long before; in days and longer, or in hours and minutes; `PT0M` is the due moment itself. */
  before?: Span;
  /** In place of `before`: on the last such weekday before that day. */
  on?: Weekday;
  /** The time of day; only where `before` is in days or left out. */
  at?: LocalTime;
  /** What it is counted from: when it is due, the day it is planned for, the day it opens. Default `due`. */
  of?: ReminderOf;
  /** How it is said; default the person's own choice. */
  channel?: Channel;
  /** Said again until it is done, at most so often. */
  again?: { every: Span; atMost: number };
}

export type ReminderOf = 'due' | 'plan' | 'opens';
export const CHANNELS = ['app', 'browser', 'email', 'text'] as const;
export type Channel = (typeof CHANNELS)[number];

const OFS: readonly unknown[] = ['due', 'plan', 'opens'];
const PARTS: readonly string[] = ['before', 'on', 'at', 'of', 'channel', 'again'];
/** No time before: at the due moment, where there is one. */
export const AT_DUE: Span = 'PT0M';
const MOST_AGAIN = 99;
/** In characters. */
const MOST_TEXT = 30;

/**
 * Checks the reminders of a definition and gives them in their own order, each once.
 * @throws CoreError `reminders.*` with the place of the one that is wrong
 */
export function checkReminders(given: unknown, where = 'reminders'): Reminder[] {
  if (!Array.isArray(given) || given.length > MOST_REMINDERS)
    throw new CoreError(
      'reminders.form',
      where,
      `Reminders are a list of ${MOST_REMINDERS} at most.`,
    );
  const checked = given.map((it, i) => checkReminder(it, `${where}.${i}`));
  const texts = checked.map((it) => JSON.stringify(it));
  return checked.filter((_, i) => texts.indexOf(texts[i]!) === i);
}

function checkReminder(given: unknown, where: string): Reminder {
  if (typeof given !== 'object' || given === null || Array.isArray(given))
    throw new CoreError('reminders.form', where, 'A reminder is an object.');
  const it = given as Record<string, unknown>;
  for (const key of Object.keys(it))
    if (!PARTS.includes(key))
      throw new CoreError(
        'reminders.part',
        `${where}.${key}`,
        `A reminder has no part named “${key}”.`,
      );
  const reminder: Reminder = {};
  if (it.on !== undefined) {
    if (!(WEEKDAYS as readonly unknown[]).includes(it.on))
      throw new CoreError('reminders.on', `${where}.on`, 'It is one of MO to SU.');
    if (it.before !== undefined)
      throw new CoreError(
        'reminders.on',
        `${where}.on`,
        'A reminder is so long before, or on a weekday before: not both.',
      );
    reminder.on = it.on as Weekday;
  }
  // No days before is the day itself.
  if (it.before !== undefined && it.before !== 'P0D') {
    reminder.before = text(it.before, `${where}.before`);
    const span =
      reminder.before === AT_DUE
        ? { months: 0, days: 0, minutes: 0 }
        : parseSpan(reminder.before, `${where}.before`);
    if (isClockSpan(span) && (span.days || span.months))
      throw new CoreError(
        'reminders.mixed',
        `${where}.before`,
        'A reminder is days before, or hours and minutes before.',
      );
    if (reminder.before !== AT_DUE)
      checkLength(reminder.before, 'reminders.before', `${where}.before`);
  }
  if (it.at !== undefined) {
    reminder.at = text(it.at, `${where}.at`);
    parseTime(reminder.at, `${where}.at`);
    if (
      reminder.before !== undefined &&
      (reminder.before === AT_DUE || isClockSpan(parseSpan(reminder.before)))
    )
      throw new CoreError(
        'reminders.at',
        `${where}.at`,
        'Hours and minutes before count from the due time: they have no time of day of their own.',
      );
  }
  if (it.of !== undefined) {
    if (!OFS.includes(it.of))
      throw new CoreError('reminders.of', `${where}.of`, 'It is one of due, plan, opens.');
    if (it.of !== 'due') reminder.of = it.of as ReminderOf;
  }
  // Of the day that it was planned for or opens, no time before is that day.
  if (reminder.of !== undefined && reminder.before === AT_DUE) delete reminder.before;
  if (it.channel !== undefined) {
    if (!(CHANNELS as readonly unknown[]).includes(it.channel))
      throw new CoreError(
        'reminders.channel',
        `${where}.channel`,
        `It is one of ${CHANNELS.join(', ')}.`,
      );
    reminder.channel = it.channel as Channel;
  }
  if (it.again !== undefined) reminder.again = checkAgain(it.again, `${where}.again`);
  return reminder;
}

function checkAgain(given: unknown, where: string): NonNullable<Reminder['again']> {
  const { every, atMost, ...rest } = (given ?? {}) as Record<string, unknown>;
  if (Object.keys(rest).length)
    throw new CoreError('reminders.part', where, 'It has “every” and “atMost”.');
  const span = text(every, `${where}.every`);
  checkLength(span, 'reminders.again', `${where}.every`);
  if (typeof atMost !== 'number' || !Number.isInteger(atMost) || atMost < 1 || atMost > MOST_AGAIN)
    throw new CoreError(
      'reminders.atMost',
      `${where}.atMost`,
      `It is said again 1 to ${MOST_AGAIN} times at most.`,
    );
  return { every: span, atMost };
}

/** A span of a reminder is two years at most (R19), and short: it is a part of what names a reminder. */
function checkLength(span: Span, code: string, where: string): void {
  const words = 'A reminder is two years before at most, and said again after two years at most.';
  checkTwoYears(span, code, where, words);
  if (span.length > MOST_TEXT) throw new CoreError(code, where, words);
}

function text(value: unknown, where: string): string {
  if (typeof value !== 'string')
    throw new CoreError('reminders.form', where, `${where} must be text.`);
  return value;
}

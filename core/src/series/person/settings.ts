import { WEEKDAYS, type Day, type LocalDate, type Weekday, formatDay } from '../../calendar/day.ts';
import {
  formatMoment,
  parseMoment,
  parseTime,
  type CivilMoment,
  type LocalMoment,
  type LocalTime,
} from '../../calendar/time.ts';
import { checkZone, toCivil, toInstant, type Instant } from '../../calendar/zone.ts';
import { CoreError } from '../../errors.ts';
import { CHANNELS, checkReminders, type Channel, type Reminder } from '../reminding/reminders.ts';

/** How a person's days run. */
export interface Settings {
  /** An IANA time zone name. */
  zone: string;
  /** When their day begins: with 04:00, two at night belongs to the day before. */
  dayStart: LocalTime;
  weekStart: Weekday;
  /** The days of the week on which they work; left out: Monday to Friday. */
  workdays?: Weekday[];
  /** Whose public holidays are closed days: a country, or a part of one, as `GB-ENG`; left out: none. */
  holidays?: string;
  /** The hour at which reminders of a day are said, where they name none; left out: 09:00. */
  remindAt?: LocalTime;
  /** The hours in which nothing is said; what falls into them waits until they end. */
  quiet?: { from: LocalTime; to: LocalTime };
  /** In which ways a reminder is said that names none, beside the list in the app; left out: in no other. */
  channels?: Exclude<Channel, 'app'>[];
  /** They said in a message that they want no more e-mail, whatever a to-do says. */
  noMail?: boolean;
  /** The number that text messages go to (ITU-T E.164), as +441234567890; empty or left out: none. */
  phone?: string;
  /** The reminders of a to-do for which the person said nothing; left out: none. */
  newReminders?: Reminder[];
  /** The hour of the morning overview; left out: there is none. */
  overview?: LocalTime;
  /** How many minutes a day of the week holds; left out: it has no measure. */
  holds?: Partial<Record<Weekday, number>>;
  /** The hours of a day in which the person is up; `to` may be 24:00. Left out: {@link DEFAULT_UP}. */
  up?: { from: LocalTime; to: LocalTime };
}

/** When a person is up who has not said. */
export const DEFAULT_UP = { from: '07:00', to: '22:00' } as const;

export const DEFAULT_REMIND_AT: LocalTime = '09:00';

/** The working days where a person has not said. */
export const DEFAULT_WORKDAYS: readonly Weekday[] = ['MO', 'TU', 'WE', 'TH', 'FR'];

/** What holds where a setting is left out: UTC, days from midnight, weeks from Monday. */
export const DEFAULT_SETTINGS: Settings = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO' };

/**
 * Checks settings, with what is left out as in {@link DEFAULT_SETTINGS}.
 * @throws CoreError `zone.unknown`, `time.form`, `settings.weekStart`, `settings.workdays`,
 * `settings.channels`, `settings.phone`, `reminders.*`
 */
export function checkSettings(given: Partial<Settings> = {}): Settings {
  const settings = { ...DEFAULT_SETTINGS, ...given };
  checkZone(settings.zone, 'settings.zone');
  parseTime(settings.dayStart, 'settings.dayStart');
  if (!WEEKDAYS.includes(settings.weekStart))
    throw new CoreError('settings.weekStart', 'settings.weekStart', 'A week begins on MO to SU.');
  const { workdays } = settings;
  if (workdays !== undefined && !(Array.isArray(workdays) && workdays.every(isWeekday)))
    throw new CoreError(
      'settings.workdays',
      'settings.workdays',
      'Working days are a list of MO to SU.',
    );
  checkSpeaking(settings);
  if (settings.holds !== undefined) checkHolds(settings.holds);
  if (settings.up !== undefined) checkUp(settings.up);
  return settings;
}

/**
 * Checks how many minutes the days of a week hold: 0 to 1,440 each.
 * @throws CoreError `settings.holds`
 */
export function checkHolds(given: unknown, where = 'settings.holds'): void {
  const isMeasure = ([day, minutes]: [string, unknown]) =>
    isWeekday(day) && Number.isInteger(minutes) && Number(minutes) >= 0 && Number(minutes) <= 1440;
  if (typeof given !== 'object' || given === null || !Object.entries(given).every(isMeasure))
    throw new CoreError(
      'settings.holds',
      where,
      'A day holds 0 to 1,440 minutes; the days are MO to SU.',
    );
}

/**
 * Checks the hours in which a person is up: they end after they begin, at 24:00 at the latest.
 * @throws CoreError `settings.up`, `time.form`
 */
export function checkUp(given: unknown, where = 'settings.up'): void {
  const { from, to } = (given ?? {}) as { from?: unknown; to?: unknown };
  const minute = (text: unknown, part: string) =>
    text === '24:00' && part === 'to' ? 1440 : parseTime(String(text), `${where}.${part}`);
  if (minute(to, 'to') <= minute(from, 'from'))
    throw new CoreError('settings.up', where, 'You get up before you go to bed, on one day.');
}

/** A telephone number with its country (ITU-T E.164), or nothing. */
export const PHONE = /^(\+[1-9]\d{6,14})?$/u;

/** Checks when and how a person is spoken to. */
function checkSpeaking({
  remindAt,
  quiet,
  overview,
  channels,
  phone,
  newReminders,
}: Partial<Settings>): void {
  if (remindAt !== undefined) parseTime(remindAt, 'settings.remindAt');
  if (overview !== undefined) parseTime(overview, 'settings.overview');
  if (quiet !== undefined) {
    parseTime(quiet?.from, 'settings.quiet.from');
    parseTime(quiet?.to, 'settings.quiet.to');
  }
  if (channels !== undefined && !(Array.isArray(channels) && channels.every(isFurther)))
    throw new CoreError(
      'settings.channels',
      'settings.channels',
      'Reminders are said in the browser, by email or by text.',
    );
  if (phone !== undefined && !PHONE.test(phone))
    throw new CoreError(
      'settings.phone',
      'settings.phone',
      'A number is written with its country, as +441234567890.',
    );
  if (newReminders !== undefined) checkReminders(newReminders, 'settings.newReminders');
}

const isFurther = (it: unknown) => it !== 'app' && (CHANNELS as readonly unknown[]).includes(it);

const isWeekday = (day: unknown) => (WEEKDAYS as readonly unknown[]).includes(day);

/** Days and instants as one person counts them. */
export interface PersonalClock {
  /** The instant at which that day begins. */
  startOf(day: Day): Instant;
  /** The person's day at an instant. */
  dayAt(instant: Instant): Day;
  /** The person's day to which a due moment belongs: 02:00 is of the day before where days begin at 04:00. */
  dayOfMoment(moment: LocalMoment): Day;
  /** The instant of a due moment; a date alone counts as the beginning of its day. */
  instantOf(moment: LocalMoment): Instant;
  /** The local date and time at an instant. */
  momentAt(instant: Instant): LocalMoment;
  /** The same in integers. */
  civilAt(instant: Instant): CivilMoment & { minute: number };
  /** The instant of a local date and time. */
  instantAt(day: Day, minute: number): Instant;
  /** The instant of a time of day on a person's day: one before their day begins is of the calendar day after. */
  timeOn(day: Day, minute: number): Instant;
  /** A date and time as the clocks show it: one that they skip is moved forward by the gap (R16). */
  shown(moment: LocalMoment): LocalMoment;
}

/** The clock of a person with these settings. */
export function clockOf(settings: Settings): PersonalClock {
  const { zone } = settings;
  const dayStart = parseTime(settings.dayStart);
  const startOf = (day: Day) => toInstant(zone, day, dayStart);
  const momentAt = (instant: Instant) => formatMoment(toCivil(zone, instant));
  return {
    startOf,
    dayAt(instant) {
      const { day } = toCivil(zone, instant);
      if (instant < startOf(day)) return day - 1;
      return instant >= startOf(day + 1) ? day + 1 : day;
    },
    dayOfMoment(moment) {
      const { day, minute } = parseMoment(moment);
      return minute !== null && minute < dayStart ? day - 1 : day;
    },
    instantOf(moment) {
      const { day, minute } = parseMoment(moment);
      return minute === null ? startOf(day) : toInstant(zone, day, minute);
    },
    momentAt,
    civilAt: (instant) => toCivil(zone, instant),
    instantAt: (day, minute) => toInstant(zone, day, minute),
    timeOn: (day, minute) => toInstant(zone, minute < dayStart ? day + 1 : day, minute),
    shown(moment) {
      const { day, minute } = parseMoment(moment);
      return minute === null ? moment : momentAt(toInstant(zone, day, minute));
    },
  };
}

/** The person's date at an instant, as text. */
export function today(settings: Settings, now: Instant): LocalDate {
  return formatDay(clockOf(settings).dayAt(now));
}

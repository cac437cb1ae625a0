import { CoreError } from '../errors.ts';
import { formatDay, parseDay, type Day, type LocalDate } from './day.ts';

/** A time of day as text, `HH:MM`, from 00:00 to 23:59. */
export type LocalTime = string;

/** A civil date and time as text, `YYYY-MM-DDTHH:MM`. */
export type LocalDateTime = string;

/** A date, or a date and time: what `slot` and `due` hold. */
export type LocalMoment = LocalDate | LocalDateTime;

/** A civil moment in integers; `minute` is 0 to 1439, or null for "any time that day". */
export interface CivilMoment {
  day: Day;
  minute: number | null;
}

const TIME = /^([01]\d|2[0-3]):([0-5]\d)$/;

/**
 * Minutes since midnight of a time written `HH:MM`, 24-hour (ISO 8601).
 * @throws CoreError `time.form`
 */
export function parseTime(text: string, where = 'time'): number {
  const found = TIME.exec(text);
  if (!found)
    throw new CoreError('time.form', where, `“${text}” is not a time of day written as 08:30.`);
  return Number(found[1]) * 60 + Number(found[2]);
}

/** Writes minutes since midnight (0 to 1439) as `HH:MM`. */
export function formatTime(minute: number): LocalTime {
  const hours = Math.floor(minute / 60);
  return `${String(hours).padStart(2, '0')}:${String(minute - hours * 60).padStart(2, '0')}`;
}

/**
 * Reads `YYYY-MM-DD` or `YYYY-MM-DDTHH:MM`.
 * @throws CoreError as {@link parseDay} and {@link parseTime}
 */
export function parseMoment(text: string, where = 'moment'): CivilMoment {
  const cut = text.indexOf('T');
  if (cut < 0) return { day: parseDay(text, where), minute: null };
  return {
    day: parseDay(text.slice(0, cut), where),
    minute: parseTime(text.slice(cut + 1), where),
  };
}

/** Writes a civil moment: the date alone where it has no minute. */
export function formatMoment(moment: CivilMoment): LocalMoment {
  const date = formatDay(moment.day);
  return moment.minute === null ? date : `${date}T${formatTime(moment.minute)}`;
}

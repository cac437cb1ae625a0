import { dateOf, parseDay, weekdayIndex, type LocalDate } from './day.ts';
import { formatTime, parseMoment, type LocalMoment } from './time.ts';
import { MONTH_NAMES, WEEKDAY_NAMES } from './names.ts';

/** “Fri 18 Dec”, with its year where it is not within ten months of today. */
export function shortDate(date: LocalDate, today: LocalDate): string {
  const day = parseDay(date);
  const { year, month, day: n } = dateOf(day);
  const far = Math.abs(day - parseDay(today)) > 300;
  return `${WEEKDAY_NAMES[weekdayIndex(day)]!.slice(0, 3)} ${n} ${MONTH_NAMES[month - 1]!.slice(0, 3)}${far ? ` ${year}` : ''}`;
}

/**
 * “Fri 18 Dec, 13:00”, or “today”, “tomorrow”, “yesterday” where it is so near. Midnight is said as “as Fri 18
 * Dec begins”: of 00:00 nobody knows at once which night is meant.
 */
export function momentText(moment: LocalMoment, today: LocalDate, near = false): string {
  const { day, minute } = parseMoment(moment);
  const away = day - parseDay(today);
  const words = near
    ? { '-1': 'yesterday', 0: 'today', 1: 'tomorrow' }[away as -1 | 0 | 1]
    : undefined;
  const date = words ?? shortDate(moment.slice(0, 10), today);
  if (minute === 0) return `as ${date} begins`;
  return minute === null ? date : `${date}, ${formatTime(minute)}`;
}

import {
  MONTH_NAMES,
  WEEKDAY_NAMES,
  dateOf,
  parseDay,
  parseMoment,
  parseSpan,
  formatTime,
  weekdayIndex,
  type LocalDate,
  type LocalMoment,
  type Span,
} from '@back-again/core';

export { MONTH_NAMES as MONTHS, WEEKDAY_NAMES as WEEKDAYS } from '@back-again/core';

/** “Fri 18 Dec”, with its year where it is not within ten months of today. */
export function shortDate(date: LocalDate, today: LocalDate): string {
  const day = parseDay(date);
  const { year, month, day: n } = dateOf(day);
  const far = Math.abs(day - parseDay(today)) > 300;
  return `${WEEKDAY_NAMES[weekdayIndex(day)]!.slice(0, 3)} ${n} ${MONTH_NAMES[month - 1]!.slice(0, 3)}${far ? ` ${year}` : ''}`;
}

/** “Fri 18 Dec, 13:00”, or “today”, “tomorrow”, “yesterday” where it is so near. */
export function momentText(moment: LocalMoment, today: LocalDate, near = false): string {
  const { day, minute } = parseMoment(moment);
  const away = day - parseDay(today);
  const words = near
    ? { '-1': 'yesterday', 0: 'today', 1: 'tomorrow' }[away as -1 | 0 | 1]
    : undefined;
  const date = words ?? shortDate(moment.slice(0, 10), today);
  return minute === null ? date : `${date}, ${formatTime(minute)}`;
}

/** “1 day”, “3 days”. */
export function days(n: number): string {
  return `${n} day${n === 1 ? '' : 's'}`;
}

/** What it takes, in short: “30 min”, “2 h”, “1 h 30”. */
export function minutesText(span: Span): string {
  const { minutes } = parseSpan(span);
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  if (!hours) return `${rest} min`;
  return rest ? `${hours} h ${String(rest).padStart(2, '0')}` : `${hours} h`;
}

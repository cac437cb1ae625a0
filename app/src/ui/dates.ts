import { clockOf, momentText, parseInstant, type LocalDate, type Settings } from '@back-again/core';

/** An instant as a person's local date and time in words: “today, 18:00”, “Fri 18 Dec, 09:00”. */
export function instantText(instant: string, today: LocalDate, settings: Settings): string {
  return momentText(clockOf(settings).momentAt(parseInstant(instant)), today, true);
}

export {
  MONTH_NAMES as MONTHS,
  WEEKDAY_NAMES as WEEKDAYS,
  momentText,
  shortDate,
} from '@back-again/core';

/** “1 day”, “3 days”. */
export function days(n: number): string {
  return `${n} day${n === 1 ? '' : 's'}`;
}

/** What it takes, in short: “30 min”, “2 h”, “1 h 30”. */
export function minutesText(minutes: number): string {
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  if (!hours) return `${rest} min`;
  return rest ? `${hours} h ${String(rest).padStart(2, '0')}` : `${hours} h`;
}

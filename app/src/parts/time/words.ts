import {
  MONTH_NAMES,
  WEEKDAY_NAMES,
  dateOf,
  parseDay,
  weekdayIndex,
  type LocalDate,
} from '@back-again/core';
import type { DayAhead, DayInMonth, Entry } from '@back-again/core/planning';
import { minutesText } from '../../ui/dates.ts';

/** What the days ahead say in words. */

/** “Tue 24”. */
export function dayName(date: LocalDate): string {
  const day = parseDay(date);
  return `${WEEKDAY_NAMES[weekdayIndex(day)]!.slice(0, 3)} ${dateOf(day).day}`;
}

/** “Tuesday 24 November”. */
export function longDay(date: LocalDate): string {
  const day = parseDay(date);
  const { day: n, month } = dateOf(day);
  return `${WEEKDAY_NAMES[weekdayIndex(day)]!} ${n} ${MONTH_NAMES[month - 1]!}`;
}

/** “November 2026”. */
export function monthName(date: LocalDate): string {
  const { year, month } = dateOf(parseDay(date));
  return `${MONTH_NAMES[month - 1]!} ${year}`;
}

/** “23 to 29 November”, “30 November to 6 December”. */
export function spanName(from: LocalDate, to: LocalDate): string {
  const [a, b] = [dateOf(parseDay(from)), dateOf(parseDay(to))];
  const last = `${b.day} ${MONTH_NAMES[b.month - 1]!}`;
  return a.month === b.month
    ? `${a.day} to ${last}`
    : `${a.day} ${MONTH_NAMES[a.month - 1]!} to ${last}`;
}

type Load = Pick<DayAhead, 'holds' | 'minutes'>;

/** By how much a day is over its measure, in minutes; 0 where it is not. */
export const overBy = ({ holds, minutes }: Load): number =>
  holds === null ? 0 : Math.max(0, minutes - holds);

/** “90 min, 30 over, and 3 without an estimate”; empty where nothing is planned. */
export function loadText(load: Load & { without?: number }): string {
  const { minutes, without = 0 } = load;
  const over = overBy(load);
  const parts = [
    ...(minutes ? [minutesText(minutes)] : []),
    ...(over ? [`${minutesText(over)} over`] : []),
    ...(without ? [`${minutes ? 'and ' : ''}${without} without an estimate`] : []),
  ];
  return parts.join(', ');
}

/** What a screen reader says of a day in a month. */
export function monthDayText(day: DayInMonth): string {
  const { date, firm, expected, done } = day;
  const parts = [
    longDay(date),
    ...(firm ? [`${firm} to do`] : []),
    ...(expected ? [`${expected} expected`] : []),
    ...(done ? [`${done} ended`] : []),
    ...(firm + expected ? [] : done ? [] : ['nothing']),
  ];
  const load = loadText(day);
  return load ? `${parts.join(', ')}, ${load}` : parts.join(', ');
}

const KINDS: Record<Entry['kind'], string> = {
  firm: '',
  open: '',
  expected: 'expected',
  done: 'done',
  skipped: 'skipped',
  missed: 'missed',
};

/** What stands beside a title: its hour, how it stands, what it takes. */
export function entryText({ at, kind, takes }: Pick<Entry, 'at' | 'kind' | 'takes'>): string {
  return [at ?? '', KINDS[kind], takes ? minutesText(takes) : ''].filter(Boolean).join(' · ');
}

import {
  WEEKDAYS,
  dateOf,
  daysInMonth,
  formatDay,
  parseDay,
  weekdayIndex,
} from '../calendar/day.ts';
import { formatTime } from '../calendar/time.ts';
import { offsetAt, type Instant } from '../calendar/zone.ts';
import type { Component, Property } from './jcal.ts';

/** A time zone as iCalendar writes it (RFC 5545 §3.6.5), from what the platform knows of it. */

const HOUR = 3600_000;
const DAY = 24 * HOUR;
/** How far beyond what is written a zone is told, in years. */
const BEYOND = 30;

interface Change {
  at: Instant;
  /** Minutes east of UTC, before and after. */
  from: number;
  to: number;
}

/** Minutes east of UTC. */
const minutesAt = (zone: string, at: Instant) => Math.round(offsetAt(zone, at) / 60_000);

/** When the clocks of a zone change within some years, in order. */
export function changesIn(zone: string, from: Instant, until: Instant): Change[] {
  const found: Change[] = [];
  let before = minutesAt(zone, from);
  for (let at = from; at < until; at += 14 * DAY) {
    const end = Math.min(until, at + 14 * DAY);
    const after = minutesAt(zone, end);
    if (after === before) continue;
    // Halved until the minute is found.
    let [low, high] = [at, end];
    while (high - low > 60_000) {
      const middle = low + Math.floor((high - low) / 120_000) * 60_000;
      if (minutesAt(zone, middle) === before) low = middle;
      else high = middle;
    }
    found.push({ at: high, from: before, to: after });
    before = after;
  }
  return found;
}

function offsetText(minutes: number): string {
  const [sign, all] = [minutes < 0 ? '-' : '+', Math.abs(minutes)];
  return `${sign}${formatTime(all)}`;
}

/** A local date and time by an offset, as jCal has it. */
function localText(at: Instant, offset: number): string {
  const local = at + offset * 60_000;
  const day = Math.floor(local / DAY);
  return `${formatDay(day)}T${formatTime(Math.floor((local - day * DAY) / 60_000))}:00`;
}

/**
 * The VTIMEZONE of a zone for moments from one instant to another: each change of its clocks from the year
 * before on, and some years beyond.
 */
export function zoneComponent(zone: string, from: Instant, until: Instant): Component {
  const year = 366 * DAY;
  const first = from - 2 * year;
  const changes = changesIn(zone, first, until + BEYOND * year);
  const base = minutesAt(zone, first);
  const groups = new Map<string, { from: number; to: number; starts: string[] }>();
  const add = (it: { from: number; to: number }, start: string) => {
    const key = `${it.from} ${it.to}`;
    const known = groups.get(key) ?? { from: it.from, to: it.to, starts: [] };
    known.starts.push(start);
    groups.set(key, known);
  };
  add({ from: base, to: base }, '1900-01-01T00:00:00');
  for (const change of changes) add(change, localText(change.at, change.from));
  const parts = [...groups.values()].flatMap(({ from: before, to, starts }): Component[] => {
    const regular = regularFrom(starts);
    const single = starts.slice(0, regular);
    const part = (start: string, more: Property[]): Component => [
      to > before ? 'daylight' : 'standard',
      [
        ['dtstart', {}, 'date-time', start],
        ['tzoffsetfrom', {}, 'utc-offset', offsetText(before)],
        ['tzoffsetto', {}, 'utc-offset', offsetText(to)],
        ...more,
      ],
      [],
    ];
    const [first, ...others] = single;
    return [
      ...(first === undefined
        ? []
        : // A line each: not every reader takes several dates in one.
          [
            part(
              first,
              others.map((start): Property => ['rdate', {}, 'date-time', start]),
            ),
          ]),
      ...(regular < starts.length
        ? [part(starts[regular]!, [['rrule', {}, 'recur', patternOf(starts.slice(regular))!]])]
        : []),
    ];
  });
  return ['vtimezone', [['tzid', {}, 'text', zone]], parts];
}

/** So many changes in a row make a rule. */
const LEAST = 6;

/** From which of its changes on a zone changes by a rule; their number where it never does. */
function regularFrom(starts: readonly string[]): number {
  if (starts.length < LEAST || !patternOf(starts.slice(-LEAST))) return starts.length;
  let from = starts.length - LEAST;
  while (from > 0 && patternOf(starts.slice(from - 1))) from -= 1;
  return from;
}

/** The yearly rule of changes: the nth, or the last, such weekday of a month; null where they have none. */
function patternOf(starts: readonly string[]): Record<string, string> | null {
  const dates = starts.map((start) => ({ ...dateOf(parseDay(start.slice(0, 10))), start }));
  const [first] = dates;
  const same = <T>(of: (date: (typeof dates)[number]) => T) =>
    dates.every((it) => of(it) === of(first!));
  const weekday = ({ start }: { start: string }) =>
    WEEKDAYS[weekdayIndex(parseDay(start.slice(0, 10)))]!;
  const isYearly = dates.every((it, i) => i === 0 || it.year === dates[i - 1]!.year + 1);
  if (!isYearly || !same(({ month }) => month) || !same(weekday)) return null;
  if (!same(({ start }) => start.slice(11))) return null;
  const nth = ({ day }: { day: number }) => Math.ceil(day / 7);
  const isLast = dates.every(({ year, month, day }) => day + 7 > daysInMonth(year, month));
  if (!isLast && !same(nth)) return null;
  return {
    freq: 'YEARLY',
    bymonth: String(first!.month),
    byday: `${isLast ? -1 : nth(first!)}${weekday(first!)}`,
  };
}

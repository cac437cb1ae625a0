import { WEEKDAYS, parseDay, type Day } from '../../calendar/day.ts';
import { addToDay, parseSpan } from '../../calendar/span.ts';
import { openDaysOf } from '../../calendar/workdays.ts';
import { CoreError } from '../../errors.ts';
import type { Series } from './definition.ts';
import { FIRST_START, LAST_START, LEAST_MINUTES, MOST_MOMENTS, MOST_OPEN } from './limits.ts';
import { lastDayOf } from '../plan/edges.ts';
import { slotDaysOf } from '../plan/slotDays.ts';

/**
 * Checks what a definition asks for as a whole.
 * @throws CoreError `bounds.start`, `bounds.every`, `bounds.open`, `bounds.moments`
 */
export function checkBounds(series: Series): void {
  const { start, repeat, reminders = [], at } = series;
  if (start !== null && !isStart(parseDay(start)))
    throw new CoreError('bounds.start', 'start', 'It starts from 1900 to 2200.');
  if (repeat?.by === 'completion') {
    const { months, days, minutes } = parseSpan(repeat.every);
    if (!months && !days && minutes < LEAST_MINUTES)
      throw new CoreError(
        'bounds.every',
        'repeat.every',
        'It comes back a quarter of an hour after it was done at the earliest.',
      );
  }
  const said = reminders.reduce((n, { again }) => n + 1 + (again?.atMost ?? 0), 0);
  if (said * (at?.length ?? 1) > MOST_MOMENTS)
    throw new CoreError(
      'bounds.moments',
      'reminders',
      `Of one day’s times there are ${MOST_MOMENTS} reminders at most, those that are said again among them.`,
    );
  if (openAtOnce(series) > MOST_OPEN)
    throw new CoreError(
      'bounds.open',
      'opensBefore',
      `It would open so early that more than ${MOST_OPEN} of its times are open at once.`,
    );
}

const isStart = (day: Day) => day >= FIRST_START && day <= LAST_START;

/** By the calendar each day of a year may have a slot, so that none more can be open within one. */
const ONE_YEAR = 365;
/** Rules repeat themselves within a leap year and those around it. */
const LOOKED_AT = 9 * 366;

/**
 * How many of its times could be open at once because they open early (R19), whatever the person’s
 * working days: of several on one day the first alone opens early.
 */
function openAtOnce(series: Series): number {
  const { opensBefore, closedDays: _closed, ends, at, ...rest } = series;
  if (opensBefore === undefined) return 1;
  const lead = parseSpan(opensBefore);
  if (lead.months * 31 + lead.days + lead.minutes / 1440 <= ONE_YEAR) return 1;
  const days = slotDaysOf(
    { ...rest, ...(at ? { at } : {}) },
    lastDayOf(series),
    openDaysOf(WEEKDAYS),
    null,
  )?.days;
  if (!days) return 1;
  const early = Math.ceil(lead.minutes / 1440);
  const opening = (day: Day) => addToDay(day, lead, -1) - early;
  const most = ends && 'after' in ends ? Math.ceil(ends.after / (at?.length ?? 1)) : LOOKED_AT;
  const found: Day[] = [];
  let first = 0;
  let largest = 0;
  for (let day = days.next(parseDay(series.start!) - 1); day !== null; day = days.next(day)) {
    found.push(day);
    while (found[first]! < opening(day)) first++;
    largest = Math.max(largest, found.length - first);
    if (found.length >= Math.min(most, LOOKED_AT)) break;
  }
  return largest;
}

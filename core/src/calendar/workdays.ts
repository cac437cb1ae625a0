import {
  LAST_DAY,
  WEEKDAYS,
  parseDay,
  weekdayIndex,
  type Day,
  type LocalDate,
  type Weekday,
} from './day.ts';

/** Which days are open, for one person: their working days, without the public holidays of their region. */
export interface OpenDays {
  isOpen(day: Day): boolean;
  /** The first open day on or after `day`, or null when there is none. */
  onOrAfter(day: Day): Day | null;
  /** The last open day on or before `day`, or null when there is none. */
  onOrBefore(day: Day): Day | null;
  /**
   * The number of open days from 1970-01-01 to `day` inclusive; negative before. The difference of
   * two is how many lie between.
   */
  rank(day: Day): number;
  /** The open day with that rank, or null when there is none in the calendar. */
  withRank(rank: number): Day | null;
}

/** What becomes of a day that is closed (R4). */
export type ClosedDays = 'keep' | 'drop' | 'before' | 'after' | 'nearest';

/**
 * The open days of a person. A question costs the same for each day of the calendar, however far
 * it is and however many holidays there are.
 * @param workdays the days of the week on which they work; none: no day is open
 * @param holidays public holidays as dates, in any order
 * @throws CoreError for a holiday that is no date, with its place as `where`
 */
export function openDaysOf(
  workdays: readonly Weekday[],
  holidays: readonly LocalDate[] = [],
): OpenDays {
  const works = WEEKDAYS.map((weekday) => workdays.includes(weekday));
  // How many of the first n days of a week, from Monday, are worked.
  const within = [0, 0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < 7; i++) within[i + 1] = within[i]! + (works[i] ? 1 : 0);
  const each = within[7]!;
  const closed = [...new Set(holidays.map((date, i) => parseDay(date, `holidays.${i}`)))]
    .filter((day) => works[weekdayIndex(day)])
    .sort((a, b) => a - b);
  const holiday = new Set(closed);

  /** Working days from Monday 1969-12-29 to `day` inclusive, holidays or not. */
  const worked = (day: Day): number => {
    const since = day + 3;
    const week = Math.floor(since / 7);
    return week * each + within[since - week * 7 + 1]!;
  };
  /** How many holidays there are up to `day` inclusive, by halving. */
  const closedUpTo = (day: Day): number => {
    let low = 0;
    let high = closed.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (closed[middle]! <= day) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  const rank = (day: Day): number => worked(day) - closedUpTo(day) - base;
  const base = worked(-1) - closedUpTo(-1);
  const isOpen = (day: Day): boolean => works[weekdayIndex(day)]! && !holiday.has(day);

  function withRank(wanted: number): Day | null {
    if (each === 0) return null;
    // Without holidays it is at its place in the weeks; each holiday before it puts it off.
    const guess = Math.floor(((wanted + base) / each) * 7) - 3;
    let low = guess - 14;
    let high = guess + 14 + Math.ceil((closed.length / each) * 7);
    if (rank(low) >= wanted || rank(high) < wanted) return null;
    while (low + 1 < high) {
      const middle = Math.floor((low + high) / 2);
      if (rank(middle) < wanted) low = middle;
      else high = middle;
    }
    return high > LAST_DAY ? null : high;
  }

  return {
    isOpen,
    rank,
    withRank,
    onOrAfter: (day) => (isOpen(day) ? day : withRank(rank(day) + 1)),
    onOrBefore: (day) => (isOpen(day) ? day : withRank(rank(day))),
  };
}

/**
 * Where a day goes when it is closed (R4): to itself where it is open, else by `how`; null where it
 * is dropped. The nearest is the earlier one on a tie. Where no day is open at all it stays.
 */
export function moved(open: OpenDays, day: Day, how: ClosedDays): Day | null {
  if (how === 'keep' || open.isOpen(day)) return day;
  if (how === 'drop') return null;
  const before = open.onOrBefore(day);
  const after = open.onOrAfter(day);
  if (how === 'before') return before ?? day;
  if (how === 'after') return after ?? day;
  if (before === null || after === null) return before ?? after ?? day;
  return day - before <= after - day ? before : after;
}

/** Open days made so far, by the list of holidays: all to-dos of a person share theirs. */
const made = new WeakMap<readonly LocalDate[], Map<string, OpenDays>>();

/** The open days of these working days and holidays; made once for a list of holidays. */
export function openDaysFor(
  workdays: readonly Weekday[],
  holidays: readonly LocalDate[],
): OpenDays {
  const byWorkdays = made.get(holidays) ?? new Map<string, OpenDays>();
  made.set(holidays, byWorkdays);
  const key = workdays.join();
  const open = byWorkdays.get(key) ?? openDaysOf(workdays, holidays);
  byWorkdays.set(key, open);
  return open;
}

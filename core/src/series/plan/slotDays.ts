import { parseDay, type Day } from '../../calendar/day.ts';
import { parseMoment, type CivilMoment, type LocalMoment } from '../../calendar/time.ts';
import { moved, type OpenDays } from '../../calendar/workdays.ts';
import { datesOf } from '../../rule/expand.ts';
import { parseRule } from '../../rule/parse.ts';
import { everyWorkdays, nthWorkdays } from '../../rule/workdays.ts';
import type { Repeat, Series } from '../definition/definition.ts';

/** The days of the slots of a to-do that repeats by the calendar, in order. */
export interface SlotDays {
  /** The first after `after`, or null. */
  next(after: Day): Day | null;
  /** The last before `before`, or null. */
  previous(before: Day): Day | null;
  /** How many there are after `after` (exclusive), up to `until` (inclusive). */
  count(after: Day, until: Day): number;
}

type CalendarRepeat = Exclude<Repeat, { by: 'completion' } | { by: 'quota' }>;

/**
 * The slot days of a definition (R1, R4), up to `last`; null where the calendar does not yield
 * them. Of slots that come to be due on one day the first alone is there. A one-off has one day,
 * which the calendar yields where it has several times.
 * `edited` has the times of day of those days of which single times are excepted or added.
 * @param until the last day of the rule itself, from its UNTIL; null without one
 * @param cut the times of a day of the rule, in minutes
 * @param spend called for each day that is looked at and passed over
 */
export function slotDaysOf(
  series: Series,
  last: Day,
  open: OpenDays,
  until: Day | null,
  cut: (day: Day) => readonly number[] = () => [],
  spend: () => void = () => undefined,
): { days: SlotDays; edited: ReadonlyMap<Day, readonly number[]> } | null {
  const { closedDays = 'keep' } = series;
  if (series.start === null) return null;
  const repeat = series.repeat ?? onceOn(series);
  if (!repeat || repeat.by === 'completion' || repeat.by === 'quota') return null;
  const start = parseDay(series.start);
  const edits = editsOf(repeat);
  const all = baseOf(repeat, { start, last, until }, open);
  const whole = edits ? withEdits(all, edits, { start, last }, spend) : all;
  const edited = timesEdited(series, whole, cut);
  const emptied = [...edited].filter(([day, left]) => !left.length && whole.next(day - 1) === day);
  const added = [...edited].filter(([day, left]) => left.length && whole.next(day - 1) !== day);
  const days =
    emptied.length || added.length
      ? withEdits(
          whole,
          { except: new Set(emptied.map(([day]) => day)), extra: added.map(([day]) => day) },
          { start, last },
          spend,
        )
      : whole;
  const found = { edited, days };
  if (closedDays === 'keep') return found;
  const keeps = (day: Day) => {
    const due = moved(open, day, closedDays);
    if (due === null) return false;
    const before = days.previous(day);
    return before === null || moved(open, before, closedDays) !== due;
  };
  return { edited, days: filtered(days, keeps, spend) };
}

function onceOn({ start, at = [] }: Series): CalendarRepeat | null {
  return at.length > 1 ? { by: 'dates', dates: [start!] } : null;
}

interface Bounds {
  start: Day;
  last: Day;
}

function baseOf(
  repeat: CalendarRepeat,
  { start, last, until: ruleEnd }: Bounds & { until: Day | null },
  open: OpenDays,
): SlotDays {
  if (repeat.by === 'dates')
    return listed(
      repeat.dates.map((date) => parseDay(date)),
      { start, last },
    );
  if ('workday' in repeat) return nthWorkdays(open, repeat.workday, repeat.per, start, last);
  if ('everyWorkdays' in repeat) return everyWorkdays(open, repeat.everyWorkdays, start, last);
  const rule = parseRule(repeat.rule);
  const until = Math.min(last, ruleEnd ?? last);
  const sequence = datesOf({ ...rule, until: null }, start);
  return {
    next(after) {
      const day = sequence.next(after);
      return day === null || day > until ? null : day;
    },
    previous: (before) => sequence.previous(Math.min(before, until + 1)),
    count: (after, to) => sequence.count(after, Math.min(to, until)),
  };
}

/** Dates that a person picked, each once. */
function listed(dates: readonly Day[], { start, last }: Bounds): SlotDays {
  const days = [...new Set(dates)]
    .filter((day) => day >= start && day <= last)
    .sort((a, b) => a - b);
  return {
    next: (after) => days.find((day) => day > after) ?? null,
    previous: (before) => days.findLast((day) => day < before) ?? null,
    count: (after, until) => days.filter((day) => day > after && day <= until).length,
  };
}

interface Edits {
  except: ReadonlySet<Day>;
  extra: readonly Day[];
}

/** The dates that are excepted and added as a whole. */
function editsOf(repeat: CalendarRepeat): Edits | null {
  if (!('rule' in repeat)) return null;
  const whole = (all: readonly LocalMoment[] = []) =>
    all.filter((it) => it.length === 10).map((date) => parseDay(date));
  const [except, extra] = [whole(repeat.except), whole(repeat.extra)];
  return except.length || extra.length ? { except: new Set(except), extra } : null;
}

/** Of days on which single times are excepted or added: the minutes that are left there. */
function timesEdited(
  { repeat, at = [] }: Series,
  whole: SlotDays,
  cut: (day: Day) => readonly number[],
): ReadonlyMap<Day, readonly number[]> {
  const found = new Map<Day, readonly number[]>();
  if (!repeat || !('rule' in repeat) || !at.length) return found;
  const single = (all: readonly LocalMoment[] = []) =>
    all.filter((it) => it.length > 10).map((it) => parseMoment(it));
  const [minus, plus] = [single(repeat.except), single(repeat.extra)];
  const gone = new Set(
    (repeat.except ?? []).filter((it) => it.length === 10).map((date) => parseDay(date)),
  );
  for (const { day } of [...minus, ...plus]) {
    if (found.has(day) || gone.has(day)) continue;
    const on = (all: readonly CivilMoment[]) =>
      all.filter((it) => it.day === day).map(({ minute }) => minute!);
    const own = whole.next(day - 1) === day ? cut(day) : [];
    const left = [...new Set([...own, ...on(plus)])].filter((it) => !on(minus).includes(it));
    found.set(
      day,
      left.sort((a, b) => a - b),
    );
  }
  return found;
}

/** Without the excepted dates and with the extra ones, as EXDATE and RDATE (RFC 5545 §3.8.5). */
function withEdits(
  all: SlotDays,
  { except, extra }: Edits,
  bounds: Bounds,
  spend: () => void,
): SlotDays {
  const left = filtered(all, (day) => !except.has(day), spend);
  const added = listed(
    extra.filter((day) => !except.has(day)),
    bounds,
  );
  const holds = (day: Day) => all.count(day - 1, day) > 0;
  const within = (days: Iterable<Day>, after: Day, until: Day) =>
    [...days].filter((day) => day > after && day <= until && holds(day)).length;
  const pick = (a: Day | null, b: Day | null, which: (a: Day, b: Day) => Day) =>
    a === null ? b : b === null ? a : which(a, b);
  return {
    next: (after) => pick(left.next(after), added.next(after), Math.min),
    previous: (before) => pick(left.previous(before), added.previous(before), Math.max),
    // An added date that the rule has as well is one.
    count: (after, until) =>
      all.count(after, until) -
      within(except, after, until) +
      added.count(after, until) -
      within(new Set(extra.filter((day) => !except.has(day))), after, until),
  };
}

/**
 * So many in a row are left out at most: weekdays repeat with the calendar, every 4,800 months, and
 * those left out by their date are fewer.
 */
const MOST_LEFT_OUT = 10_000;

function filtered(all: SlotDays, keeps: (day: Day) => boolean, spend: () => void): SlotDays {
  const kept = (from: Day, step: (day: Day) => Day | null): Day | null => {
    let day = step(from);
    for (let n = 0; day !== null && n < MOST_LEFT_OUT; n++) {
      if (keeps(day)) return day;
      spend();
      day = step(day);
    }
    return null;
  };
  const next = (after: Day) => kept(after, all.next);
  return {
    next,
    previous: (before) => kept(before, all.previous),
    count(after, until) {
      let n = 0;
      for (let day = next(after); day !== null && day <= until; day = next(day)) {
        spend();
        n++;
      }
      return n;
    },
  };
}

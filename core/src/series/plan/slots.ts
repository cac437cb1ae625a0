import {
  LAST_DAY,
  dateOf,
  formatDay,
  parseDay,
  type Day,
  type LocalDate,
  type Weekday,
} from '../../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../../calendar/span.ts';
import {
  formatMoment,
  formatTime,
  parseMoment,
  parseTime,
  type CivilMoment,
  type LocalMoment,
} from '../../calendar/time.ts';
import { moved, openDaysOf, type OpenDays } from '../../calendar/workdays.ts';
import { parseInstant, type Instant } from '../../calendar/zone.ts';
import { datesOf } from '../../rule/expand.ts';
import { parseRule } from '../../rule/parse.ts';
import { minuteOf, startDay, type Repeat, type Series } from '../definition/definition.ts';
import { pausedDays, type PausedDays } from './pauses.ts';
import { UNDATED, type Base, type Occurrence, type Pending } from '../life/progress.ts';
import { periodOf } from './quota.ts';
import {
  DEFAULT_WORKDAYS,
  clockOf,
  type PersonalClock,
  type Settings,
} from '../person/settings.ts';
import { slotsOf } from './slotTimes.ts';

/** A definition made ready to compute with: where its next slots are. */
export interface Plan {
  series: Series;
  clock: PersonalClock;
  /** Whether the calendar yields its slots, and not what became of the one before. */
  byCalendar: boolean;
  /** Whether one day has several of its slots, and whether they open before their day. */
  several: boolean;
  opensEarly: boolean;
  paused: PausedDays;
  /** Whether a day is a working day of the person, and no public holiday. */
  isOpenDay(day: Day): boolean;
  /** By the calendar: the first slot after `after`, or of all; pauses and counts aside. */
  slotAfter(after: LocalMoment | null): CalendarSlot | null;
  /** By the calendar: the slots that are due on a day (R4), in order. */
  dueOn(day: Day): CalendarSlot[];
  /** By the calendar: when one of this slot opens that is due then; `leads` where it is the first of its day. */
  opening(slot: LocalMoment, due: LocalMoment, leads: boolean): Instant;
  /** By the calendar: the slot before this one, or null. */
  slotBefore(slot: LocalMoment): LocalMoment | null;
  /** By the calendar: the day of the slot before this day, or null. */
  slotDayBefore(day: Day): Day | null;
  /** By the calendar: the last slot that is due before this day, outside of pauses; null for none. */
  dueBefore(day: Day): CalendarSlot | null;
  /** By the calendar: how many slots there are up to this one, inclusive, outside of pauses. */
  countTo(slot: LocalMoment): number;
  /** By the calendar: a moment before which, after `slot`, all slots lie in this pause (R12). */
  pastPause(pause: { from: Day; to: Day }): LocalMoment;
  /** The pause that a slot lies in (R12), as its days; null for none. */
  pauseOf(slot: CalendarSlot): { from: Day; to: Day } | null;
  /**
   * Not by the calendar: the time that is counted from `base` (R7, R8), `done` having been done;
   * `held` where a pause without an end keeps it; null where none comes.
   */
  counted(base: Base, done: number): Pending | 'held' | null;
  /** The same, moved by the person so as to be due then (R9): a pause after I finish moves it on (R12). */
  countedOn(
    base: Base,
    due: LocalMoment,
  ): (Pick<Pending, 'opensAt'> & { due: LocalMoment }) | 'held';
  /** When a time ends as missed by itself (R10 `lapse`, R15), or null when it never does. */
  overAt(time: Pick<Occurrence, 'slot' | 'due'>): Instant | null;
  /** So many times a period: how many, and the slot of the period that holds a day. */
  quota: { times: number; slotOn(day: Day): LocalMoment } | null;
}

/** Called for each piece of work: throws where there has been enough of it. */
export type Spend = () => void;

/** A slot of the calendar; `leads` where it is the first one of its day and opens with that day. */
export interface CalendarSlot extends Pending {
  due: LocalMoment;
  leads: boolean;
}

/** Makes definitions ready for one person, each once. */
export interface Planner {
  (series: Series): Plan;
  clock: PersonalClock;
  weekStart: Weekday;
  spend: Spend;
}

const NO_HOLIDAYS: readonly LocalDate[] = [];

/** Open days made so far, by the list of holidays: all to-dos of a person share theirs. */
const made = new WeakMap<readonly LocalDate[], Map<string, OpenDays>>();

function openDaysFor(workdays: readonly Weekday[], holidays: readonly LocalDate[]): OpenDays {
  const byWorkdays = made.get(holidays) ?? new Map<string, OpenDays>();
  made.set(holidays, byWorkdays);
  const key = workdays.join();
  const open = byWorkdays.get(key) ?? openDaysOf(workdays, holidays);
  byWorkdays.set(key, open);
  return open;
}

/**
 * The planner of a person with these settings.
 * @param holidays the public holidays of their region, as dates
 * @param spend called for each piece of work, of a few microseconds: what it throws ends the work,
 * and nothing is changed by that
 */
export function plannerOf(
  settings: Settings,
  holidays: readonly LocalDate[] = NO_HOLIDAYS,
  spend: Spend = () => undefined,
): Planner {
  const plans = new WeakMap<Series, Plan>();
  const open = openDaysFor(settings.workdays ?? DEFAULT_WORKDAYS, holidays);
  const clock = clockOf(settings);
  const planner = (series: Series) => {
    const known = plans.get(series) ?? planOf(series, settings, { clock, open, spend });
    plans.set(series, known);
    return known;
  };
  return Object.assign(planner, { clock, spend, weekStart: settings.weekStart });
}

type Slotted = Pick<
  Plan,
  | 'slotAfter'
  | 'dueOn'
  | 'opening'
  | 'slotBefore'
  | 'slotDayBefore'
  | 'dueBefore'
  | 'countTo'
  | 'pastPause'
  | 'pauseOf'
  | 'several'
>;
const NO_SLOTS: Slotted = {
  several: false,
  slotAfter: () => null,
  dueOn: () => [],
  opening: () => -Infinity,
  slotBefore: () => null,
  slotDayBefore: () => null,
  dueBefore: () => null,
  countTo: () => 0,
  pastPause: () => '',
  pauseOf: () => null,
};

function planOf(
  series: Series,
  settings: Settings,
  given: Pick<Context, 'clock' | 'open' | 'spend'>,
): Plan {
  const { clock, open } = given;
  const { repeat, closedDays = 'keep' } = series;
  const last = lastDayOf(series);
  const paused = pausedDays(series.pauses);
  const openDay = (day: Day) => moved(open, day, closedDays) ?? day;
  const lead = series.opensBefore === undefined ? null : parseSpan(series.opensBefore);
  const opensAt = (due: LocalMoment): Instant => {
    if (!lead) return clock.startOf(clock.dayOfMoment(due));
    if (!isClockSpan(lead)) return clock.startOf(addToDay(clock.dayOfMoment(due), lead, -1));
    return clock.startOf(clock.dayAt(clock.instantOf(due) - lead.minutes * 60000));
  };
  const context: Context = { ...given, series, settings, last, paused, openDay, opensAt };
  const quota = repeat?.by === 'quota' ? repeat : null;
  const slotted = quota ? quotaSlots(quota, context) : calendarSlots(context);
  return {
    series,
    clock,
    paused,
    isOpenDay: (day) => open.isOpen(day),
    byCalendar: slotted !== null,
    opensEarly: lead !== null,
    ...(slotted ?? NO_SLOTS),
    counted: slotted ? () => null : countedBy(context),
    countedOn: countedOn(context),
    overAt: overAtOf(context),
    quota: quota && {
      times: quota.times,
      slotOn: (day) => formatDay(periodOf(quota.per, day, settings.weekStart).first),
    },
  };
}

/** What the parts of a plan share. */
interface Context {
  series: Series;
  settings: Settings;
  clock: PersonalClock;
  open: OpenDays;
  last: Day;
  paused: PausedDays;
  /** The due day of a day (R4). */
  openDay(day: Day): Day;
  /** When a time with this due moment opens. */
  opensAt(due: LocalMoment): Instant;
  spend: Spend;
}

/** The slots that a rule, a pattern of working days or picked dates yield; null where none do. */
function calendarSlots(context: Context): Slotted | null {
  const { series, settings, clock, open, last, paused, openDay, opensAt, spend } = context;
  const momentOf = (utc: string) => parseMoment(clock.momentAt(parseInstant(utc)));
  const slots = slotsOf(series, last, open, momentOf, spend);
  if (!slots) return null;
  const several = (series.at?.length ?? 0) > 1;
  /** The slot keeps its day; its due day goes to an open one (R4), its time to one that is (R16). */
  const dueAt = ({ day, minute }: CivilMoment) =>
    clock.shown(formatMoment({ day: openDay(day), minute }));
  const dueDay = (slot: CivilMoment) => clock.dayOfMoment(dueAt(slot));
  const slotOf = (slot: CivilMoment): CalendarSlot => {
    spend();
    const due = dueAt(slot);
    const before = several ? slots.previous(slot) : null;
    const leads = before === null || dueDay(before) !== clock.dayOfMoment(due);
    const at = leads ? opensAt(due) : clock.instantOf(due);
    return { slot: formatMoment(slot), due, opensAt: at, leads };
  };
  const pauseOf = ({ slot }: { slot: LocalMoment }) => paused.at(clock.dayOfMoment(slot));
  /** Where a person's day begins, and the last moment before that, for slots with a time and without. */
  const startOf = (day: Day): CivilMoment => ({
    day,
    minute: series.at ? parseTime(settings.dayStart) : 0,
  });
  const justBeforeDay = (day: Day): CivilMoment => {
    const { minute } = startOf(day);
    return minute ? { day, minute: minute - 1 } : { day: day - 1, minute: 1439 };
  };
  return {
    several,
    slotAfter(after) {
      const slot = slots.next(after === null ? null : parseMoment(after));
      return slot && slotOf(slot);
    },
    dueOn(day) {
      // Closed days bring some from another day.
      const reach = (series.closedDays ?? 'keep') === 'keep' ? 1 : LONGEST_CLOSURE;
      const found: CalendarSlot[] = [];
      let slot = slots.next({ day: day - reach - 1, minute: null });
      for (; slot && slot.day <= day + reach; slot = slots.next(slot))
        if (dueDay(slot) === day) found.push(slotOf(slot));
      return found;
    },
    opening: (_slot, due, leads) => (leads ? opensAt(due) : clock.instantOf(due)),
    slotBefore(slot) {
      const before = slots.previous(parseMoment(slot));
      return before && formatMoment(before);
    },
    slotDayBefore: (day) => slots.dayBefore(day),
    dueBefore(day) {
      let slot = slots.previous({ day: day + 1, minute: null });
      // Closed days bring some from before this day to one after it, and the other way round (R4).
      while (slot && dueDay(slot) >= day) {
        spend();
        slot = slots.previous(slot);
      }
      for (let next = slots.next(slot); next && dueDay(next) < day; next = slots.next(slot)) {
        spend();
        slot = next;
      }
      for (;;) {
        const pause: { from: Day } | null =
          slot && paused.at(clock.dayOfMoment(formatMoment(slot)));
        if (!slot || !pause) return slot && slotOf(slot);
        slot = slots.previous(startOf(pause.from));
      }
    },
    countTo(slot) {
      const to = parseMoment(slot);
      return paused.spans.reduce(
        (n, pause) => {
          const end = Math.min(pause.to, to.day + 1);
          if (end < pause.from) return n;
          const until = justBeforeDay(end + 1);
          const isLater = formatMoment(until) > formatMoment({ ...to, minute: to.minute ?? 0 });
          return n - slots.count(justBeforeDay(pause.from), isLater ? to : until);
        },
        slots.count(null, to),
      );
    },
    // The last day of a pause is looked at: what begins that day may end after the pause.
    pastPause: (pause) => formatDay(Math.min(pause.to, LAST_DAY) - 1),
    pauseOf,
  };
}

/** The periods of a quota (R15): each a slot on its first day, due on its last. */
function quotaSlots({ per }: Extract<Repeat, { by: 'quota' }>, context: Context): Slotted {
  const { series, settings, clock, last, paused } = context;
  const start = startDay(series)!;
  const period = (day: Day) => periodOf(per, day, settings.weekStart);
  const first = period(start).first;
  const dayAfter = (after: LocalMoment | null): Day => {
    const day = after === null ? null : parseMoment(after).day;
    return day === null || day < first ? first : period(day).last + 1;
  };
  const before = (day: Day): Day | null => {
    const { first: found } = period(day - 1);
    return found < first ? null : found;
  };
  const lastPeriod = period(Math.max(first, Math.min(last, LAST_DAY - 31))).first;
  const slotOf = (day: Day): CalendarSlot => ({
    slot: formatDay(day),
    due: formatDay(period(day).last),
    opensAt: clock.startOf(Math.max(day, start)),
    leads: true,
  });
  const pauseOf = ({ slot, due }: Pick<CalendarSlot, 'slot' | 'due'>) => {
    const pause = paused.at(parseDay(slot));
    return pause && parseDay(due) <= pause.to ? pause : null;
  };
  /** How many periods begin from one day to another, both inclusive; the first day begins one. */
  const between = (from: Day, to: Day): number => {
    if (per === 'day') return to - from + 1;
    if (per === 'week') return Math.floor((to - from) / 7) + 1;
    const months = (day: Day) => dateOf(day).year * 12 + dateOf(day).month;
    return months(to) - months(from) + 1;
  };
  return {
    several: false,
    slotAfter(after) {
      const day = dayAfter(after);
      return day > lastPeriod ? null : slotOf(day);
    },
    dueOn(day) {
      const { first: at, last: end } = period(day);
      return at < first || at > lastPeriod || end !== day ? [] : [slotOf(at)];
    },
    // It opens with its period, wherever its due day was moved (R9).
    opening: (slot) => clock.startOf(Math.max(parseDay(slot), start)),
    slotBefore(slot) {
      const day = before(parseMoment(slot).day);
      return day === null ? null : formatDay(day);
    },
    slotDayBefore: before,
    dueBefore(day) {
      for (let at = before(day); at !== null;) {
        const slot = slotOf(Math.min(at, lastPeriod));
        const pause = slot.due < formatDay(day) ? pauseOf(slot) : null;
        if (slot.due < formatDay(day) && !pause) return slot;
        at = before(pause && pause.from < at ? pause.from + 1 : at);
      }
      return null;
    },
    countTo(slot) {
      const to = parseDay(slot);
      return paused.spans.reduce(
        (n, pause) => {
          const from =
            period(pause.from).first === pause.from ? pause.from : period(pause.from).last + 1;
          const until = Math.min(to, pause.to === Infinity ? to : period(pause.to + 1).first - 1);
          const low = Math.max(from, first);
          return until < low ? n : n - between(low, until);
        },
        between(first, to),
      );
    },
    pastPause: (pause) => formatDay(period(Math.min(pause.to, LAST_DAY)).first - 1),
    pauseOf,
  };
}

/** No closed days in a row are more. */
const LONGEST_CLOSURE = 40;

/** When one that is counted opens, and is due, that a person moved so as to be due at a moment. */
function countedOn({ series, clock, paused, opensAt }: Context): Plan['countedOn'] {
  const { repeat } = series;
  const inHours = repeat?.by === 'completion' && isClockSpan(parseSpan(repeat.every));
  return (base, wanted) => {
    const pause = repeat && paused.at(clock.dayOfMoment(wanted));
    if (pause && pause.to === Infinity) return 'held';
    const due = pause
      ? clock.shown(formatMoment({ ...parseMoment(wanted), day: pause.to + 1 }))
      : wanted;
    const isAgain =
      inHours &&
      base.previous !== null &&
      clock.dayOfMoment(base.previous) === clock.dayOfMoment(due);
    return { due, opensAt: isAgain ? clock.instantOf(due) : opensAt(due) };
  };
}

/** What comes of a one-off, or after the one before was finished. */
function countedBy(context: Context): Plan['counted'] {
  const { series, clock, open, last, paused, openDay, opensAt } = context;
  const { repeat, closedDays = 'keep', ends } = series;
  const minute = minuteOf(series);
  const start = startDay(series);
  const after = repeat?.by === 'completion' ? completionOf(repeat, start!, open) : null;
  const most = ends && 'after' in ends ? ends.after : Infinity;
  const onDay = (day: Day, at: number | null, wanted: Day): Pending | 'held' => {
    let dueDay = wanted;
    for (;;) {
      if (dueDay > LAST_DAY) return 'held';
      const due = clock.shown(formatMoment({ day: dueDay, minute: at }));
      const pause = paused.at(clock.dayOfMoment(due));
      // A due day inside a pause goes to the first day after it (R12).
      if (!pause) return { slot: formatMoment({ day, minute: at }), due, opensAt: opensAt(due) };
      if (pause.to === Infinity) return 'held';
      const next = Math.max(pause.to, dueDay) + 1;
      dueDay = closedDays === 'keep' ? next : (moved(open, next, 'after') ?? next);
    }
  };
  return (base, done) => {
    if (base.used) return null;
    if (base.from === null) {
      const day = base.on === undefined ? start : parseDay(base.on);
      if (day === null) return { slot: UNDATED, due: null, opensAt: base.at };
      return onDay(day, minute, openDay(day));
    }
    if (!after || done >= most) return null;
    if (after.minutes === 0) {
      const day = after.dayFrom(base.from.day);
      if (day === null || day > last) return null;
      const due = openDay(day);
      // It never comes back on the day it is counted from, or before it (R4).
      const later = due > base.from.day ? due : (moved(open, day, 'after') ?? day);
      const moment = formatMoment({ day: later, minute });
      const isLater = clock.dayOfMoment(clock.shown(moment)) > base.from.day;
      if (isLater) return onDay(day, minute, later);
      const next = closedDays === 'keep' ? later + 1 : moved(open, later + 1, 'after');
      return onDay(day, minute, next ?? later + 1);
    }
    if (base.from.instant + after.minutes * 60000 > LAST_DAY * 86400000) return null;
    const due = hoursLater(clock, base.from.instant, after.minutes);
    const day = clock.dayOfMoment(due);
    if (day > last) return null;
    const { day: date, minute: at } = parseMoment(due);
    const pending = onDay(date, at, date);
    // A second one on a day that already had one opens when it is due (R5).
    const again = base.previous !== null && clock.dayOfMoment(base.previous) === day;
    if (pending === 'held' || !again || pending.due !== due) return pending;
    return { ...pending, opensAt: clock.instantOf(due) };
  };
}

/**
 * The moment so many minutes after an instant. Of a local time that comes twice the first is meant
 * (R16): where that would not be after the instant any more, it is later by what came twice.
 */
function hoursLater(clock: PersonalClock, from: Instant, minutes: number): LocalMoment {
  const at = from + minutes * 60000;
  const due = clock.momentAt(at);
  const meant = clock.instantOf(due);
  return meant > from ? due : clock.momentAt(at + Math.floor((at - meant) / 60000) * 60000);
}

/** How far after the finish the next one is: so many minutes, or a day found from that day (R3, R7). */
function completionOf(
  repeat: Extract<Repeat, { by: 'completion' }>,
  start: Day,
  open: OpenDays,
): { minutes: number; dayFrom(day: Day): Day | null } {
  const span = parseSpan(repeat.every);
  const onto = repeat.onto === undefined ? null : datesOf(parseRule(repeat.onto), start);
  // Weeks stay weeks; days alone are counted in working days.
  const inDays = repeat.workdays ? Number(/(\d+)D/u.exec(repeat.every)?.[1] ?? 0) : 0;
  const calendar = { ...span, days: span.days - inDays };
  return {
    minutes: span.minutes,
    dayFrom(day) {
      const reached = addToDay(day, calendar);
      const due = inDays ? open.withRank(open.rank(reached) + inDays) : reached;
      return due === null || !onto ? due : onto.next(due - 1);
    },
  };
}

/**
 * When what lapses is over (R10): a due day at its end, and `grace` after it; a period of a quota at
 * its end. One that is held in a pause is over with the pause at the earliest (R12).
 */
function overAtOf({ series, settings, clock, paused }: Context): Plan['overAt'] {
  const { repeat } = series;
  // A period ends by itself, wherever its due day was moved (R9).
  if (repeat?.by === 'quota')
    return ({ slot }) =>
      clock.startOf(periodOf(repeat.per, parseDay(slot), settings.weekStart).last + 1);
  if (series.late !== 'lapse') return () => null;
  const grace = series.grace === undefined ? null : parseSpan(series.grace);
  const raw = (due: LocalMoment): Instant => {
    const { day, minute } = parseMoment(due);
    const end = (of: Day) => (minute === null ? clock.startOf(of + 1) : clock.instantOf(due));
    if (!grace) return end(day);
    if (isClockSpan(grace)) return end(day) + grace.minutes * 60000;
    const later = Math.min(addToDay(day, grace), LAST_DAY);
    return minute === null
      ? clock.startOf(later + 1)
      : clock.instantOf(formatMoment({ day: later, minute }));
  };
  return ({ due }) => {
    if (due === null) return null;
    const at = raw(due);
    const pause = paused.at(clock.dayAt(at - 1));
    if (!pause) return at;
    return pause.to === Infinity ? null : Math.max(at, clock.startOf(pause.to + 1));
  };
}

/** The last day on which a slot may fall (R11): `within` is half open. */
export function lastDayOf(series: Series): Day {
  const { ends } = series;
  if (!ends) return LAST_DAY;
  if ('on' in ends) return parseDay(ends.on);
  if ('within' in ends && series.start !== null)
    return addToDay(parseDay(series.start), parseSpan(ends.within)) - 1;
  return LAST_DAY;
}

/** A moment just before another, to find the slots from that one on. */
export function justBefore(moment: LocalMoment): LocalMoment {
  const { day, minute } = parseMoment(moment);
  return minute === null || minute === 0
    ? formatDay(day - 1)
    : `${formatDay(day)}T${formatTime(minute - 1)}`;
}

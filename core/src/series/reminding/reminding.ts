import { WEEKDAYS, formatDay, parseDay, weekdayIndex, type Day } from '../../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan, type SpanParts } from '../../calendar/span.ts';
import { parseMoment, parseTime, type LocalMoment, type LocalTime } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import { wakeAt } from '../life/advance.ts';
import { comingTimes, movedTimes, upcoming } from '../plan/coming.ts';
import type { Occurrence, Pending, Progress } from '../life/progress.ts';
import { AT_DUE, type Channel, type Reminder } from './reminders.ts';
import { DEFAULT_REMIND_AT, type PersonalClock, type Settings } from '../person/settings.ts';
import { isSlotted, type Planner } from '../plan/plan.ts';

/** One moment at which to speak up about a time (R17). */
export interface Reminding {
  slot: LocalMoment;
  /** The running number of the time; null where it has not opened. */
  number: number | null;
  due: LocalMoment;
  at: Instant;
  /** Which of the reminders of the definition, from 0; null where the person put one off to here. */
  reminder: number | null;
  /** 0 for the first time that it is said, then 1 and more for those that say it again. */
  nth: number;
  /** What names it within the to-do: with the same key it was said already. */
  key: string;
  channel?: Channel;
}

/** When a person is spoken to. */
export type Hours = Pick<Settings, 'remindAt' | 'quiet'>;

/** A time that may be reminded of: open, or still to come. */
interface Target {
  slot: LocalMoment;
  number: number | null;
  /** What tells it from another time of the same slot. */
  name: string;
  due: LocalMoment;
  dueDay: Day;
  plan: Day;
  /** The hour for which it is planned, where the person set one. */
  planAt: LocalMoment | undefined;
  /** When it opens, or would if no planned day had opened it early. */
  opensAt: Instant;
  /** Since when there has been this time: nothing is said of it before. */
  since: Instant;
  /** Whether later ones have none but later moments: those of the calendar where it yields them. */
  inOrder: boolean;
}

const MINUTE = 60_000;
/** A due day moved to an open one lies at most so many days from its slot, but for long closures. */
const SLACK_DAYS = 14;

/**
 * The moments of reminders after `from`, up to and including `to`, as the to-do stands: in order,
 * and for one time and channel each moment once. What ended, is held or moved away has none, and
 * what has not come to be by `from` cannot have been said before it.
 */
export function remindersIn(
  planner: Planner,
  progress: Progress,
  hours: Hours,
  from: Instant,
  to: Instant,
): Reminding[] {
  const found: Reminding[] = [];
  const window = windowOf(planner.clock, from, to);
  for (const target of targetsUpTo(planner, progress, to)) {
    const seen = new Set<string>();
    for (const moment of momentsOf(planner, progress, hours, target, window)) {
      if (isHeld(planner, progress, moment.at)) continue;
      const same = `${moment.at} ${moment.channel}`;
      if (!seen.has(same)) found.push(remindingOf(planner, target, moment));
      seen.add(same);
    }
  }
  return found.sort(inTime);
}

/**
 * As {@link remindersIn}, but of each time and channel the newest alone: all that is said after an
 * outage (R17).
 */
export function newestRemindersIn(
  planner: Planner,
  progress: Progress,
  hours: Hours,
  from: Instant,
  to: Instant,
): Reminding[] {
  const found: Reminding[] = [];
  const window = windowOf(planner.clock, from, to);
  for (const target of targetsUpTo(planner, progress, to)) {
    const newest = new Map<Channel | undefined, Moment>();
    for (const moment of momentsOf(planner, progress, hours, target, window)) {
      if (moment.at <= (newest.get(moment.channel)?.at ?? -Infinity)) continue;
      if (!isHeld(planner, progress, moment.at)) newest.set(moment.channel, moment);
    }
    for (const moment of newest.values()) found.push(remindingOf(planner, target, moment));
  }
  return found.sort(inTime);
}

const inTime = (a: Reminding, b: Reminding) =>
  a.at - b.at ||
  (a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : (a.reminder ?? -1) - (b.reminder ?? -1));

/** The first moment after an instant at which there is something to say, or null. */
export function nextReminderAt(
  planner: Planner,
  progress: Progress,
  hours: Hours,
  after: Instant,
): Instant | null {
  let best = Infinity;
  let bestDay = Infinity;
  const { clock } = planner;
  let window = windowOf(clock, after, best);
  const longest = longestBefore(progress);
  for (const target of targets(planner, progress)) {
    // Later times of the calendar only have later moments.
    if (target.inOrder && earliestDay(clock, target, longest) > bestDay) break;
    for (const { at } of momentsOf(planner, progress, hours, target, window)) {
      if (at >= best || isHeld(planner, progress, at)) continue;
      best = at;
      bestDay = clock.dayAt(at) + 1;
      window = windowOf(clock, after, best);
    }
  }
  return best === Infinity ? null : best;
}

/**
 * When a to-do is to be looked at for what there is to say of it: never later than there is something,
 * and null where there never is. Most times to come are known long before; where one counts from when
 * the one before is over, that may bring another.
 */
export function speaksAt(planner: Planner, progress: Progress, hours: Hours): Instant | null {
  if (!hasReminders(progress) || progress.through === null) return null;
  const next = nextReminderAt(planner, progress, hours, progress.through);
  const { series } = progress;
  const byCalendar = isSlotted(planner(series));
  const counts = !byCalendar && series.repeat !== null && series.late === 'lapse';
  if (!counts) return next;
  const change = wakeAt(planner, progress);
  return change === null || (next !== null && next <= change) ? next : change;
}

/** The next moments after an instant at which there is something to say, in order, at most so many. */
export function comingReminders(
  planner: Planner,
  progress: Progress,
  hours: Hours,
  after: Instant,
  most: number,
): Reminding[] {
  const found: Reminding[] = [];
  if (!hasReminders(progress)) return found;
  for (let from = after; found.length < most;) {
    const at = nextReminderAt(planner, progress, hours, from);
    if (at === null) break;
    found.push(...remindersIn(planner, progress, hours, at - 1, at));
    from = at;
  }
  return found.slice(0, most);
}

/** Whether there is ever something to say about a to-do. */
export function hasReminders({ series, turns, later = [] }: Progress): boolean {
  return (
    later.length > 0 ||
    [series, ...turns.map((turn) => turn.series)].some((it) => it.reminders !== undefined)
  );
}

/** The times that can be reminded of: open ones, those to come that were moved, then the others in order. */
function* targets(planner: Planner, progress: Progress): Generator<Target> {
  const { clock } = planner;
  const byCalendar = isSlotted(planner(progress.series));
  const made = progress.base?.at ?? -Infinity;
  const targetOf = (slot: LocalMoment, due: LocalMoment, number: number): Target => {
    const dueDay = clock.dayOfMoment(due);
    return {
      slot,
      number: null,
      // The calendar yields each slot once.
      name: byCalendar ? slot : `${slot}#${number}`,
      due,
      dueDay,
      plan: dueDay,
      planAt: undefined,
      opensAt: -Infinity,
      since: made,
      inOrder: false,
    };
  };
  for (const time of progress.open) {
    const { number, slot, due, planAt, openedAt, wouldOpen } = time;
    if (due === null || time.plan === null) continue;
    const target = targetOf(slot, due, number);
    yield {
      ...target,
      number,
      plan: plannedDay(time, target.dueDay),
      planAt,
      opensAt: wouldOpen ?? openedAt ?? clock.instantOf(due),
      // One that was open when the repeat changed to another kind had been there before.
      since: byCalendar || time === progress.open.at(-1) ? made : (openedAt ?? made),
    };
  }
  const toCome = (time: Pending & { due: LocalMoment }, inOrder: boolean): Target => {
    const { slot, due, moved } = time;
    const target = targetOf(slot, due, progress.number);
    return {
      ...target,
      plan: moved ? parseDay(moved.plan) : target.plan,
      planAt: moved?.planAt,
      opensAt: moved?.byDue ?? time.opensAt,
      inOrder,
    };
  };
  if (!byCalendar) {
    const next = upcoming(planner, progress);
    if (next && next.due !== null) yield toCome({ ...next, due: next.due }, false);
    return;
  }
  for (const time of movedTimes(planner, progress)) yield toCome(time, false);
  for (const time of comingTimes(planner, progress)) {
    // Without reminders from here on there is no need to look on, for ever.
    if (!remindersFrom(progress, time.slot)) return;
    yield toCome(time, true);
  }
}

/** The day that it was planned for: a roll does not renew what is said about it. */
function plannedDay({ planBy, plan, meant }: Occurrence, dueDay: Day): Day {
  if (planBy === 'roll') return meant === undefined ? dueDay : parseDay(meant);
  return plan === null ? dueDay : parseDay(plan);
}

function* targetsUpTo(planner: Planner, progress: Progress, to: Instant): Generator<Target> {
  const { clock } = planner;
  const longest = longestBefore(progress);
  const last = clock.dayAt(to) + 1;
  for (const target of targets(planner, progress)) {
    if (target.inOrder && earliestDay(clock, target, longest) > last) return;
    yield target;
  }
}

/** No moment of a time to come, or of one after it, lies before this day. */
function earliestDay(clock: PersonalClock, target: Target, longest: Longest): Day {
  return Math.min(target.plan, clock.dayAt(target.opensAt)) - longest.before - longest.slack;
}

interface Longest {
  /** The longest span before, in days. */
  before: number;
  /** By how many days due days may come in another order than their slots. */
  slack: number;
}

function longestBefore({ series, turns }: Progress): Longest {
  const all = [series, ...turns.map((turn) => turn.series)];
  const spans = all.flatMap(({ reminders = [] }) =>
    reminders.map((reminder) => -preparedOf(reminder).least),
  );
  const slack = all.some(({ closedDays }) => closedDays) ? SLACK_DAYS : 1;
  return { before: Math.max(0, ...spans), slack };
}

/** The moments that are asked for: after the one, up to and including the other. */
interface Window {
  after: Instant;
  to: Instant;
  afterDay: Day;
  toDay: Day;
}

function windowOf(clock: PersonalClock, after: Instant, to: Instant): Window {
  const toDay = to === Infinity ? Infinity : clock.dayAt(to);
  return { after, to, afterDay: clock.dayAt(after), toDay };
}

/** A reminder made ready to compute with. */
interface Prepared {
  /** How long before. */
  span: SpanParts;
  /** Whether that is in hours and minutes. */
  byClock: boolean;
  /** Its own time of day in minutes, or null. */
  minute: number | null;
  /** In place of a span: the last such weekday before, from 0 for Monday; null for none. */
  weekday: number | null;
  every: SpanParts;
  atMost: number;
  /** How many days its moments lie from the day that it is counted from, at least and at most. */
  least: number;
  most: number;
}

const prepared = new WeakMap<Reminder, Prepared>();

function preparedOf(reminder: Reminder): Prepared {
  const known = prepared.get(reminder);
  if (known) return known;
  const { before, on, at, again } = reminder;
  const span = before === undefined || before === AT_DUE ? NO_SPAN : parseSpan(before);
  const every = again ? parseSpan(again.every) : NO_SPAN;
  const atMost = again?.atMost ?? 0;
  // Quiet hours put each one off by a day at most, and an hour may be of the calendar day after.
  const chain = atMost * (longestDays(every) + 1);
  const made = {
    span,
    byClock: before === AT_DUE || isClockSpan(span),
    minute: at === undefined ? null : parseTime(at),
    weekday: on === undefined ? null : WEEKDAYS.indexOf(on),
    every,
    atMost,
    least: -Math.max(longestDays(span), on === undefined ? 0 : 7) - 2,
    most: -(span.months * 28 + span.days + Math.floor(span.minutes / 1440)) + chain + 3,
  };
  prepared.set(reminder, made);
  return made;
}

const NO_SPAN: SpanParts = { months: 0, days: 0, minutes: 0 };
const longestDays = ({ months, days, minutes }: SpanParts) =>
  months * 31 + days + Math.ceil(minutes / 1440);

/** A moment of a time: of which of its reminders, and said how often before; or put off until when. */
interface Moment {
  at: Instant;
  of: { reminder: Reminder; index: number; nth: number } | { later: Instant };
  channel: Channel | undefined;
}

/**
 * The moments of one time within the window, in the order of its reminders. Where the person put it
 * off, there is nothing until then, and one moment then.
 */
function* momentsOf(
  planner: Planner,
  progress: Progress,
  hours: Hours,
  target: Target,
  window: Window,
): Generator<Moment> {
  const { clock } = planner;
  const reminders = remindersFor(progress, target.slot);
  const later = progress.later?.find((it) => it.slot === target.slot);
  const isAsked = (at: Instant) => at > window.after && at <= window.to;
  if (later) {
    const at = awake(clock, hours, later.to);
    const channels = new Set(reminders.map(({ channel }) => channel));
    if (isAsked(at))
      for (const channel of channels.size ? channels : [undefined])
        yield { at, of: { later: later.to }, channel };
  }
  for (const [index, reminder] of reminders.entries()) {
    planner.spend();
    const it = preparedOf(reminder);
    const day = dayFor(clock, reminder, target);
    if (day + it.most < window.afterDay || day + it.least > window.toDay) continue;
    for (const { at, nth } of repeated(planner, hours, reminder, target, window))
      if (isAsked(at) && !(later && at <= later.to))
        yield { at, of: { reminder, index, nth }, channel: reminder.channel };
  }
}

function remindingOf({ clock }: Planner, target: Target, { at, of, channel }: Moment): Reminding {
  const { slot, number, due } = target;
  const about = { slot, number, due, at, ...(channel === undefined ? {} : { channel }) };
  if ('later' in of) {
    const key = `${target.name} later ${of.later} ${channel ?? ''}`;
    return { ...about, reminder: null, nth: 0, key };
  }
  const { reminder, index, nth } = of;
  return { ...about, reminder: index, nth, key: `${keyOf(clock, reminder, target)} ${nth}` };
}

/**
 * When one reminder of a time is said, and when it is said again, up to the end of the window. Each is
 * set for a moment by itself and may wait for the end of quiet hours; of those that wait for one end
 * only the newest is said, and none that was set for before there was the time.
 */
function* repeated(
  { clock, spend }: Planner,
  hours: Hours,
  reminder: Reminder,
  target: Target,
  { after, to }: Window,
): Generator<{ at: Instant; nth: number }> {
  const { every, atMost } = preparedOf(reminder);
  let set = momentOf(clock, hours, reminder, target);
  let nth = 0;
  if (atMost && isClockSpan(every) && !every.days && !every.months && set < after - LONGEST_QUIET) {
    // Those that have gone by are not gone through.
    const gone = Math.floor((after - LONGEST_QUIET - set) / (every.minutes * MINUTE));
    nth = Math.min(atMost, gone);
    set += nth * every.minutes * MINUTE;
  }
  let waiting: { at: Instant; nth: number } | null = null;
  for (; nth <= atMost; nth++) {
    spend();
    const at = awake(clock, hours, set);
    if (waiting && waiting.at !== at) {
      yield waiting;
      waiting = null;
    }
    if (at > to) return;
    if (set >= target.since) waiting = { at, nth };
    set = addTo(clock, set, every);
  }
  if (waiting) yield waiting;
}

/** Quiet hours end within a day, and an hour of the clock change. */
const LONGEST_QUIET = 26 * 3_600_000;

/**
 * What makes a reminder the same one: of what time, counted from which day, how far before, at what
 * hour, and how it is said (R17).
 */
function keyOf(clock: PersonalClock, reminder: Reminder, target: Target): string {
  const { at = '', of = 'due', channel = '' } = reminder;
  const day = formatDay(dayFor(clock, reminder, target));
  return `${target.name} ${of} ${day} ${distanceOf(reminder)} ${at} ${channel}`;
}

/** How far before, in the same words for the same distance: P7D and P1W are one. */
function distanceOf(reminder: Reminder): string {
  const { span, byClock } = preparedOf(reminder);
  if (reminder.on !== undefined) return reminder.on;
  if (byClock) return `PT${span.minutes}M`;
  return span.months || span.days ? `P${span.months}M${span.days}D` : '';
}

/** The reminders of the definition that holds for a slot (R13). */
function remindersFor({ series, turns }: Progress, slot: LocalMoment): readonly Reminder[] {
  const turn = turns.findLast(({ from }) => slot >= from);
  return (turn?.series ?? series).reminders ?? [];
}

/** Whether any time from a slot on has reminders. */
function remindersFrom(progress: Progress, slot: LocalMoment): boolean {
  return (
    remindersFor(progress, slot).length > 0 ||
    progress.turns.some(({ from, series }) => from > slot && series.reminders !== undefined)
  );
}

/** The day that a reminder is counted from. */
function dayFor(clock: PersonalClock, { of = 'due' }: Reminder, target: Target): Day {
  if (of === 'opens') return clock.dayAt(target.opensAt);
  return of === 'plan' ? target.plan : target.dueDay;
}

/** The moment for which a reminder is set, quiet hours aside. */
function momentOf(
  clock: PersonalClock,
  { remindAt = DEFAULT_REMIND_AT }: Hours,
  reminder: Reminder,
  target: Target,
): Instant {
  const { of = 'due' } = reminder;
  const { span, byClock, minute, weekday } = preparedOf(reminder);
  const usual = parseTime(remindAt);
  const day = dayFor(clock, reminder, target);
  if (!byClock) {
    const before =
      weekday === null
        ? addToDay(day, span, -1)
        : day - (((weekdayIndex(day) - weekday + 6) % 7) + 1);
    return clock.timeOn(before, minute ?? usual);
  }
  const hour = of === 'due' ? target.due : of === 'plan' ? target.planAt : undefined;
  const hasHour = hour !== undefined && parseMoment(hour).minute !== null;
  const base = hasHour ? clock.instantOf(hour) : clock.timeOn(day, usual);
  return base - span.minutes * MINUTE;
}

/** A time of day on a person's day: before the day begins it is of the calendar day after. */
export function onDay(clock: PersonalClock, day: Day, time: LocalTime): Instant {
  return clock.timeOn(day, parseTime(time));
}

function addTo(clock: PersonalClock, at: Instant, span: SpanParts): Instant {
  if (!span.days && !span.months) return at + span.minutes * MINUTE;
  const { day, minute } = clock.civilAt(at);
  return clock.instantAt(addToDay(day, span), minute) + span.minutes * MINUTE;
}

/** An instant, or the end of the quiet hours that it lies in (R17). */
export function awake(clock: PersonalClock, { quiet }: Hours, at: Instant): Instant {
  if (!quiet || quiet.from === quiet.to) return at;
  const [from, to] = [parseTime(quiet.from), parseTime(quiet.to)];
  const { day, minute } = clock.civilAt(at);
  const isQuiet = from < to ? minute >= from && minute < to : minute >= from || minute < to;
  if (!isQuiet) return at;
  return clock.instantAt(from > to && minute >= from ? day + 1 : day, to);
}

/** In a pause nothing is said of a to-do (R12, R17). */
function isHeld(planner: Planner, progress: Progress, at: Instant): boolean {
  return planner(progress.series).paused.at(planner.clock.dayAt(at)) !== null;
}

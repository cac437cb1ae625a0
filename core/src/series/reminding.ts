import { parseDay, type Day } from '../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan, type SpanParts } from '../calendar/span.ts';
import { parseMoment, parseTime, type LocalMoment, type LocalTime } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { wakeAt } from './advance.ts';
import { comingTimes, upcoming } from './coming.ts';
import type { Occurrence, Pending, Progress } from './progress.ts';
import type { Channel, Reminder } from './reminders.ts';
import { DEFAULT_REMIND_AT, type PersonalClock, type Settings } from './settings.ts';
import type { Planner } from './slots.ts';

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
  due: LocalMoment;
  dueDay: Day;
  plan: Day;
  opensAt: Instant;
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
      if (isHeld(planner, progress, target, moment.at)) continue;
      const same = `${moment.at} ${moment.channel}`;
      if (!seen.has(same)) found.push(remindingOf(target, moment));
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
      if (!isHeld(planner, progress, target, moment.at)) newest.set(moment.channel, moment);
    }
    for (const moment of newest.values()) found.push(remindingOf(target, moment));
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
    if (target.number === null && earliestDay(clock, target, longest) > bestDay) break;
    for (const { at } of momentsOf(planner, progress, hours, target, window)) {
      if (at >= best || isHeld(planner, progress, target, at)) continue;
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
  const { series, byCalendar } = planner(progress.series);
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

/** The times that can be reminded of: open ones, then those to come in order. */
function* targets(planner: Planner, progress: Progress): Generator<Target> {
  const { clock } = planner;
  for (const time of progress.open) {
    if (time.due === null || time.plan === null) continue;
    const dueDay = clock.dayOfMoment(time.due);
    yield {
      slot: time.slot,
      number: time.number,
      due: time.due,
      dueDay,
      plan: plannedDay(time, dueDay),
      opensAt: time.openedAt ?? clock.instantOf(time.due),
    };
  }
  const plan = planner(progress.series);
  const coming: Iterable<Pending | null> = plan.byCalendar
    ? comingTimes(planner, progress)
    : [upcoming(planner, progress)];
  for (const pending of coming) {
    if (!pending || pending.due === null) continue;
    const { slot, due, opensAt } = pending;
    // Without reminders from here on there is no need to look on, for ever.
    if (!remindersFrom(progress, slot)) return;
    const dueDay = clock.dayOfMoment(due);
    yield { slot, number: null, due, dueDay, plan: dueDay, opensAt };
  }
}

/** The day that the person planned it for: a roll does not renew what is said about it. */
function plannedDay(time: Occurrence, dueDay: Day): Day {
  return time.planBy === 'person' && time.plan !== null ? parseDay(time.plan) : dueDay;
}

function* targetsUpTo(planner: Planner, progress: Progress, to: Instant): Generator<Target> {
  const { clock } = planner;
  const longest = longestBefore(progress);
  const last = clock.dayAt(to) + 1;
  for (const target of targets(planner, progress)) {
    if (target.number === null && earliestDay(clock, target, longest) > last) return;
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
    reminders.map((reminder) => longestDays(preparedOf(reminder).span)),
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
  const { before, at, again } = reminder;
  const span = before === undefined ? NO_SPAN : parseSpan(before);
  const every = again ? parseSpan(again.every) : NO_SPAN;
  const atMost = again?.atMost ?? 0;
  // Quiet hours put each one off by a day at most, and an hour may be of the calendar day after.
  const chain = atMost * (longestDays(every) + 1);
  const made = {
    span,
    byClock: isClockSpan(span),
    minute: at === undefined ? null : parseTime(at),
    every,
    atMost,
    least: -longestDays(span) - 2,
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

function remindingOf(target: Target, { at, of, channel }: Moment): Reminding {
  const { slot, number, due } = target;
  const about = { slot, number, due, at, ...(channel === undefined ? {} : { channel }) };
  if ('later' in of) {
    const key = `${slot} later ${of.later} ${channel ?? ''}`;
    return { ...about, reminder: null, nth: 0, key };
  }
  const { reminder, index, nth } = of;
  return { ...about, reminder: index, nth, key: `${keyOf(reminder, target)} ${nth}` };
}

/** When one reminder of a time is said, and when it is said again, up to the end of the window. */
function* repeated(
  { clock, spend }: Planner,
  hours: Hours,
  reminder: Reminder,
  target: Target,
  { after, to }: Window,
): Generator<{ at: Instant; nth: number }> {
  const { every, atMost } = preparedOf(reminder);
  let at = awake(clock, hours, momentOf(clock, hours, reminder, target));
  yield { at, nth: 0 };
  if (!atMost) return;
  let nth = 1;
  if (!hours.quiet && isClockSpan(every) && !every.days && !every.months && at < after) {
    // Those that have gone by are not gone through.
    const gone = Math.min(atMost, Math.floor((after - at) / (every.minutes * MINUTE)));
    at += gone * every.minutes * MINUTE;
    nth += gone;
  }
  for (; nth <= atMost; nth++) {
    spend();
    at = awake(clock, hours, addTo(clock, at, every));
    if (at > to) return;
    yield { at, nth };
  }
}

/** What makes a reminder the same one: of what time, counted from what, how long before, at what hour. */
function keyOf({ before = '', at = '', of = 'due', channel }: Reminder, target: Target): string {
  const from = of === 'plan' ? target.plan : of === 'due' ? target.due : '';
  return `${target.slot} ${of} ${from} ${before} ${at} ${channel ?? ''}`;
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

/** When a reminder is due, quiet hours aside. */
function momentOf(
  clock: PersonalClock,
  { remindAt = DEFAULT_REMIND_AT }: Hours,
  reminder: Reminder,
  target: Target,
): Instant {
  const { of = 'due' } = reminder;
  const { span, byClock, minute } = preparedOf(reminder);
  const usual = parseTime(remindAt);
  const day = dayFor(clock, reminder, target);
  if (!byClock) {
    // A further time of a day opens at an hour of its own.
    const isLater = of === 'opens' && target.opensAt > clock.startOf(day);
    if (reminder.before === undefined && minute === null && isLater) return target.opensAt;
    return clock.timeOn(addToDay(day, span, -1), minute ?? usual);
  }
  const due = parseMoment(target.due).minute;
  const base =
    due === null || of === 'opens'
      ? clock.timeOn(day, usual)
      : of === 'plan'
        ? clock.timeOn(day, due)
        : clock.instantOf(target.due);
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

/** Whether an open time is held at an instant (R12): its day is in a pause. */
function isHeld(planner: Planner, progress: Progress, target: Target, at: Instant): boolean {
  if (target.number === null) return false;
  return planner(progress.series).paused.at(planner.clock.dayAt(at)) !== null;
}

import {
  WEEKDAYS,
  dateOf,
  formatDay,
  parseDay,
  type Day,
  type LocalDate,
} from '../calendar/day.ts';
import { formatTime, parseMoment, type LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { checkSeries } from '../definition/check.ts';
import { CoreError } from '../errors.ts';
import { datesOf, stampOf, stampsOf } from '../rule/expand.ts';
import { formatRule } from '../rule/format.ts';
import { parseRule } from '../rule/parse.ts';
import type { Rule } from '../rule/rule.ts';
import type { Series } from '../series/definition/definition.ts';
import { MOST_AT, MOST_DATES } from '../series/definition/limits.ts';
import { remindersIn } from './alarms.ts';
import {
  alarmsHash,
  dueOf,
  momentsOf,
  propertyOf,
  textOf,
  whenHash,
  type Context,
  type Entry,
  type Ours,
} from './entry.ts';
import type { Property } from './jcal.ts';
import { ruleText } from './rules.ts';
import { slotOf } from './timesIn.ts';

/** When an entry comes back, by its properties; what they cannot say is as we wrote it. */

/** A one-off: its due day and hour. */
export function onceIn(
  context: Context,
  main: Entry,
  due: LocalMoment | null,
  ours: Ours | null,
): Series {
  const { minute } = due === null ? { minute: null } : parseMoment(due);
  const reminders = due === null ? [] : remindersIn(context, main, due);
  const start = due === null ? null : due.slice(0, 10);
  return checkSeries({
    ...(ours?.series && start === ours.series.start ? ours.series : {}),
    start,
    repeat: null,
    ...(minute === null ? {} : { at: [formatTime(minute)] }),
    ...(reminders.length ? { reminders } : {}),
  });
}

/** A rule, its extras and exceptions, as a definition. */
export function repeatIn(
  context: Context,
  main: Entry,
  overrides: readonly Entry[],
  ours: Ours | null,
): Series {
  const { component } = main;
  const ended = endIn(context, main, overrides, ours);
  if (ours?.series && ours.when === whenHash(component)) {
    const { reminders: before, ...rest } = checkSeries(ours.series);
    const due = dueOf(context, component);
    const isSame = ours.alarms === alarmsHash(component) || due === null;
    const reminders = isSame ? before : remindersIn(context, main, due);
    return checkSeries({ ...rest, ...(reminders?.length ? { reminders } : {}), ...ended });
  }
  return checkSeries({
    ...byProperties(context, main),
    ...(ours?.series?.late ? { late: ours.series.late } : {}),
    ...(ours?.series?.owe ? { owe: ours.series.owe } : {}),
    ...ended,
  });
}

/** What repeats and is COMPLETED or CANCELLED has ended with its last known time. */
function endIn(
  context: Context,
  main: Entry,
  overrides: readonly Entry[],
  ours: Ours | null,
): Pick<Series, 'ends'> {
  const { component } = main;
  const status = textOf(component, 'status')?.toUpperCase();
  const completed = propertyOf(component, 'completed');
  if ((status !== 'COMPLETED' && status !== 'CANCELLED' && !completed) || ours?.over) return {};
  const known = overrides.map((it) => slotOf(context, it).slice(0, 10));
  if (completed)
    known.push(
      formatDay(context.clock.dayAt(context.zones.instant(completed, String(completed[3])))),
    );
  const first = dueOf(context, component)?.slice(0, 10);
  if (first === undefined) return {};
  return {
    ends: {
      on:
        known
          .filter((it) => it > first)
          .sort()
          .at(-1) ?? first,
    },
  };
}

const SUB_DAILY = ['HOURLY', 'MINUTELY', 'SECONDLY'];
type Recur = Record<string, unknown>;

/** Where the times of an entry lie: as they are written, and here. */
interface Anchor {
  property: Property;
  /** The first one as it is written. */
  theirs: LocalMoment;
  /** How many days what is due here lies from the date as it is written. */
  by: number;
  /** The time of day here; null for none. */
  minute: number | null;
  /** How many days before it is due it opens. */
  opens: number;
  start: Day;
}

function anchorIn(context: Context, main: Entry): Anchor {
  const { zones } = context;
  const { component } = main;
  const property = propertyOf(component, 'dtstart') ?? propertyOf(component, 'due')!;
  if (!property)
    throw new CoreError('exchange.start', '', 'It repeats, and has no date from which.');
  const first = zones.local(property, String(property[3]));
  const said = dueOf(context, component) ?? first.moment;
  const days = parseMoment(said).day - parseMoment(first.moment).day;
  const opens = component[0] === 'vtodo' ? Math.max(0, days) : 0;
  const theirDay = parseMoment(first.theirs).day;
  const next = nextHere(context, main, first.isOther ? property : null, first.theirs);
  const shift = next ? next.shift : parseMoment(first.moment).day - theirDay;
  // An hour of another zone comes in as it is here on the next time.
  const minute = next && opens === 0 ? next.minute : parseMoment(said).minute;
  const by = shift + opens;
  return { property, theirs: first.theirs, by, minute, opens, start: theirDay + by };
}

/** Whether its rule is the same from the day on which it is due. */
function canShift({ component, by = 0 }: Entry, anchor: Anchor): boolean {
  const recur = propertyOf(component, 'rrule')?.[3] as Recur | undefined;
  if (!recur || SUB_DAILY.includes(String(recur.freq))) return true;
  try {
    return shifted(parseRule(withoutTimes(ruleText(recur))), anchor.by + by, anchor.start) !== null;
  } catch {
    return true;
  }
}

const onStart = (anchor: Anchor): Anchor => ({
  ...anchor,
  opens: 0,
  by: anchor.by - anchor.opens,
  start: anchor.start - anchor.opens,
});

function byProperties(context: Context, main: Entry): Series {
  const { list, now, clock } = context;
  const { component } = main;
  let anchor = anchorIn(context, main);
  if (anchor.opens && !canShift(main, anchor)) {
    list(
      main,
      'changed',
      'Its rule cannot be counted from when it is due: it is due when it starts.',
    );
    anchor = onStart(anchor);
  }
  const { by, minute, opens, start, theirs } = anchor;
  const { by: onward = 0 } = main;
  const due = minute === null ? formatDay(start) : `${formatDay(start)}T${formatTime(minute)}`;
  const reminders = remindersIn(context, main, due);
  const about = {
    ...(opens ? { opensBefore: `P${opens}D` } : {}),
    ...(reminders.length ? { reminders } : {}),
  };
  const dates = datesIn(context, main, anchor);
  const listed = (moments: readonly LocalMoment[], why: string): Series => {
    if (why) list(main, 'changed', why);
    const usual = (day: LocalDate) => (minute === null ? day : `${day}T${formatTime(minute)}`);
    const all = [...moments, ...dates.extras.map(usual)].filter((it) => !dates.isExcepted(it));
    return { ...pickedOf(context, main, all.length ? all : [due]), ...about };
  };
  const recur = propertyOf(component, 'rrule')?.[3] as Recur | undefined;
  if (!recur) return listed([due], '');
  let rule: Rule;
  let grid: number[] | null;
  try {
    if (SUB_DAILY.includes(String(recur.freq)))
      throw new CoreError('rule.freq', '', 'It repeats in hours.');
    grid = gridIn(recur, anchor);
    rule = parseRule(withoutTimes(ruleText(recur)));
  } catch (error) {
    const why = error instanceof CoreError ? error.message : 'No rule of ours says it.';
    const found = nextDates(recur, theirs, now).map((it) => hereDue(context, anchor, it));
    return listed(found, `Its rule comes in as its next dates: ${why}`);
  }
  const times = grid ?? (minute === null ? null : [minute]);
  const untilExcepts: LocalMoment[] = [];
  if (recur.until !== undefined)
    rule = { ...rule, until: untilIn(context, anchor, String(recur.until), times, untilExcepts) };
  // By days of the month it lies on other dates elsewhere: what is due here is picked.
  const isElsewhere = by !== opens && rule.freq !== 'DAILY' && rule.freq !== 'WEEKLY';
  const moved = isElsewhere ? null : shifted(rule, by + onward, start);
  if (!moved) {
    const from = Math.max(parseDay(theirs.slice(0, 10)), clock.dayAt(now) - by);
    const { until } = rule;
    const bound = { ...rule, until: until && formatDay(parseDay(until) - by - onward) };
    const found = datesOf(bound, parseDay(theirs.slice(0, 10)) - onward)
      .list(from - onward - 1, from - onward + 731, 100)
      .map((day) => formatDay(day + onward + by));
    const all =
      times === null
        ? found
        : found.flatMap((day) => times.map((it) => `${day}T${formatTime(it)}`));
    return listed(
      all,
      'Its rule by days of the month lies on other days here: it comes in as its next dates.',
    );
  }
  // The standard counts a start that is off its rule (RFC 5545 §3.8.5.3): it is an extra, and one less is counted.
  const isOff = datesOf({ ...moved, until: null, count: null }, start).next(start - 1) !== start;
  const count = moved.count === null || !isOff ? moved.count : moved.count - 1;
  const extra = [...(isOff ? [formatDay(start)] : []), ...dates.extras];
  if (extra.some((it) => it < formatDay(start)))
    list(main, 'changed', 'A date before its start is left out.');
  if (count === 0) return listed([due], '');
  const except = sorted([...dates.excepts, ...untilExcepts]);
  const extras = sorted(extra.filter((it) => it >= formatDay(start)));
  bounded(context, main, except, extras);
  return {
    start: formatDay(start),
    ...(times === null ? {} : { at: sorted(times.map(formatTime)) }),
    repeat: {
      by: 'calendar',
      rule: formatRule({ ...moved, count }),
      ...(except.length ? { except: except.slice(0, MOST_DATES) } : {}),
      ...(extras.length ? { extra: extras.slice(0, MOST_DATES) } : {}),
    },
    ...about,
  };
}

const sorted = <T extends string>(all: readonly T[]) => [...new Set(all)].sort();

function bounded({ list }: Context, main: Entry, ...all: readonly (readonly string[])[]): void {
  if (all.some((it) => it.length > MOST_DATES))
    list(main, 'changed', `It has more than ${MOST_DATES} dates: the others are left out.`);
}

/** Moments one by one: dates where they share their hours, else extras of a rule that yields the first alone. */
function pickedOf(context: Context, main: Entry, moments: readonly LocalMoment[]): Series {
  const { list } = context;
  let all = sorted(moments);
  let hours = sorted(all.flatMap((it) => (it.length > 10 ? [it.slice(11)] : [])));
  if (hours.length > MOST_AT) {
    hours = hours.slice(0, MOST_AT);
    list(main, 'changed', `It has more than ${MOST_AT} times of day: the others are left out.`);
    all = all.filter((it) => hours.includes(it.slice(11)));
  }
  bounded(context, main, all);
  all = all.slice(0, MOST_DATES);
  const days = sorted(all.map((it) => it.slice(0, 10)));
  const [start] = days;
  if (hours.length <= 1 || all.length === days.length * hours.length)
    return {
      start: start!,
      ...(hours.length ? { at: hours } : {}),
      repeat: { by: 'dates', dates: days },
    };
  const missing = hours.map((it) => `${start}T${it}`).filter((it) => !all.includes(it));
  const extra = all.filter((it) => !it.startsWith(start!));
  return {
    start: start!,
    at: hours,
    repeat: {
      by: 'calendar',
      rule: 'FREQ=DAILY;COUNT=1',
      ...(missing.length ? { except: missing } : {}),
      ...(extra.length ? { extra } : {}),
    },
  };
}

/** A moment as it is written, as what is due here. */
function hereDue({ zones }: Context, { property, opens, minute }: Anchor, it: LocalMoment) {
  const here = zones.here(property, it);
  const day = formatDay(parseDay(here.slice(0, 10)) + opens);
  if (here.length === 10) return day;
  return `${day}T${opens === 0 ? here.slice(11) : formatTime(minute ?? 0)}`;
}

interface Dates {
  extras: LocalDate[];
  excepts: LocalDate[];
  isExcepted(moment: LocalMoment): boolean;
}

/** Dates that are added and taken out, as days on which it would be due. */
function datesIn(context: Context, main: Entry, anchor: Anchor): Dates {
  const { zones, list } = context;
  const { property, theirs, by, opens } = anchor;
  const time = theirs.slice(10);
  /** Whether a moment is at the hour of the entry, on the day that it is written as. */
  const isAtHour = (moment: LocalMoment) => {
    if (moment.length === 10 || !time) return true;
    const day = parseDay(moment.slice(0, 10));
    return [-1, 0, 1].some((n) => zones.here(property, `${formatDay(day + n)}${time}`) === moment);
  };
  const dueDay = (moment: LocalMoment) =>
    formatDay(parseMoment(moment).day + (moment.length === 10 ? by : opens));
  const added = momentsOf(context, main.component, 'rdate');
  const taken = momentsOf(context, main.component, 'exdate');
  if (added.some((it) => !isAtHour(it)))
    list(main, 'changed', 'A date at another hour comes in at the usual one.');
  const hours = gridOf(propertyOf(main.component, 'rrule')?.[3] as Recur | undefined);
  const isOne = (it: LocalMoment) => hours !== null || isAtHour(it);
  if (taken.some((it) => !isOne(it)))
    list(main, 'changed', 'An exception at an hour at which it has no time is left out.');
  const excepts = taken
    .filter(isOne)
    .map((it) =>
      hours === null ? dueDay(it) : it.length === 10 ? dueDay(it) : `${dueDay(it)}${it.slice(10)}`,
    );
  return {
    extras: sorted(added.map(dueDay)),
    excepts: sorted(excepts),
    isExcepted: (it) =>
      excepts.includes(it.slice(0, 10)) ||
      taken.some((one) => one.length > 10 && one === it && opens === 0),
  };
}

/**
 * An hour of another zone as it is here on the next time, and by how many days it lies elsewhere; where that
 * is other for some of two years it is listed. Null without a zone.
 */
function nextHere(
  { zones, clock, now, list }: Context,
  main: Entry,
  anchor: Property | null,
  theirs: LocalMoment,
): { minute: number; shift: number } | null {
  if (!anchor) return null;
  const time = theirs.slice(10);
  const from = Math.max(parseMoment(theirs).day, clock.dayAt(now));
  const at = (day: Day) => {
    const here = parseMoment(zones.here(anchor, `${formatDay(day)}${time}`));
    return { minute: here.minute ?? 0, shift: here.day - day };
  };
  const next = at(from);
  const isOther = Array.from({ length: 105 }, (_, i) => at(from + 7 * i)).some(
    (it) => it.minute !== next.minute || it.shift !== next.shift,
  );
  if (isOther)
    list(
      main,
      'changed',
      'It is of another zone, whose clocks change on other days: its hour here is that of the next time.',
    );
  return next;
}

const numbersIn = (value: unknown): number[] =>
  (Array.isArray(value) ? value : String(value).split(',')).map(Number);

/** The times of day that a rule says itself, in minutes; null where it says none. */
function gridOf(recur: Recur | undefined): { hours: number[]; minutes: number[] } | null {
  if (!recur || (recur.byhour === undefined && recur.byminute === undefined)) return null;
  return {
    hours: recur.byhour === undefined ? [] : numbersIn(recur.byhour),
    minutes: recur.byminute === undefined ? [] : numbersIn(recur.byminute),
  };
}

/** The times of day of a rule here: each hour with each minute. @throws CoreError where our rules have no such */
function gridIn(recur: Recur, { theirs, minute, by, opens }: Anchor): number[] | null {
  const said = gridOf(recur);
  const own = parseMoment(theirs).minute;
  if (!said || own === null || minute === null) return null;
  const hours = said.hours.length ? said.hours : [Math.floor(own / 60)];
  const minutes = said.minutes.length ? said.minutes : [own % 60];
  const all = hours.flatMap((hour) => minutes.map((it) => hour * 60 + it));
  const isOne = all.length === 1 && all[0] === own;
  if (isOne) return null;
  const isPlain = recur.bysetpos === undefined && recur.count === undefined && minute === own;
  if (!isPlain || by !== 0 || opens !== 0 || all.length > MOST_AT || !all.includes(own))
    throw new CoreError('rule.times', '', 'It has times of day of its own.');
  return all;
}

/** What a rule says of times of day is said beside it. */
const withoutTimes = (text: string): string =>
  text
    .split(';')
    .filter((part) => !/^BY(HOUR|MINUTE|SECOND)=/u.test(part))
    .join(';');

/**
 * The last day on which a time begins by UNTIL: a date counts whole, a moment in its own zone; the times of
 * that day that come after it are exceptions.
 */
function untilIn(
  { zones }: Context,
  { property, theirs, minute, by, opens }: Anchor,
  until: string,
  times: readonly number[] | null,
  excepts: LocalMoment[],
): string {
  if (!until.includes('T')) return formatDay(parseDay(until.slice(0, 10)) + by);
  const { moment } = zones.local(property, until);
  const day = parseDay(moment.slice(0, 10));
  const last = parseMoment(moment).minute ?? 0;
  const isSeveral = times !== null && times.length > 1;
  const first = theirs.length === 10 ? null : isSeveral ? Math.min(...times) : minute;
  if (first !== null && last < first) return formatDay(day - 1 + opens);
  if (isSeveral)
    excepts.push(
      ...times.filter((it) => it > last).map((it) => `${formatDay(day)}T${formatTime(it)}`),
    );
  return formatDay(day + opens);
}

/** A rule so many days later, where it then begins; null where no rule says it. */
function shifted(rule: Rule, days: number, start: Day): Rule | null {
  if (!days) return rule;
  const { freq, byDay, byMonthDay, byYearDay, byWeekNo, bySetPos, byMonth, interval } = rule;
  if (byYearDay.length || byWeekNo.length || bySetPos.length) return null;
  if (freq === 'MONTHLY' || freq === 'YEARLY') {
    if (byDay.length || (freq === 'YEARLY' && byMonth.length && !byMonthDay.length)) return null;
    // Within the 28 days that each month has it is the same rule, some days on.
    const own = byMonthDay.length ? byMonthDay : [dateOf(start - days).day];
    const isWithin = own.every((day) => {
      const later = day + days;
      return day > 0
        ? later >= 1 && later <= 28 && day <= 28
        : later <= -1 && later >= -28 && day >= -28;
    });
    return isWithin ? { ...rule, byMonthDay: byMonthDay.map((day) => day + days) } : null;
  }
  if (byMonth.length || byMonthDay.length) return null;
  // Of weeks that are left out, all its days have to move on together.
  const first = WEEKDAYS.indexOf(rule.weekStart);
  const weeks = byDay.map(({ weekday }) =>
    Math.floor((((WEEKDAYS.indexOf(weekday) - first + 7) % 7) + days) / 7),
  );
  if (freq === 'WEEKLY' && interval > 1 && new Set(weeks).size > 1) return null;
  return {
    ...rule,
    byDay: byDay.map(({ ordinal, weekday }) => ({
      ordinal,
      weekday: WEEKDAYS[(WEEKDAYS.indexOf(weekday) + (((days % 7) + 7) % 7)) % 7]!,
    })),
  };
}

/** The next dates of what no rule of ours says: a hundred at most within two years. */
function nextDates(recur: Recur, first: LocalMoment, now: Instant): LocalMoment[] {
  try {
    const rule = parseRule(ruleText(recur));
    const start = stampOf(first.length === 10 ? `${first}T00:00` : first);
    const from = Math.max(start, Math.floor(now / 1000));
    const until = recur.until === undefined ? null : String(recur.until).replace('Z', '');
    const found = stampsOf(rule, start).texts(from - 1, from + 731 * 86_400, 100);
    const moments = found.map((it) => it.slice(0, first.length));
    const kept = moments.filter((it) => until === null || it <= until.slice(0, it.length));
    return kept.length ? kept : [first];
  } catch {
    // What is no rule at all has its first date alone.
    return [first];
  }
}

import {
  WEEKDAYS,
  formatDay,
  parseDay,
  type Day,
  type LocalDate,
  type Weekday,
} from '../calendar/day.ts';
import { formatTime, parseMoment, type LocalMoment } from '../calendar/time.ts';
import { formatInstant, parseInstant, type Instant } from '../calendar/zone.ts';
import { checkDetails, checkSeries } from '../definition/check.ts';
import { NO_DETAILS, type Details } from '../definition/details.ts';
import {
  MOST_DETAIL_NOTE,
  MOST_TAG,
  MOST_TAGS,
  MOST_TAKES,
  MOST_TITLE,
} from '../definition/whatChecks.ts';
import { CoreError } from '../errors.ts';
import { datesOf, stampOf, stampsOf } from '../rule/expand.ts';
import { formatRule } from '../rule/format.ts';
import { parseRule } from '../rule/parse.ts';
import type { Rule } from '../rule/rule.ts';
import type { Series } from '../series/definition.ts';
import type { Reminder } from '../series/reminders.ts';
import { UNDATED, type Status } from '../series/progress.ts';
import { MOST_REMINDERS } from '../series/limits.ts';
import { checkSettings, clockOf, type PersonalClock, type Settings } from '../series/settings.ts';
import { hashOf } from './hash.ts';
import type { Component, Property } from './jcal.ts';
import type { ExchangedTime, ExchangedTodo } from './out.ts';
import { cut, parsed, type Cut } from './reading.ts';
import { zonesOf, type Zones } from './zones.ts';

/** To-dos from the calendar of any program (RFC 5545): each entry comes in or is listed. */

export interface InInput {
  ical: string;
  settings?: Partial<Settings>;
  /** ISO 8601; left out: the latest moment that the text names. */
  now?: string;
}

export interface Problem {
  /** The UID of the entry, or its line. */
  where: string;
  entry: number;
  kind: 'left out' | 'changed';
  message: string;
}

export interface Came {
  todos: ExchangedTodo[];
  problems: Problem[];
}

/** One entry that was read. */
interface Entry {
  cut: Cut;
  component: Component;
  uid: string;
}

interface Context {
  clock: PersonalClock;
  settings: Settings;
  zones: Zones;
  now: Instant;
  list(entry: Pick<Entry, 'cut' | 'uid'> | Cut, kind: Problem['kind'], message: string): void;
}

const propertyOf = ([, properties]: Component, name: string) =>
  properties.find(([it]) => it === name);
const textOf = (component: Component, name: string): string | null => {
  const property = propertyOf(component, name);
  return property === undefined ? null : String(property[3] ?? '');
};
const numberOf = (component: Component, name: string): number | null => {
  const value = Number(textOf(component, name) ?? Number.NaN);
  return Number.isFinite(value) ? value : null;
};

/**
 * Reads a calendar. What is no calendar gives no to-do and one problem.
 * @throws CoreError `exchange.form`, `zone.unknown`, `instant.…` for what is handed beside the text
 */
export function fromIcal({ ical, settings: given, now: at }: InInput): Came {
  if (typeof ical !== 'string') throw new CoreError('exchange.form', 'ical', 'A calendar is text.');
  const settings = checkSettings(given);
  const now = at === undefined ? 0 : parseInstant(at, 'now');
  const problems: Problem[] = [];
  const cuts = cut(ical);
  if (!cuts)
    return {
      todos: [],
      problems: [{ where: 'line 1', entry: 0, kind: 'left out', message: 'This is no calendar.' }],
    };
  const zoneParts: Component[] = [];
  const entries: Entry[] = [];
  const list: Context['list'] = (of, kind, message) => {
    const it = 'cut' in of ? of.cut : of;
    const where = 'uid' in of ? of.uid : `line ${it.line}`;
    problems.push({ where, entry: it.entry, kind, message });
  };
  for (const piece of cuts) {
    if (piece.name === 'vtimezone') {
      try {
        if (!piece.wrong) zoneParts.push(parsed(piece));
      } catch {
        // A zone that cannot be read is one that nobody knows.
      }
      continue;
    }
    if (piece.wrong) {
      list(piece, 'left out', piece.wrong);
      continue;
    }
    try {
      const component = parsed(piece);
      const uid = textOf(component, 'uid')?.trim() || `text-${hashOf(component)}`;
      entries.push({ cut: piece, component, uid });
    } catch (error) {
      list(piece, 'left out', error instanceof CoreError ? error.message : 'It cannot be read.');
    }
  }
  const zones = zonesOf(settings.zone, zoneParts);
  const context: Context = { clock: clockOf(settings), settings, zones, now, list };
  const todos: ExchangedTodo[] = [];
  for (const group of groupsOf(context, entries)) {
    try {
      const todo = todoOf(context, group);
      if (todo) todos.push(todo);
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      list(group.main, 'left out', error.message);
    }
  }
  for (const tzid of zones.unknown) {
    const first = entries.find(({ component }) =>
      JSON.stringify(component).includes(JSON.stringify(tzid)),
    );
    if (first)
      list(first, 'changed', `Nobody knows the zone “${tzid}”: its hours are taken as they stand.`);
  }
  return { todos, problems };
}

/** A to-do as it was written: its main entry, those of its other hours, and single times. */
interface Group {
  main: Entry;
  siblings: Entry[];
  times: Entry[];
}

const isTime = ({ component }: Entry) => propertyOf(component, 'recurrence-id') !== undefined;

/** Of two entries of one UID the later counts (RFC 5546 §2.1.5). */
function isLater(a: Entry, b: Entry): boolean {
  const sequence = (it: Entry) => numberOf(it.component, 'sequence') ?? 0;
  const stamp = (it: Entry) => textOf(it.component, 'dtstamp') ?? '';
  return sequence(a) !== sequence(b) ? sequence(a) > sequence(b) : stamp(a) > stamp(b);
}

function groupsOf({ list }: Context, entries: readonly Entry[]): Group[] {
  const mains = new Map<string, Entry>();
  for (const entry of entries.filter((it) => !isTime(it))) {
    const before = mains.get(entry.uid);
    const [kept, other] = before && !isLater(entry, before) ? [before, entry] : [entry, before];
    mains.set(entry.uid, kept);
    if (other) list(other, 'left out', 'There is a later one with the same UID.');
  }
  const groups = new Map<string, Group>();
  const siblings: [string, Entry][] = [];
  for (const main of mains.values()) {
    const of = oursIn(main.component)?.of;
    if (typeof of === 'string' && mains.has(of)) siblings.push([of, main]);
    else groups.set(main.uid, { main, siblings: [], times: [] });
  }
  for (const [of, entry] of siblings) groups.get(of)?.siblings.push(entry);
  const owner = (uid: string) =>
    groups.get(uid) ??
    [...groups.values()].find((it) => it.siblings.some((other) => other.uid === uid));
  for (const entry of entries.filter(isTime)) {
    const group = owner(entry.uid);
    if (group) group.times.push(entry);
    else list(entry, 'left out', 'It is one time of an entry that is not there.');
  }
  return [...groups.values()];
}

interface Ours {
  series?: Series;
  details?: Details;
  times?: ExchangedTime[];
  time?: ExchangedTime;
  of?: string;
  by?: 'definition';
  hash: string;
}

/** What we wrote ourselves, whatever became of what stands beside it. */
function oursIn(component: Component): Ours | null {
  const text = textOf(component, 'x-back-again');
  if (text === null) return null;
  try {
    const ours = JSON.parse(text) as Ours;
    return typeof ours === 'object' && ours !== null ? ours : null;
  } catch {
    return null;
  }
}

/** Whether the properties are as we wrote them. */
const isAsWritten = (component: Component, ours: Ours) => hashOf(component) === ours.hash;

function todoOf(context: Context, group: Group): ExchangedTodo | null {
  const { main } = group;
  const ours = oursIn(main.component);
  if (ours?.series && isAsWritten(main.component, ours)) {
    const series = checkSeries(ours.series);
    const details = { ...NO_DETAILS, ...checkDetails(ours.details ?? {}) } as Details;
    const times = [...(ours.times ?? []), ...timesOf(context, group)].sort(inOrder);
    return withAbout(main, { id: main.uid, series, details, ...(times.length ? { times } : {}) });
  }
  return foreign(context, group, ours);
}

const inOrder = (a: ExchangedTime, b: ExchangedTime) =>
  a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : (a.number ?? 0) - (b.number ?? 0);

/** When it was made and changed, and what other programs keep with it. */
function withAbout({ component }: Entry, todo: ExchangedTodo): ExchangedTodo {
  const instant = (name: string) => {
    const value = textOf(component, name);
    return value?.endsWith('Z') ? { [name]: value } : {};
  };
  const { created } = instant('created') as { created?: string };
  const changed = (instant('last-modified') as Record<string, string>)['last-modified'];
  const version = numberOf(component, 'sequence');
  const kept = keptOf(component);
  return {
    ...todo,
    ...(created === undefined ? {} : { created }),
    ...(changed === undefined ? {} : { changed }),
    ...(version === null ? {} : { version }),
    ...(kept.length ? { kept } : {}),
  };
}

const KNOWN = new Set(
  (
    'uid dtstamp summary description created last-modified sequence dtstart due duration dtend rrule rdate exdate ' +
    'status completed percent-complete priority categories estimated-duration recurrence-id comment related-to ' +
    'x-back-again x-back-again-status transp'
  ).split(' '),
);

/** Properties that the table does not name, with their parameters (RFC 7265). */
function keptOf([, properties]: Component): Property[] {
  return properties.filter(([name, params, , value]) => {
    if (name === 'related-to') return !(params.reltype === 'SIBLING' && value !== undefined);
    return !KNOWN.has(name);
  });
}

/** Single times, as we wrote them or as their properties say. */
function timesOf(context: Context, { times }: Group): ExchangedTime[] {
  return times.flatMap((entry): ExchangedTime[] => {
    const ours = oursIn(entry.component);
    const kept = keptOf(entry.component);
    const withKept = (time: ExchangedTime) => (kept.length ? { ...time, kept } : time);
    if (ours && isAsWritten(entry.component, ours)) return ours.time ? [withKept(ours.time)] : [];
    return [withKept(timeIn(context, entry, ours?.time))];
  });
}

/** A time by its properties; what they cannot say is as we wrote it. */
function timeIn(context: Context, entry: Entry, ours: ExchangedTime | undefined): ExchangedTime {
  const { component } = entry;
  const { zones, list } = context;
  const id = propertyOf(component, 'recurrence-id')!;
  if (typeof id[1].range === 'string')
    list(entry, 'changed', 'It was meant for the times after it too: it comes in as one time.');
  const slot = zones.local(id, String(id[3])).moment;
  const due = dueOf(context, component) ?? slot;
  return { ...ours, slot: ours?.slot ?? slot, due, ...stateIn(context, component) };
}

/** How it ended, by STATUS and COMPLETED. */
function stateIn(
  { zones }: Context,
  component: Component,
): Pick<ExchangedTime, 'status'> & Partial<ExchangedTime> {
  const status = textOf(component, 'status')?.toUpperCase() ?? '';
  const completed = propertyOf(component, 'completed');
  const comment = textOf(component, 'comment');
  const part = numberOf(component, 'percent-complete');
  const note = comment ? { note: comment } : {};
  const isMissed = textOf(component, 'x-back-again-status') === 'MISSED';
  const done = completed ? zones.instant(completed, String(completed[3])) : null;
  const changed = propertyOf(component, 'last-modified');
  const due = propertyOf(component, 'due') ?? propertyOf(component, 'dtstart');
  const at =
    done ??
    (changed ? zones.instant(changed, String(changed[3])) : null) ??
    (due ? zones.instant(due, String(due[3])) : null);
  const closed = at === null ? {} : { closedAt: formatInstant(at) };
  if (status === 'COMPLETED' || completed) return { status: 'done', ...closed, ...note };
  if (status === 'CANCELLED') return { status: 'skipped', ...closed, ...note };
  if (isMissed) return { status: 'missed', ...closed, ...note };
  return { status: 'open' as Status, ...note, ...(part && part < 100 ? { part } : {}) };
}

/** When it is due: DUE, or its start with its length, or its start; of events their start. */
function dueOf({ zones }: Context, component: Component): LocalMoment | null {
  const start = propertyOf(component, 'dtstart');
  const due = propertyOf(component, 'due');
  if (due) return zones.local(due, String(due[3])).moment;
  if (!start) return null;
  const { moment } = zones.local(start, String(start[3]));
  const length = component[0] === 'vtodo' ? lengthOf(textOf(component, 'duration')) : null;
  return length === null ? moment : later(moment, length);
}

/** A duration in minutes (RFC 5545 §3.3.6); null for none. */
export function lengthOf(text: string | null): number | null {
  const found = /^([+-])?P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$/iu.exec(
    text ?? '',
  );
  if (!found) return null;
  const [, sign, w, d, h, m, s] = found;
  const all =
    Number(w ?? 0) * 10_080 +
    Number(d ?? 0) * 1440 +
    Number(h ?? 0) * 60 +
    Number(m ?? 0) +
    Math.round(Number(s ?? 0) / 60);
  return sign === '-' ? -all : all;
}

function later(moment: LocalMoment, minutes: number): LocalMoment {
  const { day, minute } = parseMoment(moment);
  if (minute === null) return formatDay(day + Math.floor(minutes / 1440));
  const all = minute + minutes;
  return `${formatDay(day + Math.floor(all / 1440))}T${formatTime(((all % 1440) + 1440) % 1440)}`;
}

/** An entry of another program, or one of ours that another program changed: its properties count. */
function foreign(context: Context, group: Group, ours: Ours | null): ExchangedTodo {
  const { main } = group;
  const { component } = main;
  const details = detailsIn(context, main, ours);
  const repeating = propertyOf(component, 'rrule') ?? propertyOf(component, 'rdate');
  const due = dueOf(context, component);
  if (!repeating) {
    const series = onceIn(context, main, due, ours);
    const state = stateIn(context, component);
    const isJournal = component[0] === 'vjournal';
    const time: ExchangedTime = {
      ...ours?.times?.at(-1),
      slot: ours?.times?.at(-1)?.slot ?? due ?? UNDATED,
      due,
      ...state,
      ...(isJournal && due
        ? { status: 'done', closedAt: formatInstant(context.clock.instantOf(due)) }
        : {}),
    };
    const isPlain = time.status === 'open' && !time.note && !time.part;
    return withAbout(main, {
      id: main.uid,
      series,
      details,
      ...(isPlain && !ours?.times ? {} : { times: [time] }),
    });
  }
  const series = repeatIn(context, main, ours);
  const all = [...(ours?.times ?? []), ...timesOf(context, group)].sort(inOrder);
  return withAbout(main, {
    id: main.uid,
    series,
    details,
    ...(all.length ? { times: all } : {}),
  });
}

function detailsIn({ list }: Context, main: Entry, ours: Ours | null): Details {
  const { component } = main;
  const cutTo = (text: string, most: number, what: string) => {
    if (text.length <= most) return text;
    list(
      main,
      'changed',
      `${what} has more than ${most.toLocaleString('en')} characters: it is cut.`,
    );
    return text.slice(0, most);
  };
  const title = cutTo(
    textOf(component, 'summary')?.trim() || 'Without a title',
    MOST_TITLE,
    'Its title',
  );
  const text = textOf(component, 'description') ?? '';
  const lines = ours?.details?.steps.map(({ text: step }) => `- [ ] ${step}`).join('\n');
  const isOurs = lines !== undefined && lines !== '' && text.endsWith(lines);
  const note = (isOurs ? text.slice(0, -lines.length) : text).trim();
  const categories = component[1].filter(([name]) => name === 'categories');
  const tags = [
    ...new Set(
      categories
        .filter(([, params]) => params['x-back-again-place'] !== 'TRUE')
        .flatMap(([, , , ...values]) => values.map((it) => String(it).trim()).filter(Boolean)),
    ),
  ];
  if (tags.length > MOST_TAGS)
    list(main, 'changed', `It has more than ${MOST_TAGS} categories: the others are left out.`);
  const priority = numberOf(component, 'priority') ?? 0;
  const takes =
    lengthOf(textOf(component, 'estimated-duration')) ??
    (component[0] === 'vevent' ? eventLength(component) : null);
  return {
    ...NO_DETAILS,
    ...ours?.details,
    title,
    note: cutTo(note, MOST_DETAIL_NOTE, 'Its note'),
    steps: isOurs ? ours!.details!.steps : [],
    tags: tags.slice(0, MOST_TAGS).map((tag) => cutTo(tag, MOST_TAG, 'A category')),
    importance: priority >= 1 && priority <= 4 ? 'high' : priority >= 6 ? 'low' : 'normal',
    takes: takes !== null && takes >= 1 && takes <= MOST_TAKES ? takes : null,
  };
}

/** The minutes of an event of up to a day. */
function eventLength(component: Component): number | null {
  const [start, end] = [propertyOf(component, 'dtstart'), propertyOf(component, 'dtend')];
  const length = lengthOf(textOf(component, 'duration'));
  const between =
    start && end && String(start[3]).includes('T') && String(end[3]).includes('T')
      ? Math.round((Date.parse(asUtc(end)) - Date.parse(asUtc(start))) / 60_000)
      : null;
  const minutes = length ?? between;
  return minutes !== null && minutes > 0 && minutes <= 1440 ? minutes : null;
}
const asUtc = (property: Property) => `${String(property[3]).replace('Z', '')}Z`;

function onceIn(context: Context, main: Entry, due: LocalMoment | null, ours: Ours | null): Series {
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

/** Minutes from one local moment to a later one; 0 where it is not later. */
function minutesBetween(from: LocalMoment, to: LocalMoment): number {
  const [a, b] = [parseMoment(from), parseMoment(to)];
  return Math.max(0, (b.day - a.day) * 1440 + (b.minute ?? 0) - (a.minute ?? 0));
}

/** Alarms as reminders: those before due that have a length. */
function remindersIn({ list, zones }: Context, main: Entry, due: LocalMoment): Reminder[] {
  const dueMinute = parseMoment(due).minute;
  const start = propertyOf(main.component, 'dtstart');
  const early = start ? minutesBetween(zones.local(start, String(start[3])).moment, due) : 0;
  const found: Reminder[] = [];
  for (const alarm of main.component[2].filter(([name]) => name === 'valarm')) {
    const trigger = propertyOf(alarm, 'trigger');
    const length = trigger?.[2] === 'duration' ? lengthOf(String(trigger[3])) : null;
    // It counts from the start, where nothing else is said (RFC 5545 §3.8.6.3).
    const isFromEnd = String(trigger?.[1].related ?? 'START').toUpperCase() === 'END';
    const minutes = length === null ? null : length - (isFromEnd ? 0 : early);
    const isOfDay = dueMinute === null;
    if (minutes === null || (!isOfDay && minutes > 0) || (isOfDay && minutes >= 1440)) {
      list(
        main,
        'changed',
        'An alarm of it cannot be said: it is at a fixed moment, or after it is due.',
      );
      continue;
    }
    const channel =
      textOf(alarm, 'action')?.toUpperCase() === 'EMAIL' ? { channel: 'email' as const } : {};
    const repeat = numberOf(alarm, 'repeat');
    const every = textOf(alarm, 'duration');
    const again = repeat && every ? { again: { every, atMost: Math.min(99, repeat) } } : {};
    const days = Math.ceil(-minutes / 1440);
    const hour = minutes + days * 1440;
    found.push({
      ...(isOfDay
        ? { ...(days > 0 ? { before: `P${days}D` } : {}), at: formatTime(hour) }
        : minutes === 0
          ? { at: formatTime(dueMinute) }
          : { before: `PT${-minutes}M` }),
      ...channel,
      ...again,
    });
  }
  if (found.length > MOST_REMINDERS)
    list(main, 'changed', `It has more than ${MOST_REMINDERS} alarms: the others are left out.`);
  return found.slice(0, MOST_REMINDERS);
}

const SUB_DAILY = ['HOURLY', 'MINUTELY', 'SECONDLY'];

/** A rule, its extras and exceptions, as a definition. */
function repeatIn(context: Context, main: Entry, ours: Ours | null): Series {
  const { component } = main;
  const { zones, list, clock, now } = context;
  const anchor = propertyOf(component, 'dtstart') ?? propertyOf(component, 'due')!;
  if (!anchor) throw new CoreError('exchange.start', '', 'It repeats, and has no date from which.');
  const first = zones.local(anchor, String(anchor[3]));
  const said = dueOf(context, component) ?? first.moment;
  const between =
    component[0] === 'vtodo'
      ? Math.max(0, parseMoment(said).day - parseMoment(first.moment).day)
      : 0;
  const theirDay = parseMoment(first.theirs).day;
  const next = nextHere(context, main, first.isOther ? anchor : null, first.theirs);
  const shift = next ? next.shift : parseMoment(first.moment).day - theirDay;
  const dueDay = theirDay + shift + between;
  // An hour of another zone comes in as it is here on the next time.
  const minute = next && between === 0 ? next.minute : parseMoment(said).minute;
  const due = minute === null ? formatDay(dueDay) : `${formatDay(dueDay)}T${formatTime(minute)}`;
  const at = minute === null ? {} : { at: [formatTime(minute)] };
  const recur = propertyOf(component, 'rrule')?.[3] as Record<string, unknown> | undefined;
  const moments = (name: string) =>
    component[1]
      .filter(([it]) => it === name)
      .flatMap((property) =>
        property
          .slice(3)
          .map((value) => (Array.isArray(value) ? String(value[0]) : String(value)))
          .map((value) => zones.local(property, value).moment),
      );
  const onDay = (moment: LocalMoment, by = between): LocalDate =>
    formatDay(parseMoment(moment).day + by);
  const extras = moments('rdate').map((it) => onDay(it));
  const excepts = moments('exdate').map((it) => onDay(it));
  const reminders = remindersIn(context, main, due);
  const about = {
    ...at,
    ...(between && minute === null ? { opensBefore: `P${between}D` } : {}),
    ...(between && minute !== null ? { opensBefore: `P${between}D` } : {}),
    ...(reminders.length ? { reminders } : {}),
  };
  const picked = (dates: readonly LocalDate[], why: string) => {
    if (why) list(main, 'changed', why);
    const all = [...new Set([...dates, ...extras])].filter((it) => !excepts.includes(it)).sort();
    return checkSeries({
      start: all[0] ?? formatDay(dueDay),
      repeat: { by: 'dates', dates: all.length ? all.slice(0, 1000) : [formatDay(dueDay)] },
      ...about,
    });
  };
  if (!recur) return picked([formatDay(dueDay)], '');
  const text = ruleText(recur);
  let rule: Rule;
  try {
    if (SUB_DAILY.includes(String(recur.freq)))
      throw new CoreError('rule.freq', '', 'It repeats in hours.');
    rule = parseRule(withoutTimes(text));
  } catch (error) {
    const why = error instanceof CoreError ? error.message : 'No rule of ours says it.';
    const dates = nextDates(recur, first.theirs, now).map((it) => onDay(it));
    return picked(dates, `Its rule comes in as its next dates, at the hour of the first: ${why}`);
  }
  if (recur.until !== undefined)
    rule = { ...rule, until: untilIn(context, anchor, String(recur.until), first.moment) };
  const moved = shifted(rule, shift + between);
  const start = dueDay;
  if (!moved) {
    const dates = datesOf({ ...rule }, parseDay(first.theirs.slice(0, 10))).list(
      Math.max(parseDay(first.theirs.slice(0, 10)), clock.dayAt(now)) - 1,
      Math.max(parseDay(first.theirs.slice(0, 10)), clock.dayAt(now)) + 731,
      100,
    );
    return picked(
      dates.map((day) => formatDay(day + shift + between)),
      'Its rule by days of the month lies on other days here: it comes in as its next dates.',
    );
  }
  // The standard counts a start that is off its rule (RFC 5545 §3.8.5.3): it is an extra, and one less is counted.
  const isOff = datesOf({ ...moved, until: null, count: null }, start).next(start - 1) !== start;
  const count = moved.count === null || !isOff ? moved.count : moved.count - 1;
  const extra = [...new Set([...(isOff ? [formatDay(start)] : []), ...extras])]
    .filter((it) => it >= formatDay(start))
    .sort();
  const earlier = extras.filter((it) => it < formatDay(start));
  if (earlier.length) list(main, 'changed', 'A date before its start is left out.');
  if (count === 0) return picked([formatDay(start)], '');
  const ended = textOf(component, 'status')?.toUpperCase();
  const isEnded = ended === 'COMPLETED' || ended === 'CANCELLED';
  return checkSeries({
    start: formatDay(start),
    repeat: {
      by: 'calendar',
      rule: formatRule({ ...moved, count }),
      ...(excepts.length ? { except: [...new Set(excepts)].sort().slice(0, 1000) } : {}),
      ...(extra.length ? { extra: extra.slice(0, 1000) } : {}),
    },
    ...about,
    ...(isEnded && now ? { ends: { on: formatDay(Math.max(start, clock.dayAt(now))) } } : {}),
    ...(ours?.series?.late ? { late: ours.series.late } : {}),
    ...(ours?.series?.owe ? { owe: ours.series.owe } : {}),
  });
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

/** A rule as it is written, from its parts. */
function ruleText(recur: Record<string, unknown>): string {
  return Object.entries(recur)
    .filter(([name]) => name !== 'until')
    .map(
      ([name, value]) =>
        `${name.toUpperCase()}=${name === 'wkst' && typeof value === 'number' ? weekdayOf(value) : String(value)}`,
    )
    .join(';');
}
/** The library counts weekdays from 1 for Sunday. */
const weekdayOf = (n: number): Weekday => WEEKDAYS[(n + 5) % 7]!;

/** One time of day is that of the start: a rule need not say it. */
function withoutTimes(text: string): string {
  const parts = text.split(';');
  const times = parts.filter((part) => /^BY(HOUR|MINUTE|SECOND)=/u.test(part));
  if (times.some((part) => part.includes(',')))
    throw new CoreError('rule.times', '', 'It has several times of day in its rule.');
  return parts.filter((part) => !times.includes(part)).join(';');
}

/** The last day on which a time begins by UNTIL: a date counts whole, a moment in its own zone. */
function untilIn({ zones }: Context, anchor: Property, until: string, first: LocalMoment): string {
  if (!until.includes('T')) return until.slice(0, 10);
  const { moment } = zones.local(anchor, until);
  const time = first.slice(11);
  const day = parseDay(moment.slice(0, 10));
  return formatDay(time && moment.slice(11) < time ? day - 1 : day);
}

/** A rule so many days later; null where no rule says it. */
function shifted(rule: Rule, days: number): Rule | null {
  if (!days) return rule;
  const { freq, byDay, byMonthDay, byYearDay, byWeekNo, bySetPos, byMonth } = rule;
  if (freq === 'DAILY' && !byDay.length && !byMonth.length) return rule;
  const isWeekly = freq === 'WEEKLY' || freq === 'DAILY';
  if (
    byMonthDay.length ||
    byYearDay.length ||
    byWeekNo.length ||
    bySetPos.length ||
    byMonth.length ||
    !isWeekly
  )
    return null;
  return {
    ...rule,
    byDay: byDay.map(({ ordinal, weekday }) => ({
      ordinal,
      weekday: WEEKDAYS[(WEEKDAYS.indexOf(weekday) + (((days % 7) + 7) % 7)) % 7]!,
    })),
  };
}

/** The next dates of what no rule of ours says: a hundred at most within two years. */
function nextDates(
  recur: Record<string, unknown>,
  first: LocalMoment,
  now: Instant,
): LocalMoment[] {
  try {
    const rule = parseRule(ruleText(recur));
    const start = stampOf(first.length === 10 ? `${first}T00:00` : first);
    const from = Math.max(start, Math.floor(now / 1000));
    const found = stampsOf(rule, start).texts(from - 1, from + 731 * 86_400, 100);
    return found.length ? found : [first];
  } catch {
    // What is no rule at all has its first date alone.
    return [first];
  }
}

import { parseInstant } from '../calendar/zone.ts';
import { checkDetails, checkSeries, detailsTold } from '../definition/check.ts';
import { NO_DETAILS, type Details } from '../definition/details.ts';
import { CoreError } from '../errors.ts';
import { checkSettings, clockOf, type Settings } from '../series/person/settings.ts';
import {
  dueOf,
  isAsWritten,
  keptOf,
  numberOf,
  oursIn,
  propertyOf,
  textOf,
  whenHash,
  type Context,
  type Entry,
  type Ours,
  type Problem,
  type Group,
} from './entry.ts';
import { splitOnward } from './onward.ts';
import { hashOf } from './hash.ts';
import type { Component } from './jcal.ts';
import type { ExchangedTime, ExchangedTodo } from './exchanged.ts';
import { cut, parsed, readable } from './reading.ts';
import { onceTimeIn, timesIn } from './timesIn.ts';
import { detailsIn } from './whatIn.ts';
import { onceIn, repeatIn } from './whenIn.ts';
import { zonesOf } from './zones.ts';

/** To-dos from the calendar of any program (RFC 5545): each entry comes in or is listed. */

export interface InInput {
  ical: string;
  settings?: Partial<Settings>;
  /** ISO 8601; left out: the latest moment that the text names. */
  now?: string;
}

export interface Came {
  todos: ExchangedTodo[];
  problems: Problem[];
}

/**
 * Reads a calendar. What is no calendar gives no to-do and one problem.
 * @param heard hears how far it is: of so many entries so many are read
 * @throws CoreError `exchange.form`, `zone.unknown`, `instant.…` for what is handed beside the text
 */
export function fromIcal(
  { ical, settings: given, now: at }: InInput,
  heard: (done: number, of: number) => void = () => undefined,
): Came {
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
  for (const [i, piece] of cuts.entries()) {
    if (i % 50 === 0) heard(i, 2 * cuts.length);
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
      const { component, lost } = readable(piece);
      const uid = textOf(component, 'uid')?.trim() || `text-${hashOf(component)}`;
      entries.push({ cut: piece, component, uid });
      for (const line of lost)
        list({ cut: piece, uid }, 'changed', `A line of it cannot be read: ${line}.`);
    } catch (error) {
      list(piece, 'left out', error instanceof CoreError ? error.message : 'It cannot be read.');
    }
  }
  const zones = zonesOf(settings.zone, zoneParts);
  const context: Context = { clock: clockOf(settings), settings, zones, now, list };
  const todos: ExchangedTodo[] = [];
  for (const [i, group] of groupsOf(context, entries).entries()) {
    if (i % 50 === 0) heard(cuts.length + i, 2 * cuts.length);
    try {
      for (const part of splitOnward(context, group)) todos.push(todoOf(context, part));
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

function todoOf(context: Context, group: Group): ExchangedTodo {
  const { main, times: overrides } = group;
  const ours = oursIn(main.component);
  if (ours?.series && isAsWritten(main.component, ours)) {
    const series = checkSeries(ours.series);
    const details = detailsTold({
      ...NO_DETAILS,
      ...checkDetails(ours.details ?? {}),
    } as Details);
    const times = [...(ours.times ?? []), ...timesIn(context, main, overrides)].sort(inOrder);
    checkSiblings(context, group);
    return withAbout(main, { id: main.uid, series, details, ...(times.length ? { times } : {}) });
  }
  return foreign(context, group, ours);
}

/** Another program may have changed one of several times of day: when all come back stands with the first. */
function checkSiblings({ list }: Context, { siblings }: Group): void {
  for (const entry of siblings) {
    const ours = oursIn(entry.component);
    if (ours?.when !== undefined && ours.when !== whenHash(entry.component))
      list(
        entry,
        'changed',
        'When it comes back was changed for one of its hours: that is left out.',
      );
  }
}

const inOrder = (a: ExchangedTime, b: ExchangedTime) =>
  a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : (a.number ?? 0) - (b.number ?? 0);

/** When it was made and changed, and what other programs keep with it. */
function withAbout({ component }: Entry, todo: ExchangedTodo): ExchangedTodo {
  const instant = (name: string) => {
    const value = textOf(component, name);
    return value?.endsWith('Z') ? value : undefined;
  };
  const [created, changed] = [instant('created'), instant('last-modified')];
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

/** An entry of another program, or one of ours that another program changed: its properties count. */
function foreign(context: Context, group: Group, ours: Ours | null): ExchangedTodo {
  const { main, times: overrides } = group;
  const { component } = main;
  const details = detailsTold(detailsIn(context, main, ours));
  const repeating = propertyOf(component, 'rrule') ?? propertyOf(component, 'rdate');
  const due = dueOf(context, component);
  if (!repeating && !ours?.series?.repeat) {
    const series = onceIn(context, main, due, ours);
    const time = onceTimeIn(context, main, due, ours);
    for (const entry of overrides)
      context.list(entry, 'left out', 'It is one time of an entry that does not repeat.');
    return withAbout(main, { id: main.uid, series, details, ...(time ? { times: [time] } : {}) });
  }
  checkSiblings(context, group);
  const series = repeatIn(context, main, overrides, ours);
  const all = [...(ours?.times ?? []), ...timesIn(context, main, overrides)].sort(inOrder);
  return withAbout(main, {
    id: main.uid,
    series,
    details,
    ...(all.length ? { times: all } : {}),
  });
}

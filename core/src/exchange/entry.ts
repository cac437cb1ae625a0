import type { LocalMoment } from '../calendar/time.ts';
import { formatDay } from '../calendar/day.ts';
import { formatTime, parseMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import type { Details } from '../definition/details.ts';
import type { Series } from '../series/definition/definition.ts';
import type { PersonalClock, Settings } from '../series/person/settings.ts';
import { hashOf } from './hash.ts';
import type { Component, Property } from './jcal.ts';
import type { ExchangedTime } from './exchanged.ts';
import type { Cut } from './reading.ts';
import type { Zones } from './zones.ts';

/** One entry of a calendar that was read, and what is asked of it. */

export interface Entry {
  cut: Cut;
  component: Component;
  uid: string;
  /** Of one that goes on from a time on: by how many days its rule lies elsewhere from there. */
  by?: number;
}

export interface Problem {
  /** The UID of the entry, or its line. */
  where: string;
  entry: number;
  kind: 'left out' | 'changed';
  message: string;
}

export interface Context {
  clock: PersonalClock;
  settings: Settings;
  zones: Zones;
  now: Instant;
  list(entry: Pick<Entry, 'cut' | 'uid'> | Cut, kind: Problem['kind'], message: string): void;
}

export const propertyOf = ([, properties]: Component, name: string) =>
  properties.find(([it]) => it === name);
export const textOf = (component: Component, name: string): string | null => {
  const property = propertyOf(component, name);
  return property === undefined ? null : String(property[3] ?? '');
};
export const numberOf = (component: Component, name: string): number | null => {
  const value = Number(textOf(component, name) ?? Number.NaN);
  return Number.isFinite(value) ? value : null;
};

/** What we wrote ourselves, whatever became of what stands beside it. */
export interface Ours {
  series?: Series;
  details?: Details;
  times?: ExchangedTime[];
  time?: ExchangedTime;
  of?: string;
  by?: 'definition';
  /** Whether it had ended. */
  over?: true;
  /** Of all properties, of those that say when it comes back, and of its alarms. */
  hash: string;
  when?: string;
  alarms?: string;
}

export function oursIn(component: Component): Ours | null {
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
export const isAsWritten = (component: Component, ours: Ours) => hashOf(component) === ours.hash;

const WHEN = ['dtstart', 'due', 'duration', 'rrule', 'rdate', 'exdate'];

/** What says when it comes back, by itself. */
export const whenHash = ([name, properties]: Component) =>
  hashOf([name, properties.filter(([it]) => WHEN.includes(it)), []]);
export const alarmsHash = ([name, , inside]: Component) => hashOf([name, [], inside]);

/** When it is due: DUE, or its start with its length, or its start; of events their start. */
export function dueOf({ zones }: Context, component: Component): LocalMoment | null {
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

export function later(moment: LocalMoment, minutes: number): LocalMoment {
  const { day, minute } = parseMoment(moment);
  if (minute === null) return formatDay(day + Math.floor(minutes / 1440));
  const all = minute + minutes;
  return `${formatDay(day + Math.floor(all / 1440))}T${formatTime(((all % 1440) + 1440) % 1440)}`;
}

const KNOWN = new Set(
  (
    'uid dtstamp summary description created last-modified sequence dtstart due duration dtend rrule rdate exdate ' +
    'status completed percent-complete priority categories estimated-duration recurrence-id comment related-to ' +
    'x-back-again x-back-again-status transp'
  ).split(' '),
);

/** Priorities that say no more than whether it is important. */
const PLAIN_PRIORITIES = [0, 1, 9];

/** Properties that the table does not name, and priorities of another grain, with their parameters (RFC 7265). */
export function keptOf(component: Component): Property[] {
  const [, properties] = component;
  const ours = oursIn(component);
  const repeats = ['rrule', 'rdate'].some((name) => propertyOf(component, name));
  return properties.filter(([name, params, , value]) => {
    if (name === 'related-to') return !(ours?.of !== undefined && params.reltype === 'SIBLING');
    if (name === 'priority') return !PLAIN_PRIORITIES.includes(Number(value));
    if (name === 'categories')
      return params['x-back-again-place'] === 'TRUE' && !ours?.details?.place;
    // Of what repeats they are of no one time.
    if (repeats && (name === 'comment' || name === 'percent-complete')) return true;
    return !KNOWN.has(name);
  });
}

/** Dates of a property, each as it is here. */
export function momentsOf({ zones }: Context, component: Component, name: string): LocalMoment[] {
  return component[1]
    .filter(([it]) => it === name)
    .flatMap((property) =>
      property
        .slice(3)
        // A period begins with its start (RFC 5545 §3.3.9).
        .map((value) => (Array.isArray(value) ? String(value[0]) : String(value)))
        .map((value) => zones.local(property, value).moment),
    );
}

/** A to-do as it was written: its main entry, those of its other hours, and single times. */
export interface Group {
  main: Entry;
  siblings: Entry[];
  times: Entry[];
}

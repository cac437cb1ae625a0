import ICAL from 'ical.js';
import { parseMoment, type LocalMoment } from '../calendar/time.ts';
import { formatInstant, type Instant } from '../calendar/zone.ts';

/** The text layer of iCalendar: entries as jCal (RFC 7265), written and folded by a library. */

export type Param = string | string[];
export type Value = string | number | Record<string, unknown>;
/** Name, parameters, type, and values. */
export type Property = [string, Record<string, Param>, string, ...Value[]];
/** Name, properties, and what is in it. */
export type Component = [string, Property[], Component[]];

/** Line feeds and tabs stay; other control characters have no place in text (RFC 5545 §3.1, CONTROL). */
function clean(text: string): string {
  const lines = text.replaceAll(/\r\n?/gu, '\n');
  const isControl = (it: string) => (it < ' ' && it !== '\n' && it !== '\t') || it === '\u007F';
  return [...lines].filter((it) => !isControl(it)).join('');
}

export const textProperty = (
  name: string,
  texts: string | readonly string[],
  params: Record<string, Param> = {},
): Property => [name, params, 'text', ...(typeof texts === 'string' ? [texts] : texts).map(clean)];

export const rawProperty = (name: string, type: string, value: Value): Property => [
  name,
  {},
  type,
  value,
];

/** An instant in UTC. */
export const instantProperty = (name: string, at: Instant): Property => [
  name,
  {},
  'date-time',
  `${formatInstant(at).slice(0, 19)}Z`,
];

/** The zone in which local times are written; UTC is written with `Z`. */
export type ZoneName = string;

const inUtc = (zone: ZoneName) => zone === 'UTC';

/** A local date, or date and time, as jCal has it. */
export function momentValue(moment: LocalMoment, zone: ZoneName): string {
  const { minute } = parseMoment(moment);
  return minute === null ? moment : `${moment}:00${inUtc(zone) ? 'Z' : ''}`;
}

/** Dates, or local dates and times in a zone, all of one kind. */
export function momentsProperty(
  name: string,
  moments: readonly LocalMoment[],
  zone: ZoneName,
): Property {
  const isDate = moments[0]!.length === 10;
  const params = isDate || inUtc(zone) ? {} : { tzid: zone };
  const values = moments.map((it) => momentValue(it, zone));
  return [name, params as Record<string, Param>, isDate ? 'date' : 'date-time', ...values];
}

/** One entry as text. */
export const writtenEntry = (entry: Component): string => `${ICAL.stringify(entry as never)}\r\n`;

/** A calendar as text: CR and LF at each line’s end, folded at 75 octets and never within a character. */
export const written = (calendar: Component): string => {
  const text = ICAL.stringify(calendar as never);
  return text.endsWith('\r\n') ? text : `${text}\r\n`;
};

import { CoreError } from '../errors.ts';
import { type CivilMoment, type LocalDateTime, formatMoment } from './time.ts';

/** Milliseconds since 1970-01-01T00:00Z. */
export type Instant = number;

/** What the runtime's tz data says of a zone, and what was asked of it so far: asking is slow. */
interface Zone {
  format: Intl.DateTimeFormat;
  /** The offset at the beginning of each block that was met, and where it changes inside. */
  blocks: Map<number, Block>;
}

/** A block of days: one offset up to `change`, another from there on. */
interface Block {
  before: number;
  change: Instant;
  after: number;
}

/** Shorter than any zone kept one offset between two changes (Africa/Casablanca: about a month). */
const BLOCK = 14 * 86400000;

const known = new Map<string, Zone>();

function zoneOf(name: string, where: string): Zone {
  let zone = known.get(name);
  if (zone) return zone;
  try {
    const format = new Intl.DateTimeFormat('en-US', {
      timeZone: name,
      calendar: 'gregory',
      numberingSystem: 'latn',
      hourCycle: 'h23',
      era: 'narrow',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
      second: 'numeric',
    });
    zone = { format, blocks: new Map() };
  } catch {
    throw new CoreError('zone.unknown', where, `There is no time zone named “${name}”.`);
  }
  known.set(name, zone);
  return zone;
}

/**
 * Checks that the runtime's tz data knows a zone by its IANA name.
 * @throws CoreError `zone.unknown`
 */
export function checkZone(zone: string, where = 'zone'): void {
  zoneOf(zone, where);
}

/** The offset at an instant, as the runtime shows it to the second. */
function askedOffset({ format }: Zone, instant: Instant): number {
  const second = Math.floor(instant / 1000) * 1000;
  const parts: Record<string, string> = {};
  for (const { type, value } of format.formatToParts(second)) parts[type] = value;
  const year = Number(parts.year) * (parts.era === 'B' ? -1 : 1) + (parts.era === 'B' ? 1 : 0);
  const local = new Date(0);
  local.setUTCFullYear(year, Number(parts.month) - 1, Number(parts.day));
  local.setUTCHours(Number(parts.hour), Number(parts.minute), Number(parts.second));
  return local.getTime() - second;
}

function blockAt(zone: Zone, index: number): Block {
  const met = zone.blocks.get(index);
  if (met) return met;
  const from = index * BLOCK;
  const before = zone.blocks.get(index - 1)?.after ?? askedOffset(zone, from);
  const after = askedOffset(zone, from + BLOCK);
  let [low, high] = [from, from + BLOCK];
  if (before === after) low = high;
  // Changes come at whole seconds.
  while (high - low > 1000) {
    const middle = Math.floor((low + high) / 2000) * 1000;
    if (askedOffset(zone, middle) === before) low = middle;
    else high = middle;
  }
  const block = { before, change: high, after };
  zone.blocks.set(index, block);
  return block;
}

/** Milliseconds by which a zone's local time is ahead of UTC at an instant. */
export function offsetAt(zone: string, instant: Instant): number {
  const { before, change, after } = blockAt(zoneOf(zone, 'zone'), Math.floor(instant / BLOCK));
  return instant < change ? before : after;
}

/**
 * The instant of a civil moment in a zone. A local time that the clock skips is moved forward by
 * the gap; of one that comes twice it is the first (RFC 5545 §3.3.5).
 */
export function toInstant(zone: string, day: number, minute: number): Instant {
  const asUtc = day * 86400000 + minute * 60000;
  const early = offsetAt(zone, asUtc - 86400000);
  const late = offsetAt(zone, asUtc + 86400000);
  if (early === late) return asUtc - early;
  const first = asUtc - early;
  if (offsetAt(zone, first) === early) return first;
  const second = asUtc - late;
  // In a gap neither offset fits: the one before the change moves the time forward by the gap.
  return offsetAt(zone, second) === late ? second : first;
}

/** The civil day and minute at an instant in a zone. */
export function toCivil(zone: string, instant: Instant): { day: number; minute: number } {
  const local = instant + offsetAt(zone, instant);
  const day = Math.floor(local / 86400000);
  return { day, minute: Math.floor((local - day * 86400000) / 60000) };
}

/** The local date and time at an instant in a zone, to the minute, as `YYYY-MM-DDTHH:MM`. */
export function toLocal(zone: string, instant: Instant): LocalDateTime {
  const moment: CivilMoment = toCivil(zone, instant);
  return formatMoment(moment);
}

const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,3})?)?Z$/;

/**
 * Reads an instant written in ISO 8601 with `Z`, seconds optional.
 * @throws CoreError `instant.form`
 */
export function parseInstant(text: string, where = 'instant'): Instant {
  const ms = INSTANT.test(text) ? Date.parse(text) : Number.NaN;
  // Date.parse rolls 30 February over into March: what is read must be what was written.
  if (Number.isNaN(ms) || new Date(ms).toISOString().slice(0, 16) !== text.slice(0, 16))
    throw new CoreError(
      'instant.form',
      where,
      `“${text}” is not an instant written as 2027-01-31T09:00:00Z.`,
    );
  return ms;
}

/** Writes an instant in ISO 8601 with `Z`; milliseconds only where there are some. */
export function formatInstant(instant: Instant): string {
  return new Date(instant).toISOString().replace('.000Z', 'Z');
}

import { Temporal } from 'temporal-polyfill';
import { CoreError } from '../errors.ts';
import { type CivilMoment, type LocalDateTime, formatMoment } from './time.ts';

/** Milliseconds since 1970-01-01T00:00Z. */
export type Instant = number;

/** A stretch of time, half open, in which a zone keeps one offset from UTC. */
interface Stretch {
  from: Instant;
  to: Instant;
  /** Milliseconds that local time is ahead of UTC. */
  offset: number;
}

/** Stretches met so far, by zone, in order: asking the runtime's tz data is slow, and they never change. */
const known = new Map<string, Stretch[]>();

/**
 * Checks that the runtime's tz data knows a zone by its IANA name.
 * @throws CoreError `zone.unknown`
 */
export function checkZone(zone: string, where = 'zone'): void {
  if (known.has(zone)) return;
  try {
    Temporal.Instant.fromEpochMilliseconds(0).toZonedDateTimeISO(zone);
  } catch {
    throw new CoreError('zone.unknown', where, `There is no time zone named “${zone}”.`);
  }
  known.set(zone, []);
}

function stretchAt(zone: string, instant: Instant): Stretch {
  let stretches = known.get(zone);
  if (!stretches) {
    checkZone(zone);
    stretches = known.get(zone)!;
  }
  for (let i = stretches.length - 1; i >= 0; i--) {
    const stretch = stretches[i]!;
    if (instant >= stretch.from && instant < stretch.to) return stretch;
  }
  const here = Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone);
  const before = here.add({ milliseconds: 1 }).getTimeZoneTransition('previous');
  const after = here.getTimeZoneTransition('next');
  const found = {
    from: before ? before.epochMilliseconds : -Infinity,
    to: after ? after.epochMilliseconds : Infinity,
    offset: here.offsetNanoseconds / 1e6,
  };
  stretches.push(found);
  stretches.sort((a, b) => a.from - b.from);
  return found;
}

/** Milliseconds by which a zone's local time is ahead of UTC at an instant. */
export function offsetAt(zone: string, instant: Instant): number {
  return stretchAt(zone, instant).offset;
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

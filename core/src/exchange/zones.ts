import ICAL from 'ical.js';
import { formatMoment, parseMoment, type LocalMoment } from '../calendar/time.ts';
import { checkZone, toCivil, toInstant, type Instant } from '../calendar/zone.ts';
import type { Component, Property } from './jcal.ts';

/** Moments of other programs as they are here: by a zone that is known, or by what the calendar says of it. */

export interface Zones {
  /**
   * A value as a local date, or date and time; floating ones and dates stay as they are. `theirs` is how it
   * was written, `isOther` whether it was of another zone.
   */
  local(
    property: Property,
    value: string,
  ): { moment: LocalMoment; theirs: LocalMoment; isOther: boolean };
  /** A local moment of the zone of a property, as it is here. */
  here(property: Property, theirs: LocalMoment): LocalMoment;
  instant(property: Property, value: string): Instant;
  /** Zones that nobody knows: their hours are taken as they stand. */
  unknown: Set<string>;
}

const known = new Map<string, string | null>();

/** The IANA name that a TZID means; null for none. */
function nameOf(tzid: string): string | null {
  const found = known.get(tzid);
  if (found !== undefined) return found;
  // Some write a path before the name.
  const tries = [tzid, tzid.split('/').slice(-2).join('/'), tzid.split('/').slice(-3).join('/')];
  const name =
    tries.find((it) => {
      try {
        checkZone(it, 'tzid');
        return true;
      } catch {
        return false;
      }
    }) ?? null;
  known.set(tzid, name);
  return name;
}

export function zonesOf(zone: string, calendars: readonly Component[]): Zones {
  const unknown = new Set<string>();
  const said = new Map<string, InstanceType<typeof ICAL.Timezone>>();
  for (const component of calendars) {
    const tzid = component[1].find(([name]) => name === 'tzid')?.[3];
    if (typeof tzid === 'string') {
      try {
        said.set(tzid, new ICAL.Timezone(new ICAL.Component(component as never)));
      } catch {
        // A zone that cannot be read is one that nobody knows.
      }
    }
  }
  const tzidOf = ([, params]: Property) => (typeof params.tzid === 'string' ? params.tzid : null);
  const isUtc = (value: string) => value.endsWith('Z');
  const momentOf = (value: string): LocalMoment =>
    value.replace('Z', '').slice(0, value.includes('T') ? 16 : 10);
  const instantOf = (property: Property, value: string): Instant | null => {
    const moment = momentOf(value);
    const { day, minute } = parseMoment(moment);
    if (minute === null) return null;
    if (isUtc(value)) return day * 86_400_000 + minute * 60_000;
    const tzid = tzidOf(property);
    if (tzid === null) return null;
    const name = nameOf(tzid);
    if (name !== null) return toInstant(name, day, minute);
    const other = said.get(tzid);
    if (!other) {
      unknown.add(tzid);
      return null;
    }
    const time = ICAL.Time.fromDateTimeString(`${moment}:00`);
    time.zone = other;
    return time.toUnixTime() * 1000;
  };
  const hereOf = (property: Property, value: string): LocalMoment => {
    const at = instantOf(property, value);
    return at === null ? momentOf(value) : formatMoment(toCivil(zone, at));
  };
  return {
    unknown,
    local(property, value) {
      const theirs = momentOf(value);
      const moment = hereOf(property, value);
      const tzid = tzidOf(property);
      const isOther =
        theirs.length > 10 &&
        (isUtc(value)
          ? zone !== 'UTC'
          : tzid !== null && nameOf(tzid) !== zone && !unknown.has(tzid));
      return { moment, theirs, isOther };
    },
    here: (property, theirs) =>
      hereOf(
        property,
        theirs.length > 10 ? `${theirs}:00${isUtc(String(property[3] ?? '')) ? 'Z' : ''}` : theirs,
      ),
    instant(property, value) {
      const at = instantOf(property, value);
      if (at !== null) return at;
      const { day, minute } = parseMoment(momentOf(value));
      return toInstant(zone, day, minute ?? 0);
    },
  };
}

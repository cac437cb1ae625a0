import { Temporal } from 'temporal-polyfill';
import fc from 'fast-check';
import {
  LAST_DAY,
  FIRST_DAY,
  addMonths,
  dateOf,
  dayOf,
  formatDay,
  parseDay,
  startOfWeek,
  weekdayIndex,
} from './day.ts';
import { addToDay, parseSpan } from './span.ts';
import { parseMoment, parseTime } from './time.ts';
import { formatInstant, parseInstant, toCivil, toInstant, toLocal } from './zone.ts';

const anyDay = fc.integer({ min: FIRST_DAY, max: LAST_DAY });
const plain = (day: number) => Temporal.PlainDate.from('1970-01-01').add({ days: day });

// The Temporal polyfill is the other opinion on the Gregorian calendar and on zones.
describe('days', () => {
  test('are the same dates as in Temporal, and come back', () => {
    fc.assert(
      fc.property(anyDay, (day) => {
        const date = plain(day);
        expect(dateOf(day)).toEqual({ year: date.year, month: date.month, day: date.day });
        expect(dayOf(date.year, date.month, date.day)).toBe(day);
        expect(weekdayIndex(day)).toBe(date.dayOfWeek - 1);
        expect(parseDay(formatDay(day))).toBe(day);
      }),
      { numRuns: 2000 },
    );
  });

  test('months are added as Temporal adds them (clamped to the month’s end)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -200000, max: 200000 }),
        fc.integer({ min: -500, max: 500 }),
        (day, months) => {
          const there = plain(day).add({ months });
          expect(addMonths(day, months)).toBe(dayOf(there.year, there.month, there.day));
        },
      ),
    );
  });

  test('a week begins on the chosen day', () => {
    const tuesday = parseDay('2026-11-24');
    expect(formatDay(startOfWeek(tuesday, 0))).toBe('2026-11-23');
    expect(formatDay(startOfWeek(tuesday, 6))).toBe('2026-11-22');
    expect(formatDay(startOfWeek(tuesday, 1))).toBe('2026-11-24');
  });

  test.each(['2027-02-30', '2027-13-01', '2027-00-10', '2027-04-31', '0000-01-01'])(
    '%s is no date',
    (text) => {
      expect(() => parseDay(text)).toThrow(expect.objectContaining({ code: 'date.missing' }));
    },
  );

  test.each(['2027-2-3', '27-02-03', '2027-02-03T10:00', '', 'soon'])(
    '“%s” is not written as a date',
    (text) => {
      expect(() => parseDay(text)).toThrow(expect.objectContaining({ code: 'date.form' }));
    },
  );
});

describe('spans', () => {
  test('a month from 31 January is the last of February, in leap years the 29th (R3)', () => {
    const month = parseSpan('P1M');
    expect(formatDay(addToDay(parseDay('2027-01-31'), month))).toBe('2027-02-28');
    expect(formatDay(addToDay(parseDay('2028-01-31'), month))).toBe('2028-02-29');
  });

  test('read as integers', () => {
    expect(parseSpan('P1Y2M3W4D')).toEqual({ months: 14, days: 25, minutes: 0 });
    expect(parseSpan('PT36H30M')).toEqual({ months: 0, days: 0, minutes: 2190 });
  });

  test.each([
    ['P', 'span.form'],
    ['PT', 'span.form'],
    ['3 days', 'span.form'],
    ['P1.5D', 'span.form'],
    ['P0D', 'span.empty'],
    ['P10000000D', 'span.long'],
  ])('%s is refused', (text, code) => {
    expect(() => parseSpan(text)).toThrow(expect.objectContaining({ code }));
  });
});

describe('zones', () => {
  const zones = Intl.supportedValuesOf('timeZone');

  test('local times and instants are as in Temporal, in gaps and overlaps too (R16)', () => {
    const from = Date.UTC(2005, 0, 1) / 60000;
    const to = Date.UTC(2035, 0, 1) / 60000;
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.integer({ min: from, max: to }),
        (zone, minutes) => {
          const local = Temporal.PlainDateTime.from('1970-01-01').add({ minutes });
          const day = Math.floor(minutes / 1440);
          const instant = toInstant(zone, day, minutes - day * 1440);
          expect(instant).toBe(
            local.toZonedDateTime(zone, { disambiguation: 'compatible' }).epochMilliseconds,
          );
          const there = Temporal.Instant.fromEpochMilliseconds(minutes * 60000).toZonedDateTimeISO(
            zone,
          );
          expect(toLocal(zone, minutes * 60000)).toBe(
            there.toPlainDateTime().toString().slice(0, 16),
          );
        },
      ),
      { numRuns: 3000 },
    );
  });

  test('every quarter of an hour of both changes of a year', () => {
    for (const date of ['2027-03-28', '2027-10-31'])
      for (let minute = 0; minute < 1440; minute += 15) {
        const day = parseDay(date);
        const local = Temporal.PlainDateTime.from(date).add({ minutes: minute });
        const instant = toInstant('Europe/London', day, minute);
        expect(instant).toBe(local.toZonedDateTime('Europe/London').epochMilliseconds);
        expect(toCivil('Europe/London', instant).day).toBe(day);
      }
  });

  test('an unknown zone is refused by name', () => {
    expect(() => toInstant('Europe/Nowhere', 0, 0)).toThrow(
      expect.objectContaining({ code: 'zone.unknown' }),
    );
  });

  test('instants are read only as written in ISO 8601 with Z', () => {
    expect(formatInstant(parseInstant('2027-06-09T10:00:00Z'))).toBe('2027-06-09T10:00:00Z');
    for (const text of [
      '2027-06-09',
      '2027-02-30T10:00:00Z',
      '2027-06-09T10:00:00+01:00',
      '2027-06-09T25:00:00Z',
    ])
      expect(() => parseInstant(text)).toThrow(expect.objectContaining({ code: 'instant.form' }));
  });
});

test('times of day', () => {
  expect(parseTime('23:59')).toBe(1439);
  expect(parseMoment('2027-01-02T10:00')).toEqual({ day: parseDay('2027-01-02'), minute: 600 });
  for (const text of ['24:00', '8:00', '08:60', ''])
    expect(() => parseTime(text)).toThrow(expect.objectContaining({ code: 'time.form' }));
});

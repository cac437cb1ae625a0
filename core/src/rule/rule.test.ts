import fc from 'fast-check';
import { RRule } from 'rrule';
import { formatDay, parseDay } from '../calendar/day.ts';
import { CoreError } from '../errors.ts';
import { fuzzedRule } from './check/fuzz.ts';
import { chance } from '../chance.ts';
import { randomRule } from './check/random.ts';
import { datesOf, formatStamp, stampOf, stampsOf } from './expand.ts';
import { formatRule } from './format.ts';
import { parseRule } from './parse.ts';
import { isoWeekOf } from './weeks.ts';

const dates = (rule: string, start: string, limit: number, after?: string) =>
  datesOf(parseRule(rule), parseDay(start))
    .list(
      after === undefined ? parseDay(start) - 1 : parseDay(after),
      parseDay('9999-12-31'),
      limit,
    )
    .map(formatDay);

describe('worked examples', () => {
  test('first Saturday of each month from 2027-01-02', () => {
    expect(dates('FREQ=MONTHLY;BYDAY=1SA', '2027-01-02', 6)).toEqual([
      '2027-01-02',
      '2027-02-06',
      '2027-03-06',
      '2027-04-03',
      '2027-05-01',
      '2027-06-05',
    ]);
  });

  test('the 31st with SKIP=BACKWARD, and without', () => {
    expect(dates('FREQ=MONTHLY;BYMONTHDAY=31;SKIP=BACKWARD', '2027-01-31', 4)).toEqual([
      '2027-01-31',
      '2027-02-28',
      '2027-03-31',
      '2027-04-30',
    ]);
    expect(dates('FREQ=MONTHLY;BYMONTHDAY=31', '2027-01-31', 3)).toEqual([
      '2027-01-31',
      '2027-03-31',
      '2027-05-31',
    ]);
    expect(dates('FREQ=MONTHLY;BYMONTHDAY=31;SKIP=FORWARD', '2027-01-31', 4)).toEqual([
      '2027-01-31',
      '2027-03-01',
      '2027-03-31',
      '2027-05-01',
    ]);
  });

  test('29 February every 4 years from 2028', () => {
    expect(dates('FREQ=YEARLY;INTERVAL=4', '2028-02-29', 4)).toEqual([
      '2028-02-29',
      '2032-02-29',
      '2036-02-29',
      '2040-02-29',
    ]);
  });
});

const pick = <T>(items: readonly T[], most: number) =>
  fc.uniqueArray(fc.constantFrom(...items), { minLength: 1, maxLength: most });
const WEEKDAY = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

/** Random rules of the parts read so far, as text. */
const anyRule = fc
  .record({
    freq: fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'),
    interval: fc.integer({ min: 1, max: 6 }),
    days: fc.option(pick(WEEKDAY, 3)),
    ordinals: fc.option(pick([1, 2, 3, 4, 5, -1, -2, -5], 2)),
    monthDays: fc.option(pick([1, 2, 13, 15, 28, 29, 30, 31, -1, -2, -30, -31], 3)),
    months: fc.option(pick([1, 2, 3, 4, 6, 9, 12], 3)),
    count: fc.option(fc.integer({ min: 1, max: 40 })),
    weekStart: fc.constantFrom('MO', 'SU', 'WE'),
  })
  .map(({ freq, interval, days, ordinals, monthDays, months, count, weekStart }) => {
    // rrule searches for ever for a day that none of the months has.
    const safe = monthDays?.filter((day) => !months || Math.abs(day) < 29);
    const ordinal = freq === 'MONTHLY' || (freq === 'YEARLY' && !safe?.length);
    const byDay =
      days &&
      (ordinals && ordinal ? ordinals.flatMap((n) => days.map((day) => `${n}${day}`)) : days);
    return [
      `FREQ=${freq}`,
      `INTERVAL=${interval}`,
      months && `BYMONTH=${months.join(',')}`,
      safe?.length && freq !== 'WEEKLY' && `BYMONTHDAY=${safe.join(',')}`,
      byDay && `BYDAY=${byDay.join(',')}`,
      `WKST=${weekStart}`,
      count && `COUNT=${count}`,
    ]
      .filter(Boolean)
      .join(';');
  });
const anyStart = fc
  .integer({ min: parseDay('1996-01-01'), max: parseDay('2032-12-31') })
  .map(formatDay);

test('300 random rules give what rrule gives', () => {
  fc.assert(
    fc.property(anyRule, anyStart, (rule, start) => {
      const until = new Date(Date.UTC(Number(start.slice(0, 4)) + 6, 0, 1));
      const other = new RRule({
        ...RRule.parseString(rule),
        dtstart: new Date(`${start}T00:00:00Z`),
        until,
      });
      const theirs = other.all((_date, i) => i < 40).slice(0, 40);
      const from = parseDay(start);
      const last = parseDay(until.toISOString().slice(0, 10));
      const ours = datesOf(parseRule(rule), from)
        .list(from - 1, last, 40)
        .map(formatDay);
      expect(ours).toEqual(theirs.map((date) => date.toISOString().slice(0, 10)));
    }),
    { numRuns: 300, seed: 20261124 },
  );
});

describe('properties', () => {
  test('parse, format, parse is stable', () => {
    fc.assert(
      fc.property(anyRule, (rule) => {
        const once = formatRule(parseRule(rule));
        expect(formatRule(parseRule(once))).toBe(once);
        expect(parseRule(once)).toEqual(parseRule(rule));
      }),
    );
  });

  test('a jump equals the walk, previous mirrors next, and nothing is before the start', () => {
    fc.assert(
      fc.property(anyRule, anyStart, fc.integer({ min: -50, max: 4000 }), (rule, start, away) => {
        const from = parseDay(start);
        const all = datesOf(parseRule(rule), from);
        const list = all.list(from - 1, from + 6000, 3000);
        const at = from + away;
        const [next] = all.list(at, from + 6000, 1);
        expect(next).toBe(list.find((day) => day > at));
        expect(all.previous(at)).toBe(list.findLast((day) => day < at) ?? null);
        expect(list.every((day, i) => day >= from && (i === 0 || day > list[i - 1]!))).toBe(true);
      }),
      { numRuns: 200 },
    );
  });

  test('next is the first of the list, previous mirrors it, count is its length, with times too', () => {
    const of = chance(2027);
    for (let i = 0; i < 1500; i++) {
      const { rule, start } = randomRule(of);
      const from = stampOf(start);
      const all = stampsOf(parseRule(rule), from);
      const list = all.list(from - 1, from + 4000 * 86400, 60);
      const note = `${rule} from ${start}`;
      expect([note, list.every((at, k) => at >= from && (k === 0 || at > list[k - 1]!))]).toEqual([
        note,
        true,
      ]);
      const last = list.at(-1);
      if (last === undefined) continue;
      expect([note, all.count(from - 1, last)]).toEqual([note, list.length]);
      const k = of(list.length);
      const before = k === 0 ? from - 1 : list[k - 1]!;
      expect([note, all.next(before), all.previous(list[k]!)]).toEqual([
        note,
        list[k],
        k === 0 ? null : list[k - 1],
      ]);
      expect([note, all.has(list[k]!), all.has(list[k]! + 1)]).toEqual([
        note,
        true,
        k + 1 < list.length ? list[k + 1] === list[k]! + 1 : all.next(last) === last + 1,
      ]);
      expect([note, all.texts(before, list[k]!, 5)]).toEqual([note, [formatStamp(list[k]!)]]);
    }
  });

  test('parse, format, parse is stable for every part', () => {
    const of = chance(5);
    for (let i = 0; i < 2000; i++) {
      const once = formatRule(parseRule(randomRule(of).rule));
      expect(formatRule(parseRule(once))).toBe(once);
    }
  });

  test('COUNT, where every month has as many: its end is computed, and right', () => {
    for (const rule of [
      'FREQ=DAILY;INTERVAL=3',
      'FREQ=WEEKLY;BYDAY=TU,SA',
      'FREQ=MONTHLY;BYMONTHDAY=2,15',
      'FREQ=MONTHLY;BYDAY=-1FR',
      'FREQ=YEARLY;BYMONTH=3,6;BYMONTHDAY=7',
      'FREQ=DAILY;BYHOUR=8,13',
      'FREQ=HOURLY;INTERVAL=5',
      'FREQ=MONTHLY;SKIP=BACKWARD;BYMONTHDAY=31',
    ]) {
      const from = stampOf('2027-01-16T09:30');
      const plain = stampsOf(parseRule(rule), from).list(from - 1, Infinity, 50);
      for (const count of [1, 2, 3, 7, 50]) {
        const counted = stampsOf(parseRule(`${rule};COUNT=${count}`), from);
        expect(counted.list(from - 1, Infinity, 100)).toEqual(plain.slice(0, count));
        expect(counted.previous(from + 1e10)).toBe(plain[count - 1]);
        expect(counted.next(plain[count - 1]!)).toBeNull();
      }
    }
  });

  test.each([
    'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30',
    'FREQ=MONTHLY;BYMONTH=2,4;BYMONTHDAY=31',
    'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30',
    'FREQ=DAILY;INTERVAL=7;BYDAY=MO',
    'FREQ=HOURLY;INTERVAL=24;BYHOUR=3',
    'FREQ=HOURLY;INTERVAL=168;BYDAY=SU',
    'FREQ=SECONDLY;BYMONTH=6;BYMONTHDAY=31',
    'FREQ=MINUTELY;INTERVAL=2;BYMINUTE=1',
    'FREQ=SECONDLY;BYYEARDAY=366;BYMONTHDAY=1',
    'FREQ=YEARLY;BYWEEKNO=53;BYMONTH=6;BYDAY=MO',
    'FREQ=MONTHLY;BYDAY=MO;BYSETPOS=9',
    'FREQ=DAILY;BYHOUR=9;BYSETPOS=2',
    'FREQ=MINUTELY;BYSECOND=1,2;BYSETPOS=3',
  ])('%s never comes, and says so at once', (rule) => {
    const from = stampOf('2027-01-01T09:00'); // a Friday
    const all = stampsOf(parseRule(rule), from);
    expect([
      all.next(from - 1),
      all.previous(from + 1e10),
      all.count(from - 1, from + 1e10),
    ]).toEqual([null, null, 0]);
  });
});

test('ISO 8601 week numbers', () => {
  // ISO 8601 weeks around the turn of some years; values from memory.
  const table: [string, number, number][] = [
    ['2005-01-01', 2004, 53],
    ['2005-01-02', 2004, 53],
    ['2005-12-31', 2005, 52],
    ['2006-01-01', 2005, 52],
    ['2006-01-02', 2006, 1],
    ['2006-12-31', 2006, 52],
    ['2007-01-01', 2007, 1],
    ['2007-12-30', 2007, 52],
    ['2007-12-31', 2008, 1],
    ['2008-01-01', 2008, 1],
    ['2008-12-28', 2008, 52],
    ['2008-12-29', 2009, 1],
    ['2009-12-31', 2009, 53],
    ['2010-01-03', 2009, 53],
    ['2010-01-04', 2010, 1],
  ];
  for (const [date, year, week] of table)
    expect([date, isoWeekOf(parseDay(date))]).toEqual([date, { year, week }]);
});

test('20,000 fuzzed texts are read or refused by name, none throws anything else', () => {
  const of = chance(42);
  let rules = 0;
  for (let i = 0; i < 20_000; i++) {
    const text = fuzzedRule(of);
    try {
      const rule = parseRule(text);
      rules++;
      if (i % 10 === 0) expect(parseRule(formatRule(rule))).toEqual(rule);
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      if (!/^(rule|date)\./u.test(error.code)) throw error;
    }
  }
  expect(rules).toBeGreaterThan(1000);
});

test.each([
  ['', 'rule.form'],
  ['FREQ=FORTNIGHTLY', 'rule.freq'],
  ['INTERVAL=2', 'rule.freq'],
  ['FREQ=DAILY;FREQ=DAILY', 'rule.twice'],
  ['FREQ=DAILY;INTERVAL=0', 'rule.interval'],
  ['FREQ=DAILY;INTERVAL=10000000', 'rule.interval'],
  ['FREQ=DAILY;COUNT=3;UNTIL=20270101', 'rule.count'],
  ['FREQ=DAILY;UNTIL=20270230', 'date.missing'],
  ['FREQ=WEEKLY;BYMONTHDAY=3', 'rule.bymonthday'],
  ['FREQ=WEEKLY;BYDAY=1MO', 'rule.byday'],
  ['FREQ=MONTHLY;BYDAY=0MO', 'rule.byday'],
  ['FREQ=MONTHLY;BYMONTHDAY=32', 'rule.bymonthday'],
  ['FREQ=YEARLY;BYMONTH=13', 'rule.bymonth'],
  ['FREQ=DAILY;COLOUR=RED', 'rule.colour'],
  ['FREQ=DAILY;SKIP=SIDEWAYS', 'rule.skip'],
  ['FREQ=DAILY;SKIP=FORWARD', 'rule.skip'],
  ['FREQ=MONTHLY;RSCALE=HEBREW', 'rule.rscale'],
  ['FREQ=DAILY;BYSETPOS=1', 'rule.bysetpos'],
  ['FREQ=MONTHLY;BYDAY=MO;BYSETPOS=0', 'rule.bysetpos'],
  ['FREQ=MONTHLY;BYWEEKNO=3', 'rule.byweekno'],
  ['FREQ=YEARLY;BYWEEKNO=3;BYDAY=1MO', 'rule.byday'],
  ['FREQ=DAILY;BYYEARDAY=3', 'rule.byyearday'],
  ['FREQ=YEARLY;BYYEARDAY=367', 'rule.byyearday'],
  ['FREQ=DAILY;BYHOUR=24', 'rule.byhour'],
  ['FREQ=DAILY;BYSECOND=61', 'rule.bysecond'],
  ['FREQ=DAILY;UNTIL=20270101T250000Z', 'rule.until'],
])('“%s” is refused', (rule, code) => {
  expect(() => parseRule(rule)).toThrow(expect.objectContaining({ code }));
});

import fc from 'fast-check';
import { RRule } from 'rrule';
import { formatDay, parseDay } from '../calendar/day.ts';
import { datesOf } from './expand.ts';
import { formatRule } from './format.ts';
import { parseRule } from './parse.ts';

const dates = (rule: string, start: string, limit: number, after?: string) =>
  datesOf(parseRule(rule), parseDay(start))
    .list(
      after === undefined ? parseDay(start) - 1 : parseDay(after),
      parseDay('9999-12-31'),
      limit,
    )
    .map(formatDay);

describe('worked examples of docs/rules.md', () => {
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

// RFC 5545 §3.8.5.3, the examples that use the parts read so far; by date, as they stand there.
describe('RFC 5545 §3.8.5.3', () => {
  test.each<[string, string, string, string[]]>([
    [
      'Daily for 10 occurrences',
      'FREQ=DAILY;COUNT=10',
      '1997-09-02',
      [
        '1997-09-02',
        '1997-09-03',
        '1997-09-04',
        '1997-09-05',
        '1997-09-06',
        '1997-09-07',
        '1997-09-08',
        '1997-09-09',
        '1997-09-10',
        '1997-09-11',
      ],
    ],
    [
      'Every 10 days, 5 occurrences',
      'FREQ=DAILY;INTERVAL=10;COUNT=5',
      '1997-09-02',
      ['1997-09-02', '1997-09-12', '1997-09-22', '1997-10-02', '1997-10-12'],
    ],
    [
      'Weekly on Tuesday and Thursday for five weeks',
      'FREQ=WEEKLY;UNTIL=19971007;WKST=SU;BYDAY=TU,TH',
      '1997-09-02',
      [
        '1997-09-02',
        '1997-09-04',
        '1997-09-09',
        '1997-09-11',
        '1997-09-16',
        '1997-09-18',
        '1997-09-23',
        '1997-09-25',
        '1997-09-30',
        '1997-10-02',
        '1997-10-07',
      ],
    ],
    [
      'Every other week on Tuesday and Thursday, for 8 occurrences',
      'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH',
      '1997-09-02',
      [
        '1997-09-02',
        '1997-09-04',
        '1997-09-16',
        '1997-09-18',
        '1997-09-30',
        '1997-10-02',
        '1997-10-14',
        '1997-10-16',
      ],
    ],
    [
      'Monthly on the first Friday for 10 occurrences',
      'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
      '1997-09-05',
      [
        '1997-09-05',
        '1997-10-03',
        '1997-11-07',
        '1997-12-05',
        '1998-01-02',
        '1998-02-06',
        '1998-03-06',
        '1998-04-03',
        '1998-05-01',
        '1998-06-05',
      ],
    ],
    [
      'Every other month on the first and last Sunday',
      'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
      '1997-09-07',
      [
        '1997-09-07',
        '1997-09-28',
        '1997-11-02',
        '1997-11-30',
        '1998-01-04',
        '1998-01-25',
        '1998-03-01',
        '1998-03-29',
        '1998-05-03',
        '1998-05-31',
      ],
    ],
    [
      'Monthly on the second-to-last Monday for 6 months',
      'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO',
      '1997-09-22',
      ['1997-09-22', '1997-10-20', '1997-11-17', '1997-12-22', '1998-01-19', '1998-02-16'],
    ],
    [
      'Monthly on the first and last day for 10 occurrences',
      'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1',
      '1997-09-30',
      [
        '1997-09-30',
        '1997-10-01',
        '1997-10-31',
        '1997-11-01',
        '1997-11-30',
        '1997-12-01',
        '1997-12-31',
        '1998-01-01',
        '1998-01-31',
        '1998-02-01',
      ],
    ],
    [
      'Every 18 months on the 10th thru 15th',
      'FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15',
      '1997-09-10',
      [
        '1997-09-10',
        '1997-09-11',
        '1997-09-12',
        '1997-09-13',
        '1997-09-14',
        '1997-09-15',
        '1999-03-10',
        '1999-03-11',
        '1999-03-12',
        '1999-03-13',
      ],
    ],
    [
      'Yearly in June and July for 10 occurrences',
      'FREQ=YEARLY;COUNT=10;BYMONTH=6,7',
      '1997-06-10',
      [
        '1997-06-10',
        '1997-07-10',
        '1998-06-10',
        '1998-07-10',
        '1999-06-10',
        '1999-07-10',
        '2000-06-10',
        '2000-07-10',
        '2001-06-10',
        '2001-07-10',
      ],
    ],
    [
      'Every 20th Monday of the year',
      'FREQ=YEARLY;BYDAY=20MO',
      '1997-05-19',
      ['1997-05-19', '1998-05-18', '1999-05-17'],
    ],
    [
      'Every Friday the 13th',
      'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
      '1997-09-02',
      ['1998-02-13', '1998-03-13', '1998-11-13', '1999-08-13', '2000-10-13'],
    ],
    [
      'WKST=MO makes a difference',
      'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO',
      '1997-08-05',
      ['1997-08-05', '1997-08-10', '1997-08-19', '1997-08-24'],
    ],
    [
      'WKST=SU makes a difference',
      'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU',
      '1997-08-05',
      ['1997-08-05', '1997-08-17', '1997-08-19', '1997-08-31'],
    ],
    [
      'An invalid date is ignored',
      'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5',
      '2007-01-15',
      ['2007-01-15', '2007-01-30', '2007-02-15', '2007-03-15', '2007-03-30'],
    ],
  ])('%s', (_name, rule, start, expected) => {
    expect(dates(rule, start, expected.length)).toEqual(expected);
    if (rule.includes('COUNT'))
      expect(dates(rule, start, 1000)).toHaveLength(Number(/COUNT=(\d+)/.exec(rule)![1]));
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

  test('a rule that never matches says none', () => {
    expect(dates('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', '2027-01-01', 1)).toEqual([]);
  });
});

test.each([
  ['', 'rule.form'],
  ['FREQ=HOURLY', 'rule.freq'],
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
])('“%s” is refused', (rule, code) => {
  expect(() => parseRule(rule)).toThrow(expect.objectContaining({ code }));
});

import ICAL from 'ical.js';
import { RRule } from 'rrule';
import { chance } from '../chance.ts';
import { parseDay } from '../calendar/day.ts';
import { offsetAt, toInstant } from '../calendar/zone.ts';
import { checkSeries, detailsTold, whatOf, whenOf } from '../definition/check.ts';
import { read } from '../phrase/meaning/read.ts';
import { SENTENCES } from '../phrase/check/sentences.ts';
import { DEFAULT_SETTINGS } from '../series/person/settings.ts';
import { plannerOf } from '../series/plan/planner.ts';
import { fromIcal } from './in.ts';
import { toIcal, type OutInput } from './out.ts';
import { slotsFrom } from './slots.ts';
import type { SlottedPlan } from '../series/plan/plan.ts';

const NOW = '2027-06-01T10:00:00Z';
const LONDON = { ...DEFAULT_SETTINGS, zone: 'Europe/London' };
const out = (series: object, more: object = {}, input: Partial<OutInput> = {}) =>
  toIcal({
    todos: [{ id: 'a', series, details: { title: 'Weigh the hives' }, ...more }],
    now: NOW,
    ...input,
  }).ical;
/** The lines of an entry, unfolded, without what says when it was written. */
function entryOf(text: string, n = 0): string[] {
  const lines = text
    .replaceAll(/\r\n[ \t]/gu, '')
    .split('\r\n')
    .filter((line) => line && !/^(DTSTAMP|X-BACK-AGAIN)/u.test(line));
  const begins = lines.flatMap((line, i) => (line === 'BEGIN:VTODO' ? [i] : []));
  const ends = lines.flatMap((line, i) => (line === 'END:VTODO' ? [i] : []));
  return lines.slice(begins[n]! + 1, ends[n]);
}

test('a calendar with one to-do that repeats by a rule', () => {
  const text = out({ start: '2027-06-01', repeat: { by: 'calendar', rule: 'FREQ=WEEKLY' } });
  expect(entryOf(text)).toEqual([
    'UID:a',
    'SUMMARY:Weigh the hives',
    'DTSTART;VALUE=DATE:20270601',
    'DUE;VALUE=DATE:20270601',
    'RRULE:FREQ=WEEKLY;BYDAY=TU',
    'STATUS:NEEDS-ACTION',
  ]);
  expect(text.startsWith('BEGIN:VCALENDAR\r\nVERSION:2.0\r\n')).toBe(true);
  expect(text.endsWith('END:VCALENDAR\r\n')).toBe(true);
});

test('the last day of a month that lacks its day, in words that every reader knows', () => {
  const text = out({
    start: '2027-01-31',
    repeat: { by: 'calendar', rule: 'FREQ=MONTHLY;BYMONTHDAY=31;SKIP=BACKWARD' },
  });
  const rule = entryOf(text)
    .find((line) => line.startsWith('RRULE:'))!
    .slice(6);
  expect(rule).toBe('FREQ=MONTHLY;BYMONTHDAY=28,29,30,31;BYSETPOS=-1');
  const dates = new RRule({
    ...RRule.parseString(rule),
    dtstart: new Date('2027-01-31T00:00:00Z'),
  });
  expect(dates.all((_, i) => i < 14).map((date) => date.toISOString().slice(0, 10))).toEqual([
    ...['2027-01-31', '2027-02-28', '2027-03-31', '2027-04-30', '2027-05-31', '2027-06-30'],
    ...['2027-07-31', '2027-08-31', '2027-09-30', '2027-10-31', '2027-11-30', '2027-12-31'],
    ...['2028-01-31', '2028-02-29'],
  ]);
  // What no list of days says goes out by RFC 7529.
  const forward = out({
    start: '2027-01-31',
    repeat: { by: 'calendar', rule: 'FREQ=MONTHLY;BYMONTHDAY=31;SKIP=FORWARD' },
  });
  expect(entryOf(forward)).toContain(
    'RRULE:RSCALE=GREGORIAN;FREQ=MONTHLY;SKIP=FORWARD;BYMONTHDAY=31',
  );
});

test.each<[string, object, string[]]>([
  [
    'a one-off has its due day alone',
    { start: '2027-06-04', repeat: null },
    ['UID:a', 'SUMMARY:Weigh the hives', 'DUE;VALUE=DATE:20270604', 'STATUS:NEEDS-ACTION'],
  ],
  [
    'without a date it has neither',
    { start: null, repeat: null },
    ['UID:a', 'SUMMARY:Weigh the hives', 'STATUS:NEEDS-ACTION'],
  ],
  [
    'with an hour, in the person’s zone; its end on the last slot, in UTC',
    {
      start: '2027-06-01',
      at: ['09:00'],
      repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
      ends: { after: 3 },
    },
    [
      'UID:a',
      'SUMMARY:Weigh the hives',
      'DTSTART;TZID=Europe/London:20270601T090000',
      'DUE;TZID=Europe/London:20270601T090000',
      'RRULE:FREQ=DAILY;UNTIL=20270603T080000Z',
      'STATUS:NEEDS-ACTION',
    ],
  ],
  [
    'COUNT where the rule itself has it and nothing else takes part',
    { start: '2027-06-01', repeat: { by: 'calendar', rule: 'FREQ=DAILY;COUNT=5' } },
    [
      'UID:a',
      'SUMMARY:Weigh the hives',
      'DTSTART;VALUE=DATE:20270601',
      'DUE;VALUE=DATE:20270601',
      'RRULE:FREQ=DAILY;COUNT=5',
      'STATUS:NEEDS-ACTION',
    ],
  ],
  [
    'exceptions, extras, and a pause as exceptions',
    {
      start: '2027-06-01',
      repeat: {
        by: 'calendar',
        rule: 'FREQ=DAILY;COUNT=6',
        except: ['2027-06-02'],
        extra: ['2027-07-01'],
      },
      pauses: [{ from: '2027-06-04', to: '2027-06-05' }],
    },
    [
      'UID:a',
      'SUMMARY:Weigh the hives',
      'DTSTART;VALUE=DATE:20270601',
      'DUE;VALUE=DATE:20270601',
      'RRULE:FREQ=DAILY;UNTIL=20270701',
      'RDATE;VALUE=DATE:20270701',
      'EXDATE;VALUE=DATE:20270602,20270604,20270605',
      'STATUS:NEEDS-ACTION',
    ],
  ],
  [
    'picked dates one by one',
    { start: '2027-06-03', repeat: { by: 'dates', dates: ['2027-06-03', '2027-06-11'] } },
    [
      'UID:a',
      'SUMMARY:Weigh the hives',
      'DTSTART;VALUE=DATE:20270603',
      'DUE;VALUE=DATE:20270603',
      'RDATE;VALUE=DATE:20270611',
      'STATUS:NEEDS-ACTION',
    ],
  ],
])('%s', (_, series, lines) => {
  expect(entryOf(out(series, {}, { settings: LONDON }))).toEqual(lines);
});

test('several times a day are an entry each, and come in as one', () => {
  const series = {
    start: '2027-06-01',
    at: ['08:00', '18:30'],
    repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
  };
  const text = out(series, {}, { settings: LONDON });
  expect(entryOf(text, 0)).toContain('UID:a');
  expect(entryOf(text, 1)).toEqual(
    expect.arrayContaining(['UID:a-1830', 'RELATED-TO;RELTYPE=SIBLING:a']),
  );
  expect(fromIcal({ ical: text, settings: LONDON, now: NOW }).todos).toMatchObject([
    { id: 'a', series },
  ]);
});

test('times that ended, were moved or missed stand out, and come back whole', () => {
  const series = { start: '2027-05-25', repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' } };
  const times = [
    {
      slot: '2027-05-11',
      number: 1,
      due: '2027-05-11',
      status: 'missed',
      closedAt: '2027-05-12T00:00:00Z',
    },
    {
      slot: '2027-05-25',
      number: 2,
      due: '2027-05-27',
      plan: '2027-05-27',
      status: 'done',
      closedAt: '2027-05-28T10:00:00Z',
      note: 'Rain; and, wind',
      answers: { kg: 34.2 },
      spent: 25,
    },
    {
      slot: '2027-06-01',
      number: 3,
      due: '2027-06-01',
      status: 'skipped',
      closedAt: '2027-06-01T09:00:00Z',
    },
  ] as never;
  const first = out(series, { times });
  expect(entryOf(first, 2)).toEqual(
    expect.arrayContaining([
      'RECURRENCE-ID;VALUE=DATE:20270525',
      'DUE;VALUE=DATE:20270527',
      'STATUS:COMPLETED',
      'COMPLETED:20270528T100000Z',
      'COMMENT:Rain\\; and\\, wind',
    ]),
  );
  const came = fromIcal({ ical: first, now: NOW });
  expect(came).toMatchObject({ problems: [], todos: [{ id: 'a', series, times }] });
  expect(toIcal({ todos: came.todos as never, now: NOW }).ical).toBe(first);
  // Finished elsewhere, it comes back so.
  const changed = first.replace('SUMMARY:Weigh the hives', 'SUMMARY:Weigh both hives');
  expect(fromIcal({ ical: changed, now: NOW }).todos).toMatchObject([
    { id: 'a', details: { title: 'Weigh both hives' }, series: { repeat: series.repeat } },
  ]);
});

test('a reminder is a duration from when it is due that meets its hour', () => {
  const alarm = (reminder: object, at?: string) =>
    entryOf(
      out(
        { start: '2027-06-01', ...(at ? { at: [at] } : {}), repeat: null, reminders: [reminder] },
        {},
        { settings: { ...LONDON, remindAt: '08:30' } },
      ),
    ).find((line) => line.startsWith('TRIGGER'));
  expect(alarm({})).toBe('TRIGGER;RELATED=END:PT8H30M');
  expect(alarm({ before: 'P1D', at: '18:00' })).toBe('TRIGGER;RELATED=END:-PT6H');
  expect(alarm({ before: 'P1W' })).toBe('TRIGGER;RELATED=END:-P6DT15H30M');
  expect(alarm({ before: 'PT30M' }, '13:00')).toBe('TRIGGER;RELATED=END:-PT30M');
  // The last Saturday before Tuesday 1 June.
  expect(alarm({ on: 'SA', at: '10:00' })).toBe('TRIGGER;RELATED=END:-P2DT14H');
});

test.each(['Europe/London', 'America/St_Johns', 'Australia/Lord_Howe', 'Asia/Kathmandu'])(
  'what is written of the zone %s is what the platform knows of it, by ical.js',
  (zone) => {
    const text = out(
      { start: '2027-06-01', at: ['09:00'], repeat: { by: 'calendar', rule: 'FREQ=DAILY' } },
      {},
      { settings: { ...DEFAULT_SETTINGS, zone } },
    );
    const calendar = new ICAL.Component(ICAL.parse(text));
    const theirZone = new ICAL.Timezone(calendar.getFirstSubcomponent('vtimezone')!);
    const below = chance(7);
    for (let i = 0; i < 200; i++) {
      const at = Date.UTC(2027, 0, 1) + below(20 * 365 * 24) * 3600_000;
      const local = ICAL.Time.fromJSDate(new Date(at + offsetAt(zone, at)), true);
      local.zone = theirZone;
      const again = toInstant(
        zone,
        Math.floor((at + offsetAt(zone, at)) / 86_400_000),
        Math.floor(((at + offsetAt(zone, at)) % 86_400_000) / 60_000),
      );
      // Of an hour that comes twice it is the first (RFC 5545 §3.3.5).
      expect([zone, new Date(at).toISOString(), local.toUnixTime() * 1000]).toEqual([
        zone,
        new Date(at).toISOString(),
        again,
      ]);
    }
  },
);

/** The dates of the first entry by the library ical.js, those of RDATE and EXDATE among them. */
function theirs(text: string, many: number): string[] {
  const calendar = new ICAL.Component(ICAL.parse(text));
  for (const zone of calendar.getAllSubcomponents('vtimezone'))
    ICAL.TimezoneService.register(zone as never);
  const found = new Set<string>();
  for (const entry of calendar.getAllSubcomponents('vtodo')) {
    if (entry.hasProperty('recurrence-id') || !entry.hasProperty('dtstart')) continue;
    // DTSTART is one of them (RFC 5545 §3.8.2.4), whatever the library begins with.
    found.add(String(entry.getFirstPropertyValue('dtstart')).slice(0, 16));
    const iterator = new ICAL.RecurExpansion({
      component: entry,
      dtstart: entry.getFirstPropertyValue('dtstart') as never,
    });
    for (let i = 0; i < many; i++) {
      const next = iterator.next();
      if (!next) break;
      found.add(String(next).slice(0, 16));
    }
  }
  return [...found].sort();
}

const SPOKEN = SENTENCES.map(([text]) => text as string).filter(
  (text) => !read(text, '2027-06-01').problems.length,
);

test('ical.js expands the same dates as the core, of what people say', () => {
  const planner = plannerOf(LONDON);
  let compared = 0;
  for (const text of SPOKEN) {
    const { series: definition } = read(text, '2027-06-01');
    const series = checkSeries(whenOf(definition));
    if (!series.repeat || series.repeat.by === 'completion' || series.repeat.by === 'quota')
      continue;
    if (series.closedDays && series.closedDays !== 'keep') continue;
    // It passes BYSETPOS by beside BYMONTHDAY (RFC 5545 §3.3.10 takes both): a test of its own holds that.
    if (JSON.stringify(series.repeat).includes('SKIP=BACKWARD')) continue;
    const details = whatOf(definition);
    const { ical } = toIcal({
      todos: [{ id: 'a', series, details: { ...details, place: null } }],
      settings: LONDON,
      now: NOW,
    });
    const from = parseDay(series.start!);
    const ours = slotsFrom(
      planner(series) as SlottedPlan,
      Math.max(from, parseDay('2027-06-01')),
      from + 500,
      60,
    ).map(({ slot }) => slot);
    const last = ours.at(-1) ?? '';
    const got = theirs(ical, 90).filter((it) => it <= `${last}~` && it >= '2027-06-01');
    expect([text, ical, got]).toEqual([text, ical, ours]);
    compared++;
  }
  expect(compared).toBeGreaterThan(60);
});

test('what we wrote ourselves comes back exactly, and goes out again the same', () => {
  for (const text of SPOKEN) {
    const { series: definition } = read(text, '2027-06-01');
    const todo = {
      id: 'some to-do',
      series: checkSeries(whenOf(definition)),
      details: detailsTold({ ...whatOf(definition), place: null }),
    };
    const first = toIcal({ todos: [todo], settings: LONDON, now: NOW });
    const came = fromIcal({ ...first, settings: LONDON, now: NOW });
    expect([text, came.problems, came.todos]).toEqual([text, [], [todo]]);
    const again = toIcal({ todos: came.todos as never, settings: LONDON, now: NOW });
    expect(again).toEqual(first);
  }
});

test('a rule of another program comes in as that rule', () => {
  const ical = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'BEGIN:VTODO',
    'UID:one',
    'SUMMARY:Pump out',
    '  the tank',
    'DTSTART;VALUE=DATE:20270601',
    'DUE;VALUE=DATE:20270601',
    'RRULE:FREQ=WEEKLY;INTERVAL=3;BYDAY=TU',
    'EXDATE;VALUE=DATE:20270622',
    'X-THEIRS;X-P=1:kept',
    'END:VTODO',
    'END:VCALENDAR',
  ].join('\n');
  expect(fromIcal({ ical, now: NOW })).toMatchObject({
    problems: [],
    todos: [
      {
        id: 'one',
        series: {
          start: '2027-06-01',
          repeat: {
            by: 'calendar',
            rule: 'FREQ=WEEKLY;INTERVAL=3;BYDAY=TU',
            except: ['2027-06-22'],
          },
        },
        details: { title: 'Pump out the tank' },
        kept: [['x-theirs', { 'x-p': '1' }, 'unknown', 'kept']],
      },
    ],
  });
});

test('each entry comes in or is listed, whatever is handed in', () => {
  const pieces = [
    'BEGIN:VCALENDAR',
    'END:VCALENDAR',
    'BEGIN:VTODO',
    'END:VTODO',
    'BEGIN:VEVENT',
    'END:VEVENT',
    'UID:x',
    'SUMMARY:a\\, b',
    'DTSTART:20270601T090000Z',
    'DTSTART;TZID=Nowhere:20270601T090000',
    'RRULE:FREQ=DAILY;COUNT=1000000000',
    'RRULE:FREQ=HOURLY',
    'RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30',
    'RRULE:nonsense',
    'DUE;VALUE=DATE:20270602',
    '\u0000\u0001',
    'STATUS:COMPLETED',
    'RECURRENCE-ID:20270601T090000Z',
    'BEGIN:VALARM',
    'END:VALARM',
  ];
  for (let seed = 1; seed <= 400; seed++) {
    const below = chance(seed);
    const lines = Array.from({ length: below(24) }, () => pieces[below(pieces.length)]!);
    const ical = lines.join(['\r\n', '\n', '\r'][below(3)]!);
    const came = fromIcal({ ical, settings: LONDON, now: NOW });
    const entries = lines.filter(
      (line) => line === 'BEGIN:VTODO' || line === 'BEGIN:VEVENT',
    ).length;
    expect([seed, came.todos.length <= entries]).toEqual([seed, true]);
    if (!lines.length) expect(came.problems).toHaveLength(1);
    if (came.todos.length) toIcal({ todos: came.todos as never, settings: LONDON, now: NOW });
  }
});

import { formatDay, parseDay, type LocalDate } from '../calendar/day.ts';
import { openDaysFor } from '../calendar/workdays.ts';
import { parseInstant } from '../calendar/zone.ts';
import { checkSeries } from '../definition/check.ts';
import { chance } from '../chance.ts';
import { Life } from '../series/life/life.ts';
import type { Deed } from '../series/deeds/deeds.ts';
import type { Series } from '../series/definition/definition.ts';
import { DEFAULT_WORKDAYS, checkSettings } from '../series/person/settings.ts';
import { forecast } from '../series/plan/forecast.ts';
import { firstAfterDone } from '../series/plan/counted.ts';
import { plannerOf } from '../series/plan/planner.ts';
import { changedPreview, previewOf } from './preview.ts';

// What is shown before a change is kept is what comes of it: from where the to-do stands (R13).

const SETTINGS = checkSettings({ zone: 'Europe/London' });
const HOLIDAYS = ['2027-05-31'];
const planner = plannerOf(SETTINGS, HOLIDAYS);
const MADE = parseInstant('2027-06-01T08:00:00Z');

const TUESDAYS = {
  title: 'Check the bilge',
  start: '2027-06-01',
  repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' },
};
const GREASE = {
  title: 'Grease the stern gland',
  start: '2027-06-02',
  repeat: { by: 'completion', every: 'P14D' },
};
const FRIDAYS = { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=FR' } };

interface Case {
  of: string;
  series: object;
  /** What was done, and when. */
  did?: [at: string, deed: Deed][];
  change: object;
  at: string;
  /** The first due dates that are shown. */
  shows: string[];
}

/** A to-do with what was done to it, as it stands at an instant. */
function lived({ series, did = [], at }: Pick<Case, 'series' | 'did' | 'at'>) {
  const life = new Life(planner, { series: checkSeries(series), at: MADE });
  did.forEach(([when, deed], i) => {
    const instant = parseInstant(when);
    life.pass(instant);
    life.do({ key: String(i), at: instant, deed });
  });
  life.pass(parseInstant(at));
  return life;
}

const shownFor = (it: Case, n: number) =>
  changedPreview(planner, SETTINGS, lived(it).progress, it.change as never, parseInstant(it.at))
    .dates.slice(0, n)
    .map(({ due }) => due);

// By hand.
const TABLE: Case[] = [
  {
    of: 'another day of the week: the open one that nobody touched goes, the next is the first Friday',
    series: TUESDAYS,
    change: FRIDAYS,
    at: '2027-06-09T10:00:00Z',
    shows: ['2027-06-11', '2027-06-18'],
  },
  {
    of: 'an open one that was moved stays where it was moved',
    series: TUESDAYS,
    did: [['2027-06-08T10:00:00Z', { do: 'move', slot: '2027-06-08', due: '2027-06-10' }]],
    change: FRIDAYS,
    at: '2027-06-09T10:00:00Z',
    shows: ['2027-06-10', '2027-06-11', '2027-06-18'],
  },
  {
    of: 'after I finish: counted from when it was last done, with the new span',
    series: GREASE,
    did: [['2027-06-05T10:00:00Z', { do: 'done' }]],
    change: { repeat: { by: 'completion', every: 'P10D' } },
    at: '2027-06-09T10:00:00Z',
    shows: ['2027-06-15', '2027-06-25'],
  },
  {
    of: 'a count goes on: of 4 times 2 have gone by, and one is open',
    series: { ...TUESDAYS, ends: { after: 4 } },
    did: [
      ['2027-06-01T10:00:00Z', { do: 'done' }],
      ['2027-06-08T10:00:00Z', { do: 'done' }],
    ],
    change: { at: ['09:00'] },
    at: '2027-06-09T10:00:00Z',
    shows: ['2027-06-15T09:00', '2027-06-22T09:00'],
  },
  {
    of: 'a pause holds what lies in it',
    series: TUESDAYS,
    did: [
      ['2027-06-01T10:00:00Z', { do: 'done' }],
      ['2027-06-02T10:00:00Z', { do: 'pause', from: '2027-06-03', to: '2027-06-20' }],
    ],
    change: { at: ['09:00'] },
    at: '2027-06-04T10:00:00Z',
    shows: ['2027-06-22T09:00', '2027-06-29T09:00'],
  },
  {
    of: 'what was finished ahead does not come again',
    series: TUESDAYS,
    did: [
      ['2027-06-01T10:00:00Z', { do: 'done' }],
      ['2027-06-02T10:00:00Z', { do: 'done', slot: '2027-06-08' }],
    ],
    change: { reminders: [{ before: 'P1D' }] },
    at: '2027-06-02T11:00:00Z',
    shows: ['2027-06-15', '2027-06-22'],
  },
];

test.each(TABLE)('$of', (it) => {
  expect(shownFor(it, it.shows.length)).toEqual(it.shows);
});

test('a later turn is still to come where when it comes stays as it is', () => {
  const life = lived({
    series: TUESDAYS,
    did: [
      ['2027-06-01T10:00:00Z', { do: 'done' }],
      ['2027-06-02T10:00:00Z', { do: 'change', slot: '2027-06-15', series: FRIDAYS as never }],
    ],
    at: '2027-06-03T10:00:00Z',
  });
  const now = parseInstant('2027-06-03T10:00:00Z');
  const { dates } = changedPreview(planner, SETTINGS, life.progress, null, now);
  expect(dates.slice(0, 3).map(({ due }) => due)).toEqual([
    '2027-06-08',
    '2027-06-18',
    '2027-06-25',
  ]);
});

test('what is shown is what comes of it, whatever was done before', () => {
  const of = chance(17);
  const one = <T>(items: readonly T[]): T => items[of(items.length)]!;
  const kinds = [
    TUESDAYS,
    GREASE,
    { ...TUESDAYS, repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=3' }, owe: 'every' },
    { ...TUESDAYS, repeat: { by: 'quota', times: 2, per: 'week' } },
    { ...TUESDAYS, at: ['08:00', '20:00'] },
    { ...TUESDAYS, ends: { after: 6 } },
    { ...GREASE, closedDays: 'after', late: 'lapse' },
  ];
  const changes = [
    FRIDAYS,
    { repeat: { by: 'completion', every: 'P9D' } },
    { repeat: { by: 'calendar', rule: 'FREQ=MONTHLY;BYMONTHDAY=12' } },
    { at: ['07:30'] },
    { ends: { on: '2027-09-01' } },
    { repeat: { by: 'quota', times: 3, per: 'week' } },
    { reminders: [{ before: 'P1D' }] },
  ];
  let compared = 0;
  for (let i = 0; i < 400; i++) {
    let day = 1;
    const did = Array.from({ length: of(6) }, (): [string, Deed] => {
      day += of(5);
      const at = `2027-06-${String(Math.min(day, 28)).padStart(2, '0')}T10:0${of(9)}:00Z`;
      const deed = one<Deed>([
        { do: 'done' },
        { do: 'done' },
        { do: 'skip' },
        { do: 'move', due: '2027-07-02' },
        { do: 'pause', to: '2027-07-10' },
        { do: 'resume' },
      ]);
      return [at, deed];
    });
    const series = one(kinds);
    const change = one(changes);
    const at = '2027-06-29T09:00:00Z';
    const now = parseInstant(at);
    const life = lived({ series, did, at });
    let shown: string[] | string;
    let came: string[] | string;
    try {
      const { dates } = changedPreview(planner, SETTINGS, life.progress, change as never, now);
      shown = dates.slice(0, 12).map(({ due }) => due);
    } catch (error) {
      shown = (error as Error).message;
    }
    try {
      life.do({ key: 'change', at: now, deed: { do: 'change', series: change as never } });
      life.pass(now);
      const open = life.progress.open.filter(({ due }) => due !== null).map(({ due }) => due!);
      const ahead = forecast(planner, life.progress, now, undefined, 40).map(({ due }) => due);
      came = [...open, ...ahead].slice(0, 12);
    } catch (error) {
      came = (error as Error).message;
    }
    expect([i, shown]).toEqual([i, came]);
    if (typeof came !== 'string' && came.length) compared++;
  }
  expect(compared).toBeGreaterThan(200);
});

test('a new one: what was due before today is in no record', () => {
  const series = checkSeries({ ...TUESDAYS, start: '2027-05-11' });
  const now = parseInstant('2027-06-09T10:00:00Z');
  const { dates, goneBy } = previewOf(planner, SETTINGS, series, now);
  expect([dates[0]!.due, goneBy]).toEqual(['2027-06-08', 4]);
});

describe('the first time of one that was done before (R7)', () => {
  const open = openDaysFor(DEFAULT_WORKDAYS, HOLIDAYS);
  const firstAfter = ({ repeat }: Series, last: LocalDate) => {
    const day = firstAfterDone(repeat, parseDay(last), open);
    return day === null ? null : formatDay(day);
  };
  // By hand; 31 May 2027 is a holiday here.
  test.each([
    [{ by: 'completion', every: 'P14D' }, '2027-05-20', '2027-06-03'],
    [{ by: 'completion', every: 'P1M' }, '2027-01-31', '2027-02-28'],
    [{ by: 'completion', every: 'P2D', workdays: true }, '2027-05-27', '2027-06-01'],
    [{ by: 'completion', every: 'P1W', onto: 'FREQ=WEEKLY;BYDAY=SA' }, '2027-05-20', '2027-05-29'],
    [{ by: 'completion', every: 'PT36H' }, '2027-05-20', '2027-05-21'],
  ])('%o, last done on %s: first on %s', (repeat, last, first) => {
    const series = checkSeries({ title: 'Grease the winch', start: '2027-06-01', repeat });
    expect(firstAfter(series, last)).toBe(first);
  });

  test('one by the calendar does not count from when it was finished', () =>
    expect(firstAfter(checkSeries(TUESDAYS), '2027-05-20')).toBeNull());
});

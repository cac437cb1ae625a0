import { formatDay, parseDay } from '../../calendar/day.ts';
import { CoreError } from '../../errors.ts';
import { advance } from '../life/advance.ts';
import { deed } from '../deeds/deed.ts';
import type { Deed } from '../deeds/deeds.ts';
import { begin } from '../life/begin.ts';
import { checkDefinition, checkSeries } from '../../definition/check.ts';
import { checkSettings } from '../person/settings.ts';
import { plannerOf } from '../plan/planner.ts';

// R19: what is refused by name, and what is just let through. The counts by hand.

const base = {
  title: 'Weigh the hives',
  start: '2027-06-01',
  repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
};
const hours = (n: number) =>
  Array.from({ length: n }, (_, i) => `${String(i % 24).padStart(2, '0')}:${i < 24 ? '00' : '30'}`);
const days = (n: number, from = '2027-06-01') =>
  Array.from({ length: n }, (_, i) => formatDay(parseDay(from) + i));
const again = (atMost: number) => ({ again: { every: 'PT5M', atMost } });
const reminders = (n: number) => Array.from({ length: n }, (_, i) => ({ before: `P${i + 1}D` }));
const pauses = (n: number) =>
  Array.from({ length: n }, (_, i) => ({
    from: formatDay(21_000 + 3 * i),
    to: formatDay(21_000 + 3 * i),
  }));
const dates = (all: string[]) => ({ repeat: { by: 'dates', dates: all } });

test.each<[string, object, string]>([
  ['before 1900', { start: '1899-12-31' }, 'start'],
  ['after 2200', { start: '2201-01-01' }, 'start'],
  ['25 times of day', { at: hours(25) }, 'at'],
  ['1,001 dates', dates(days(1001)), 'repeat.dates'],
  ['11 reminders', { reminders: reminders(11) }, 'reminders'],
  ['51 pauses', { pauses: pauses(51) }, 'pauses'],
  ['opens over two years before', { repeat: null, opensBefore: 'P732D' }, 'opensBefore'],
  ['and in months', { repeat: null, opensBefore: 'P25M' }, 'opensBefore'],
  ['a reminder over two years before', { reminders: [{ before: 'P732D' }] }, 'reminders.0.before'],
  [
    'said again after a hundred years',
    { reminders: [{ again: { every: 'P100Y', atMost: 2 } }] },
    'reminders.0.again.every',
  ],
  ['367 open at once: daily', { opensBefore: 'P366D' }, 'opensBefore'],
  ['and several a day, owed', { opensBefore: 'P1Y1D', at: hours(3), owe: 'every' }, 'opensBefore'],
  [
    'and each of two days, for two years',
    { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH' }, opensBefore: 'P2Y' },
    'opensBefore',
  ],
  ['and picked', { ...dates(days(367)), opensBefore: 'P367D' }, 'opensBefore'],
  ['after 14 minutes', { repeat: { by: 'completion', every: 'PT14M' } }, 'repeat.every'],
  ['201 moments', { reminders: [{}, again(99), { ...again(99), of: 'plan' }] }, 'reminders'],
  ['216 moments of 24 times', { at: hours(24), reminders: reminders(9) }, 'reminders'],
])('refused: %s', (_name, parts, where) => {
  const given = { ...base, ...parts };
  expect(() => checkSeries(given)).toThrow(expect.objectContaining({ where }));
  expect(() => checkSeries(given)).toThrow(CoreError);
});

test.each<[string, object]>([
  ['from 1900', { start: '1900-01-01' }],
  ['from 2200', { start: '2200-12-31' }],
  ['24 times of day', { at: hours(24) }],
  ['1,000 dates', dates(days(1000))],
  [
    '10 reminders, two years before',
    { reminders: [...reminders(8), { before: 'P731D' }, { before: 'P2Y' }] },
  ],
  ['50 pauses', { pauses: pauses(50) }],
  ['366 open at once', { opensBefore: 'P365D' }],
  [
    'three days of a week, two years',
    { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE' }, opensBefore: 'P2Y' },
  ],
  [
    'picked, few of them at once',
    { ...dates([...days(366), ...days(366, '2031-01-01')]), opensBefore: 'P2Y' },
  ],
  ['300 times that are all open', { opensBefore: 'P2Y', ends: { after: 300 } }],
  ['after a quarter of an hour', { repeat: { by: 'completion', every: 'PT15M' } }],
  ['200 moments', { reminders: [again(99), { ...again(99), of: 'plan' }] }],
  ['192 moments of 24 times', { at: hours(24), reminders: reminders(8) }],
])('let through: %s', (_name, parts) => {
  expect(checkDefinition({ ...base, ...parts })).toMatchObject({ title: base.title });
});

describe('what a change leads to is checked as what is made', () => {
  const planner = plannerOf(checkSettings());
  const MADE = Date.UTC(2027, 5, 1, 8);
  const { progress } = advance(planner, begin(planner, checkSeries(base), MADE), MADE);

  test.each<[string, object]>([
    ['reminders', { reminders: [{ again: { every: 'P100Y', atMost: 2 } }] }],
    ['an opening', { opensBefore: 'P366D' }],
    ['times of day', { at: hours(25) }],
  ])('%s', (_name, series) => {
    for (const slot of ['2027-06-01', '2027-06-09'])
      expect(() => deed(planner, progress, { do: 'change', slot, series }, MADE)).toThrow(
        CoreError,
      );
  });

  test('what changes in all definitions that are still to come is checked in each', () => {
    const later = deed(
      planner,
      progress,
      { do: 'change', slot: '2027-06-09', series: { at: hours(20) } },
      MADE,
    )!;
    const nine: Deed = { do: 'change', slot: '2027-06-01', series: { reminders: [again(9)] } };
    expect(deed(planner, later.progress, nine, MADE)!.progress.turns[0]!.series.reminders).toEqual([
      again(9),
    ]);
    const twelve: Deed = { ...nine, series: { reminders: [again(12)] } };
    expect(() => deed(planner, later.progress, twelve, MADE)).toThrow(
      expect.objectContaining({ where: 'reminders' }),
    );
  });

  test('a 51st pause: those that ended longest ago are let go of, and none that is to come', () => {
    const paused = (from: number) => ({
      ...progress,
      series: checkSeries({
        ...base,
        pauses: pauses(50).map((_, i) => ({
          from: formatDay(from + 3 * i),
          to: formatDay(from + 3 * i),
        })),
      }),
    });
    const pause = { do: 'pause', from: '2029-01-01', to: '2029-01-03' } as const;
    const kept = deed(planner, paused(20_500), pause, MADE)!.progress.series.pauses!;
    expect(kept).toHaveLength(50);
    expect(kept.at(-1)).toEqual({ from: '2029-01-01', to: '2029-01-03' });
    expect(() => deed(planner, paused(20_970), pause, MADE)).toThrow(
      expect.objectContaining({ code: 'pauses.many' }),
    );
  });
});

test('what is looked for far ahead is not walked to', () => {
  let spent = 0;
  const planner = plannerOf(checkSettings(), [], () => void spent++);
  const MADE = Date.UTC(2027, 5, 1, 8);
  const paused = checkSeries({
    ...base,
    at: hours(24),
    pauses: [{ from: '2027-07-01', to: '9999-12-01' }],
  });
  const { progress } = advance(planner, begin(planner, paused, MADE), MADE);
  deed(planner, progress, { do: 'skip', slot: '9999-12-20T05:00' }, MADE);
  const quota = checkSeries({
    ...base,
    start: '1900-01-01',
    repeat: { by: 'quota', times: 3, per: 'day' },
    pauses: [{ from: '2027-06-01', to: '9999-12-01' }],
  });
  advance(planner, begin(planner, quota, MADE), MADE + 365 * 86_400_000);
  expect(spent).toBeLessThan(500);
});

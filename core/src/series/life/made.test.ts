import fc from 'fast-check';
import { formatDay, parseDay } from '../../calendar/day.ts';
import { parseInstant } from '../../calendar/zone.ts';
import { advance } from './advance.ts';
import { begin, beginLongAgo } from './begin.ts';
import { checkSeries } from '../../definition/check.ts';
import { comingTimes, upcoming } from '../plan/coming.ts';
import { rehearse, type Rehearsal } from './rehearse.ts';
import { checkSettings } from '../person/settings.ts';
import { plannerOf } from '../plan/planner.ts';

// R5, before it was made: each result by hand.

const rule = (text: string) => ({ by: 'calendar', rule: text });
const played = (series: Record<string, unknown>, made: string, until = made, more = {}) =>
  rehearse({ series: { title: 'Weigh the hives', ...series }, made, until, ...more } as Rehearsal);
const brief = (result: ReturnType<typeof rehearse>) =>
  result.times.map(({ slot, status, rolled }) => `${slot} ${status} ${rolled}`);

const NOON = '2027-06-10T12:00:00Z'; // a Thursday

test.each<[string, Record<string, unknown>, string[]]>([
  [
    'of those that went by the last alone is open, and has not rolled',
    { start: '1900-01-02', repeat: rule('FREQ=WEEKLY;BYDAY=TU') },
    ['2027-06-08 open 0'],
  ],
  [
    'none where another is due on that very day',
    { start: '1900-01-01', repeat: rule('FREQ=DAILY') },
    ['2027-06-10 open 0'],
  ],
  [
    'owed, the last one beside that of the day',
    { start: '1900-01-01', repeat: rule('FREQ=DAILY'), owe: 'every' },
    ['2027-06-09 open 0', '2027-06-10 open 0'],
  ],
  [
    'none that would have lapsed',
    { start: '2027-01-05', repeat: rule('FREQ=WEEKLY;BYDAY=TU'), late: 'lapse', grace: 'P1D' },
    [],
  ],
  [
    'one that has not lapsed yet',
    { start: '2027-01-05', repeat: rule('FREQ=WEEKLY;BYDAY=TU'), late: 'lapse', grace: 'P3D' },
    ['2027-06-08 open 0'],
  ],
  [
    'several of the day: as if everything had run',
    { start: '2020-01-01', repeat: rule('FREQ=DAILY'), at: ['08:00', '11:00', '13:00'] },
    ['2027-06-10T08:00 missed 0', '2027-06-10T11:00 open 0'],
  ],
  [
    'those that are no more, the last of them',
    { start: '2020-01-01', repeat: rule('FREQ=DAILY'), ends: { after: 3 } },
    ['2020-01-03 open 0'],
  ],
  [
    'those in a pause are none',
    {
      start: '2027-01-05',
      repeat: rule('FREQ=WEEKLY;BYDAY=TU'),
      pauses: [{ from: '2027-05-01', to: '2027-06-09' }],
    },
    ['2027-04-27 open 0'],
  ],
  [
    'a closed day before, whose time is due on the day itself',
    { start: '2027-06-07', repeat: { by: 'dates', dates: ['2027-06-09'] }, closedDays: 'after' },
    ['2027-06-09 open 0'],
  ],
  [
    'a past period does not open',
    { start: '1900-01-01', repeat: { by: 'quota', times: 2, per: 'week' } },
    ['2027-06-07 open 0'],
  ],
  ['a one-off that was due', { start: '2027-06-01', repeat: null }, ['2027-06-01 open 0']],
  ['a one-off that lapsed', { start: '2027-06-01', repeat: null, late: 'lapse' }, []],
  [
    'after I finish: due on its start, late',
    { start: '2020-06-01', repeat: { by: 'completion', every: 'P14D' } },
    ['2020-06-01 open 0'],
  ],
  [
    'after I finish, lapsed: 1, 4, 7 and 10 June',
    { start: '2027-06-01', repeat: { by: 'completion', every: 'P2D' }, late: 'lapse' },
    ['2027-06-10 open 0'],
  ],
])('%s', (_name, series, wanted) => {
  const holidays = series.closedDays ? ['2027-06-09'] : [];
  expect(brief(played(series, NOON, NOON, { holidays }))).toEqual(wanted);
});

test('what went by counts for so many times', () => {
  const series = { start: '2027-06-01', repeat: rule('FREQ=DAILY'), ends: { after: 12 } };
  const { times } = played(series, NOON, '2027-07-01T00:00:00Z');
  expect(times.map(({ slot }) => slot)).toEqual(['2027-06-10', '2027-06-11', '2027-06-12']);
});

test('one that is open late rolls with the days from then on, and an early one ends it at once', () => {
  const weekly = { start: '2027-01-05', repeat: rule('FREQ=WEEKLY;BYDAY=TU') };
  expect(brief(played(weekly, NOON, '2027-06-12T08:00:00Z'))).toEqual(['2027-06-08 open 2']);
  const early = played({ ...weekly, opensBefore: 'P6D' }, NOON);
  expect(brief(early)).toEqual(['2027-06-08 missed 0', '2027-06-15 open 0']);
  expect(early.times[0]!.closedAt).toBe(NOON);
});

test('nothing can be done before it is made; left out, it was there long ago', () => {
  const series = { title: 'Weigh the hives', start: '2027-06-01', repeat: rule('FREQ=DAILY') };
  const steps = [{ at: '2027-06-02T08:00:00Z', do: 'done' as const }];
  expect(() => rehearse({ series, made: NOON, steps, until: NOON })).toThrow(/before it is made/u);
  expect(rehearse({ series, until: NOON }).times).toHaveLength(10);
  const reminded = { ...series, reminders: [{ before: 'P1D' }] };
  expect(rehearse({ series: reminded, until: '2027-06-01T00:00:00Z' }).reminders).toHaveLength(1);
});

test('with 366 owed, the oldest ends as missed when one more opens', () => {
  const series = {
    title: 'Weigh the hives',
    start: '2027-01-01',
    owe: 'every',
    repeat: rule('FREQ=DAILY'),
  };
  const full = rehearse({ series, until: '2028-01-01T12:00:00Z' });
  expect(full.times.filter(({ status }) => status === 'open')).toHaveLength(366);
  const { times } = rehearse({ series, until: '2028-01-02T12:00:00Z' });
  expect(times[0]).toMatchObject({
    slot: '2027-01-01',
    status: 'missed',
    closedAt: '2028-01-02T00:00:00Z',
    rolled: 365,
  });
  expect(times.filter(({ status }) => status === 'open')).toHaveLength(366);
});

// America/New_York, 2027-11-07: 01:00 to 02:00 comes twice. Of 01:15 the first is meant.
test('what lapses in hours does not stand still where an hour comes twice', () => {
  const series = {
    title: 'Look at the gauge',
    start: '2027-11-06',
    late: 'lapse',
    repeat: { by: 'completion', every: 'PT15M' },
  };
  const { times } = rehearse({
    series,
    settings: { zone: 'America/New_York' },
    until: '2027-11-07T09:00:00Z',
  });
  const ends = times.flatMap(({ closedAt }) => (closedAt ? [parseInstant(closedAt)] : []));
  for (const [i, end] of ends.slice(1).entries()) expect(end).toBeGreaterThan(ends[i]!);
  expect(ends.at(-1)).toBe(parseInstant('2027-11-07T09:00:00Z'));
});

// Days from 04:00: 03:00 belongs to the day before, so that a day later would be the same day.
test('it never comes back on the day it is counted from, before the day begins either', () => {
  const series = {
    title: 'Look at the gauge',
    start: '2027-06-01',
    at: ['03:00'],
    repeat: { by: 'completion', every: 'P1D' },
  };
  const { next } = rehearse({
    series,
    settings: { dayStart: '04:00' },
    steps: [{ at: '2027-06-01T12:00:00Z', do: 'done' }],
    until: '2027-06-01T13:00:00Z',
  });
  expect(next).toBe('2027-06-03T03:00');
});

const day = (low: string, days: number) =>
  fc.integer({ min: parseDay(low), max: parseDay(low) + days }).map(formatDay);
const anyRepeat = fc.constantFrom(
  rule('FREQ=DAILY'),
  rule('FREQ=DAILY;INTERVAL=9'),
  rule('FREQ=WEEKLY;BYDAY=TU,TH,SA'),
  rule('FREQ=MONTHLY;BYMONTHDAY=-1,1,31;COUNT=40'),
  {
    ...rule('FREQ=DAILY;INTERVAL=3;UNTIL=20270501T100000'),
    except: ['2027-01-04'],
    extra: ['2027-01-05', '2027-05-01'],
  },
  { by: 'calendar', workday: -1, per: 'month' },
  { by: 'calendar', everyWorkdays: 3 },
  { by: 'dates', dates: ['2027-01-09', '2027-02-01', '2027-05-31', '2027-06-05'] },
  { by: 'quota', times: 2, per: 'week' },
  { by: 'quota', times: 2, per: 'month' },
);
const anyPauses = fc
  .array(fc.tuple(day('2026-12-01', 200), fc.nat(40)), { maxLength: 3 })
  .map((all) => all.map(([from, days]) => ({ from, to: formatDay(parseDay(from) + days) })));
const anySettings = fc
  .record({
    zone: fc.constantFrom('UTC', 'Europe/London', 'Africa/Casablanca'),
    dayStart: fc.constantFrom('00:00', '04:00'),
    workdays: fc.constantFrom<('MO' | 'WE' | 'SU')[]>(['MO'], ['WE', 'SU']),
  })
  .map(checkSettings);
const anyMade = fc
  .integer({ min: 0, max: 200 * 24 })
  .map((hours) => Date.UTC(2027, 0, 1) + hours * 3_600_000);

test('a jump comes to where the walk does: the same have gone by, and as many', () => {
  fc.assert(
    fc.property(
      anyRepeat,
      day('2026-12-20', 90),
      fc.constantFrom<string[] | undefined>(undefined, ['02:00', '09:00', '23:30'], ['03:30']),
      fc.constantFrom('keep', 'drop', 'before', 'after', 'nearest'),
      anyPauses,
      anySettings,
      anyMade,
      (repeat, start, at, closedDays, pauses, settings, made) => {
        const isQuota = repeat.by === 'quota';
        const series = checkSeries({
          title: 'Weigh the hives',
          start,
          pauses,
          repeat:
            'extra' in repeat
              ? { ...repeat, extra: repeat.extra.filter((it) => it >= start) }
              : repeat,
          ...(isQuota ? {} : { closedDays, ...(at ? { at } : {}) }),
        });
        const planner = plannerOf(settings, ['2027-02-01', '2027-05-03']);
        const today = planner.clock.dayAt(made);
        const walked: string[] = [];
        for (const { slot, due } of comingTimes(planner, beginLongAgo(series, made))) {
          if (planner.clock.dayOfMoment(due) >= today) break;
          walked.push(slot);
        }
        const { passed, count } = begin(planner, series, made);
        expect([passed, count]).toEqual([walked.at(-1) ?? null, walked.length]);
      },
    ),
    { numRuns: 600, seed: 21 },
  );
});

test('rounds that lapsed before it was made come to where they would have been walked to', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('PT15M', 'PT7H', 'PT36H', 'P1D', 'P9D', 'P1M'),
      fc.constantFrom(undefined, 'PT1M', 'PT5H', 'P1D'),
      day('2026-12-20', 60),
      anyPauses,
      anySettings,
      anyMade,
      fc.constantFrom(undefined, ['03:00'], ['18:00']),
      (every, grace, start, pauses, settings, made, at) => {
        const series = checkSeries({
          title: 'Look at the gauge',
          start,
          pauses,
          late: 'lapse',
          repeat: { by: 'completion', every },
          ...(grace ? { grace } : {}),
          ...(at && !every.startsWith('PT') ? { at } : {}),
        });
        const planner = plannerOf(settings);
        const stand = (progress: ReturnType<typeof begin>) => {
          const now = advance(planner, progress, made).progress;
          return [
            now.open.map(({ slot, due }) => [slot, due]),
            upcoming(planner, now)?.due ?? null,
          ];
        };
        expect(stand(begin(planner, series, made))).toEqual(stand(beginLongAgo(series, made)));
      },
    ),
    { numRuns: 150, seed: 22 },
  );
});

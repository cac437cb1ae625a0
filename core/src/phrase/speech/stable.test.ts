import fc from 'fast-check';
import { formatDay, parseDay } from '../../calendar/day.ts';
import { checkDefinition } from '../../definition/check.ts';
import { CHANNELS, type Reminder } from '../../series/reminding/reminders.ts';
import { read } from '../meaning/read.ts';
import { say, typed } from './readable.ts';

const TODAY = '2026-11-24'; // a Tuesday

/** As many definitions as `SENTENCES` says; the whole ten thousand belong to `npm run check:sentences`. */
const RUNS = Number(process.env.SENTENCES ?? 500);

const anyDate = fc
  .integer({ min: parseDay('2026-01-01'), max: parseDay('2029-12-31') })
  .map(formatDay);
const anyRule = fc.oneof(
  fc
    .integer({ min: 1, max: 400 })
    .map((n) => (n === 1 ? 'FREQ=DAILY' : `FREQ=DAILY;INTERVAL=${n}`)),
  fc
    .subarray(['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'], { minLength: 1 })
    .map((days) => `FREQ=WEEKLY;BYDAY=${days.join(',')}`),
  fc
    .record({
      n: fc.integer({ min: 2, max: 9 }),
      days: fc.subarray(['MO', 'WE', 'SU'], { minLength: 1 }),
    })
    .map(({ n, days }) => `FREQ=WEEKLY;INTERVAL=${n};BYDAY=${days.join(',')}`),
  fc
    .subarray([1, 5, 12, 28], { minLength: 1 })
    .map((days) => `FREQ=MONTHLY;BYMONTHDAY=${days.join(',')}`),
  fc.constantFrom(
    'FREQ=WEEKLY',
    'FREQ=MONTHLY',
    'FREQ=YEARLY',
    'FREQ=MONTHLY;BYMONTHDAY=-1',
    'FREQ=MONTHLY;SKIP=BACKWARD;BYMONTHDAY=31',
    'FREQ=MONTHLY;BYMONTHDAY=5,31',
    'FREQ=MONTHLY;INTERVAL=3;BYDAY=-1FR',
    'FREQ=MONTHLY;BYDAY=2TU,2TH',
    'FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=12',
    'FREQ=YEARLY;INTERVAL=4;SKIP=BACKWARD;BYMONTH=2;BYMONTHDAY=29',
    'FREQ=DAILY;BYMONTH=1,2;BYDAY=MO',
    'FREQ=DAILY;BYMONTH=6,7,8',
    'FREQ=WEEKLY;BYMONTH=1,2,3,4,5,6,9,10,11,12;BYDAY=SA',
    'FREQ=WEEKLY;INTERVAL=2;BYMONTH=6;BYDAY=TU,SA',
    'FREQ=MONTHLY;BYMONTH=3,9',
    'FREQ=MONTHLY;BYMONTH=3;BYMONTHDAY=12',
    'FREQ=MONTHLY;BYMONTH=3,9;BYMONTHDAY=1,15',
    'FREQ=MONTHLY;BYMONTH=1,3,4,5,6,7,8,9,10,11,12;BYMONTHDAY=-1',
    'FREQ=MONTHLY;SKIP=BACKWARD;BYMONTH=2,4;BYMONTHDAY=31',
    'FREQ=MONTHLY;BYMONTH=5,10;BYDAY=-1SU',
    'FREQ=MONTHLY;BYMONTH=5;BYDAY=1SA',
    'FREQ=MONTHLY;INTERVAL=2;BYMONTH=5,7;BYMONTHDAY=3',
    'FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
    'FREQ=YEARLY;INTERVAL=3;BYMONTH=3;BYDAY=2MO,2FR',
    'FREQ=YEARLY;BYMONTH=4',
    'FREQ=MONTHLY;BYMONTH=1,2,3,4,5,6,7,8,9,10,11,12;BYMONTHDAY=4',
    'FREQ=YEARLY;BYDAY=20MO',
    'FREQ=WEEKLY;COUNT=4',
    'FREQ=DAILY;UNTIL=20290101',
    'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SU;WKST=SU',
    'FREQ=MONTHLY;BYDAY=2TH,-1TH',
    'FREQ=MONTHLY;BYDAY=1MO,3FR',
    'FREQ=MONTHLY;BYDAY=2TU,4TU,2TH',
    'FREQ=MONTHLY;INTERVAL=2;BYMONTH=2,4;BYDAY=1MO,3MO',
    'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1',
    'FREQ=MONTHLY;BYDAY=SA,SU;BYSETPOS=1,-1',
    'FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=2',
    'FREQ=YEARLY;BYMONTH=4;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1',
    'FREQ=MONTHLY;BYMONTHDAY=15,-1',
    'FREQ=MONTHLY;BYMONTHDAY=-3',
    'FREQ=MONTHLY;BYMONTHDAY=-3,-1',
    'FREQ=MONTHLY;BYMONTHDAY=-9',
    'FREQ=MONTHLY;BYMONTH=12;BYMONTHDAY=-1',
    'FREQ=MONTHLY;BYMONTH=12;BYMONTHDAY=1',
    'FREQ=YEARLY;BYMONTH=1;BYMONTHDAY=1',
    'FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=-1',
    'FREQ=MONTHLY;BYMONTH=1,7;BYMONTHDAY=31',
    'FREQ=MONTHLY;SKIP=FORWARD;BYMONTHDAY=30',
    'FREQ=WEEKLY;INTERVAL=3;BYDAY=MO,TU,WE,TH,FR',
  ),
);
const anyTitle = fc.oneof(
  fc.constantFrom(
    'Weigh the hives',
    'Every day is new',
    'Call May',
    'Tea at 8',
    'Ends.',
    '“Quoted”',
    'Say “no” until done',
    'a, b',
    '“',
    '5 December',
    'Tue and Thu',
    'once',
  ),
  fc.string({ minLength: 1, maxLength: 40 }),
  fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme' }),
);
/** Excepted and added dates lie on or after the start. */
function withEdits(repeat: object | null, start: string): object | null {
  if (!repeat || !('days' in repeat)) return repeat;
  const { days, both, ...rest } = repeat as unknown as { days: number[]; both: boolean };
  const dates = days.map((n) => formatDay(parseDay(start) + n));
  return { ...rest, except: dates, ...(both ? { extra: dates } : {}) };
}

const anyReminder = fc
  .record({
    before: fc.option(fc.constantFrom('P2D', 'P1W', 'P1M', 'PT2H', 'PT45M', 'PT1H30M', 'P1M3D')),
    on: fc.option(fc.constantFrom('MO', 'FR', 'SU')),
    at: fc.option(fc.constantFrom('00:00', '08:30', '18:00')),
    of: fc.constantFrom('due', 'plan', 'opens'),
    channel: fc.option(fc.constantFrom(...CHANNELS)),
    again: fc.option(
      fc.record({
        every: fc.constantFrom('PT2H', 'P1D', 'PT90M'),
        atMost: fc.integer({ min: 1, max: 99 }),
      }),
    ),
  })
  .map(({ before, on, at, of, channel, again }) => ({
    of,
    ...(before ? { before } : on ? { on } : {}),
    ...(at && !before?.includes('T') ? { at } : {}),
    ...(channel ? { channel } : {}),
    ...(again ? { again } : {}),
  }));

/** Words of a person’s own, some of which the grammar has words for. */
const anyWords = fc.oneof(
  fc.constantFrom(
    'the oil',
    'a filter',
    'Check the belt',
    'litres',
    'every bolt',
    'oil, filter',
    'north and south',
    'in kg',
    'then tea',
    'the first Monday',
    '5 December',
    'remind Jo',
    'how it went',
    'which berth',
    'steps: no',
    '“quoted”',
    'PAT test',
    'é1 b-c',
    'taking it up',
    'important',
  ),
  fc.string({ minLength: 1, maxLength: 12 }).filter((text) => text.trim() === text),
  fc
    .array(
      fc.constantFrom(
        ...'on in the at of and or for then by ask from 1 to later day belt'.split(' '),
      ),
      { minLength: 1, maxLength: 4 },
    )
    .map((words) => words.join(' ')),
);
const someWords = (minLength: number) =>
  fc.uniqueArray(anyWords, { minLength, maxLength: 3, selector: (it) => it.toLowerCase() });
const anyQuestion = fc.oneof(
  fc.record({ asks: anyWords, kind: fc.constant('yesno') }),
  fc.record({ asks: anyWords, kind: fc.constant('number'), unit: fc.constantFrom('kg', 'a b') }),
  fc.record({ asks: anyWords, kind: fc.constant('scale'), to: fc.constantFrom(3, 5, 7, 10) }),
  fc.record({ asks: anyWords, kind: fc.constant('choice'), of: someWords(2) }),
  fc.record({ asks: anyWords, kind: fc.constant('text') }),
  fc.constant({ asks: 'how long it took', kind: 'minutes' }),
);
const numbered = (all: readonly object[]) => all.map((it, i) => ({ id: String(i + 1), ...it }));

const anyWhat = fc
  .record({
    importance: fc.constantFrom('high', 'normal', 'low'),
    tags: fc.option(someWords(1)),
    steps: fc.option(someWords(1)),
    questions: fc.option(fc.array(anyQuestion, { minLength: 1, maxLength: 3 })),
    window: fc.option(
      fc.constantFrom({ from: '06:30', to: '12:00' }, { from: '22:00', to: '00:00' }),
    ),
    slack: fc.option(
      fc.constantFrom({ before: 2, after: 1 }, { before: 1, after: 0 }, { before: 0, after: 60 }),
    ),
    then: fc.option(
      fc.record({ title: anyWords, after: fc.constantFrom('P3D', 'P1W', 'P1M', 'PT2H', 'P1M3D') }),
    ),
    takingUp: fc.boolean(),
  })
  .map(({ steps, questions, ...rest }) => ({
    ...rest,
    ...(steps ? { steps: numbered(steps.map((text) => ({ text }))) } : {}),
    ...(questions ? { questions: numbered(questions) } : {}),
  }));

const isQuota = (repeat: { by: string } | null) => repeat?.by === 'quota';

const anySeries = fc
  .record({
    title: anyTitle,
    start: anyDate,
    at: fc.option(fc.subarray(['00:00', '08:30', '13:00', '23:59'], { minLength: 1 })),
    repeat: fc.oneof(
      fc.constant(null),
      anyRule.map((rule) => ({ by: 'calendar', rule })),
      fc
        .constantFrom('P1D', 'P14D', 'P2W', 'P1M', 'P18M', 'P1Y', 'P1M3D', 'P1W3D', 'P2Y')
        .map((every) => ({ by: 'completion', every })),
      fc
        .constantFrom('P1D', 'P10D', 'P1W3D')
        .map((every) => ({ by: 'completion', every, workdays: true })),
      fc
        .record({
          every: fc.constantFrom('P14D', 'P2W', 'P1M'),
          onto: fc.constantFrom(
            'FREQ=WEEKLY;BYDAY=SA',
            'FREQ=WEEKLY;BYDAY=TU,TH',
            'FREQ=MONTHLY;BYDAY=1SA',
            'FREQ=MONTHLY;BYMONTHDAY=1,15',
          ),
        })
        .map((it) => ({ by: 'completion', ...it })),
      fc
        .record({
          workday: fc.constantFrom(1, 2, 5, 12, 21, -1, -2, -5, -12),
          per: fc.constantFrom('month', 'quarter', 'year'),
        })
        .map((it) => ({ by: 'calendar', ...it })),
      fc.integer({ min: 1, max: 40 }).map((n) => ({ by: 'calendar', everyWorkdays: n })),
      fc
        .record({
          times: fc.integer({ min: 1, max: 12 }),
          per: fc.constantFrom('day', 'week', 'month'),
        })
        .map((it) => ({ by: 'quota', ...it })),
      fc
        .uniqueArray(anyDate, { minLength: 2, maxLength: 5 })
        .map((dates) => ({ by: 'dates', dates: dates.sort() })),
      fc
        .record({
          rule: anyRule,
          days: fc.uniqueArray(fc.integer({ min: 0, max: 500 }), { minLength: 1, maxLength: 3 }),
          both: fc.boolean(),
        })
        .map(({ rule, days, both }) => ({ by: 'calendar', rule, days, both })),
    ),
    ends: fc.option(
      fc.oneof(
        fc.record({ after: fc.integer({ min: 1, max: 99 }) }),
        fc.constant({ on: '2031-05-31' }),
        fc.constant({ within: 'P6W' }),
      ),
    ),
    opensBefore: fc.option(fc.constantFrom('P3D', 'P2W')),
    late: fc.option(fc.constantFrom('wait', 'lapse')),
    grace: fc.option(fc.constantFrom('P2D', 'PT6H')),
    owe: fc.option(fc.constant('every')),
    closedDays: fc.constantFrom('keep', 'drop', 'before', 'after', 'nearest'),
    reminders: fc.option(fc.array(anyReminder, { minLength: 1, maxLength: 3 })),
    takes: fc.option(fc.constantFrom(30, 60, 90, 1, 6000)),
    what: anyWhat,
    place: fc.option(fc.constantFrom('Aboard', 'The yard', 'a “b” c', 'every day', 'b-c', 'é1')),
    pauses: fc.option(
      fc.constantFrom(
        [{ from: '2027-03-01', to: '2027-03-14' }],
        [
          { from: '2027-03-01', to: '2027-03-01' },
          { from: '2028-05-01', to: null },
        ],
      ),
    ),
  })
  .filter(({ title }) => title.trim() !== '')
  .map(
    ({
      at,
      ends,
      opensBefore,
      late,
      grace,
      owe,
      closedDays,
      repeat,
      reminders,
      takes,
      place,
      pauses,
      what,
      ...rest
    }) =>
      checkDefinition({
        ...rest,
        repeat: withEdits(repeat, rest.start),
        closedDays: isQuota(repeat)
          ? 'keep'
          : closedDays === 'drop' && (!repeat || repeat.by === 'completion')
            ? 'before'
            : closedDays,
        ...(at && !isQuota(repeat)
          ? { at: repeat?.by === 'completion' ? at.slice(0, 1) : at }
          : {}),
        ...(ends && repeat ? { ends } : {}),
        ...(opensBefore && !isQuota(repeat) ? { opensBefore } : {}),
        ...(late && !isQuota(repeat) ? { late } : {}),
        ...(late === 'lapse' && grace && !isQuota(repeat) ? { grace } : {}),
        ...(owe && !isQuota(repeat) ? { owe } : {}),
        ...(reminders ? { reminders: fewer(reminders, at) } : {}),
        ...(takes ? { takes } : {}),
        ...(place ? { place } : {}),
        ...(pauses ? { pauses } : {}),
        ...what,
        ...(what.takingUp && !repeat ? { takingUp: null } : {}),
      }),
  );

/** Several times a day are not said again and again (R19). */
const fewer = (reminders: Reminder[], at: readonly string[] | null) =>
  (at?.length ?? 0) > 1
    ? reminders.map(({ again: _again, ...rest }) => rest)
    : reminders.slice(0, 2);

test('reading back what was said gives the same definition, in both ways of saying it', () => {
  fc.assert(
    fc.property(anySeries, (series) => {
      for (const sentence of [say, typed]) {
        const once = read(sentence(series, TODAY), TODAY);
        expect(once.problems).toEqual([]);
        expect(once.notUnderstood).toEqual([]);
        expect(once.series).toEqual(series);
      }
    }),
    { numRuns: RUNS, seed: 11 },
  );
});

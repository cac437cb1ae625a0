import fc from 'fast-check';
import { formatInstant, parseInstant } from '../../calendar/zone.ts';
import { advance } from '../life/advance.ts';
import { begin } from '../life/begin.ts';
import { checkSeries } from '../../definition/check.ts';
import { rehearse, type Rehearsal, type RehearsalStep } from '../life/rehearse.ts';
import type { Reminder } from './reminders.ts';
import {
  comingReminders,
  hasReminders,
  newestRemindersIn,
  nextReminderAt,
  remindersIn,
} from './reminding.ts';
import type { Settings } from '../person/settings.ts';
import { plannerOf } from '../plan/planner.ts';

// Each moment was computed by hand from R17 and the calendar; clock changes are those of the tz
// data: Europe/London 2027-03-28 and 2027-10-31, America/New_York 2027-03-14 and 2027-11-07.

interface Life {
  series: Record<string, unknown>;
  reminders: Reminder[];
  settings?: Partial<Settings>;
  steps?: RehearsalStep[];
  until: string;
}

/** What was said, as instants without their seconds. */
function said({ series, reminders, settings, steps, until }: Life): string[] {
  const start = [{ at: '2027-06-01T06:00:00Z', do: 'tally' } as const];
  const it: Rehearsal = {
    series: { title: 'Send the log', ...series, reminders },
    settings: settings ?? {},
    // A step that finds nothing to do is ignored: it says since when the to-do has been there.
    made: (steps ?? start)[0]!.at,
    steps: steps ?? start,
    until,
  };
  return rehearse(it).reminders.map(({ at }) => at.slice(0, 16));
}

const once = (start: string, at?: string) => ({ start, repeat: null, ...(at ? { at: [at] } : {}) });
const rule = (text: string, start: string) => ({ start, repeat: { by: 'calendar', rule: text } });
const since = (at: string, ...more: RehearsalStep[]): RehearsalStep[] => [
  { at, do: 'tally', slot: '1999-01-01' },
  ...more,
];
const JUNE = since('2027-06-01T06:00:00Z');

test.each<[string, Life, string[]]>([
  [
    'whole days before: at its time',
    {
      series: once('2027-06-12'),
      reminders: [{ before: 'P2D', at: '18:00' }],
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-10T18:00'],
  ],
  [
    'whole days before, without a time: at the person’s hour',
    {
      series: once('2027-06-12', '13:00'),
      reminders: [{ before: 'P1W' }, {}],
      settings: { remindAt: '08:30' },
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-05T08:30', '2027-06-12T08:30'],
  ],
  [
    'hours before: from the due time, and without one from the person’s hour on the due day',
    {
      series: once('2027-06-12', '13:00'),
      reminders: [{ before: 'PT2H' }],
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T11:00'],
  ],
  [
    'hours before a due day alone',
    {
      series: once('2027-06-12'),
      reminders: [{ before: 'PT3H' }],
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T06:00'],
  ],
  [
    'when it opens, and none before the to-do was there',
    {
      series: { ...once('2027-06-12'), opensBefore: 'P5D' },
      reminders: [{ of: 'opens', at: '10:00' }, { before: 'P1M' }],
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-07T10:00'],
  ],
  [
    'quiet hours over midnight: it waits until they end',
    {
      series: once('2027-06-12', '07:00'),
      reminders: [{ before: 'PT1H' }, { before: 'P1D', at: '23:15' }, { at: '21:59' }],
      settings: { quiet: { from: '22:00', to: '07:00' } },
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    // Both of the first two wait until seven on the 12th, and are said once.
    ['2027-06-12T07:00', '2027-06-12T21:59'],
  ],
  [
    'quiet hours within a day',
    {
      series: once('2027-06-12'),
      reminders: [{ at: '13:00' }],
      settings: { quiet: { from: '12:00', to: '14:30' } },
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T14:30'],
  ],
  [
    'none for a time that is done, skipped or missed',
    {
      series: rule('FREQ=WEEKLY;BYDAY=SA', '2027-06-05'),
      reminders: [{ at: '18:00' }],
      steps: since(
        '2027-06-01T06:00:00Z',
        { at: '2027-06-05T12:00:00Z', do: 'done' },
        { at: '2027-06-12T12:00:00Z', do: 'skip' },
        { at: '2027-06-17T12:00:00Z', do: 'done', slot: '2027-06-19' },
      ),
      until: '2027-06-27T00:00:00Z',
    },
    ['2027-06-26T18:00'],
  ],
  [
    'put off: nothing until then, then once, then as before',
    {
      series: once('2027-06-12'),
      reminders: [{ at: '09:00', again: { every: 'PT1H', atMost: 6 } }],
      steps: since('2027-06-01T06:00:00Z', {
        at: '2027-06-12T09:05:00Z',
        do: 'later',
        to: '2027-06-12T12:20:00Z',
      }),
      until: '2027-06-20T00:00:00Z',
    },
    [
      '2027-06-12T09:00',
      '2027-06-12T12:20',
      '2027-06-12T13:00',
      '2027-06-12T14:00',
      '2027-06-12T15:00',
    ],
  ],
  [
    'put off into the quiet hours: it waits until they end; put off once more, the later one holds',
    {
      series: once('2027-06-12'),
      reminders: [{ at: '20:00' }],
      settings: { quiet: { from: '22:00', to: '07:00' } },
      steps: since(
        '2027-06-01T06:00:00Z',
        { at: '2027-06-12T20:01:00Z', do: 'later', to: '2027-06-12T21:00:00Z' },
        { at: '2027-06-12T20:02:00Z', do: 'later', to: '2027-06-12T23:00:00Z' },
      ),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T20:00', '2027-06-13T07:00'],
  ],
  [
    'put off before it has opened; done or moved, what was put off is gone',
    {
      series: rule('FREQ=WEEKLY;BYDAY=SA', '2027-06-05'),
      reminders: [{ before: 'P2D', at: '18:00' }],
      steps: since(
        '2027-06-01T06:00:00Z',
        { at: '2027-06-03T18:10:00Z', do: 'later', slot: '2027-06-05', to: '2027-06-04T09:00:00Z' },
        { at: '2027-06-05T10:00:00Z', do: 'later', slot: '2027-06-05', to: '2027-06-05T15:00:00Z' },
        { at: '2027-06-05T12:00:00Z', do: 'done' },
        { at: '2027-06-12T10:00:00Z', do: 'later', slot: '2027-06-12', to: '2027-06-12T15:00:00Z' },
        { at: '2027-06-12T12:00:00Z', do: 'move', plan: '2027-06-13' },
      ),
      until: '2027-06-16T00:00:00Z',
    },
    ['2027-06-03T18:00', '2027-06-04T09:00', '2027-06-10T18:00'],
  ],
  [
    'a putting off that was undone',
    {
      series: once('2027-06-12'),
      reminders: [{ at: '09:00', again: { every: 'PT2H', atMost: 1 } }],
      steps: since(
        '2027-06-01T06:00:00Z',
        { at: '2027-06-12T09:05:00Z', do: 'later', to: '2027-06-12T18:00:00Z' },
        { at: '2027-06-12T09:06:00Z', do: 'undo' },
      ),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T09:00', '2027-06-12T11:00'],
  ],
  [
    'a time that moved takes its reminder along',
    {
      series: { ...once('2027-06-12'), opensBefore: 'P5D' },
      reminders: [{ before: 'P1D', at: '18:00' }],
      steps: since('2027-06-01T06:00:00Z', {
        at: '2027-06-10T12:00:00Z',
        do: 'move',
        due: '2027-06-15',
      }),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-14T18:00'],
  ],
  [
    'held in a pause it is not said',
    {
      series: { ...once('2027-06-12'), opensBefore: 'P10D' },
      reminders: [{ before: 'P1D' }, { at: '18:00' }],
      steps: since(
        '2027-06-01T06:00:00Z',
        { at: '2027-06-10T12:00:00Z', do: 'pause' },
        { at: '2027-06-12T12:00:00Z', do: 'resume' },
      ),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T18:00'],
  ],
  [
    'again until it is done, at most so often',
    {
      series: once('2027-06-12'),
      reminders: [{ again: { every: 'PT2H', atMost: 3 } }],
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T09:00', '2027-06-12T11:00', '2027-06-12T13:00', '2027-06-12T15:00'],
  ],
  [
    'again, but not once it is done',
    {
      series: once('2027-06-12'),
      reminders: [{ again: { every: 'PT2H', atMost: 3 } }],
      steps: since('2027-06-01T06:00:00Z', { at: '2027-06-12T12:00:00Z', do: 'done' }),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T09:00', '2027-06-12T11:00'],
  ],
  [
    'again by days, over quiet hours',
    {
      series: once('2027-06-12'),
      reminders: [{ at: '21:00', again: { every: 'PT2H', atMost: 2 } }],
      settings: { quiet: { from: '22:00', to: '07:00' } },
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    // 23:00 and 01:00 both wait until seven: the newest of them is said.
    ['2027-06-12T21:00', '2027-06-13T07:00'],
  ],
  [
    'a roll does not renew what is said of the planned day; a move does',
    {
      series: once('2027-06-12'),
      reminders: [{ of: 'plan', at: '10:00' }],
      steps: since('2027-06-01T06:00:00Z', {
        at: '2027-06-14T12:00:00Z',
        do: 'move',
        plan: '2027-06-16',
      }),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T10:00', '2027-06-16T10:00'],
  ],
  [
    'after I finish: the next is reminded of once it is known, and not before',
    {
      series: { start: '2027-06-02', repeat: { by: 'completion', every: 'P14D' } },
      reminders: [{ before: 'P3D' }],
      steps: since('2027-06-01T06:00:00Z', { at: '2027-06-05T12:00:00Z', do: 'done' }),
      until: '2027-06-30T00:00:00Z',
    },
    // Due on the 19th.
    ['2027-06-16T09:00'],
  ],
  [
    'several a day: hours before count from each one, the day it opens has the person’s hour',
    {
      series: { ...rule('FREQ=DAILY', '2027-06-12'), at: ['08:00', '20:00'], ends: { after: 2 } },
      reminders: [{ before: 'PT30M' }, { of: 'opens' }],
      steps: JUNE,
      until: '2027-06-13T00:00:00Z',
    },
    ['2027-06-12T07:30', '2027-06-12T09:00', '2027-06-12T09:00', '2027-06-12T19:30'],
  ],
  [
    'the day begins at four: two at night is of the day before',
    {
      series: once('2027-06-12'),
      reminders: [{ at: '02:00' }],
      settings: { dayStart: '04:00' },
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-13T02:00'],
  ],
  [
    'so many times a week: before the week ends',
    {
      series: { start: '2027-06-07', repeat: { by: 'quota', times: 2, per: 'week' } },
      reminders: [{ before: 'P1D', at: '18:00' }],
      steps: JUNE,
      until: '2027-06-14T00:00:00Z',
    },
    ['2027-06-12T18:00'],
  ],
  [
    'the last such weekday before: never the day itself',
    {
      series: rule('FREQ=WEEKLY;BYDAY=SA;COUNT=2', '2027-06-12'),
      reminders: [{ on: 'FR', at: '18:00' }, { on: 'SA' }],
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-05T09:00', '2027-06-11T18:00', '2027-06-12T09:00', '2027-06-18T18:00'],
  ],
  [
    'no days before is the day itself',
    {
      series: once('2027-06-12'),
      reminders: [{ before: 'P0D', at: '08:00' }, { before: 'P0D' }],
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T08:00', '2027-06-12T09:00'],
  ],
  [
    'a moment before there was the time is left out, though quiet hours end after it',
    {
      series: once('2027-06-12', '07:30'),
      reminders: [{ before: 'PT8H30M', again: { every: 'PT1H', atMost: 2 } }],
      settings: { quiet: { from: '22:00', to: '07:00' } },
      // Set for 23:00, 00:00 and 01:00: made between the last two, or after all.
      steps: since('2027-06-12T00:30:00Z'),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T07:00'],
  ],
  [
    'nothing where all were set before there was the time',
    {
      series: once('2027-06-12', '07:30'),
      reminders: [{ before: 'PT8H30M', again: { every: 'PT1H', atMost: 2 } }],
      settings: { quiet: { from: '22:00', to: '07:00' } },
      steps: since('2027-06-12T01:30:00Z'),
      until: '2027-06-20T00:00:00Z',
    },
    [],
  ],
  [
    'set for the very moment at which it is made: that is not before',
    {
      series: once('2027-06-12'),
      reminders: [{}],
      steps: since('2027-06-12T09:00:00Z'),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T09:00'],
  ],
  [
    'hours before the planned day: from its hour, or else from the person’s',
    {
      series: once('2027-06-12', '20:00'),
      reminders: [{ before: 'PT2H', of: 'plan' }],
      steps: since('2027-06-01T06:00:00Z', {
        at: '2027-06-12T10:00:00Z',
        do: 'move',
        plan: '2027-06-13T15:00',
      }),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T07:00', '2027-06-13T13:00'],
  ],
  [
    'hours before the day it opens: from the person’s hour',
    {
      series: { ...once('2027-06-12', '20:00'), opensBefore: 'P2D' },
      reminders: [{ before: 'PT1H', of: 'opens' }],
      steps: JUNE,
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-10T08:00'],
  ],
  [
    'moved within its day: the base is the day, and it was said of it',
    {
      series: once('2027-06-12', '12:00'),
      reminders: [{ before: 'PT2H' }],
      steps: since('2027-06-01T06:00:00Z', {
        at: '2027-06-12T11:00:00Z',
        do: 'move',
        due: '2027-06-12T18:00',
      }),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T10:00'],
  ],
  [
    'moved to another day and back: said again, once for each day',
    {
      series: once('2027-06-12'),
      reminders: [{ at: '18:00' }],
      steps: since(
        '2027-06-01T06:00:00Z',
        { at: '2027-06-12T19:00:00Z', do: 'move', due: '2027-06-14' },
        { at: '2027-06-14T19:00:00Z', do: 'move', due: '2027-06-12' },
      ),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-12T18:00', '2027-06-14T18:00'],
  ],
  [
    'what an earlier finish puts into the past is not made up for',
    {
      series: { start: '2027-06-02', repeat: { by: 'completion', every: 'P14D' } },
      reminders: [{ before: 'P3D' }, {}],
      // Finished on the 3rd, as is entered on the 15th: due on the 17th, so that the 14th has gone by.
      steps: since('2027-06-01T12:00:00Z', {
        at: '2027-06-15T12:00:00Z',
        do: 'done',
        when: '2027-06-03T12:00:00Z',
      }),
      until: '2027-06-18T00:00:00Z',
    },
    ['2027-06-02T09:00', '2027-06-17T09:00'],
  ],
  [
    'what an undo puts into the past is not made up for, and what was said stays said',
    {
      series: once('2027-06-12'),
      reminders: [{}],
      steps: since(
        '2027-06-01T06:00:00Z',
        { at: '2027-06-11T12:00:00Z', do: 'move', slot: '2027-06-12', due: '2027-06-14' },
        { at: '2027-06-13T12:00:00Z', do: 'undo' },
      ),
      until: '2027-06-20T00:00:00Z',
    },
    [],
  ],
  [
    'in a pause nothing is said, of one to come after it neither',
    {
      series: rule('FREQ=WEEKLY;BYDAY=SA', '2027-06-05'),
      reminders: [{ before: 'P2D' }, { at: '18:00' }],
      steps: since('2027-06-01T06:00:00Z', {
        at: '2027-06-06T06:00:00Z',
        do: 'pause',
        to: '2027-06-17',
      } as RehearsalStep),
      until: '2027-06-20T00:00:00Z',
    },
    // The pause ends when it is resumed: here it does not.
    ['2027-06-03T09:00', '2027-06-05T18:00'],
  ],
  [
    'the same distance in other words is the same reminder, another hour is another one',
    {
      series: { ...once('2027-06-12'), opensBefore: 'P10D' },
      reminders: [{ before: 'P1W', again: { every: 'P1D', atMost: 1 } }],
      steps: since(
        '2027-06-01T06:00:00Z',
        // Said on the 5th; the same, and once more the day after, at a new hour.
        {
          at: '2027-06-05T12:00:00Z',
          do: 'change',
          series: { reminders: [{ before: 'P7D', again: { every: 'PT5H', atMost: 1 } }] },
        },
        {
          at: '2027-06-05T15:00:00Z',
          do: 'change',
          series: { reminders: [{ before: 'P7D', at: '16:00' }] },
        },
      ),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-05T09:00', '2027-06-05T14:00', '2027-06-05T16:00'],
  ],
  [
    'a changed definition: its own reminders from this time on',
    {
      series: rule('FREQ=WEEKLY;BYDAY=SA', '2027-06-05'),
      reminders: [{ at: '18:00' }],
      steps: since('2027-06-01T06:00:00Z', {
        at: '2027-06-06T12:00:00Z',
        do: 'change',
        slot: '2027-06-12',
        series: { reminders: [{ before: 'P1D', at: '08:00' }] },
      }),
      until: '2027-06-20T00:00:00Z',
    },
    ['2027-06-05T18:00', '2027-06-11T08:00', '2027-06-18T08:00'],
  ],
])('%s', (_name, life, wanted) => expect(said(life)).toEqual(wanted));

describe('clock changes', () => {
  const daily = (start: string, until: string, reminders: Reminder[], zone: string, at?: string) =>
    said({
      series: { ...rule('FREQ=DAILY', start), ...(at ? { at: [at] } : {}) },
      reminders,
      settings: { zone },
      steps: since(`${start}T05:00:00Z`),
      until,
    });

  test.each<[string, string[], string[]]>([
    [
      'Europe/London, March',
      daily('2027-03-27', '2027-03-29T23:00:00Z', [{ at: '09:00' }], 'Europe/London'),
      ['2027-03-27T09:00', '2027-03-28T08:00', '2027-03-29T08:00'],
    ],
    [
      'Europe/London, October',
      daily('2027-10-30', '2027-11-01T23:00:00Z', [{ at: '09:00' }], 'Europe/London'),
      ['2027-10-30T08:00', '2027-10-31T09:00', '2027-11-01T09:00'],
    ],
    [
      'America/New_York, March',
      daily('2027-03-13', '2027-03-15T23:00:00Z', [{ at: '09:00' }], 'America/New_York'),
      ['2027-03-13T14:00', '2027-03-14T13:00', '2027-03-15T13:00'],
    ],
    [
      'America/New_York, November',
      daily('2027-11-06', '2027-11-08T23:00:00Z', [{ at: '09:00' }], 'America/New_York'),
      ['2027-11-06T13:00', '2027-11-07T14:00', '2027-11-08T14:00'],
    ],
    [
      'a time that the clock skips is moved forward by the gap (R16)',
      daily('2027-03-27', '2027-03-29T00:00:00Z', [{ at: '01:30' }], 'Europe/London'),
      ['2027-03-28T01:30'],
    ],
    [
      'one that comes twice is the first (R16)',
      daily('2027-10-30', '2027-11-01T00:00:00Z', [{ at: '01:30' }], 'Europe/London'),
      ['2027-10-31T00:30'],
    ],
    [
      'hours before count through the change: two before 03:00 is 00:00',
      daily('2027-03-28', '2027-03-28T23:00:00Z', [{ before: 'PT2H' }], 'Europe/London', '13:00'),
      ['2027-03-28T10:00'],
    ],
  ])('%s', (_name, found, wanted) => expect(found).toEqual(wanted));
});

const anyReminder: fc.Arbitrary<Reminder> = fc
  .record({
    before: fc.option(fc.constantFrom('P1D', 'P3D', 'P2W', 'PT30M', 'PT5H', 'PT40H')),
    at: fc.option(fc.constantFrom('00:00', '06:30', '09:00', '23:30')),
    of: fc.constantFrom('due', 'plan', 'opens'),
    again: fc.option(
      fc.record({
        every: fc.constantFrom('PT1H', 'PT7H', 'P1D'),
        atMost: fc.integer({ min: 1, max: 4 }),
      }),
    ),
  })
  .map(({ before, at, of, again }) => ({
    of,
    ...(before ? { before } : {}),
    ...(at && !before?.startsWith('PT') ? { at } : {}),
    ...(again ? { again } : {}),
  }));

const anySeries = fc.constantFrom<Record<string, unknown>>(
  rule('FREQ=DAILY', '2027-03-20'),
  { ...rule('FREQ=DAILY', '2027-03-20'), at: ['02:30', '08:00', '22:30'] },
  { ...rule('FREQ=WEEKLY;BYDAY=TU,SU', '2027-03-20'), opensBefore: 'P3D', owe: 'every' },
  { ...rule('FREQ=DAILY;INTERVAL=3', '2027-03-20'), late: 'lapse', grace: 'PT6H' },
  { start: '2027-03-20', repeat: { by: 'completion', every: 'P4D' }, at: ['07:15'] },
  { start: '2027-03-20', repeat: { by: 'completion', every: 'PT30H' } },
  { start: '2027-03-20', repeat: { by: 'quota', times: 2, per: 'week' } },
  { ...once('2027-03-27', '18:00'), late: 'wait' },
);
const BORN = parseInstant('2027-03-19T10:00:00Z');
const anyStep = fc.record({
  hours: fc.integer({ min: 1, max: 16 * 24 }),
  do: fc.constantFrom('done', 'skip', 'move', 'pause', 'resume', 'undo', 'tally', 'later'),
  days: fc.integer({ min: -2, max: 6 }),
});
const anyQuiet = fc.option(
  fc.constantFrom({ from: '22:00', to: '07:00' }, { from: '01:00', to: '02:30' }),
);
const HOUR = 3_600_000;

test('whatever happens: never in quiet hours, never after its end, never twice, never before it was set', () => {
  fc.assert(
    fc.property(
      anySeries,
      fc.array(anyReminder, { minLength: 1, maxLength: 3 }),
      fc.array(anyStep, { maxLength: 6 }),
      anyQuiet,
      fc.constantFrom('Europe/London', 'America/New_York'),
      (series, reminders, chosen, quiet, zone) => {
        const settings = { zone, ...(quiet ? { quiet } : {}) };
        const steps = [...chosen]
          .sort((a, b) => a.hours - b.hours)
          .map(({ hours, do: deed, days }): RehearsalStep => {
            const at = formatInstant(BORN + hours * HOUR);
            const day = formatInstant(BORN + (hours + days * 24) * HOUR).slice(0, 10);
            const to = formatInstant(BORN + (hours + 5 * (days + 3)) * HOUR);
            return {
              at,
              do: deed,
              ...(deed === 'move' ? { due: day } : deed === 'later' ? { to } : {}),
            };
          });
        const until = '2027-04-05T00:00:00Z';
        const life = {
          series: { title: 'Send the log', ...series, reminders },
          settings,
          made: formatInstant(BORN),
          steps: since(formatInstant(BORN), ...steps),
          until,
        };
        const { reminders: all } = rehearse(life);
        const keys = all.map(({ slot, at }) => `${slot} ${at}`);
        expect(keys).toEqual([...new Set(keys)]);
        expect(all.map(({ at }) => at)).toEqual(all.map(({ at }) => at).sort());
        const clock = new Intl.DateTimeFormat('en-GB', {
          timeZone: zone,
          hour: '2-digit',
          minute: '2-digit',
          hourCycle: 'h23',
        });
        // Put off by the last step, nothing is said of that time until then.
        const last = life.steps.at(-1)!;
        if (last.do === 'later') {
          const { times } = rehearse({ ...life, until: last.at, steps: life.steps.slice(0, -1) });
          const putOff = times.find(({ status }) => status === 'open')?.slot;
          const silent = all.filter(
            ({ slot, at }) => slot === putOff && at > last.at && at < last.to!,
          );
          expect(silent).toEqual([]);
        }
        for (const [i, { slot, at }] of all.entries()) {
          expect(parseInstant(at)).toBeGreaterThan(BORN);
          const now = clock.format(parseInstant(at));
          if (quiet && quiet.from > quiet.to)
            expect(now >= quiet.from || now < quiet.to).toBe(false);
          else if (quiet) expect(now >= quiet.from && now < quiet.to).toBe(false);
          if (i % Math.ceil(all.length / 3)) continue;
          // As it stood at that very instant, the time had not ended.
          const stood = rehearse({
            ...life,
            until: at,
            steps: life.steps.filter((s) => s.at <= at),
          });
          const named = stood.times.filter((time) => time.slot === slot);
          expect(named.every(({ status }) => status !== 'open') && named.length > 0).toBe(false);
        }
        // Said the same when it is looked at in between.
        const half = rehearse({ ...life, until: '2027-03-28T12:00:00Z' });
        expect(all.slice(0, half.reminders.length)).toEqual(half.reminders);
      },
    ),
    { numRuns: 40, seed: 18 },
  );
});

describe('for who delivers them', () => {
  const settings: Settings = { zone: 'Europe/London', dayStart: '00:00', weekStart: 'MO' };
  const planner = plannerOf(settings);
  const from = parseInstant('2027-06-01T06:00:00Z');
  const until = parseInstant('2027-07-01T00:00:00Z');
  const begun = (series: object) =>
    advance(planner, begin(planner, checkSeries({ title: 'Send the log', ...series }), from), from)
      .progress;

  test('the next moment is the first of all that come', () => {
    for (const series of [
      { ...rule('FREQ=WEEKLY;BYDAY=SA', '2027-06-05'), closedDays: 'before' },
      { ...rule('FREQ=DAILY;INTERVAL=9', '2027-06-05'), at: ['08:00', '20:00'] },
      { start: '2027-06-20', repeat: { by: 'completion', every: 'P4D' } },
      once('2027-06-30'),
    ]) {
      const reminders = [{ before: 'P2D', at: '18:00' }, { before: 'PT3H' }];
      const progress = begun({ ...series, reminders });
      const all = remindersIn(planner, progress, settings, from, until);
      expect(all.length).toBeGreaterThan(0);
      let after = from;
      for (const at of new Set(all.map((it) => it.at))) {
        expect(nextReminderAt(planner, progress, settings, after)).toBe(at);
        after = at;
      }
    }
    const silent = begun(rule('FREQ=DAILY', '2027-06-05'));
    expect(hasReminders(silent)).toBe(false);
    expect(nextReminderAt(planner, silent, settings, from)).toBeNull();
    expect(remindersIn(planner, silent, settings, from, until)).toEqual([]);
  });

  test('asked for in two windows or in one, there is the same to say, each by its key once', () => {
    fc.assert(
      fc.property(
        anySeries,
        fc.array(anyReminder, { minLength: 1, maxLength: 3 }),
        anyQuiet,
        fc.array(fc.integer({ min: 0, max: 40 * 24 }), { minLength: 1, maxLength: 4 }),
        (series, reminders, quiet, cuts) => {
          const hours = quiet ? { quiet } : {};
          const start = checkSeries({ title: 'Send the log', ...series, reminders });
          const { progress } = advance(planner, begin(planner, start, BORN), BORN);
          const end = BORN + 40 * 24 * HOUR;
          const whole = remindersIn(planner, progress, hours, BORN, end);
          const edges = [BORN, ...cuts.sort((a, b) => a - b).map((n) => BORN + n * HOUR), end];
          const parts = edges
            .slice(1)
            .flatMap((edge, i) => remindersIn(planner, progress, hours, edges[i]!, edge));
          expect(parts).toEqual(whole);
          expect(new Set(whole.map(({ key }) => key)).size).toBe(whole.length);
          for (const edge of edges.slice(0, -1)) {
            const next = whole.find(({ at }) => at > edge)?.at ?? null;
            const found = nextReminderAt(planner, progress, hours, edge);
            if (next !== null || (found !== null && found <= end)) expect(found).toBe(next);
          }
        },
      ),
      { numRuns: 150, seed: 17 },
    );
  });

  test('the next so many, and each with a key of its own that outlives the opening of its time', () => {
    const reminders = [{ before: 'P2D', at: '18:00' }, { again: { every: 'PT3H', atMost: 2 } }];
    const progress = begun({ ...rule('FREQ=WEEKLY;BYDAY=SA', '2027-06-05'), reminders });
    const next = comingReminders(planner, progress, settings, from, 6);
    expect(next.map(({ at }) => formatInstant(at).slice(5, 16))).toEqual([
      '06-03T17:00',
      '06-05T08:00',
      '06-05T11:00',
      '06-05T14:00',
      '06-10T17:00',
      '06-12T08:00',
    ]);
    const keys = new Set(next.map(({ key }) => key));
    expect(keys.size).toBe(6);
    const day = parseInstant('2027-06-05T07:00:00Z');
    const opened = advance(planner, progress, day).progress;
    const [first] = comingReminders(planner, opened, settings, day, 1);
    expect(first).toMatchObject({ number: 1, key: next[1]!.key });
    const silent = begun(rule('FREQ=DAILY', '2027-06-05'));
    expect(comingReminders(planner, silent, settings, from, 3)).toEqual([]);
  });

  test('a reminder with another hour is another one; without a time it is the same at a new hour', () => {
    const keyOf = (reminder: Reminder, remindAt: string) => {
      const progress = begun({ ...once('2027-06-12'), reminders: [reminder] });
      return remindersIn(planner, progress, { remindAt }, from, until)[0]!.key;
    };
    expect(keyOf({ at: '18:00' }, '09:00')).not.toBe(keyOf({ at: '19:00' }, '09:00'));
    expect(keyOf({}, '09:00')).toBe(keyOf({}, '10:00'));
  });

  test('after an outage each time has its newest one', () => {
    const reminders = [{ before: 'P2D' }, { before: 'P1D' }, { at: '18:00', channel: 'email' }];
    const progress = begun({ ...once('2027-06-12'), reminders });
    const all = remindersIn(planner, progress, settings, from, until);
    expect(all).toHaveLength(3);
    const newest = newestRemindersIn(planner, progress, settings, from, until);
    expect(newest.map(({ at, channel }) => [formatInstant(at), channel])).toEqual([
      ['2027-06-11T08:00:00Z', undefined],
      ['2027-06-12T17:00:00Z', 'email'],
    ]);
  });
});

import type { TodoState } from '@back-again/contract';
import { NO_DETAILS, begin, checkSeries, pass, parseInstant, plannerOf } from '@back-again/core';
import { moveTo, type Standing } from './moving.ts';

// What letting a time go over a day would do, on Wednesday 9 June 2027; by hand.

const SETTINGS = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO' } as const;
const planner = plannerOf(SETTINGS);
const NOW = parseInstant('2027-06-09T10:00:00Z');
const WHERE = { planner, now: NOW, today: '2027-06-09', settings: SETTINGS };

function todo(series: object): TodoState {
  const made = NOW - 86_400_000;
  const { progress } = pass(
    planner,
    begin(planner, checkSeries({ title: 'a', ...series }), made),
    NOW,
  );
  const details = { ...NO_DETAILS, title: 'Check the bilge' };
  return { id: 'a', made, progress, details, version: 1, lately: [] } as unknown as TodoState;
}

const entry = (more: Partial<Standing> = {}): Standing => ({
  todo: 'a',
  slot: '2027-06-11',
  number: null,
  nth: null,
  kind: 'firm',
  day: '2027-06-11',
  at: null,
  due: '2027-06-11',
  once: false,
  byHand: false,
  takes: null,
  ...more,
});
const rule = (text: string, more: object = {}) => ({
  start: '2027-06-11',
  repeat: { by: 'calendar', rule: text },
  ...more,
});
const FRIDAYS = rule('FREQ=WEEKLY;BYDAY=FR');
const QUOTA = { start: '2027-06-07', repeat: { by: 'quota', times: 2, per: 'week' } };

test.each<[string, object, Standing, { day: string; at?: string }, object | null]>([
  [
    'to another day: it stays due',
    FRIDAYS,
    entry(),
    { day: '2027-06-12' },
    {
      words: 'this time only, to Sat 12 Jun; it stays due Fri 11 Jun',
      draft: { do: 'move', todo: 'a', slot: '2027-06-11', plan: '2027-06-12' },
    },
  ],
  [
    'onto an hour of a ruler',
    FRIDAYS,
    entry(),
    { day: '2027-06-12', at: '15:30' },
    {
      words: 'this time only, to Sat 12 Jun, 15:30; it stays due Fri 11 Jun',
      draft: { do: 'move', todo: 'a', slot: '2027-06-11', plan: '2027-06-12T15:30' },
    },
  ],
  [
    'its hour goes along',
    FRIDAYS,
    entry({ at: '18:00' }),
    { day: '2027-06-12' },
    { draft: { do: 'move', todo: 'a', slot: '2027-06-11', plan: '2027-06-12T18:00' } },
  ],
  [
    'one that comes once alone',
    { start: '2027-06-11', repeat: null },
    entry({ once: true }),
    { day: '2027-06-10' },
    { words: 'to Thu 10 Jun; it stays due Fri 11 Jun' },
  ],
  [
    'one without a day, from the margin',
    { start: null, repeat: null },
    entry({ slot: 'undated', day: null, due: null, once: true, kind: 'open', number: 1 }),
    { day: '2027-06-10' },
    {
      words: 'to Thu 10 Jun',
      draft: { do: 'move', todo: 'a', slot: 'undated', plan: '2027-06-10' },
    },
  ],
  ['onto the day where it stands already', FRIDAYS, entry(), { day: '2027-06-11' }, null],
  [
    'onto a day before today',
    FRIDAYS,
    entry(),
    { day: '2027-06-08' },
    { refused: 'Tue 8 Jun has gone by.' },
  ],
  [
    'into a pause',
    rule('FREQ=WEEKLY;BYDAY=FR', { pauses: [{ from: '2027-06-14', to: '2027-06-20' }] }),
    entry(),
    { day: '2027-06-15' },
    { refused: 'It is paused on Tue 15 Jun.' },
  ],
  [
    'past its end',
    rule('FREQ=WEEKLY;BYDAY=FR', { ends: { on: '2027-06-12' } }),
    entry(),
    { day: '2027-06-13' },
    { refused: 'It ends on Sat 12 Jun.' },
  ],
  [
    'an expected one that hangs on the one before',
    { start: '2027-06-08', repeat: { by: 'completion', every: 'P3D' } },
    entry({ kind: 'expected', slot: '2027-06-14', day: '2027-06-14', due: '2027-06-14' }),
    { day: '2027-06-13' },
    { refused: 'When it comes hangs on the one before: move that one.' },
  ],
  [
    'one of so many a week: the others stay where they stand',
    QUOTA,
    entry({ slot: '2027-06-07', nth: 0, day: '2027-06-12', due: '2027-06-13' }),
    { day: '2027-06-10' },
    {
      words: 'this time only, to Thu 10 Jun',
      draft: { do: 'move', todo: 'a', slot: '2027-06-07', days: ['2027-06-10', '2027-06-13'] },
    },
  ],
  [
    'out of its week',
    QUOTA,
    entry({ slot: '2027-06-07', nth: 0, day: '2027-06-12', due: '2027-06-13' }),
    { day: '2027-06-14' },
    { refused: 'It belongs to its week.' },
  ],
  [
    'onto the day of another of its week',
    QUOTA,
    entry({ slot: '2027-06-07', nth: 0, day: '2027-06-12', due: '2027-06-13' }),
    { day: '2027-06-13' },
    { refused: 'It stands on Sun 13 Jun already.' },
  ],
])('%s', (_name, series, it, to, wanted) => {
  const others = it.nth === null ? [] : ['2027-06-13'];
  const move = moveTo({ entry: it, todo: todo(series), others }, to, WHERE);
  if (wanted === null) expect(move).toBeNull();
  else expect(move).toMatchObject(wanted);
});

import { checkSeries } from '../../definition/check.ts';
import { checkSettings } from '../person/settings.ts';
import { plannerOf } from '../plan/planner.ts';
import { afterMove } from './afterMove.ts';
import { advance } from './advance.ts';
import { begin } from './begin.ts';

const planner = plannerOf(checkSettings());
const NOW = Date.parse('2027-06-01T10:00Z');
/** What comes of moving the time of 1 June, a Tuesday. */
const moved = (parts: object, plan: string) => {
  const series = checkSeries({ title: 'Weigh the hives', start: '2027-06-01', ...parts });
  const { progress } = advance(planner, begin(planner, series, NOW), NOW);
  return afterMove(planner, progress, { slot: progress.open[0]!.slot, plan }, NOW);
};
const WEEKLY = { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY' } };

test.each([
  ['before the next one comes', WEEKLY, '2027-06-07', null],
  ['onto the day of the next one', WEEKLY, '2027-06-08', { next: '2027-06-08', becomes: 'missed' }],
  ['beyond it', WEEKLY, '2027-06-10', { next: '2027-06-08', becomes: 'missed' }],
  [
    'where each one is owed',
    { ...WEEKLY, owe: 'every' },
    '2027-06-08',
    { next: '2027-06-08', becomes: 'both' },
  ],
  ['after I finish', { repeat: { by: 'completion', every: 'P3D' } }, '2027-06-20', null],
  ['once', { repeat: null }, '2027-06-20', null],
  [
    'several a day, onto the next day',
    { ...WEEKLY, at: ['08:00'], repeat: { by: 'calendar', rule: 'FREQ=DAILY' } },
    '2027-06-02',
    { next: '2027-06-02', becomes: 'missed' },
  ],
])('%s', (_name, parts, plan, expected) => expect(moved(parts, plan)).toEqual(expected));

test('of a time that is not open nothing is said', () => {
  const series = checkSeries({ title: 'Weigh the hives', start: '2027-06-01', ...WEEKLY });
  const { progress } = advance(planner, begin(planner, series, NOW), NOW);
  expect(afterMove(planner, progress, { slot: '2027-06-08', plan: '2027-06-15' }, NOW)).toBeNull();
});

import { parseDay } from '../calendar/day.ts';
import { checkSeries } from '../definition/check.ts';
import { DEFAULT_SETTINGS } from '../series/person/settings.ts';
import { plannerOf } from '../series/plan/planner.ts';
import { withInterval } from './instead.ts';
import { replay } from './replay.ts';

// How it would have come back, done on the days on which it was: by hand.

const planner = plannerOf(DEFAULT_SETTINGS, []);
const DONE = ['2027-01-01', '2027-01-25', '2027-02-19', '2027-03-15'].map((day) => parseDay(day));
const of = (repeat: object, more: object = {}) => {
  const series = checkSeries({ start: '2026-11-03', repeat, ...more });
  return replay(planner, series, DONE).map(({ due, late }) => [due, late]);
};

test('after I finish, each counts from the day before it', () => {
  expect(of({ by: 'completion', every: 'P21D' })).toEqual([
    ['2027-01-22', 3],
    ['2027-02-15', 4],
    ['2027-03-12', 3],
  ]);
  expect(of({ by: 'completion', every: 'P24D' })).toEqual([
    ['2027-01-25', 0],
    ['2027-02-18', 1],
    ['2027-03-15', 0],
  ]);
});

test('by the calendar from the first day on, the latest alone is kept', () => {
  expect(of({ by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=21;COUNT=2' })).toEqual([
    ['2027-01-22', 3],
    ['2027-02-12', 7],
    ['2027-03-05', 10],
  ]);
  // Of days the one that is 48 days on opens meanwhile, and ends the one before.
  expect(of({ by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=12' })).toEqual([
    ['2027-01-25', 0],
    ['2027-02-18', 1],
    ['2027-03-14', 1],
  ]);
});

test('done early it is the next one that is meant; an end and pauses are passed by', () => {
  const more = { ends: { on: '2027-01-02' }, pauses: [{ from: '2027-02-01', to: null }] };
  expect(of({ by: 'completion', every: 'P30D' }, more)).toEqual([
    ['2027-01-31', -6],
    ['2027-02-24', -5],
    ['2027-03-21', -6],
  ]);
});

test('of none, and of one alone, nothing follows', () => {
  const series = checkSeries({ start: '2026-11-03', repeat: { by: 'completion', every: 'P9D' } });
  expect(replay(planner, series, [])).toEqual([]);
  expect(replay(planner, series, DONE.slice(0, 1))).toEqual([]);
});

test('what is offered is less late than what it was, on the days on which it was done', () => {
  const series = checkSeries({ start: '2026-11-03', repeat: { by: 'completion', every: 'P21D' } });
  const sum = (repeat = series.repeat) =>
    replay(planner, { ...series, repeat }, DONE).reduce((all, { late }) => all + Math.abs(late), 0);
  expect(sum(withInterval(series.repeat, 'P24D'))).toBeLessThan(sum());
});

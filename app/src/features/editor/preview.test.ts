import { DEFAULT_SETTINGS, parseInstant } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { previewOf } from './preview.ts';

const NOW = parseInstant('2026-11-24T09:40:00Z'); // a Tuesday
const of = (text: string) => previewOf(read(text, '2026-11-24').series, DEFAULT_SETTINGS, NOW)!;
const dues = (text: string, n: number) =>
  of(text)
    .dates.slice(0, n)
    .map(({ due }) => due);

test('the time that opens at once is the first of the next times', () => {
  expect(dues('Top up the batteries every 9 days', 3)).toEqual([
    '2026-11-24',
    '2026-12-03',
    '2026-12-12',
  ]);
  expect(dues('Sweep the flue every Friday', 2)).toEqual(['2026-11-27', '2026-12-04']);
});

test('after I finish: the first is firm, the others expected, each done on its day', () => {
  const { dates } = of('Swap the gas bottle 40 days after done starting 5 December');
  expect(dates.slice(0, 3)).toEqual([
    { slot: '2026-12-05', due: '2026-12-05', kind: 'expected' },
    { slot: '2027-01-14', due: '2027-01-14', kind: 'expected' },
    { slot: '2027-02-23', due: '2027-02-23', kind: 'expected' },
  ]);
  expect(of('Grease the stern gland 14 days after done').dates.slice(0, 2)).toEqual([
    { slot: '2026-11-24', due: '2026-11-24', kind: 'firm' },
    { slot: '2026-12-08', due: '2026-12-08', kind: 'expected' },
  ]);
});

test('an end: all of them are there, and it is said', () => {
  const preview = of('Feed the bees every 9 days until 1 March');
  expect(preview.complete).toBe(true);
  expect(preview.dates).toHaveLength(11);
  expect(preview.dates.at(-1)!.due).toBe('2027-02-22');
});

test('a start in the past: what went by is counted, and is in no record', () => {
  const preview = of('Feed the bees every Tuesday starting 3 November 2026');
  expect(preview.goneBy).toBe(3);
  expect(preview.dates[0]!.due).toBe('2026-11-24');
});

test('no date yet: nothing will come by itself', () => {
  expect(of('Order wax')).toMatchObject({ dates: [], goneBy: 0, complete: true });
});

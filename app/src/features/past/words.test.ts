import type { Question } from '@back-again/core';
import type { Insight } from '@back-again/core/past';
import type { TrailTime } from '@back-again/contract/past';
import { archesOf } from './trail.ts';
import { answersText, insightText, rowText, summaryText, trailRow, trailText } from './words.ts';

const NONE: Insight = {
  done: 0,
  skipped: 0,
  missed: 0,
  kept: null,
  lateness: null,
  gaps: null,
  inARow: { now: 0, most: 0 },
  instead: null,
  months: [],
  answers: {},
};
const all = (n: number) => ({ usual: n, least: n, greatest: n });
const DAYS = { days: 21, inWeeks: false };

describe('what the record says', () => {
  test.each<[Partial<Insight>, Parameters<typeof insightText>[1], string]>([
    [{}, DAYS, 'Nothing of it ended in this span.'],
    [{ done: 1, kept: 100, lateness: all(0) }, DAYS, 'Done 1 of 1 time, 100 %. Always on its day.'],
    [
      {
        done: 9,
        missed: 1,
        kept: 90,
        lateness: { usual: 3, least: 0, greatest: 6 },
        gaps: { usual: 24, least: 21, greatest: 27, last: [24, 24, 27] },
      },
      DAYS,
      'Done 9 of 10 times, 90 %. Usually 3 days late, 6 days at most, and really about every 24 days, not every 21 days.',
    ],
    [
      {
        done: 4,
        kept: 100,
        skipped: 2,
        lateness: { usual: -1, least: -2, greatest: 1 },
        gaps: { ...all(14), last: [14, 14, 14] },
      },
      { days: 7, inWeeks: true },
      'Done 4 of 4 times, 100 %. 2 were skipped. Usually 1 day early, from 2 days early to 1 day late, and really about every 2 weeks, not every week.',
    ],
    [
      { done: 3, kept: 100, skipped: 1, lateness: all(0), gaps: { ...all(1), last: [1, 1] } },
      { days: 1, inWeeks: false },
      'Done 3 of 3 times, 100 %. One was skipped. Always on its day, and really about every day, as it is meant.',
    ],
    [
      { done: 3, kept: 100, lateness: all(0), gaps: { ...all(0), last: [0, 0] } },
      null,
      'Done 3 of 3 times, 100 %. Always on its day, and usually several on a day.',
    ],
    // Two gaps at least before something is said of them.
    [{ done: 2, kept: 100, gaps: { ...all(9), last: [9] } }, DAYS, 'Done 2 of 2 times, 100 %.'],
    [{ skipped: 3 }, DAYS, '3 were skipped.'],
  ])('%j', (it, meant, words) => {
    expect(insightText({ ...NONE, ...it }, meant)).toBe(words);
  });

  test.each([
    [{ done: 0, skipped: 0, missed: 0, minutes: 0, estimated: 0 }, 'Nothing ended then.'],
    [
      { done: 6, skipped: 1, missed: 0, minutes: 130, estimated: 40 },
      '6 done, 1 skipped, none missed. 2 h 10, of them 40 min estimated.',
    ],
    [
      { done: 1, skipped: 0, missed: 2, minutes: 20, estimated: 20 },
      '1 done, 2 missed. 20 min, all estimated.',
    ],
    [{ done: 0, skipped: 0, missed: 1, minutes: 0, estimated: 0 }, 'none done, 1 missed.'],
  ])('a day: %j', (it, words) => {
    expect(summaryText(it)).toBe(words);
  });

  test('in a row', () => {
    expect(rowText({ now: 4, most: 4 })).toBe('4 in a row');
    expect(rowText({ now: 0, most: 7 })).toBe('0 in a row, 7 at most');
  });

  test.each<[Question, Parameters<typeof answersText>[1], string]>([
    [
      { id: 'a', asks: 'litres', kind: 'number', unit: 'l' },
      { usual: 180, least: 140, greatest: 215, sum: 1640, of: 9 },
      'usually 180 l, from 140 to 215; 1640 l in all',
    ],
    [{ id: 'a', asks: 'calm', kind: 'scale', to: 5 }, { ...all(4), of: 2 }, 'always 4 of 5'],
    [
      { id: 'a', asks: 'mites', kind: 'yesno' },
      { counts: { true: 1, false: 4 }, of: 5 },
      'no 4 times, yes once',
    ],
    [{ id: 'a', asks: 'odd', kind: 'text' }, { of: 1 }, 'one answer'],
  ])('answers to %j', (question, figures, words) => {
    expect(answersText(question, figures)).toBe(words);
  });
});

const TRAIL: TrailTime[] = [
  { slot: '2027-05-01', dueOn: '2027-05-01', doneOn: '2027-05-01', status: 'done' },
  { slot: '2027-05-22', dueOn: '2027-05-22', doneOn: '2027-05-25', status: 'done' },
  { slot: '2027-06-15', dueOn: '2027-06-15', doneOn: null, status: 'missed' },
  { slot: '2027-07-06', dueOn: '2027-07-06', doneOn: null, status: 'skipped' },
  { slot: '2027-07-27', dueOn: '2027-07-27', doneOn: '2027-07-20', status: 'done' },
];

describe('the trail', () => {
  test('each arch is as wide as the span that was meant, from the end of the one before', () => {
    const day = (text: string) => Date.parse(text) / 86_400_000;
    expect(archesOf(TRAIL)).toEqual([
      { from: day('2027-05-01'), due: day('2027-05-01'), end: day('2027-05-01'), ending: 'kept' },
      { from: day('2027-05-01'), due: day('2027-05-22'), end: day('2027-05-25'), ending: 'late' },
      { from: day('2027-05-25'), due: day('2027-06-15'), end: day('2027-06-15'), ending: 'missed' },
      {
        from: day('2027-06-15'),
        due: day('2027-07-06'),
        end: day('2027-07-06'),
        ending: 'skipped',
      },
      { from: day('2027-07-06'), due: day('2027-07-27'), end: day('2027-07-20'), ending: 'kept' },
    ]);
  });

  test('due again before the one before was done, it begins at its own day', () => {
    const late: TrailTime[] = [
      { slot: '2027-05-01', dueOn: '2027-05-01', doneOn: '2027-05-12', status: 'done' },
      { slot: '2027-05-08', dueOn: '2027-05-08', doneOn: '2027-05-12', status: 'done' },
    ];
    const [, second] = archesOf(late);
    expect(second!.from).toBe(second!.due);
  });

  test('its words count what it draws', () => {
    expect(trailText(TRAIL)).toBe(
      'The last 5 times, from May to July: 2 on the day or before, 1 late, 1 skipped, 1 missed.',
    );
    expect(TRAIL.map((time) => trailRow(time, '2027-08-01')[1])).toEqual([
      'done on its day',
      'done 3 days late',
      'missed',
      'skipped',
      'done 7 days early',
    ]);
    expect(trailText([])).toBe('');
  });
});

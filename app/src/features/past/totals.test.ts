import type { PastRow, TotalsView } from '@back-again/contract/past';
import type { Question } from '@back-again/core';
import Papa from 'papaparse';
import { addressOf, numbersIn, spanText, spansFrom, whatOptions, wrongSpan } from './asked.ts';
import { csvOf, rowsCsv } from './csv.ts';
import { inOrder, measureOf, shownRows, tableOf, totalsText } from './measures.ts';

const TODAY = '2026-11-24';
const NONE = { done: 0, skipped: 0, missed: 0, kept: null, minutes: 0, estimated: 0, asked: null };
const row = (name: string, under: string | null, more: object) => ({
  key: name,
  name,
  under,
  isGone: false,
  parts: {},
  ...NONE,
  ...more,
});
const VIEW: TotalsView = {
  now: '',
  today: TODAY,
  all: { ...NONE, done: 9, missed: 1, kept: 90, minutes: 150, estimated: 30 },
  rows: [
    row('Two hives', 'Bees', { done: 2, minutes: 30 }),
    row('Boat upkeep', 'Aboard', {
      done: 3,
      skipped: 1,
      minutes: 45,
      parts: { '2026-10-01': { ...NONE, done: 3, minutes: 45 } },
    }),
    row('Stores', 'Aboard', { done: 4, minutes: 75, estimated: 30 }),
    row('Unsorted', null, {}),
  ],
  periods: ['2026-10-01', '2026-11-01'],
};
const HOURS = addressOf({}, TODAY);

describe('the address of totals', () => {
  test('left out it is the hours of this year, month by month; what is none is passed by', () => {
    expect(HOURS).toEqual({
      what: 'hours',
      by: 'place',
      each: 'month',
      from: '2026-01-01',
      to: '2026-12-31',
    });
    const none = { what: 'colours', by: 'moon', each: 'tide', from: '2026-02-30', to: 'soon' };
    expect(addressOf(none, TODAY)).toEqual(HOURS);
  });

  test('numbers that are asked for stand in it with words and unit, whatever is in them', () => {
    const numbers = [{ asks: 'pH: before, after', unit: 'l', kind: 'number' }] as const;
    const { value } = whatOptions(numbers).at(-1)!;
    expect(numbersIn(addressOf({ what: value }, TODAY).what)).toEqual({
      asks: 'pH: before, after',
      unit: 'l',
    });
    expect(numbersIn('hours')).toBeNull();
  });

  test('a span is said as a year, a month, or by its days', () => {
    for (const { from, to, label } of spansFrom(TODAY))
      expect(spanText(from, to, TODAY)).toBe(label);
    expect(spanText('2019-01-01', '2019-12-31', TODAY)).toBe('2019');
    expect(spanText('2026-02-01', '2026-02-28', TODAY)).toBe('February 2026');
    expect(spanText('2026-02-01', '2026-02-27', TODAY)).toBe('Sun 1 February to Fri 27 February');
    expect(wrongSpan('2026-02-01', '2026-01-31')).toBe('It ends before it begins.');
    expect(wrongSpan('2026-02-30', '2026-03-31')).toMatch(/2026-02-30/u);
    expect(wrongSpan('2026-02-01', '2026-02-01')).toBeNull();
  });
});

describe('totals as they are shown', () => {
  const measure = measureOf('hours', []);
  const view = shownRows(VIEW, 'place', measure);

  test('the most first within its sphere, what has nothing left out', () => {
    const order = inOrder(view, 'place', measure).map(({ under, rows }) => [
      under,
      rows.map(({ name }) => name),
    ]);
    expect(order).toEqual([
      ['Aboard', ['Stores', 'Boat upkeep']],
      ['Bees', ['Two hives']],
    ]);
  });

  test('a sentence says what they come to', () => {
    expect(totalsText(view, HOURS, measure)).toBe(
      '2 h 30 in all, of them 30 min estimated. Most: Stores, 1 h 15.',
    );
    const kept = measureOf('kept', []);
    const rates = VIEW.rows.map((it, i) => ({ ...it, kept: [100, 80, 95, null][i]! }));
    const address = { ...HOURS, what: 'kept' };
    expect(totalsText(shownRows({ ...VIEW, rows: rates }, 'place', kept), address, kept)).toBe(
      '90 % was kept: 9 done of 10. Least: Boat upkeep, 80 %.',
    );
    const times = measureOf('times', []);
    expect(totalsText(shownRows(VIEW, 'place', times), { ...HOURS, what: 'times' }, times)).toBe(
      '9 done, 1 missed. Most: Stores, 4.',
    );
  });

  test('the table is what is shown, in its order', () => {
    expect(tableOf(view, HOURS, measure)).toEqual({
      heads: [
        'Under',
        'Place',
        'Minutes',
        'Of them estimated',
        'October (minutes)',
        'November (minutes)',
      ],
      rows: [
        ['Aboard', 'Stores', 75, 30, null, null],
        ['Aboard', 'Boat upkeep', 45, 0, 45, null],
        ['Bees', 'Two hives', 30, 0, null, null],
      ],
    });
  });
});

describe('CSV', () => {
  // RFC 4180 §2: lines end with CR and LF; quotes, commas and line breaks are quoted, quotes doubled.
  test('is read back as it was written', () => {
    const rows = [
      ['a “b”', 'one, two', 'three\nfour'],
      ['say "so"', '', 'x'],
    ];
    const text = csvOf({ heads: ['A', 'B', 'C'], rows });
    expect(text.split('\r\n')[0]).toBe('A,B,C');
    expect(text).toContain('"say ""so"""');
    expect(Papa.parse(text).data).toEqual([['A', 'B', 'C'], ...rows]);
  });

  test.each(['=1+1', '+44', '-2', '@SUM(A1)', '\t=1', '\r=1'])(
    'words that would be a formula are not: %j',
    (words) => {
      const [, line] = Papa.parse<string[]>(csvOf({ heads: ['A'], rows: [[words]] })).data;
      expect(line).toEqual([`'${words}`]);
    },
  );

  test('numbers stay numbers, below nothing too', () => {
    expect(csvOf({ heads: ['late'], rows: [[-2], [null], [0.5]] })).toBe('late\r\n-2\r\n\r\n0.5');
  });

  test('the times of a to-do, with answers to what is asked now and was asked then', () => {
    const litres: Question = { id: 'l', asks: 'litres', kind: 'number', unit: 'l' };
    const odd: Question = { id: 'o', asks: 'odd', kind: 'text' };
    const it = {
      due: '2026-11-02',
      status: 'done',
      doneOn: '2026-11-04',
      late: 2,
      minutes: 40,
      estimated: 0,
      note: null,
      filled: { answers: { l: 185, o: '=HYPERLINK("x")' } },
      had: { steps: [], questions: [litres, odd], takes: 45 },
    } as unknown as PastRow;
    const text = csvOf(rowsCsv([it], [litres]));
    expect(text).toBe(
      'Due,Ended as,Done on,Days late,Minutes,Estimated,litres (l),odd,Note\r\n' +
        `2026-11-02,done,2026-11-04,2,40,0,185,"'=HYPERLINK(""x"")",`,
    );
  });
});

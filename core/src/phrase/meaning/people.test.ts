import { parseDay, type LocalDate } from '../../calendar/day.ts';
import { datesOf } from '../../rule/expand.ts';
import { parseRule } from '../../rule/parse.ts';
import { isLoud, type Said } from '../check/meanings.ts';
import { PEOPLE } from '../check/people.ts';
import { VOICES } from '../check/voices.ts';
import { read } from './read.ts';
import type { Reading } from './reading.ts';

// Sentences as people type and dictate them: nothing is read wrongly in silence.

const TODAY = '2027-06-01';

const sorted = (value: unknown): string =>
  JSON.stringify(value, (_key, it: unknown) =>
    typeof it === 'object' && it !== null && !Array.isArray(it)
      ? Object.fromEntries(Object.entries(it).sort(([a], [b]) => (a < b ? -1 : 1)))
      : it,
  );

/** Two rules that give the same dates are the same, however they are written. */
function isSameRule(one: unknown, other: unknown, start: LocalDate | null): boolean {
  const texts = [one, other].map((it) => (it as { rule?: string } | null)?.rule);
  if (texts.some((text) => text === undefined) || start === null) return false;
  const [a, b] = texts.map((text) => {
    const dates = datesOf(parseRule(text!), parseDay(start));
    const found: (number | null)[] = [];
    for (let day: number | null = parseDay(start) - 1; day !== null && found.length < 40;)
      found.push((day = dates.next(day)));
    return found.join();
  });
  return a === b;
}

function isRight(reading: Reading, meant: Said[2]): boolean {
  if (meant === 'ask') return isLoud(reading);
  const series = reading.series as unknown as Record<string, unknown>;
  return Object.entries(meant).every(
    ([key, value]) =>
      sorted(series[key]) === sorted(value) ||
      (key === 'repeat' && isSameRule(series[key], value, reading.series.start)),
  );
}

test.each([
  ['the author of the grammar knew of', PEOPLE, 230],
  ['five people said', VOICES, 300],
])('of what %s 95 in 100 are read right, and none wrongly in silence', (_who, all, least) => {
  const readings = all.map(([, text, meant]) => {
    const reading = read(text, TODAY);
    return {
      text,
      isRight: isRight(reading, meant),
      isLoud: isLoud(reading),
      series: reading.series,
    };
  });
  const silent = readings.filter((it) => !it.isRight && !it.isLoud);
  expect(silent.map(({ text, series }) => [text, series])).toEqual([]);
  const right = readings.filter((it) => it.isRight).length;
  expect(all.length).toBeGreaterThanOrEqual(least);
  expect(right / all.length).toBeGreaterThan(0.95);
});

describe('what is left over and could say when is asked about', () => {
  test.each([
    ['Pay rent every month but not on bank holidays maybe', 'maybe'],
    ['Wash the car every Saturday or Sunday if dry', 'if dry'],
    ['Ring the yard every Monday before lunch', 'before lunch'],
    ['Meet the crew every Friday 3ish till five', 'till five'],
    ['Treat the deck every year in late spring', 'late spring'],
    ['Clean the tank every month after the first frost', 'after the first frost'],
    ['Lift the dahlias after the first frost', 'after the first frost'],
    ['Check the exits daily during opening hours', 'during opening hours'],
    ['Tidy the shed on a rainy day', 'rainy day'],
    ['Ring the yard on Friday at 9ish', 'ish'],
  ])('%s', (text, part) => {
    const doubt = read(text, TODAY).doubts.find(({ code }) => code === 'remnant');
    expect(doubt?.where).toContain(part);
  });

  test('it can stay as part of the name, or be left out; then nothing is in doubt', () => {
    const { series, doubts } = read('Ring the yard every Monday at 9 before lunch', TODAY);
    const [stays, out] = doubts[0]!.choices;
    expect(stays).toMatchObject({ series: { title: series.title } });
    expect(out).toMatchObject({
      text: 'Ring the yard every Monday at 9',
      series: { title: 'Ring the yard' },
    });
    for (const { text } of [stays!, out!])
      expect(read(text, TODAY).doubts.filter(({ code }) => code === 'remnant')).toEqual([]);
  });

  test.each([
    'Weekly review every Friday at 16:00',
    'Morning pages every day',
    'Call about the boat on Friday',
    'Tea or coffee for the crew every Monday',
    'March with the band every Saturday',
    'Read “every day counts” weekly',
  ])('a name is a name: %s', (text) => {
    expect(read(text, TODAY).doubts.filter(({ code }) => code === 'remnant')).toEqual([]);
  });
});

test('a date on another weekday than was said is asked about', () => {
  const [doubt] = read('Revalidation Friday 13 May 2027', TODAY).doubts;
  expect(doubt).toMatchObject({ code: 'otherDay', asks: 'That is a Thursday. Which day?' });
  expect(doubt!.choices.map(({ series }) => series.start)).toEqual(['2027-05-13', '2027-05-14']);
});

test('days of a year are once each, or every year', () => {
  const [doubt] = read('Clean the greenhouse on 1 March and 1 September', TODAY).doubts;
  expect(doubt).toMatchObject({ code: 'eachYear' });
  expect(doubt!.choices[1]!.series.repeat).toEqual({
    by: 'calendar',
    rule: 'FREQ=MONTHLY;BYMONTH=3,9;BYMONTHDAY=1',
  });
});

describe('what is said without saying exactly when is asked about, with exact ways to say it', () => {
  test.each([
    ['Water the cactus most Sundays', 'every Sunday', 'every other Sunday'],
    ['Slug patrol every 3 to 4 days', 'every 3 days', 'every 4 days'],
    ['Clean the gutters in spring', 'on 1 March', 'on 1 April'],
    ['Lunch at the yard, half 12', 'at half past 12', 'at 11:30'],
    ['Bins bi-weekly', 'every 2 weeks', 'twice a week'],
    ['Ring the yard asap', 'today', 'tomorrow'],
    ['Sow the beans mid May', 'on 15 May', 'on 10 May'],
    ['Swim three evenings a week', 'three times a week', 'every day'],
  ])('%s', (text, first, second) => {
    const { series, doubts } = read(text, TODAY);
    const [doubt] = doubts;
    expect(doubt).toMatchObject({ code: 'vague' });
    expect(doubt!.choices.slice(0, 2).map(({ words }) => words)).toEqual([first, second]);
    // What was taken is what its first choice says, and then it is not vague.
    const again = read(doubt!.choices[0]!.text, TODAY);
    expect({ ...again.series, title: '' }).toEqual({ ...series, title: '' });
    expect(again.doubts.map(({ code }) => code)).not.toContain('vague');
  });

  test('one of two days, or each of them', () => {
    const [doubt] = read('Wash the pots Sat or Sun', TODAY).doubts;
    expect(doubt).toMatchObject({ code: 'either' });
    expect(doubt!.choices.map(({ words }) => words)).toContain('on Sunday');
  });

  test('a season of a repeat is once, or each year', () => {
    const [doubt] = read('Feed the tomatoes weekly from May to September', TODAY).doubts;
    expect(doubt).toMatchObject({ code: 'eachYear', asks: 'Once, or each year?' });
    expect(doubt!.choices[1]!.series.repeat).toEqual({
      by: 'calendar',
      rule: 'FREQ=WEEKLY;BYMONTH=5,6,7,8,9',
    });
  });

  test('a day that has just gone by is of this year, or of the next', () => {
    const [doubt] = read('Check the pump every week from 10 November', '2026-11-16').doubts;
    expect(doubt).toMatchObject({ code: 'yearGone' });
    expect(doubt!.choices.map(({ series }) => series.start)).toEqual(['2027-11-10', '2026-11-10']);
  });

  test('a slip of the key is taken for the word, and asked about', () => {
    const { series, doubts } = read('Water the basil evry wensday', TODAY);
    expect(series).toMatchObject({
      title: 'Water the basil',
      repeat: { rule: 'FREQ=WEEKLY;BYDAY=WE' },
    });
    expect(doubts[0]).toMatchObject({ code: 'slip', where: 'evry, wensday' });
    expect(doubts[0]!.choices[1]!.series).toMatchObject({ title: 'Water the basil evry wensday' });
  });
});

describe('reminders', () => {
  const reminders = (text: string) => read(text, TODAY).series.reminders;
  test.each([
    ['Send the log due Mondays, remind me Saturdays at 10', [{ on: 'SA', at: '10:00' }]],
    ['Send the log every Monday, remind me on the Friday before', [{ on: 'FR' }]],
    ['Ring the yard tomorrow at 9, remind me', [{ before: 'PT0M' }]],
    ['Ring the yard tomorrow, notify me', [{ before: 'PT0M' }]],
    ['Ring the yard tomorrow at 9, remind me when it is due', [{ before: 'PT0M' }]],
    ['Bins every Tuesday, let me know the evening before', [{ before: 'P1D', at: '18:00' }]],
    ['Bins every Tuesday and I want to be reminded 2 days before', [{ before: 'P2D' }]],
  ])('%s', (text, expected) => expect(reminders(text)).toEqual(expected));
});

describe('when it was done the last time', () => {
  test.each([
    ['Turn the compost 3 weeks after done, last done 15 May', '2027-06-05'],
    ['Turn the compost 3 weeks after done, last done on 20 October', '2026-11-10'],
    ['Turn the compost 3 weeks after done, last done yesterday', '2027-06-21'],
    ['Turn the compost 3 weeks after done, last done last Friday', '2027-06-18'],
    ['Turn the compost 3 weeks after done, last done 10 days ago', '2027-06-12'],
    ['Turn the compost 3 weeks after done, on a Saturday, last done 10 May', '2027-06-05'],
    ['Service the boat 5 working days after done, last done 31 May', '2027-06-07'],
  ])('%s', (text, start) => {
    const reading = read(text, TODAY);
    expect(reading.notUnderstood).toEqual([]);
    expect(reading.series).toMatchObject({ start, repeat: { by: 'completion' } });
  });

  test('beside what comes by the calendar it is not understood', () =>
    expect(read('Bins every Tuesday, last done 15 May', TODAY).notUnderstood).toEqual([
      'last done 15 May',
    ]));
});

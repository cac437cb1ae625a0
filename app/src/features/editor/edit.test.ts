import { DEFAULT_SETTINGS, PARTS, offersOf, type Definition, type Part } from '@back-again/core';
import { read, say, typed } from '@back-again/core/reading';
import {
  kindOf,
  monthWayOf,
  monthWaysOf,
  spanOfStep,
  stepOf,
  stepOfSpan,
  type Person,
  withClosed,
  withDates,
  withPart,
  changeTo,
  withEnds,
  withGrace,
  withKind,
  withLacking,
  withLate,
  withMonths,
  withMonthWay,
  withOwe,
  withQuota,
  withReminders,
  withStart,
  withStep,
  withTimes,
  withWeekdays,
  withWorkdays,
} from './edit.ts';
import { panelTitle } from './Sentence.tsx';

const TODAY = '2026-11-24'; // a Tuesday
const person: Person = { today: TODAY, weekStart: 'MO' };
const series = (text: string) => read(text, TODAY).series;
const shown = (it: Definition) => typed(it, TODAY, DEFAULT_SETTINGS);

test.each<[string, (it: Definition) => Definition, string]>([
  [
    'Weigh the hives every Friday',
    (s) => withKind(s, 'after', person),
    'Weigh the hives 1 week after done starting 27 November',
  ],
  ['Grease it 14 days after done', (s) => withKind(s, 'fixed', person), 'Grease it every 14 days'],
  ['Grease it 36 hours after done', (s) => withKind(s, 'fixed', person), 'Grease it every 2 days'],
  ['Order wax', (s) => withKind(s, 'after', person), 'Order wax 1 week after done'],
  ['Feed them every day 4 times', (s) => withKind(s, 'once', person), 'Feed them 24 November'],
  [
    'Feed them every day',
    (s) => withStep(s, { n: 3, unit: 'day' }, person),
    'Feed them every 3 days',
  ],
  [
    'Feed them every day',
    (s) => withStep(s, { n: 2, unit: 'week' }, person),
    'Feed them every 2 weeks on Tuesday',
  ],
  [
    'Feed them every day',
    (s) => withStep(s, { n: 1, unit: 'month' }, person),
    'Feed them on the 24th of each month',
  ],
  [
    'Feed them every day starting 31 December',
    (s) => withStep(s, { n: 1, unit: 'month' }, person),
    'Feed them on the 31st of each month or its last day starting 31 December',
  ],
  [
    'Feed them every day',
    (s) => withStep(s, { n: 1, unit: 'year' }, person),
    'Feed them every year on 24 November',
  ],
  [
    'Air it every 2 weeks on Tue and Sat',
    (s) => withStep(s, { n: 3, unit: 'week' }, person),
    'Air it every 3 weeks on Tuesday and Saturday',
  ],
  [
    'Air it at 9 3 days after done',
    (s) => withStep(s, { n: 30, unit: 'hour' }, person),
    'Air it 30 hours after done',
  ],
  [
    'Weigh the hives every Friday',
    (s) => withWeekdays(s, ['FR', 'WE'], person),
    'Weigh the hives every Wednesday and Friday',
  ],
  [
    'Weigh the hives every Friday',
    (s) => withWeekdays(s, [], person),
    'Weigh the hives every Friday',
  ],
  [
    'Pay on the 24th of each month',
    (s) => withMonthWay(s, 'weekday'),
    'Pay on the fourth Tuesday of each month',
  ],
  [
    'Pay on the 24th of each month',
    (s) => withMonthWay(s, 'lastWeekday'),
    'Pay on the last Tuesday of each month',
  ],
  [
    'Pay on the 24th of each month',
    (s) => withMonthWay(s, 'lastDay'),
    'Pay on the last day of each month',
  ],
  [
    'Pay on the 24th of each month',
    (s) => withStart(s, '2026-12-12', person),
    'Pay on the 12th of each month',
  ],
  [
    'Weigh the hives every Friday',
    (s) => withStart(s, '2026-12-02', person),
    'Weigh the hives every Wednesday starting 2 December',
  ],
  [
    'Renew it every year on 12 June',
    (s) => withStart(s, '2027-07-01', person),
    'Renew it every year on 1 July',
  ],
  ['Order wax', (s) => withStart(s, '2026-12-05', person), 'Order wax 5 December'],
  ['Order wax tomorrow at 9', (s) => withStart(s, null, person), 'Order wax'],
  ['Order wax', (s) => withTimes(s, ['13:00'], person), 'Order wax 24 November at 13:00'],
  ['Feed them every day at 9', (s) => withTimes(s, [], person), 'Feed them every day'],
  [
    'Feed them every day at 20:00',
    (s) => withTimes(s, ['20:00', '08:00', '20:00'], person),
    'Feed them every day at 08:00 and 20:00',
  ],
  [
    'Feed them every day at 8 and 20',
    (s) => withKind(s, 'after', person),
    'Feed them 1 day after done at 08:00',
  ],
  [
    'Open the vents every Friday',
    (s) => withMonths(s, [7, 6], person),
    'Open the vents every Friday in June and July',
  ],
  [
    'Open the vents every Friday in June and July',
    (s) => withMonths(s, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12], person),
    'Open the vents every Friday',
  ],
  [
    'Pay on the 24th of March and September',
    (s) => withMonthWay(s, 'lastDay'),
    'Pay on the last day of March and September',
  ],
  [
    'Feed them every day',
    (s) => withOwe(withGrace(withLate(s, 'lapse'), 'P1D'), 'every'),
    'Feed them every day missed 1 day after it is due each one is owed',
  ],
  [
    'Feed them every day missed 1 day after it is due',
    (s) => withLate(s, 'roll'),
    'Feed them every day',
  ],
  ['Feed them every day', (s) => withKind(s, 'quota', person), 'Feed them 3 times a day'],
  ['Swim 3 times a day', (s) => withQuota(s, 2, 'week'), 'Swim twice a week'],
  ['Swim twice a week', (s) => withKind(s, 'fixed', person), 'Swim every Tuesday'],
  ['Feed them every day', (s) => withEnds(s, { after: 10 }), 'Feed them every day 10 times'],
  ['Feed them every day 10 times', (s) => withEnds(s, null), 'Feed them every day'],
  [
    'Pay on the 24th of each month',
    (s) => withMonthWay(s, 'lastWorkday'),
    'Pay on the last working day of each month',
  ],
  [
    'Pay on the last working day of each month',
    (s) => withMonthWay(s, 'day'),
    'Pay on the 24th of each month',
  ],
  ['Check it every 3 days', (s) => withWorkdays(s, true, person), 'Check it every 3 working days'],
  ['Check it every 3 working days', (s) => withWorkdays(s, false, person), 'Check it every 3 days'],
  [
    'Check it every 3 working days',
    (s) => withStep(s, { n: 2, unit: 'week' }, person),
    'Check it every 2 weeks on Tuesday',
  ],
  [
    'Open it 24 November',
    (s) => withKind(s, 'picked', person),
    'Open it on 24 November and 1 December',
  ],
  [
    'Open it on 3 May and 5 June',
    (s) => withDates(s, ['2027-06-05', '2027-05-03', '2027-04-01']),
    'Open it on 1 April, 3 May and 5 June',
  ],
  ['Open it on 3 May and 5 June', (s) => withKind(s, 'once', person), 'Open it 3 May'],
  [
    'Pay on the 31st of each month',
    (s) => withLacking(s, 'omit'),
    'Pay on the 31st of each month that has it',
  ],
  [
    'Pay on the 24th of each month',
    (s) => withClosed(s, 'nearest'),
    'Pay on the 24th of each month if closed, the nearest working day',
  ],
  [
    'Pay every Friday, if closed, not at all',
    (s) => withKind(s, 'after', person),
    'Pay 1 week after done starting 27 November',
  ],
])('%s', (text, change, expected) => {
  const changed = change(series(text));
  expect(shown(changed)).toBe(expected);
  // The text that a control writes is read as the definition that the control made.
  expect(read(shown(changed), TODAY).series).toEqual(changed);
});

test('what the controls show of a definition', () => {
  expect(kindOf(series('Order wax'))).toBe('once');
  expect(stepOf(series('Grease it 2 weeks after done'))).toEqual({ n: 2, unit: 'week' });
  expect(stepOf(series('Grease it 2 years after done'))).toEqual({ n: 2, unit: 'year' });
  expect(stepOf(series('Grease it 1 month and 3 days after done'))).toEqual({ n: 33, unit: 'day' });
  expect(monthWayOf(series('Pay on the last Friday of the month'))).toBe('lastWeekday');
  expect(monthWaysOf('2026-11-30')).toEqual([
    'day',
    'lastWeekday',
    'lastDay',
    'firstWorkday',
    'lastWorkday',
  ]);
  expect(monthWaysOf('2026-11-05').slice(0, 3)).toEqual(['day', 'weekday', 'lastDay']);
});

test('a step of several weeks counts from the person’s own first day of the week', () => {
  const changed = withStep(
    series('Air it every Sunday'),
    { n: 2, unit: 'week' },
    { ...person, weekStart: 'SU' },
  );
  expect(changed.repeat).toEqual({
    by: 'calendar',
    rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=SU;WKST=SU',
  });
  expect(say(changed, TODAY, { weekStart: 'SU' })).toContain('every 2 weeks on Sunday');
});

test('what each time is filled in with is set and taken away', () => {
  const series = { title: 'Order wax', start: null, repeat: null };
  const taking = withPart(series, 'takes', 45);
  expect(taking).toEqual({ ...series, takes: 45 });
  expect(withPart(taking, 'takes', null)).toEqual(series);
  expect(withPart(series, 'place', 'Bees')).toMatchObject({ place: 'Bees' });
  const person = { today: '2026-11-24', weekStart: 'MO' } as const;
  // A reminder needs a day.
  expect(withReminders(series, [{ before: 'P1D' }], person)).toEqual({
    ...series,
    start: '2026-11-24',
    reminders: [{ before: 'P1D' }],
  });
  expect(withReminders({ ...series, reminders: [{}] }, [], person)).toEqual(series);
  expect(stepOfSpan('P2W')).toEqual({ n: 2, unit: 'week' });
  expect(spanOfStep({ n: 3, unit: 'hour' })).toBe('PT3H');
});

describe('what a change sends', () => {
  const before = read('Weigh the hives every Friday, takes 30 min', '2027-06-01').series;
  const after = (sentence: string) => changeTo(read(sentence, '2027-06-01').series, before);

  test('nothing where nothing differs, and the half alone that does', () => {
    expect(after('Weigh the hives every Friday, takes 30 min')).toEqual({});
    expect(after('Weigh all hives every Friday')).toEqual({
      details: { title: 'Weigh all hives', takes: null },
    });
    const { series, details } = after('Weigh the hives every Monday, takes 30 min');
    expect(details).toBeUndefined();
    expect(series).toMatchObject({
      repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=MO' },
      at: null,
      reminders: null,
    });
    expect(series).not.toHaveProperty('pauses');
  });

  test('a part that is added to the table alone is offered, and taken away', () => {
    const part: Part = {
      key: 'weather',
      half: 'what',
      kind: 'weather',
      check: (value) => value ?? undefined,
      control: {
        title: 'In which wind',
        offer: { label: 'in which wind', isFree: () => true },
        as: { kind: 'number', label: 'Wind', from: 1, to: 9 },
      },
    };
    PARTS.push(part);
    try {
      const windy = withPart(before, 'weather', 5);
      expect(offersOf(before)).toContainEqual({ kind: 'weather', label: 'in which wind' });
      expect(offersOf(windy)).not.toContainEqual({ kind: 'weather', label: 'in which wind' });
      expect(panelTitle('weather')).toBe('In which wind');
      expect(changeTo(windy, before)).toMatchObject({ details: { weather: 5 } });
      expect(changeTo(before, windy)).toMatchObject({ details: { weather: null } });
    } finally {
      PARTS.pop();
    }
  });
});

import fc from 'fast-check';
import { openDaysFor } from '../../calendar/workdays.ts';
import { parseDay } from '../../calendar/day.ts';
import { chance } from '../../chance.ts';
import { checkDefinition } from '../../definition/check.ts';
import type { Definition } from '../../definition/definition.ts';
import { read } from './read.ts';
import { fuzzedSentence } from '../check/fuzz.ts';
import { SENTENCES, TITLES } from '../check/sentences.ts';
import { SPOKEN, SPOKEN_TODAY } from '../check/spoken.ts';
import { CLAUSES, clausesAt } from '../grammar/clauses.ts';
import { tokensOf } from '../grammar/tokens.ts';

const TODAY = '2026-11-24'; // a Tuesday
const PERSON = { places: ['Aboard', 'Bees', 'Work'] };
const weekly = (rule: string) => ({ by: 'calendar', rule }) as const;

describe('reading', () => {
  test.each<[string, Partial<Definition>]>([
    [
      'Weigh the hives every Friday',
      { title: 'Weigh the hives', start: '2026-11-27', repeat: weekly('FREQ=WEEKLY;BYDAY=FR') },
    ],
    [
      'Top up the batteries every 9 days',
      { title: 'Top up the batteries', start: TODAY, repeat: weekly('FREQ=DAILY;INTERVAL=9') },
    ],
    [
      'Grease the stern gland 14 days after done',
      {
        title: 'Grease the stern gland',
        start: TODAY,
        repeat: { by: 'completion', every: 'P14D' },
      },
    ],
    [
      'Read the meter on the 12th of each month',
      { start: '2026-12-12', repeat: weekly('FREQ=MONTHLY;BYMONTHDAY=12') },
    ],
    [
      'Air the cabin every 2 weeks on Tue and Sat until 1 Oct',
      {
        title: 'Air the cabin',
        start: TODAY,
        repeat: weekly('FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SA'),
        ends: { on: '2027-10-01' },
      },
    ],
    [
      'Collect the frames tomorrow',
      { title: 'Collect the frames', start: '2026-11-25', repeat: null },
    ],
    ['tomorrow collect the frames', { title: 'collect the frames', start: '2026-11-25' }],
    [
      'Feed the bees every day 10 times',
      { title: 'Feed the bees', repeat: weekly('FREQ=DAILY'), ends: { after: 10 } },
    ],
    ['Ring the yard at 13:00', { title: 'Ring the yard', start: TODAY, at: ['13:00'] }],
    ['Ring the yard tomorrow at 8 pm', { start: '2026-11-25', at: ['20:00'] }],
    [
      'Repair café on the first Saturday of each month at 10',
      { start: '2026-12-05', repeat: weekly('FREQ=MONTHLY;BYDAY=1SA'), at: ['10:00'] },
    ],
    [
      'Write up the log, last Friday of the month',
      { title: 'Write up the log', repeat: weekly('FREQ=MONTHLY;BYDAY=-1FR') },
    ],
    [
      'Send the mooring log on the 31st of each month',
      { start: '2026-11-30', repeat: weekly('FREQ=MONTHLY;SKIP=BACKWARD;BYMONTHDAY=31') },
    ],
    [
      'Pay the fee on the last day of every month',
      { start: '2026-11-30', repeat: weekly('FREQ=MONTHLY;BYMONTHDAY=-1') },
    ],
    [
      'Sweep the flue fortnightly starting 5 December',
      { title: 'Sweep the flue', start: '2026-12-05', repeat: weekly('FREQ=WEEKLY;INTERVAL=2') },
    ],
    [
      'Swap the lines every other Saturday for 6 weeks',
      {
        start: '2026-11-28',
        repeat: weekly('FREQ=WEEKLY;INTERVAL=2;BYDAY=SA'),
        ends: { within: 'P6W' },
      },
    ],
    [
      'Check the post every weekday at 8 am',
      { repeat: weekly('FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'), at: ['08:00'] },
    ],
    [
      'Fridays: sweep the flue',
      { title: 'sweep the flue', repeat: weekly('FREQ=WEEKLY;BYDAY=FR') },
    ],
    [
      'Swap the gas bottle 40 days after I finish it, until end of May',
      {
        title: 'Swap the gas bottle',
        repeat: { by: 'completion', every: 'P40D' },
        ends: { on: '2027-05-31' },
      },
    ],
    [
      'A month after I last did it, test the alarm',
      { title: 'test the alarm', repeat: { by: 'completion', every: 'P1M' } },
    ],
    ['Change the oil 1000 hours after done', { repeat: { by: 'completion', every: 'PT1000H' } }],
    [
      'Renew the licence every year on 12 June',
      { start: '2027-06-12', repeat: weekly('FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=12') },
    ],
    [
      'Turn the anode every 4 years on 29 Feb',
      {
        start: '2027-02-28',
        repeat: weekly('FREQ=YEARLY;INTERVAL=4;SKIP=BACKWARD;BYMONTH=2;BYMONTHDAY=29'),
      },
    ],
    ['Meet at the lock next Tuesday', { title: 'Meet at the lock', start: '2026-12-01' }],
    ['Order wax in 3 weeks', { title: 'Order wax', start: '2026-12-15' }],
    ['Order wax on 5 Dec 2027', { title: 'Order wax', start: '2027-12-05' }],
    ['Order wax', { title: 'Order wax', start: null, repeat: null }],
    [
      'Send the invoices on the last working day of each month',
      {
        title: 'Send the invoices',
        start: TODAY,
        repeat: { by: 'calendar', workday: -1, per: 'month' },
      },
    ],
    [
      'Look at the accounts on the first working day of each quarter at 9',
      {
        title: 'Look at the accounts',
        repeat: { by: 'calendar', workday: 1, per: 'quarter' },
        at: ['09:00'],
      },
    ],
    [
      'Check the post every working day',
      { title: 'Check the post', repeat: { by: 'calendar', everyWorkdays: 1 } },
    ],
    [
      'Check the post every 3rd working day until 1 March',
      { repeat: { by: 'calendar', everyWorkdays: 3 }, ends: { on: '2027-03-01' } },
    ],
    [
      'Answer the yard 10 working days after done',
      { title: 'Answer the yard', repeat: { by: 'completion', every: 'P10D', workdays: true } },
    ],
    [
      'Swap the gas bottle 40 days after done, on a Saturday',
      {
        title: 'Swap the gas bottle',
        repeat: { by: 'completion', every: 'P40D', onto: 'FREQ=WEEKLY;BYDAY=SA' },
      },
    ],
    [
      'Open the lock on 3 May, 5 June and 9 July',
      {
        title: 'Open the lock',
        start: '2027-05-03',
        repeat: { by: 'dates', dates: ['2027-05-03', '2027-06-05', '2027-07-09'] },
      },
    ],
    [
      'Weigh the hives every Friday except on 25 December and 1 January',
      {
        title: 'Weigh the hives',
        repeat: {
          by: 'calendar',
          rule: 'FREQ=WEEKLY;BYDAY=FR',
          except: ['2026-12-25', '2027-01-01'],
        },
      },
    ],
    [
      'Pay the fee on the 1st of each month, on the nearest working day',
      { title: 'Pay the fee', repeat: weekly('FREQ=MONTHLY;BYMONTHDAY=1'), closedDays: 'nearest' },
    ],
    [
      'Pay the fee on the 1st of each month, if it is a holiday, the day before',
      { title: 'Pay the fee', closedDays: 'before' },
    ],
    [
      'Turn the frames every 2 weeks on Sunday 1 time, each one is owed',
      { title: 'Turn the frames', ends: { after: 1 }, owe: 'every' },
    ],
    [
      'Swim 4 times a week',
      { title: 'Swim', start: TODAY, repeat: { by: 'quota', times: 4, per: 'week' } },
    ],
    [
      'Take the bins out every Tuesday, missed 6 hours after it is due, each one is owed',
      { title: 'Take the bins out', late: 'lapse', grace: 'PT6H', owe: 'every' },
    ],
    [
      'Feed the hens at 8, 13 and 20 every day',
      { title: 'Feed the hens', at: ['08:00', '13:00', '20:00'], repeat: weekly('FREQ=DAILY') },
    ],
    [
      'Feed the hens twice a day at 8 and 20',
      { title: 'Feed the hens', at: ['08:00', '20:00'], repeat: weekly('FREQ=DAILY') },
    ],
    [
      'Look at the gauge 3 times a day at 8:00, 13:00 and 8 pm on weekdays',
      {
        title: 'Look at the gauge',
        at: ['08:00', '13:00', '20:00'],
        repeat: weekly('FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'),
      },
    ],
    [
      'Ring the yard at 8:00, 5 December',
      { title: 'Ring the yard', at: ['08:00'], start: '2026-12-05' },
    ],
    [
      'Ring the yard every day at 8:00, 10 times',
      { title: 'Ring the yard', at: ['08:00'], ends: { after: 10 } },
    ],
    [
      'Open the vents every Friday in June and July',
      {
        title: 'Open the vents',
        start: '2027-06-04',
        repeat: weekly('FREQ=WEEKLY;BYMONTH=6,7;BYDAY=FR'),
      },
    ],
    [
      'Service the stove on the 1st of March and September',
      { start: '2027-03-01', repeat: weekly('FREQ=MONTHLY;BYMONTH=3,9;BYMONTHDAY=1') },
    ],
    [
      'Hold the open day on the first Saturday of May, July and September',
      { start: '2027-05-01', repeat: weekly('FREQ=MONTHLY;BYMONTH=5,7,9;BYDAY=1SA') },
    ],
    [
      'Change the clocks every year on the last Sunday of March',
      { start: '2027-03-28', repeat: weekly('FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU') },
    ],
    [
      'Water the tubs every 2 days except in November, December and January',
      {
        title: 'Water the tubs',
        start: '2027-02-01',
        repeat: weekly('FREQ=DAILY;INTERVAL=2;BYMONTH=2,3,4,5,6,7,8,9,10'),
      },
    ],
    [
      'Paint the rail every other year in April',
      { start: '2027-04-01', repeat: weekly('FREQ=YEARLY;INTERVAL=2;BYMONTH=4;BYMONTHDAY=1') },
    ],
    ['Prune the roses in March', { title: 'Prune the roses', start: '2027-03-01', repeat: null }],
    [
      'Ring the office every Friday, if closed, not at all',
      { title: 'Ring the office', closedDays: 'drop' },
    ],
  ])('%s', (text, expected) => {
    const reading = read(text, TODAY);
    expect(reading).toMatchObject({ problems: [], notUnderstood: [] });
    expect(reading.series).toMatchObject(expected);
  });

  test.each(TITLES)('“%s” stays a title', (title) => {
    expect(read(title, TODAY, PERSON)).toMatchObject({
      series: { title, start: null, repeat: null },
      notUnderstood: [],
      doubts: [],
    });
  });

  test.each([...SPOKEN, ...SENTENCES])('%s', (text, series) => {
    const reading = read(text, SPOKEN_TODAY, PERSON);
    expect(reading).toMatchObject({ problems: [], notUnderstood: [] });
    expect(reading.series).toEqual(series);
  });

  test('a quoted stretch is never read', () => {
    expect(read('“Every Day” every week', TODAY).series).toMatchObject({
      title: 'Every Day',
      repeat: weekly('FREQ=WEEKLY'),
    });
    expect(read('Read "Every Day" once', TODAY).series).toMatchObject({
      title: 'Read "Every Day"',
      repeat: null,
    });
    expect(read('Buy 12" pipe every week and 3" tape', TODAY).series).toMatchObject({
      title: 'Buy 12" pipe and 3" tape',
    });
  });

  test('an interval of weeks counts from the person’s own first day', () => {
    const { series } = read('Air the cabin every 2 weeks on Sunday', TODAY, { weekStart: 'SU' });
    expect(series.repeat).toEqual(weekly('FREQ=WEEKLY;INTERVAL=2;BYDAY=SU;WKST=SU'));
  });

  test('what it did not understand it says', () => {
    expect(read('Clean every blue moon', TODAY)).toMatchObject({
      notUnderstood: ['every blue moon'],
      series: { title: 'Clean every blue moon' },
    });
    expect(read('Wash every Monday every Friday', TODAY)).toMatchObject({
      notUnderstood: ['every Friday'],
      series: { title: 'Wash every Friday', repeat: weekly('FREQ=WEEKLY;BYDAY=MO') },
    });
    // Of two ways to name its days, neither is lost without a word.
    expect(read('Sweep every weekend except the first of the month', TODAY)).toMatchObject({
      notUnderstood: [expect.stringContaining('weekend')],
    });
    const left = (text: string) => read(text, TODAY).notUnderstood;
    expect(left('Sweep every 2 months on Friday')).toEqual(['on Friday']);
    expect(left('Sweep every week on the first Monday of the month')).toEqual(['every week']);
    expect(left('Sweep on the 20th, on a Tuesday')).toEqual(['on the 20th']);
    expect(left('Sweep once, 2 weeks after done')).toEqual(['once']);
    expect(read('Order wax tomorrow until June 3', TODAY)).toMatchObject({
      notUnderstood: ['until June 3'],
      series: { title: 'Order wax until June 3', start: '2026-11-25' },
    });
  });

  test.each([
    ['Pay the fee on 30 Feb', 'date.missing'],
    ['Pay the fee on 2027-02-30', 'date.missing'],
    ['Scrub every 0 days', 'repeat.interval'],
    ['Scrub every 10000000 days', 'repeat.interval'],
    ['Scrub 10000000 days after done', 'span.long'],
    ['Scrub 0 days after done', 'span.empty'],
    ['Scrub every day starting 1 Dec 2026 until 1 Nov 2026', 'ends.before'],
    ['Scrub at 25:00', 'time.form'],
    ['Scrub on the 32nd of each month', 'date.missing'],
    ['Check the oil every 250 hours at 9', 'series.at'],
    [`${'long '.repeat(61)}`, 'series.title'],
  ])('“%s” is answered with what is wrong', (text, code) => {
    expect(read(text, TODAY).problems.map((problem) => problem.code)).toContain(code);
  });

  test('numbers of a date are read in the order of the person’s region', () => {
    const start = (text: string, dateOrder: 'dmy' | 'mdy' | 'ymd') =>
      read(text, TODAY, { dateOrder }).series.start;
    expect(start('Buy rope on 3/2/2027', 'dmy')).toBe('2027-02-03');
    expect(start('Buy rope on 3/2/2027', 'mdy')).toBe('2027-03-02');
    expect(start('Buy rope on 2027/3/2', 'ymd')).toBe('2027-03-02');
    expect(start('Buy rope on 13/2/2027', 'mdy')).toBe('2027-02-13');
    expect(start('Buy rope on 2.3.2027', 'dmy')).toBe('2027-03-02');
    expect(read('Buy rope on 31/2/2027', TODAY).problems[0]!.message).toBe(
      'There is no 31 February 2027.',
    );
    expect(read('Buy rope by 40/40', TODAY).problems[0]!.code).toBe('date.missing');
  });

  test('a place is one that the person has; any other stays in the title', () => {
    expect(read('Meet Jo in Bees', TODAY, PERSON).series).toMatchObject({ place: 'Bees' });
    expect(read('Meet Jo in Bees', TODAY).series).toMatchObject({ title: 'Meet Jo in Bees' });
    const places = ['Bees', 'The back yard'];
    expect(read('Dig in the back yard weekly', TODAY, { places }).series).toMatchObject({
      title: 'Dig',
      place: 'The back yard',
    });
    expect(read('Dig, belongs to “The “far”” yard”', TODAY).series).toMatchObject({
      title: 'Dig',
      place: 'The “far” yard',
    });
  });

  test('the stretches that were read are given with what they are part of', () => {
    const text = 'At 9 on Friday: ring the yard, remind me a day before';
    expect(read(text, TODAY).sources.map(({ part, text: words }) => [part, words])).toEqual([
      ['at', 'At 9'],
      ['start', 'on Friday'],
      ['remind', 'remind me a day before'],
    ]);
    const yearly = read('Renew the pass every year on 12 June', TODAY);
    expect(yearly.sources.map(({ part }) => part)).toEqual(['repeat', 'repeat']);
  });

  test('a clause is found by its first word wherever trying every clause would find it', () => {
    const context = {
      today: parseDay(TODAY),
      dateOrder: 'dmy',
      weekStart: 0,
      places: [{ id: 'Bees', name: 'Bees', words: ['bees'] }],
      begins: () => false,
      isBehind: () => true,
      factsOf: () => null,
      open: openDaysFor(['MO', 'TU', 'WE', 'TH', 'FR'], []),
    } as const;
    for (const [text] of [...SPOKEN, ...SENTENCES]) {
      const tokens = tokensOf(text);
      tokens.forEach((token, at) => {
        if (token.kind === 'quote') return;
        const tried = clausesAt(token);
        for (const clause of CLAUSES)
          if (clause(tokens, at, { ...context, text }) && !tried.includes(clause))
            throw new Error(`“${token.low}” begins a clause that is not tried: ${text}`);
      });
    }
  });

  test('any text is read without throwing', () => {
    const of = chance(7);
    for (let i = 0; i < 5000; i++) {
      const text = fuzzedSentence(of);
      const { series, problems } = read(text, TODAY);
      if (!problems.length && series.title) expect(checkDefinition(series)).toEqual(series);
    }
    fc.assert(
      fc.property(fc.string({ maxLength: 300, unit: 'binary' }), (it) => void read(it, TODAY)),
      { numRuns: 1000 },
    );
  });
});

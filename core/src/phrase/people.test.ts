import { PEOPLE } from './check/people.ts';
import { read, type Reading } from './read.ts';

// Sentences as people type and dictate them: nothing is read wrongly in silence.

const TODAY = '2027-06-01';
const isLoud = ({ doubts, problems, notUnderstood }: Reading) =>
  doubts.length > 0 || problems.length > 0 || notUnderstood.length > 0;

const sorted = (value: unknown): string =>
  JSON.stringify(value, (_key, it: unknown) =>
    typeof it === 'object' && it !== null && !Array.isArray(it)
      ? Object.fromEntries(Object.entries(it).sort(([a], [b]) => (a < b ? -1 : 1)))
      : it,
  );

function isRight(reading: Reading, meant: (typeof PEOPLE)[number][2]): boolean {
  if (meant === 'ask') return isLoud(reading);
  const series = reading.series as unknown as Record<string, unknown>;
  return Object.entries(meant).every(([key, value]) => sorted(series[key]) === sorted(value));
}

test('of what people say 95 in 100 are read right, and none wrongly in silence', () => {
  const readings = PEOPLE.map(([, text, meant]) => {
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
  expect(PEOPLE.length).toBeGreaterThan(230);
  expect(right / PEOPLE.length).toBeGreaterThan(0.95);
});

describe('what is left over and could say when is asked about', () => {
  test.each([
    ['Pay rent every month but not on bank holidays maybe', 'maybe'],
    ['Wash the car every Saturday or Sunday if dry', 'if dry'],
    ['Ring the yard every Monday before lunch', 'before lunch'],
    ['Meet the crew every Friday 3ish till five', 'till five'],
    ['Treat the deck every year in late spring', 'late spring'],
    ['Water the cactus most Sundays', 'most'],
    ['Call the yard tues', 'tues'],
    ['Lunch at the yard, half 12', 'half 12'],
    ['Change the filter once it’s been 3 weeks since I did it', 'once it’s been'],
    ['Mow the lawn every week an hour and a half', 'an hour and a half'],
    ['Send the log due Mondays, remind me Saturdays at 10', 'remind me'],
    ['Ring the yard tomorrow, remind me', 'remind me'],
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

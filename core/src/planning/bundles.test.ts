import { checkBundle, layingOf, type Bundle } from './bundles.ts';

// What a bundle comes to in a week and in a month; by hand.

const item = (key: string, days: number[]) => ({
  key,
  title: `Do ${key}`,
  days,
  takes: 20,
  note: '',
  steps: [],
  questions: [],
});
const FAIR: Bundle = {
  id: 'fair',
  name: 'The honey fair',
  per: 'week',
  items: [item('labels', [2]), item('jars', [3, 4]), item('stall', [6])],
};
const WEEK = { first: '2027-06-07', last: '2027-06-13' };
const brief = (...given: Parameters<typeof layingOf>) =>
  layingOf(...given).map(({ from, day }) => `${day.slice(5)} ${from.item} ${from.nth}`);

test('in a week: each on each of its days, the earliest first, knowing its bundle', () => {
  expect(brief(FAIR, WEEK, [])).toEqual([
    '06-09 labels 0',
    '06-10 jars 0',
    '06-11 jars 1',
    '06-13 stall 0',
  ]);
  expect(layingOf(FAIR, WEEK, [])[1]).toMatchObject({
    day: '2027-06-10',
    details: {
      title: 'Do jars',
      takes: 20,
      bundle: { id: 'fair', item: 'jars', nth: 0, on: '2027-06-07' },
    },
  });
});

test('days of the week stay what they are, whichever day a week begins with', () => {
  const sunday = { first: '2027-06-06', last: '2027-06-12' };
  expect(brief(FAIR, sunday, [])).toEqual([
    '06-06 stall 0',
    '06-09 labels 0',
    '06-10 jars 0',
    '06-11 jars 1',
  ]);
});

test('what lies there already is left out; another week has its own', () => {
  const there = layingOf(FAIR, WEEK, [])
    .slice(0, 2)
    .map(({ from }) => from);
  expect(brief(FAIR, WEEK, there)).toEqual(['06-11 jars 1', '06-13 stall 0']);
  expect(
    brief(
      FAIR,
      WEEK,
      layingOf(FAIR, WEEK, []).map(({ from }) => from),
    ),
  ).toEqual([]);
  expect(brief(FAIR, { first: '2027-06-14', last: '2027-06-20' }, there)).toHaveLength(4);
});

test('in a month: a day that it lacks is its last', () => {
  const spring: Bundle = { ...FAIR, per: 'month', items: [item('bilge', [1, 31])] };
  expect(brief(spring, { first: '2027-02-01', last: '2027-02-28' }, [])).toEqual([
    '02-01 bilge 0',
    '02-28 bilge 1',
  ]);
  expect(brief(spring, { first: '2027-03-01', last: '2027-03-31' }, [])).toEqual([
    '03-01 bilge 0',
    '03-31 bilge 1',
  ]);
});

const { id: _id, ...HAS } = FAIR;
test.each<[string, unknown, string]>([
  ['no name', { ...HAS, name: ' ' }, 'series.name'],
  ['neither of a week nor of a month', { ...HAS, per: 'year' }, 'bundle.per'],
  ['no list', { ...HAS, items: {} }, 'bundle.items'],
  ['two of one key', { ...HAS, items: [item('a', [1]), item('a', [2])] }, 'bundle.items'],
  ['no day', { ...HAS, items: [item('a', [])] }, 'bundle.days'],
  ['a day that no week has', { ...HAS, items: [item('a', [7])] }, 'bundle.days'],
  ['a day that no month has', { ...HAS, per: 'month', items: [item('a', [32])] }, 'bundle.days'],
  ['no title', { ...HAS, items: [{ ...item('a', [1]), title: '' }] }, 'series.title'],
  ['another part', { ...HAS, colour: 'red' }, 'bundle.part'],
])('refused: %s', (_name, given, code) => {
  expect(() => checkBundle(given)).toThrow(expect.objectContaining({ code }));
});

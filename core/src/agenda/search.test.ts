import { NO_DETAILS } from '../definition/details.ts';
import { hasWords, markedText, queryOf } from './search.ts';
import { lacksOf } from './unsorted.ts';

const places = [
  { id: 'a', name: 'Aboard' },
  { id: 'u', name: 'Boat upkeep' },
];
const details = {
  ...NO_DETAILS,
  title: 'Grease the stern gland',
  note: 'The grün tin, beside the *stove*',
  steps: [{ id: '1', text: 'Clean the Nippel' }],
  tags: ['winter'],
};

test.each([
  ['gland', true],
  ['gla', true],
  ['land', false],
  ['stern grease', true],
  ['GRUN', true],
  ['stove nip winter', true],
  ['board', false],
  ['abo', true],
  ['', true],
])('looked for: %s', (text, found) => {
  expect(hasWords(details, 'Aboard', queryOf(text).words)).toBe(found);
});

test('some words narrow it', () => {
  expect(queryOf('late in boat upkeep every month grease', places)).toEqual({
    words: ['grease'],
    is: new Set(['late']),
    repeat: 'every month',
    place: 'u',
  });
  expect(queryOf('Without a place, in the shed')).toEqual({
    words: ['in', 'the', 'shed'],
    is: new Set(['without a place']),
    repeat: null,
    place: null,
  });
  expect(queryOf('plate').is.size).toBe(0);
});

test('found words are marked', () => {
  expect(markedText('Grease the stern gland', ['st', 'gre'])).toEqual([
    ['Gre', true],
    ['ase the ', false],
    ['st', true],
    ['ern gland', false],
  ]);
  expect(markedText('Tee für Äpfel', ['ap'])).toEqual([
    ['Tee für ', false],
    ['Äp', true],
    ['fel', false],
  ]);
  expect(markedText('Tee', [])).toEqual([['Tee', false]]);
});

test('what a to-do lacks', () => {
  const isThere = (id: string) => id === 'a';
  const once = { start: null, repeat: null };
  const lacks = (place: string | null, someday = false, start: string | null = null) =>
    lacksOf({ ...once, start }, { place, someday }, isThere);
  expect(lacks(null)).toEqual(['place', 'date']);
  expect(lacks('gone')).toEqual(['place', 'date']);
  expect(lacks('a')).toEqual(['date']);
  expect(lacks('a', true)).toEqual([]);
  expect(lacks(null, false, '2027-06-01')).toEqual(['place']);
});

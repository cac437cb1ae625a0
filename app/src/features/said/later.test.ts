import { DEFAULT_SETTINGS, parseInstant, type Settings } from '@back-again/core';
import { laterAt, laterChoices, saidAgain } from './later.ts';

const settings: Settings = { ...DEFAULT_SETTINGS, zone: 'Europe/London', remindAt: '08:30' };
const shown = (now: string) =>
  laterChoices(parseInstant(now), settings).map(({ label, to }) => `${label}: ${to}`);

test('to when a reminder is put off in one touch, in the person’s zone', () => {
  expect(shown('2027-06-03T08:00:00Z')).toEqual([
    'in an hour: 2027-06-03T09:00:00Z',
    'in 3 hours: 2027-06-03T11:00:00Z',
    'this evening, 18:00: 2027-06-03T17:00:00Z',
    'tomorrow, 08:30: 2027-06-04T07:30:00Z',
    'in a week: 2027-06-10T07:30:00Z',
  ]);
});

test('in the evening there is no this evening; over a clock change it is the hour on the clock', () => {
  expect(shown('2027-10-30T16:30:00Z').slice(2)).toEqual([
    'tomorrow, 08:30: 2027-10-31T08:30:00Z',
    'in a week: 2027-11-06T08:30:00Z',
  ]);
});

test('a time of day is the next one', () => {
  const at = (text: string) => laterAt(text, parseInstant('2027-06-03T08:00:00Z'), settings);
  expect(at('18:30')).toBe('2027-06-03T17:30:00Z');
  expect(at(' 7.15 ')).toBe('2027-06-04T06:15:00Z');
  expect(at('21')).toBe('2027-06-03T20:00:00Z');
  expect([at(''), at('24:00'), at('8:60'), at('soon')]).toEqual([null, null, null, null]);
});

test('what is put off into the quiet hours is said when they end', () => {
  const quiet = { ...settings, quiet: { from: '22:00', to: '07:00' } };
  expect(saidAgain('2027-06-03T21:30:00Z', quiet)).toBe('2027-06-04T06:00:00Z');
  expect(saidAgain('2027-06-03T20:30:00Z', quiet)).toBe('2027-06-03T20:30:00Z');
});

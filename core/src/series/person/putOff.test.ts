import { parseDay } from '../../calendar/day.ts';
import { putOffFrom } from './putOff.ts';
import { checkSettings } from './settings.ts';

test.each([
  // 9 June 2027 is a Wednesday.
  ['2027-06-09', {}, '2027-06-12', '2027-06-14'],
  ['2027-06-12', {}, '2027-06-19', '2027-06-14'],
  ['2027-06-13', {}, '2027-06-19', '2027-06-14'],
  ['2027-06-14', {}, '2027-06-19', '2027-06-21'],
  ['2027-06-09', { weekStart: 'SU' }, '2027-06-12', '2027-06-13'],
  ['2027-06-09', { workdays: ['SU', 'MO', 'TU', 'WE', 'TH'] }, '2027-06-11', '2027-06-14'],
  ['2027-06-09', { workdays: [] }, null, '2027-06-14'],
] as const)('from %s, with %j', (today, settings, weekend, nextWeek) => {
  const days = putOffFrom(parseDay(today), checkSettings(settings as object));
  expect(days).toMatchObject({ weekend, nextWeek });
});

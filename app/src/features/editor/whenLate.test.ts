import { read } from '@back-again/core/reading';
import { whenLate } from './whenLate.ts';

const SETTINGS = { zone: 'Europe/London', dayStart: '00:00', weekStart: 'MO' } as const;
const when = (text: string) => whenLate(read(text, '2026-11-24').series, SETTINGS, []);

// Computed by hand: 40 days on from 24 November 2026 is 3 January 2027, from the 27th 6 January.
test('40 days by the calendar and after it is finished', () => {
  expect(when('Swap the bottle every 40 days')).toEqual({
    onTime: '2027-01-03',
    late: '2027-01-03',
    days: 3,
  });
  expect(when('Swap the bottle 40 days after done')).toEqual({
    onTime: '2027-01-03',
    late: '2027-01-06',
    days: 3,
  });
});

test('with a short step it is late by one day', () => {
  expect(when('Water the herbs every 2 days')).toEqual({
    onTime: '2026-11-26',
    late: '2026-11-26',
    days: 1,
  });
  expect(when('Water the herbs 2 days after done')).toMatchObject({ late: '2026-11-27' });
});

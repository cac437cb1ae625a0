import { formatInstant, parseInstant } from '../../calendar/zone.ts';
import { lastOverview, nextOverview } from './overview.ts';
import { DEFAULT_SETTINGS, checkSettings, type Settings } from '../person/settings.ts';

// By hand; the clock changes are those of the tz data: Europe/London 2027-03-28 and 2027-10-31,
// America/New_York 2027-03-14 and 2027-11-07.

const settings = (more: Partial<Settings> = {}): Settings => ({
  ...DEFAULT_SETTINGS,
  zone: 'Europe/London',
  overview: '07:30',
  ...more,
});
const next = (after: string, more?: Partial<Settings>) => {
  const found = nextOverview(settings(more), parseInstant(after));
  return found && `${found.day} at ${formatInstant(found.at).slice(0, 16)}`;
};

test.each<[string, string, Partial<Settings>, string]>([
  ['today', '2027-01-10T06:00:00Z', {}, '2027-01-10 at 2027-01-10T07:30'],
  ['not twice', '2027-01-10T07:30:00Z', {}, '2027-01-11 at 2027-01-11T07:30'],
  ['in summer', '2027-06-10T06:31:00Z', {}, '2027-06-11 at 2027-06-11T06:30'],
  [
    'skipped hour, London',
    '2027-03-27T20:00:00Z',
    { overview: '01:30' },
    '2027-03-28 at 2027-03-28T01:30',
  ],
  [
    'hour that comes twice, London',
    '2027-10-30T20:00:00Z',
    { overview: '01:30' },
    '2027-10-31 at 2027-10-31T00:30',
  ],
  [
    'skipped hour, New York',
    '2027-03-14T00:00:00Z',
    { zone: 'America/New_York', overview: '02:30' },
    '2027-03-14 at 2027-03-14T07:30',
  ],
  [
    'hour that comes twice, New York',
    '2027-11-06T20:00:00Z',
    { zone: 'America/New_York', overview: '01:30' },
    '2027-11-07 at 2027-11-07T05:30',
  ],
  [
    'in quiet hours: when they end',
    '2027-01-10T00:00:00Z',
    { overview: '05:00', quiet: { from: '22:00', to: '06:45' } },
    '2027-01-10 at 2027-01-10T06:45',
  ],
  [
    'late in the evening, in quiet hours: of the day on which it is said',
    '2027-01-10T12:00:00Z',
    { overview: '23:00', quiet: { from: '22:00', to: '06:45' } },
    '2027-01-11 at 2027-01-11T06:45',
  ],
  [
    'before the day begins: of the day that has gone on since',
    '2027-01-10T12:00:00Z',
    { overview: '02:00', dayStart: '04:00' },
    '2027-01-10 at 2027-01-11T02:00',
  ],
])('%s', (_what, after, more, expected) => {
  expect(next(after, more)).toBe(expected);
});

test('there is none where none is wanted', () => {
  expect(nextOverview(DEFAULT_SETTINGS, 0)).toBeNull();
  expect(lastOverview(DEFAULT_SETTINGS, 0)).toBeNull();
});

test('after an outage of weeks the last one alone is said', () => {
  const last = (until: string) => lastOverview(settings(), parseInstant(until))!.day;
  expect(last('2027-02-10T07:30:00Z')).toBe('2027-02-10');
  expect(last('2027-02-10T07:29:59Z')).toBe('2027-02-09');
});

test.each<[string, object, string]>([
  ['an hour', { remindAt: '9' }, 'settings.remindAt'],
  ['the overview', { overview: '25:00' }, 'settings.overview'],
  ['quiet hours without an end', { quiet: { from: '22:00' } }, 'settings.quiet.to'],
  ['a way that there is not', { channels: ['drum'] }, 'settings.channels'],
  ['the list as a further way', { channels: ['app'] }, 'settings.channels'],
  ['a number without its country', { phone: '0123456' }, 'settings.phone'],
  ['a reminder', { newReminders: [{ at: '9' }] }, 'settings.newReminders.0.at'],
])('%s that is wrong is refused by name', (_what, wrong, where) => {
  expect(() => checkSettings(wrong as Partial<Settings>)).toThrow(
    expect.objectContaining({ where }),
  );
});

import { formatTime } from '../calendar/time.ts';
import { time as readTime } from './grammar/times.ts';
import { tokensOf } from './grammar/tokens.ts';
import { hoursIn } from './hours.ts';

/** As a field reads that takes one hour. */
function hourIn(text: string) {
  const read = hoursIn(text, 1);
  return 'wrong' in read ? read : { time: read.times[0] ?? null };
}

describe('hours typed into a field', () => {
  it.each([
    ['18', '18:00'],
    ['6', '06:00'],
    ['0', '00:00'],
    ['6pm', '18:00'],
    ['6 PM', '18:00'],
    ['6.30pm', '18:30'],
    ['18.30', '18:30'],
    ['18:30', '18:30'],
    ['7:05', '07:05'],
    ['1930', '19:30'],
    ['0730', '07:30'],
    ['noon', '12:00'],
    ['midnight', '00:00'],
    ['12am', '00:00'],
    ['12pm', '12:00'],
    ['7 o’clock', '07:00'],
    [' 23:59 ', '23:59'],
  ])('%s', (text, time) => {
    expect(hourIn(text)).toEqual({ time });
    // A sentence says the same with it.
    const tokens = tokensOf(`at ${text.trim()}`);
    const said = readTime(tokens, 1);
    expect([formatTime(said!.value.minute), said!.next]).toEqual([time, tokens.length]);
  });

  it('reads several, each once, in the order in which they were typed', () => {
    expect(hoursIn('8, 13:00, 6pm')).toEqual({ times: ['08:00', '13:00', '18:00'] });
    expect(hoursIn('20:00 and 8')).toEqual({ times: ['20:00', '08:00'] });
    expect(hoursIn('8; 8:00')).toEqual({ times: ['08:00'] });
    expect(hoursIn('8am, ')).toEqual({ times: ['08:00'] });
  });

  it.each(['25:00', '24:00', '18:60', '2560', '13pm', '0pm'])('%s is on no clock', (text) =>
    expect(hourIn(text)).toEqual({ wrong: expect.stringMatching(/no/u) }),
  );

  it.each(['soon', '18:3', '1 2 3', '8 days', '-5', 'at', '18:30 Tuesday', '“6pm”'])(
    '%s is no hour',
    (text) => expect(hourIn(text)).toEqual({ wrong: expect.stringMatching(/is no hour|alone/u) }),
  );

  it('holds that nothing typed is no time, and that one field takes one', () => {
    expect(hourIn('  ')).toEqual({ time: null });
    expect(hourIn('8, 9')).toEqual({ wrong: 'One hour alone.' });
  });
});

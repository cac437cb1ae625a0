import { SENTENCES } from '../check/sentences.ts';
import { SPOKEN, SPOKEN_TODAY } from '../check/spoken.ts';
import { read } from './read.ts';

const THURSDAY = '2026-11-26';
const asked = (text: string, today = THURSDAY) =>
  read(text, today).doubts.map(({ code, where, choices }) => [
    code,
    where,
    ...choices.map(({ words, series }) => [words, series.start]),
  ]);

test.each([
  [
    'Swap the bottle every 40 days',
    [
      'fixedOrAfter',
      'every 40 days',
      ['every 40 days by the calendar', '2026-11-26'],
      ['40 days after done', '2026-11-26'],
    ],
  ],
  [
    'Pay the fee on the 5th',
    [
      'dayOfMonth',
      'on the 5th',
      ['on Saturday 5 December', '2026-12-05'],
      ['on the 5th of each month', '2026-12-05'],
    ],
  ],
  [
    'Meet at the lock next Friday',
    [
      'nextDay',
      'next Friday',
      ['Friday 27 November', '2026-11-27'],
      ['Friday 4 December', '2026-12-04'],
    ],
  ],
  [
    'Buy rope on 5/12/2027',
    [
      'dateOrder',
      '5/12/2027',
      ['Sunday 5 December 2027', '2027-12-05'],
      ['Wednesday 12 May', '2027-05-12'],
    ],
  ],
  [
    'Mow the bank until September on Fridays',
    [
      'untilMonth',
      'until September',
      ['until the end of September', '2026-11-27'],
      ['until the end of August', '2026-11-27'],
    ],
  ],
  [
    'Call the yard at 3 every day',
    ['hour', 'at 3', ['at 03:00', '2026-11-26'], ['at 15:00', '2026-11-26']],
  ],
  [
    'Feed the hens from 3 to 8 August',
    [
      'range',
      'from 3 to 8 August',
      ['every day from 3 to 8 August', '2027-08-03'],
      ['by Sunday 8 August, opens 5 days before', '2027-08-08'],
    ],
  ],
  [
    'Open the shed every third Monday',
    [
      'everyNth',
      'every third Monday',
      ['every 3 weeks on Monday', '2026-11-30'],
      ['on the third Monday of each month', '2026-12-21'],
    ],
  ],
  [
    'Give her the drops every 6 hours',
    [
      'hours',
      'every 6 hours',
      ['6 hours after done', '2026-11-26'],
      ['every day at 02:00, 08:00, 14:00 and 20:00', '2026-11-26'],
    ],
  ],
  [
    'Do the laundry Saturday',
    [
      'titleDay',
      'Do the laundry Saturday',
      ['“Do the laundry Saturday”', null],
      ['Do the laundry on Saturday 28 November', '2026-11-28'],
    ],
  ],
])('“%s” is asked', (text, doubt) => expect(asked(text)).toEqual([doubt]));

test.each([
  'Meet at the lock next Monday',
  'Meet at the lock on Friday',
  'Swap the bottle 40 days after done',
  'Swap the bottle every 40 days by the calendar',
  'Weigh the hives every Friday',
  'Air the bedding every day',
  'Pay the fee on the 5th of each month',
  'Call the yard at 03:00',
  'Call the yard at 3 pm',
  'Buy rope on 13/12/2027',
  'Buy rope on 2027-12-05',
  'Buy cream for the sun',
  '“Do the laundry Saturday”',
  'Feed the hens every day from 3 to 8 August',
])('“%s” leaves no doubt', (text) => expect(asked(text)).toEqual([]));

test('what was taken is what its first choice says, and then it is not asked again', () => {
  let doubts = 0;
  for (const [text] of [...SPOKEN, ...SENTENCES]) {
    const { series, doubts: found } = read(text, SPOKEN_TODAY);
    for (const { code, choices } of found) {
      doubts++;
      for (const [i, choice] of choices.entries()) {
        const again = read(choice.text, SPOKEN_TODAY);
        expect([text, again.series]).toEqual([text, choice.series]);
        if (i === 0) expect([text, again.series]).toEqual([text, series]);
        expect([text, again.doubts.map((doubt) => doubt.code)]).not.toEqual([
          text,
          expect.arrayContaining([code]),
        ]);
      }
    }
  }
  expect(doubts).toBeGreaterThan(40);
});

import { read } from '../meaning/read.ts';
import { say } from './readable.ts';
import { dateText, repeatText, spanText } from './say.ts';
import { GERMAN } from './german.ts';

const TODAY = '2026-11-24'; // a Tuesday

test('what is said', () => {
  const said = (text: string) => say(read(text, TODAY).series, TODAY);
  expect(said('Swap the gas bottle 40 days after done until 31 May 2027 starting 5 Dec')).toBe(
    'Swap the gas bottle comes back 40 days after you finish it, until 31 May, first on Saturday 5 December.',
  );
  expect(said('Air the cabin every 2 weeks on Tue and Sat at 9')).toBe(
    'Air the cabin comes back every 2 weeks on Tuesday and Saturday at 09:00, first on Tuesday 24 November.',
  );
  expect(said('Order wax')).toBe('Order wax has no date yet.');
  expect(said('Order wax tomorrow at 9')).toBe(
    'Order wax, once, on Wednesday 25 November at 09:00.',
  );
  expect(said('Choir on the second and last Thursday of the month, takes 2 hours')).toBe(
    'Choir comes back on the second and last Thursday of each month, first on Thursday 26 November, takes 2 hours.',
  );
  expect(said('Renew the pass every March, remind me a week before and when it is due')).toBe(
    'Renew the pass comes back every year on 1 March, first on Monday 1 March, remind me 1 week before and when it is due.',
  );
  expect(dateText('2025-01-02', TODAY)).toBe('2 January 2025');
  expect(spanText('P1M3D')).toBe('1 month and 3 days');
  expect(spanText('PT90M')).toBe('90 minutes');
});

test('a start that is none of its own times is what it is counted from', () => {
  const series = {
    title: 'Turn the frames',
    start: '2026-11-24',
    repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=FR' },
  } as const;
  expect(say(series, TODAY)).toBe(
    'Turn the frames comes back every 2 weeks on Friday, counted from Tuesday 24 November.',
  );
  expect(repeatText(series)).toBe('every 2 weeks on Friday');
});

// The German was written down by hand; the names of days and months and the form of dates are those
// of Intl (ECMA-402, Unicode CLDR).
test.each([
  ['Weigh the hives every Friday', 'Weigh the hives: freitags, zuerst am Freitag, 27. November.'],
  [
    'Swap the gas bottle 40 days after done, on a Saturday, until 31 May 2027 starting 5 Dec',
    'Swap the gas bottle: 40 Tage nach dem Erledigen, dann am nächsten Samstag, bis 31. Mai, zuerst am Samstag, 5. Dezember.',
  ],
  [
    'Air the cabin every 2 weeks on Tue and Sat at 9',
    'Air the cabin: alle 2 Wochen am Dienstag und Samstag um 09:00, zuerst am Dienstag, 24. November.',
  ],
  [
    'Read the meter on the 31st of each month, if closed, the working day before',
    'Read the meter: am 31. jedes Monats, sonst am letzten Tag, zuerst am Montag, 30. November, wenn geschlossen, am Arbeitstag davor.',
  ],
  [
    'Choir on the second and last Thursday of the month',
    'Choir: am zweiten und letzten Donnerstag jedes Monats, zuerst am Donnerstag, 26. November.',
  ],
  [
    'Send the log on the last working day of each month',
    'Send the log: am letzten Arbeitstag jedes Monats, ab Dienstag, 24. November.',
  ],
  ['Swim 4 times a week', 'Swim: 4-mal in der Woche, ab Dienstag, 24. November.'],
  ['Order wax', 'Order wax: noch ohne Datum.'],
  ['Order wax on 5 December 2027', 'Order wax: einmal am Sonntag, 5. Dezember 2027.'],
  [
    'Renew the pass every year on 12 June, opens 5 days before, remind me 2 days before at 18:00, takes 30 min',
    'Renew the pass: jedes Jahr am 12. Juni, zuerst am Samstag, 12. Juni, offen ab 5 Tage vorher, Erinnerung 2 Tage vorher um 18:00, dauert 30 Minuten.',
  ],
])('“%s” in German', (text, german) =>
  expect(say(read(text, TODAY).series, TODAY, { speech: GERMAN })).toBe(german),
);

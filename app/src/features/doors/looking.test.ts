/** @jest-environment node */

import { checkSettings, NO_DETAILS, type Details } from '@back-again/core';
import type { TodoState } from '@back-again/contract';
import { byUid, standingOf } from './against.ts';
import { lookAt, textOf, MOST, type Looked } from './looking.ts';
import { readTable } from './table.ts';

// What would come in from a file, as the worker works it out.

const bytesOf = (text: string | Uint8Array): ArrayBuffer => {
  const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text;
  return bytes.slice().buffer as ArrayBuffer;
};
const look = (text: string | Uint8Array, more: Partial<Looked> = {}) =>
  lookAt(
    {
      bytes: bytesOf(text),
      settings: checkSettings({ zone: 'Europe/London' }),
      holidays: [],
      places: [{ id: '11111111-1111-4111-8111-111111111111', name: 'Bees' }],
      now: Date.parse('2027-06-01T10:00:00Z'),
      today: '2027-06-01',
      ...more,
    },
    () => undefined,
  );

describe('a table', () => {
  test('its columns are recognised by their heads; a sentence is read, a place found or made a tag', () => {
    const found = look(
      'Task;How often;Notes;List;Minutes\nWax the skis;every year in November;Cold;Winter;1h 30\nFeed;every 3 days;;bees;\n',
    );
    expect(found.table?.columns).toEqual(['title', 'sentence', 'note', 'place', 'minutes']);
    const [skis, feed] = found.candidates;
    expect(skis).toMatchObject({
      uid: null,
      series: { start: '2027-11-01', repeat: { rule: 'FREQ=YEARLY;BYMONTH=11;BYMONTHDAY=1' } },
      details: { title: 'Wax the skis', note: 'Cold', tags: ['Winter'], takes: 90 },
      next: ['2027-11-01', '2028-11-01', '2029-11-01'],
    });
    expect(feed?.details.place).toBe('11111111-1111-4111-8111-111111111111');
  });

  test('what was not understood is a doubt, and a date that is none too', () => {
    const { candidates } = look(
      'name,when,due\nWater,whenever it is dry,\nMend,,soon\nRing,,2027-06-09\n',
    );
    expect(candidates[0]!.doubts.length).toBeGreaterThan(0);
    expect(candidates[1]).toMatchObject({
      series: { start: null },
      doubts: [expect.stringContaining('“soon”')],
    });
    expect(candidates[2]).toMatchObject({
      series: { start: '2027-06-09', repeat: null },
      doubts: [],
    });
  });

  test('columns can be set, two of one name are told apart, and without heads the first is a sentence', () => {
    const text = 'name,name\nWax,every 2 weeks on Tue\n';
    expect(look(text).table?.columns).toEqual(['title', 'none']);
    const set = look(text, { columns: ['title', 'sentence'] });
    expect(set.candidates[0]).toMatchObject({
      details: { title: 'Wax' },
      next: ['2027-06-01', '2027-06-15', '2027-06-29'],
    });
    const plain = look('Wax the skis every 2 weeks\nMend the gate on Friday\n');
    expect(plain.candidates.map(({ details }) => details.title)).toEqual([
      'Wax the skis',
      'Mend the gate',
    ]);
  });

  test('Latin-1 is read as such, semicolons and quotes too; one left open is said', () => {
    const latin = Uint8Array.from('name;note\nK\u00fchler;"a; ""b"""\n', (it) => it.charCodeAt(0));
    expect(look(latin).candidates[0]).toMatchObject({
      details: { title: 'Kühler', note: 'a; "b"' },
    });
    const open = look('name,note\nWax,"left open\nMend,x\n');
    expect(open.left).toEqual([
      expect.objectContaining({ message: expect.stringContaining('quotation') as string }),
    ]);
  });

  test('words that were made harmless for a spreadsheet come back as they were', () => {
    expect(look("name\n'=1+2 eggs\n").candidates[0]?.details.title).toBe('=1+2 eggs');
  });

  test('of 100,000 rows 5,000 come in, and the others are said to be left', () => {
    const text = `name\n${Array.from({ length: 100_000 }, (_, i) => `Thing ${i}`).join('\n')}`;
    const { candidates, left } = look(text);
    expect(candidates).toHaveLength(MOST);
    expect(left).toEqual([
      { where: 'line 5002 and on', message: expect.stringContaining('5,000') as string },
    ]);
  });

  test('a row with nothing in it is left out by its line', () => {
    expect(look('name,note\n,words\nWax,\n').left).toEqual([
      { where: 'line 2', message: 'There is neither a title nor when it comes back.' },
    ]);
  });
});

test.each<[string, string | Uint8Array]>([
  ['an HTML page', '<!doctype html>\n<html><body>a,b</body></html>'],
  ['a picture', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13])],
  ['nothing', ''],
  ['white space', ' \n \n'],
])('%s is neither', (_, text) => {
  expect(look(text).form).toBe('none');
});

test('text is UTF-8 where it can be', () => {
  expect(textOf(bytesOf('Kühler'))).toBe('Kühler');
  expect(readTable('')).toBeNull();
});

describe('a calendar', () => {
  const event = (uid: string, ...lines: string[]) => [
    'BEGIN:VEVENT',
    `UID:${uid}`,
    ...lines,
    'END:VEVENT',
  ];
  const calendar = (...entries: string[][]) =>
    ['BEGIN:VCALENDAR', ...entries.flat(), 'END:VCALENDAR'].join('\r\n');

  test('each with its next dates and doubts; a time of another name keeps that in its note', () => {
    const found = look(
      calendar(
        event('a', 'SUMMARY:Weigh', 'DTSTART;VALUE=DATE:20270601', 'RRULE:FREQ=WEEKLY'),
        event(
          'a',
          'SUMMARY:Weigh both',
          'RECURRENCE-ID;VALUE=DATE:20270608',
          'DTSTART;VALUE=DATE:20270609',
        ),
        event('b', 'SUMMARY:Hours', 'DTSTART:20270601T080000Z', 'RRULE:FREQ=HOURLY;COUNT=2'),
      ),
    );
    expect(found.candidates[0]).toMatchObject({
      uid: 'a',
      details: { came: { uid: 'a' } },
      next: ['2027-06-01', '2027-06-09', '2027-06-15'],
      times: [{ slot: '2027-06-08', due: '2027-06-09', note: 'Weigh both' }],
    });
    expect(found.candidates[1]!.doubts).toEqual([
      expect.stringContaining('another zone'),
      expect.stringContaining('next dates'),
    ]);
  });

  test('held against what is there: the same, changed by what, or new', () => {
    const text = calendar(
      event('a', 'SUMMARY:Weigh', 'DTSTART;VALUE=DATE:20270601', 'RRULE:FREQ=WEEKLY'),
    );
    const [candidate] = look(text).candidates;
    const { series, details } = candidate!;
    const there = {
      id: 'x',
      details: { ...NO_DETAILS, ...details } as Details,
      progress: { series, turns: [], open: [] },
    } as unknown as TodoState;
    expect(standingOf(candidate!, byUid([]))).toEqual({ kind: 'new' });
    expect(standingOf(candidate!, byUid([there]))).toEqual({ kind: 'same', todo: 'x' });
    const renamed = { ...there, details: { ...there.details, title: 'Weigh both' } };
    expect(standingOf(candidate!, byUid([renamed]))).toEqual({
      kind: 'changed',
      todo: 'x',
      what: ['its name'],
    });
  });
});

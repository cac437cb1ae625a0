import { fromIcal, toIcal, type Came } from '../exchange.ts';
import { FOREIGN_TEXTS } from './foreignTexts.ts';

// Entries as other programs write them, worked out by hand.

const came = (...lines: string[]): Came =>
  fromIcal({
    ical: ['BEGIN:VCALENDAR', 'VERSION:2.0', ...lines, 'END:VCALENDAR'].join('\r\n'),
    settings: { zone: 'Europe/London' },
    now: '2027-06-01T10:00:00Z',
  });

test('an event of another zone is at its hour here, its weekdays shifted along; that clocks differ is said', () => {
  const { todos, problems } = came(
    'BEGIN:VEVENT',
    'UID:call',
    'SUMMARY:Call the yard',
    'DTSTART;TZID=America/New_York:20270607T200000',
    'DTEND;TZID=America/New_York:20270607T210000',
    'RRULE:FREQ=WEEKLY;BYDAY=MO;UNTIL=20270801T000000Z',
    'END:VEVENT',
  );
  expect(todos).toMatchObject([
    {
      id: 'call',
      series: {
        start: '2027-06-08',
        at: ['01:00'],
        repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20270801' },
      },
      details: { title: 'Call the yard', takes: 60 },
    },
  ]);
  expect(problems).toMatchObject([{ where: 'call', entry: 1, kind: 'changed' }]);
});

test('days of the month that lie on others here come in as dates, and are listed', () => {
  const { todos, problems } = came(
    'BEGIN:VEVENT',
    'UID:month',
    'SUMMARY:Pay the yard',
    'DTSTART;TZID=America/New_York:20270605T200000',
    'RRULE:FREQ=MONTHLY;BYMONTHDAY=5;COUNT=3',
    'END:VEVENT',
  );
  expect(todos[0]!.series.repeat).toEqual({
    by: 'dates',
    dates: ['2027-06-06', '2027-07-06', '2027-08-06'],
  });
  expect(problems.map(({ kind }) => kind)).toEqual(['changed', 'changed']);
});

test('a start on an earlier day opens it before, and its rule is shifted; alarms count from the start', () => {
  expect(
    came(
      'BEGIN:VTODO',
      'UID:early',
      'SUMMARY:Air the cabin',
      'DTSTART;VALUE=DATE:20270604',
      'DUE;VALUE=DATE:20270607',
      'RRULE:FREQ=WEEKLY;BYDAY=FR',
      'PRIORITY:3',
      'CATEGORIES:air,damp',
      'BEGIN:VALARM',
      'ACTION:DISPLAY',
      'TRIGGER:-P1D',
      'DESCRIPTION:x',
      'END:VALARM',
      'END:VTODO',
    ),
  ).toMatchObject({
    problems: [],
    todos: [
      {
        series: {
          start: '2027-06-07',
          opensBefore: 'P3D',
          repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=MO' },
          reminders: [{ before: 'P4D' }],
        },
        details: { importance: 'high', tags: ['air', 'damp'] },
      },
    ],
  });
});

test('a start off its rule is an extra, and one less is counted (RFC 5545 §3.8.5.3)', () => {
  expect(
    came(
      'BEGIN:VTODO',
      'UID:off',
      'DTSTART;VALUE=DATE:20270602',
      'RRULE:FREQ=WEEKLY;BYDAY=FR;COUNT=4',
      'END:VTODO',
    ).todos,
  ).toMatchObject([
    {
      series: {
        start: '2027-06-02',
        repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=FR;COUNT=3', extra: ['2027-06-02'] },
      },
      details: { title: 'Without a title' },
    },
  ]);
});

test('an entry of a journal is done on its day; one that was done, at its moment', () => {
  expect(
    came(
      'BEGIN:VJOURNAL',
      'UID:log',
      'SUMMARY:Log',
      'DTSTART;VALUE=DATE:20270520',
      'DESCRIPTION:Fog until noon',
      'END:VJOURNAL',
      'BEGIN:VTODO',
      'UID:done',
      'SUMMARY:Mend the fender',
      'DUE:20270530T100000Z',
      'COMPLETED:20270530T110000Z',
      'END:VTODO',
    ).todos,
  ).toMatchObject([
    { details: { note: 'Fog until noon' }, times: [{ slot: '2027-05-20', status: 'done' }] },
    {
      series: { start: '2027-05-30', at: ['11:00'], repeat: null },
      times: [{ status: 'done', closedAt: '2027-05-30T11:00:00Z' }],
    },
  ]);
});

test('of one UID twice the higher SEQUENCE counts, and the other is listed (RFC 5546 §2.1.5)', () => {
  const todo = (title: string, sequence: number) => [
    'BEGIN:VTODO',
    'UID:two',
    `SUMMARY:${title}`,
    `SEQUENCE:${sequence}`,
    'END:VTODO',
  ];
  const { todos, problems } = came(...todo('new', 2), ...todo('old', 1));
  expect(todos.map(({ details }) => details!.title)).toEqual(['new']);
  expect(problems).toMatchObject([{ where: 'two', entry: 2, kind: 'left out' }]);
});

test('a zone that nobody knows is taken as it stands, and listed; one that the text describes is not', () => {
  const entry = (tzid: string) => [
    'BEGIN:VTODO',
    `UID:${tzid}`,
    `DUE;TZID=${tzid}:20270704T090000`,
    'END:VTODO',
  ];
  const zone = [
    'BEGIN:VTIMEZONE',
    'TZID:Two hours east',
    'BEGIN:STANDARD',
    'DTSTART:19700101T000000',
    'TZOFFSETFROM:+0200',
    'TZOFFSETTO:+0200',
    'END:STANDARD',
    'END:VTIMEZONE',
  ];
  const { todos, problems } = came(...zone, ...entry('Two hours east'), ...entry('Nowhere'));
  expect(todos.map(({ series }) => series.at)).toEqual([['08:00'], ['09:00']]);
  expect(problems).toMatchObject([{ where: 'Nowhere', kind: 'changed' }]);
});

test.each([
  ['an HTML page', '<html><body>no</body></html>'],
  ['nothing', ''],
  ['a picture', '\u0089PNG\r\n\u001A\n\u0000\u0000'],
])('%s is no calendar: one problem, no to-do', (_, ical) => {
  const { todos, problems } = fromIcal({ ical });
  expect(todos).toEqual([]);
  expect(problems).toHaveLength(1);
});

test('one bad entry takes no other along; parts 10,000 deep are refused', () => {
  const deep = Array.from({ length: 10_000 }, () => 'BEGIN:X-PART');
  const ends = Array.from({ length: 10_000 }, () => 'END:X-PART');
  const { todos, problems } = came(
    'BEGIN:VTODO',
    'UID:never ended',
    'BEGIN:VTODO',
    'UID:deep',
    ...deep,
    ...ends,
    'END:VTODO',
    'BEGIN:VTODO',
    'UID:good',
    'SUMMARY:Good',
    'END:VTODO',
  );
  expect(todos.map(({ id }) => id)).toEqual(['good']);
  expect(problems.map(({ where, kind }) => [where, kind])).toEqual([
    ['line 3', 'left out'],
    ['line 5', 'left out'],
  ]);
});

test.each(FOREIGN_TEXTS)('$about', ({ lines, todos, problems = [] }) => {
  const found = came(...lines);
  expect(found.todos).toMatchObject(todos);
  expect(found.todos).toHaveLength(todos.length);
  expect(found.problems.map(({ kind }) => kind)).toEqual(problems);
  if (!found.todos.length) return;
  // What came in goes out, and comes in again the same.
  const settings = { zone: 'Europe/London' };
  const now = '2027-06-01T10:00:00Z';
  const { ical } = toIcal({ todos: found.todos as never, settings, now });
  expect(fromIcal({ ical, settings, now })).toEqual({ todos: found.todos, problems: [] });
});

test('sixty texts and more are held by hand', () => {
  expect(FOREIGN_TEXTS.length).toBeGreaterThanOrEqual(60);
});

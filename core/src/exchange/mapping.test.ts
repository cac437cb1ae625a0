import { fromIcal, toIcal, type ExchangedTime, type OutInput } from '../exchange.ts';

// Each line of the table of what stands for what, both ways, by clause of RFC 5545 where no other is named.

const NOW = '2027-06-01T10:00:00Z';
const SETTINGS = { zone: 'Europe/London', remindAt: '08:30', email: 'demo@example.org' };
const INPUT = {
  settings: SETTINGS,
  now: NOW,
  holidays: ['2027-08-30'],
  places: [{ id: '11111111-1111-4111-8111-111111111111', name: 'Boat shed' }],
};
const DAY = { start: '2027-06-04', repeat: null };
const WEEKLY = { start: '2027-06-01', repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' } };

interface Row {
  line: string;
  todo: { series: object; details?: object; times?: ExchangedTime[]; [key: string]: unknown };
  /** Lines that the entries have, in any order; those that are of overrides after a mark. */
  has: string[];
  lacks?: RegExp;
}

const ROWS: Row[] = [
  {
    line: 'id, created, changed, version: UID, CREATED, LAST-MODIFIED, SEQUENCE, DTSTAMP (§3.8.4.7, §3.8.7)',
    todo: {
      series: DAY,
      created: '2027-01-02T03:04:05Z',
      changed: '2027-02-03T04:05:06Z',
      version: 7,
    },
    has: [
      'UID:a',
      'CREATED:20270102T030405Z',
      'LAST-MODIFIED:20270203T040506Z',
      'SEQUENCE:7',
      'DTSTAMP:20270601T100000Z',
    ],
  },
  {
    line: 'title and note: SUMMARY, DESCRIPTION (§3.8.1.12, §3.8.1.5)',
    todo: { series: DAY, details: { title: 'Grease, then turn; once', note: 'Two lines\nof it' } },
    has: ['SUMMARY:Grease\\, then turn\\; once', 'DESCRIPTION:Two lines\\nof it'],
  },
  {
    line: 'place and tags: CATEGORIES (§3.8.1.2)',
    todo: { series: DAY, details: { tags: ['one', 'two'], place: INPUT.places[0]!.id } },
    has: ['CATEGORIES:one,two', 'CATEGORIES;X-BACK-AGAIN-PLACE=TRUE:Boat shed'],
  },
  {
    line: 'important: PRIORITY 1 (§3.8.1.9)',
    todo: { series: DAY, details: { importance: 'high' } },
    has: ['PRIORITY:1'],
  },
  {
    line: 'less important: PRIORITY 9',
    todo: { series: DAY, details: { importance: 'low' } },
    has: ['PRIORITY:9'],
  },
  { line: 'neither: none', todo: { series: DAY }, has: [], lacks: /^PRIORITY/u },
  {
    line: 'minutes: ESTIMATED-DURATION',
    todo: { series: DAY, details: { takes: 90 } },
    has: ['ESTIMATED-DURATION:PT90M'],
  },
  {
    line: 'steps as lines of the DESCRIPTION, marked',
    todo: {
      series: DAY,
      details: {
        note: 'First',
        steps: [
          { id: 's1', text: 'Drain' },
          { id: 's2', text: 'Flush' },
        ],
      },
    },
    has: ['DESCRIPTION:First\\n\\n- [ ] Drain\\n- [ ] Flush'],
  },
  {
    line: 'questions have no place there: X-BACK-AGAIN has them',
    todo: {
      series: DAY,
      details: { questions: [{ id: 'kg', asks: 'weight', kind: 'number', unit: 'kg' }] },
    },
    has: [],
  },
  {
    line: 'a rule: DTSTART on the first slot, DUE the same, RRULE (§3.8.5.3)',
    todo: { series: { ...WEEKLY, start: '2027-06-02' } },
    has: ['DTSTART;VALUE=DATE:20270608', 'DUE;VALUE=DATE:20270608', 'RRULE:FREQ=WEEKLY;BYDAY=TU'],
  },
  {
    line: 'except and extra: EXDATE and RDATE, single times among them (§3.8.5.1, §3.8.5.2)',
    todo: {
      series: {
        start: '2027-06-01',
        at: ['08:00', '18:00'],
        repeat: {
          by: 'calendar',
          rule: 'FREQ=WEEKLY;BYDAY=TU',
          except: ['2027-06-08T18:00'],
          extra: ['2027-06-09T08:00', '2027-06-12'],
        },
      },
    },
    has: [
      'RDATE;TZID=Europe/London:20270609T080000,20270612T080000',
      'EXDATE;TZID=Europe/London:20270608T180000',
      'RDATE;TZID=Europe/London:20270612T180000',
    ],
  },
  {
    line: 'UTC is written with Z (§3.3.5, form 2)',
    todo: {
      series: {
        start: '2027-06-01',
        at: ['09:00'],
        repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
      },
      zone: 'UTC',
    },
    has: ['DTSTART:20270601T090000Z', 'DUE:20270601T090000Z'],
    lacks: /TZID/u,
  },
  {
    line: 'working days: the slots of two years, a hundred at most, as RDATE',
    todo: {
      series: { start: '2027-06-01', repeat: { by: 'calendar', workday: -1, per: 'quarter' } },
    },
    has: [
      'DTSTART;VALUE=DATE:20270630',
      'RDATE;VALUE=DATE:20270930,20271231,20280331,20280630,20280929,20281229,20290330',
    ],
    lacks: /^RRULE/u,
  },
  {
    line: 'so many a period: from its first day to its last; how many are done in a hundred (§3.8.1.8)',
    todo: {
      series: { start: '2027-05-31', repeat: { by: 'quota', times: 3, per: 'week' } },
      times: [{ slot: '2027-05-31', number: 1, due: '2027-06-06', status: 'open', tally: 2 }],
    },
    has: [
      'DTSTART;VALUE=DATE:20270531',
      'DUE;VALUE=DATE:20270606',
      'RECURRENCE-ID;VALUE=DATE:20270531',
      'PERCENT-COMPLETE:66',
    ],
  },
  {
    line: 'months of other lengths are an override each',
    todo: { series: { start: '2027-06-01', repeat: { by: 'quota', times: 4, per: 'month' } } },
    has: [
      'DTSTART;VALUE=DATE:20270601',
      'DUE;VALUE=DATE:20270630',
      'RECURRENCE-ID;VALUE=DATE:20270701',
      'DUE;VALUE=DATE:20270731',
    ],
  },
  {
    line: 'after I finish: those that ended and the next due',
    todo: {
      series: { start: '2027-05-01', repeat: { by: 'completion', every: 'P21D' } },
      times: [
        {
          slot: '2027-05-01',
          number: 1,
          due: '2027-05-01',
          status: 'done',
          closedAt: '2027-05-20T09:00:00Z',
        },
      ],
    },
    has: [
      'DTSTART;VALUE=DATE:20270501',
      'RDATE;VALUE=DATE:20270610',
      'RECURRENCE-ID;VALUE=DATE:20270501',
      'COMPLETED:20270520T090000Z',
    ],
    lacks: /^RRULE/u,
  },
  {
    line: 'closed days: an override with its own DUE; nothing of those that are left out',
    todo: {
      series: {
        start: '2027-08-02',
        closedDays: 'after',
        repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=MO' },
        ends: { on: '2027-09-06' },
      },
    },
    has: [
      'RRULE:FREQ=WEEKLY;BYDAY=MO;UNTIL=20270906',
      'RECURRENCE-ID;VALUE=DATE:20270830',
      'DUE;VALUE=DATE:20270831',
    ],
  },
  {
    line: 'closed days dropped: EXDATE',
    todo: {
      series: {
        start: '2027-08-02',
        closedDays: 'drop',
        repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=MO' },
        ends: { on: '2027-09-06' },
      },
    },
    has: ['EXDATE;VALUE=DATE:20270830'],
    lacks: /^RECURRENCE-ID/u,
  },
  {
    line: 'a pause without an end: UNTIL the last before it',
    todo: { series: { ...WEEKLY, pauses: [{ from: '2027-07-01', to: null }] } },
    has: ['RRULE:FREQ=WEEKLY;BYDAY=TU;UNTIL=20270629'],
  },
  {
    line: 'done: STATUS, COMPLETED, COMMENT (§3.8.1.11, §3.8.2.1, §3.8.1.4)',
    todo: {
      series: WEEKLY,
      times: [
        {
          slot: '2027-06-01',
          number: 1,
          due: '2027-06-01',
          status: 'done',
          closedAt: '2027-06-01T07:00:00Z',
          note: 'Two frames',
        },
      ],
    },
    has: [
      'RECURRENCE-ID;VALUE=DATE:20270601',
      'STATUS:COMPLETED',
      'COMPLETED:20270601T070000Z',
      'COMMENT:Two frames',
    ],
  },
  {
    line: 'skipped: CANCELLED',
    todo: {
      series: WEEKLY,
      times: [
        {
          slot: '2027-06-01',
          number: 1,
          due: '2027-06-01',
          status: 'skipped',
          closedAt: '2027-06-01T07:00:00Z',
        },
      ],
    },
    has: ['STATUS:CANCELLED'],
  },
  {
    line: 'missed: NEEDS-ACTION and X-BACK-AGAIN-STATUS',
    todo: {
      series: WEEKLY,
      times: [
        {
          slot: '2027-06-01',
          number: 1,
          due: '2027-06-01',
          status: 'missed',
          closedAt: '2027-06-08T00:00:00Z',
        },
      ],
    },
    has: ['X-BACK-AGAIN-STATUS:MISSED'],
    lacks: /^STATUS:(COMPLETED|CANCELLED)/u,
  },
  {
    line: 'moved: its own DUE beside its RECURRENCE-ID (§3.8.4.4)',
    todo: {
      series: WEEKLY,
      times: [
        {
          slot: '2027-06-08',
          number: 2,
          due: '2027-06-10',
          plan: '2027-06-10',
          status: 'open',
          part: 30,
        },
      ],
    },
    has: ['RECURRENCE-ID;VALUE=DATE:20270608', 'DUE;VALUE=DATE:20270610', 'PERCENT-COMPLETE:30'],
  },
  {
    line: 'a slot that the rule does not yield any more is RDATE beside its override',
    todo: {
      series: WEEKLY,
      times: [
        {
          slot: '2027-06-03',
          number: 1,
          due: '2027-06-03',
          status: 'done',
          closedAt: '2027-06-03T07:00:00Z',
        },
      ],
    },
    has: ['RDATE;VALUE=DATE:20270603', 'RECURRENCE-ID;VALUE=DATE:20270603'],
  },
  {
    line: 'a reminder: VALARM, DISPLAY, a duration that meets the hour (§3.6.6, §3.8.6.3)',
    todo: { series: { ...DAY, reminders: [{}, { before: 'P2D', at: '18:00' }] } },
    has: ['ACTION:DISPLAY', 'TRIGGER;RELATED=END:PT8H30M', 'TRIGGER;RELATED=END:-P1DT6H'],
  },
  {
    line: 'by e-mail: EMAIL with ATTENDEE; again: REPEAT and DURATION (§3.8.6.2)',
    todo: {
      series: {
        ...DAY,
        at: ['09:00'],
        reminders: [{ before: 'PT45M', channel: 'email', again: { every: 'PT15M', atMost: 3 } }],
      },
    },
    has: [
      'ACTION:EMAIL',
      'ATTENDEE:mailto:demo@example.org',
      'TRIGGER;RELATED=END:-PT45M',
      'REPEAT:3',
      'DURATION:PT15M',
    ],
  },
  {
    line: 'before P0D and PT0M: the due day and the due moment',
    todo: {
      series: {
        ...DAY,
        at: ['09:00'],
        reminders: [{ before: 'PT0M' }, { before: 'P0D', at: '07:00' }],
      },
    },
    has: ['TRIGGER;RELATED=END:PT0M', 'TRIGGER;RELATED=END:-PT2H'],
  },
  {
    line: 'unknown properties go out as they came, a priority while it says the same (§3.8.8)',
    todo: {
      series: DAY,
      details: { importance: 'high' },
      kept: [
        ['x-hue', { 'x-p': '1' }, 'unknown', 'teal'],
        ['priority', {}, 'integer', 3],
        ['geo', {}, 'float', [51.5, -1.25]],
      ],
    },
    has: ['X-HUE;X-P=1:teal', 'PRIORITY:3', 'GEO:51.5;-1.25'],
  },
];

const unfolded = (ical: string) => ical.replaceAll(/\r\n[ \t]/gu, '').split('\r\n');

test.each(ROWS)('$line', ({ todo: { zone, ...todo }, has, lacks }) => {
  const given = { id: 'a', ...todo, details: { title: 'Weigh the hives', ...todo.details } };
  const input = { ...INPUT, settings: { ...SETTINGS, ...(zone ? { zone } : {}) }, todos: [given] };
  const { ical } = toIcal(input as unknown as OutInput);
  const lines = unfolded(ical);
  expect(lines).toEqual(expect.arrayContaining(has));
  if (lacks) expect(lines.filter((line) => lacks.test(line))).toEqual([]);
  // Back it comes whole, and goes out again to the byte.
  const { email: _email, ...settings } = input.settings;
  const came = fromIcal({ ical, settings: settings as never, now: NOW });
  expect(came.problems).toEqual([]);
  const { times, ...rest } = given as { times?: unknown };
  const { reminders: _reminders, ...series } = given.series as { reminders?: unknown };
  expect(came.todos).toMatchObject([{ ...rest, series, ...(times ? { times } : {}) }]);
  expect(toIcal({ ...input, todos: came.todos } as unknown as OutInput).ical).toBe(ical);
});

test('what another program changed counts; what it cannot say is as we wrote it', () => {
  const series = { start: '2027-05-01', repeat: { by: 'completion', every: 'P21D' }, late: 'wait' };
  const details = {
    title: 'Grease the winch',
    steps: [{ id: 's1', text: 'Drain' }],
    questions: [{ id: 'kg', asks: 'weight', kind: 'number', unit: 'kg' }],
    takes: 30,
  };
  const { ical } = toIcal({ ...INPUT, todos: [{ id: 'a', series, details }] } as never);
  const changed = ical
    .replace('SUMMARY:Grease the winch', 'SUMMARY:Grease both winches\r\nLOCATION:Quay')
    .replace('ESTIMATED-DURATION:PT30M', 'ESTIMATED-DURATION:PT45M');
  expect(fromIcal({ ical: changed, settings: { zone: 'Europe/London' }, now: NOW })).toMatchObject({
    problems: [],
    todos: [
      {
        series,
        details: { ...details, title: 'Grease both winches', takes: 45 },
        kept: [['location', {}, 'text', 'Quay']],
      },
    ],
  });
});

test('without a to-do there is nothing to write (by name), and a bad one says which', () => {
  expect(() => toIcal({ todos: [], now: NOW })).toThrow('There is no to-do to write.');
  const todos = [
    { id: 'a', series: DAY },
    { id: 'b', series: { start: 'soon', repeat: null } },
  ];
  expect(() => toIcal({ todos, now: NOW })).toThrow(
    expect.objectContaining({ where: 'todos.1.start' }) as Error,
  );
});

import type { Problem } from './entry.ts';

/** Entries as other programs write them, each with what it comes to: worked out by hand, on 1 June 2027 at 11:00 in London. */

export interface ForeignText {
  about: string;
  lines: string[];
  /** What the to-dos that come in have in them; none: nothing comes in. */
  todos: object[];
  problems?: Problem['kind'][];
}

const todo = (...lines: string[]) => [
  'BEGIN:VTODO',
  'UID:t',
  'SUMMARY:Turn the compost',
  ...lines,
  'END:VTODO',
];
const event = (...lines: string[]) => [
  'BEGIN:VEVENT',
  'UID:e',
  'SUMMARY:Open the hall',
  ...lines,
  'END:VEVENT',
];
const alarm = (...lines: string[]) => [
  'BEGIN:VALARM',
  'ACTION:DISPLAY',
  'DESCRIPTION:Now',
  ...lines,
  'END:VALARM',
];
const rule = (text: string, more: object = {}) => ({
  repeat: { by: 'calendar', rule: text, ...more },
});

export const FOREIGN_TEXTS: ForeignText[] = [
  {
    about: 'DUE alone (§3.8.2.3)',
    lines: todo('DUE;VALUE=DATE:20270604'),
    todos: [
      {
        id: 't',
        series: { start: '2027-06-04', repeat: null },
        details: { title: 'Turn the compost' },
      },
    ],
  },
  {
    about: 'DUE in UTC is an hour here',
    lines: todo('DUE:20270604T083000Z'),
    todos: [{ series: { start: '2027-06-04', at: ['09:30'], repeat: null } }],
  },
  {
    about: 'an hour without a zone stands as it is (§3.3.5, form 1)',
    lines: todo('DUE:20270604T083000'),
    todos: [{ series: { start: '2027-06-04', at: ['08:30'] } }],
  },
  {
    about: 'DTSTART with DURATION is due at its end (§3.8.2.5)',
    lines: todo('DTSTART;TZID=Europe/London:20270604T083000', 'DURATION:PT90M'),
    todos: [{ series: { start: '2027-06-04', at: ['10:00'] } }],
  },
  {
    about: 'neither start nor due: it is undated',
    lines: todo('PRIORITY:5'),
    todos: [
      {
        series: { start: null, repeat: null },
        details: { importance: 'normal' },
        kept: [['priority', {}, 'integer', 5]],
      },
    ],
  },
  {
    about: 'priorities from 1 to 4 are high, and kept (§3.8.1.9)',
    lines: todo('PRIORITY:2'),
    todos: [{ details: { importance: 'high' }, kept: [['priority', {}, 'integer', 2]] }],
  },
  {
    about: 'priority 9 is low',
    lines: todo('PRIORITY:9'),
    todos: [{ details: { importance: 'low' } }],
  },
  {
    about: 'categories are tags, each once',
    lines: todo('CATEGORIES:garden,weekly', 'CATEGORIES:garden'),
    todos: [{ details: { tags: ['garden', 'weekly'] } }],
  },
  {
    about: 'a description is the note, with its escapes (§3.3.11)',
    lines: todo('DESCRIPTION:Fork\\, barrow\\; gloves\\nand water\\\\'),
    todos: [{ details: { note: 'Fork, barrow; gloves\nand water\\' } }],
  },
  {
    about: 'steps of others stay text',
    lines: todo('DESCRIPTION:- [ ] one\\n- [ ] two'),
    todos: [{ details: { note: '- [ ] one\n- [ ] two', steps: [] } }],
  },
  {
    about: 'PERCENT-COMPLETE of an open one is kept (§3.8.1.8)',
    lines: todo('DUE;VALUE=DATE:20270604', 'PERCENT-COMPLETE:40', 'STATUS:IN-PROCESS'),
    todos: [{ times: [{ slot: '2027-06-04', status: 'open', part: 40 }] }],
  },
  {
    about: 'COMPLETED alone says that it is done (§3.8.2.1)',
    lines: todo('DUE;VALUE=DATE:20270520', 'COMPLETED:20270521T120000Z'),
    todos: [{ times: [{ slot: '2027-05-20', status: 'done', closedAt: '2027-05-21T12:00:00Z' }] }],
  },
  {
    about: 'STATUS:COMPLETED without a moment is done when it was last changed',
    lines: todo('DUE;VALUE=DATE:20270520', 'STATUS:COMPLETED', 'LAST-MODIFIED:20270522T060000Z'),
    todos: [{ times: [{ status: 'done', closedAt: '2027-05-22T06:00:00Z' }] }],
  },
  {
    about: 'and else when it was due',
    lines: todo('DUE;TZID=Europe/London:20270520T180000', 'STATUS:COMPLETED'),
    todos: [{ times: [{ status: 'done', closedAt: '2027-05-20T17:00:00Z' }] }],
  },
  {
    about: 'a one-off that was called off is skipped',
    lines: event(
      'DTSTART;VALUE=DATE:20270520',
      'STATUS:CANCELLED',
      'LAST-MODIFIED:20270519T060000Z',
    ),
    todos: [{ times: [{ status: 'skipped', closedAt: '2027-05-19T06:00:00Z' }] }],
  },
  {
    about: 'a comment is the note of the time',
    lines: todo(
      'DUE;VALUE=DATE:20270520',
      'COMPLETED:20270520T120000Z',
      'COMMENT:Half of it',
      'COMMENT:Rain',
    ),
    todos: [{ times: [{ note: 'Half of it\nRain' }] }],
  },
  {
    about: 'daily',
    lines: todo('DTSTART;VALUE=DATE:20270601', 'RRULE:FREQ=DAILY'),
    todos: [{ series: { start: '2027-06-01', ...rule('FREQ=DAILY') } }],
  },
  {
    about: 'weekdays, from a Sunday as the first day of the week (§3.3.10)',
    lines: event(
      'DTSTART;TZID=Europe/London:20270607T090000',
      'RRULE:FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=MO,WE',
    ),
    todos: [
      {
        series: {
          start: '2027-06-07',
          at: ['09:00'],
          ...rule('FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,WE;WKST=SU'),
        },
      },
    ],
  },
  {
    about: 'the last Friday of a month',
    lines: todo('DTSTART;VALUE=DATE:20270625', 'RRULE:FREQ=MONTHLY;BYDAY=-1FR'),
    todos: [{ series: { start: '2027-06-25', ...rule('FREQ=MONTHLY;BYDAY=-1FR') } }],
  },
  {
    about: 'the last working day by BYSETPOS',
    lines: todo(
      'DTSTART;VALUE=DATE:20270630',
      'RRULE:FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1',
    ),
    todos: [{ series: rule('FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1') }],
  },
  {
    about: 'every year on a day of a month',
    lines: event(
      'DTSTART;VALUE=DATE:20270814',
      'DTEND;VALUE=DATE:20270815',
      'RRULE:FREQ=YEARLY;BYMONTH=8;BYMONTHDAY=14',
    ),
    todos: [
      {
        series: { start: '2027-08-14', ...rule('FREQ=YEARLY;BYMONTH=8;BYMONTHDAY=14') },
        details: { takes: null },
      },
    ],
  },
  {
    about: 'RSCALE and SKIP are ours (RFC 7529 §4)',
    lines: todo(
      'DTSTART;VALUE=DATE:20270131',
      'RRULE:RSCALE=GREGORIAN;FREQ=MONTHLY;SKIP=BACKWARD;BYMONTHDAY=31',
    ),
    todos: [{ series: { repeat: { rule: 'FREQ=MONTHLY;SKIP=BACKWARD;BYMONTHDAY=31' } } }],
  },
  {
    about: 'UNTIL as a date counts whole',
    lines: event('DTSTART;TZID=Europe/London:20270601T090000', 'RRULE:FREQ=DAILY;UNTIL=20270610'),
    todos: [{ series: rule('FREQ=DAILY;UNTIL=20270610') }],
  },
  {
    about: 'UNTIL as a moment before the hour of that day',
    lines: event(
      'DTSTART;TZID=Europe/London:20270601T090000',
      'RRULE:FREQ=DAILY;UNTIL=20270610T075959Z',
    ),
    todos: [{ series: rule('FREQ=DAILY;UNTIL=20270609') }],
  },
  {
    about: 'UNTIL at the very moment is within it',
    lines: event(
      'DTSTART;TZID=Europe/London:20270601T090000',
      'RRULE:FREQ=DAILY;UNTIL=20270610T080000Z',
    ),
    todos: [{ series: rule('FREQ=DAILY;UNTIL=20270610') }],
  },
  {
    about: 'COUNT stays with the rule',
    lines: todo('DTSTART;VALUE=DATE:20270604', 'RRULE:FREQ=WEEKLY;BYDAY=FR;COUNT=6'),
    todos: [{ series: rule('FREQ=WEEKLY;BYDAY=FR;COUNT=6') }],
  },
  {
    about: 'exceptions in one line and in several, in UTC too (§3.8.5.1)',
    lines: event(
      'DTSTART;TZID=Europe/London:20270601T090000',
      'RRULE:FREQ=DAILY',
      'EXDATE;TZID=Europe/London:20270603T090000,20270604T090000',
      'EXDATE:20270607T080000Z',
    ),
    todos: [{ series: rule('FREQ=DAILY', { except: ['2027-06-03', '2027-06-04', '2027-06-07'] }) }],
  },
  {
    about: 'an exception at an hour at which there is none takes nothing out',
    lines: event(
      'DTSTART;TZID=Europe/London:20270601T090000',
      'RRULE:FREQ=DAILY',
      'EXDATE;TZID=Europe/London:20270603T100000',
    ),
    todos: [{ series: { at: ['09:00'], repeat: { by: 'calendar', rule: 'FREQ=DAILY' } } }],
    problems: ['changed'],
  },
  {
    about: 'further dates (§3.8.5.2)',
    lines: todo(
      'DTSTART;VALUE=DATE:20270604',
      'RRULE:FREQ=WEEKLY;BYDAY=FR',
      'RDATE;VALUE=DATE:20270608',
    ),
    todos: [{ series: rule('FREQ=WEEKLY;BYDAY=FR', { extra: ['2027-06-08'] }) }],
  },
  {
    about: 'dates without a rule are picked ones, periods by their start',
    lines: event(
      'DTSTART;TZID=Europe/London:20270604T090000',
      'RDATE;TZID=Europe/London;VALUE=PERIOD:20270609T090000/PT1H,20270612T090000/PT2H',
    ),
    todos: [
      {
        series: {
          at: ['09:00'],
          repeat: { by: 'dates', dates: ['2027-06-04', '2027-06-09', '2027-06-12'] },
        },
      },
    ],
  },
  {
    about: 'RRULE and DUE without DTSTART are counted from DUE',
    lines: todo('DUE;VALUE=DATE:20270602', 'RRULE:FREQ=WEEKLY;BYDAY=WE'),
    todos: [{ series: { start: '2027-06-02', ...rule('FREQ=WEEKLY;BYDAY=WE') } }],
  },
  {
    about: 'a rule without any date has none from which to count',
    lines: todo('RRULE:FREQ=WEEKLY;BYDAY=WE'),
    todos: [],
    problems: ['left out'],
  },
  {
    about: 'a rule that never matches has its start alone',
    lines: todo('DTSTART;VALUE=DATE:20270602', 'RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30'),
    todos: [{ series: { start: '2027-06-02', repeat: { extra: ['2027-06-02'] } } }],
  },
  {
    about: 'a rule that is none leaves its first date, and is listed',
    lines: todo('DTSTART;VALUE=DATE:20270602', 'RRULE:FREQ=SOMETIMES'),
    todos: [{ series: { start: '2027-06-02', repeat: null } }],
    problems: ['changed'],
  },
  {
    about: 'a rule of another calendar is listed (RFC 7529 §4.1)',
    lines: todo(
      'DTSTART;VALUE=DATE:20270602',
      'RRULE:RSCALE=HEBREW;FREQ=YEARLY;BYMONTH=5L;BYMONTHDAY=8',
    ),
    todos: [{ series: { repeat: { by: 'dates', dates: ['2027-06-02'] } } }],
    problems: ['changed'],
  },
  {
    about: 'two hours in one rule are two times of day',
    lines: todo(
      'DTSTART;TZID=Europe/London:20270602T080000',
      'RRULE:FREQ=DAILY;BYHOUR=8,18;BYMINUTE=0',
    ),
    todos: [{ series: { at: ['08:00', '18:00'], ...rule('FREQ=DAILY') } }],
  },
  {
    about: 'hours times minutes, ended between two of them',
    lines: todo(
      'DTSTART;TZID=Europe/London:20270602T080000',
      'RRULE:FREQ=DAILY;BYHOUR=8,18;BYMINUTE=0,30;UNTIL=20270604T170000Z',
    ),
    todos: [
      {
        series: {
          at: ['08:00', '08:30', '18:00', '18:30'],
          ...rule('FREQ=DAILY;UNTIL=20270604', { except: ['2027-06-04T18:30'] }),
        },
      },
    ],
  },
  {
    about: 'BYHOUR that is the hour of the start says nothing new',
    lines: todo(
      'DTSTART;TZID=Europe/London:20270602T080000',
      'RRULE:FREQ=WEEKLY;BYDAY=WE;BYHOUR=8;BYMINUTE=0;BYSECOND=0',
    ),
    todos: [{ series: { at: ['08:00'], ...rule('FREQ=WEEKLY;BYDAY=WE') } }],
  },
  {
    about: 'every six hours comes in as its next times',
    lines: todo(
      'DTSTART;TZID=Europe/London:20270602T060000',
      'RRULE:FREQ=HOURLY;INTERVAL=6;COUNT=5',
    ),
    todos: [
      {
        series: {
          start: '2027-06-02',
          at: ['00:00', '06:00', '12:00', '18:00'],
          repeat: {
            by: 'calendar',
            rule: 'FREQ=DAILY;COUNT=1',
            except: ['2027-06-02T00:00'],
            extra: ['2027-06-03T00:00', '2027-06-03T06:00'],
          },
        },
      },
    ],
    problems: ['changed'],
  },
  {
    about: 'one time was moved (§3.8.4.4)',
    lines: [
      ...event('DTSTART;TZID=Europe/London:20270604T090000', 'RRULE:FREQ=WEEKLY;BYDAY=FR'),
      ...event(
        'RECURRENCE-ID;TZID=Europe/London:20270611T090000',
        'DTSTART;TZID=Europe/London:20270612T100000',
      ),
    ],
    todos: [{ times: [{ slot: '2027-06-11T09:00', due: '2027-06-12T10:00', status: 'open' }] }],
  },
  {
    about: 'the same moment in UTC names the same time',
    lines: [
      ...event('DTSTART;TZID=Europe/London:20270604T090000', 'RRULE:FREQ=WEEKLY;BYDAY=FR'),
      ...event('RECURRENCE-ID:20270611T080000Z', 'DTSTART:20270611T080000Z', 'STATUS:CANCELLED'),
    ],
    todos: [{ times: [{ slot: '2027-06-11T09:00', status: 'skipped' }] }],
  },
  {
    about: 'one time with another name and note',
    lines: [
      ...event('DTSTART;VALUE=DATE:20270604', 'RRULE:FREQ=WEEKLY;BYDAY=FR'),
      [
        'BEGIN:VEVENT',
        'UID:e',
        'SUMMARY:Close the hall',
        'DESCRIPTION:Keys',
        'RECURRENCE-ID;VALUE=DATE:20270611',
        'DTSTART;VALUE=DATE:20270611',
        'END:VEVENT',
      ],
    ].flat(),
    todos: [
      { times: [{ slot: '2027-06-11', details: { title: 'Close the hall', note: 'Keys' } }] },
    ],
  },
  {
    about: 'a time without its entry is listed',
    lines: event('RECURRENCE-ID;VALUE=DATE:20270611', 'DTSTART;VALUE=DATE:20270611'),
    todos: [],
    problems: ['left out'],
  },
  {
    about: 'one time and those after it (§3.2.13): one ends, another begins',
    lines: [
      ...event(
        'DTSTART;TZID=Europe/London:20270601T090000',
        'RRULE:FREQ=WEEKLY;BYDAY=TU',
        'EXDATE;TZID=Europe/London:20270608T090000,20270629T090000',
      ),
      ...[
        'BEGIN:VEVENT',
        'UID:e',
        'SUMMARY:Open both halls',
        'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/London:20270615T090000',
        'DTSTART;TZID=Europe/London:20270616T103000',
        'END:VEVENT',
      ],
    ],
    todos: [
      {
        id: 'e',
        details: { title: 'Open the hall' },
        series: rule('FREQ=WEEKLY;BYDAY=TU;UNTIL=20270614', { except: ['2027-06-08'] }),
      },
      {
        id: 'e/20270615T090000',
        details: { title: 'Open both halls' },
        series: {
          start: '2027-06-16',
          at: ['10:30'],
          repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=WE' },
        },
      },
    ],
    problems: ['changed'],
  },
  {
    about: 'of what is counted, the rest is counted on',
    lines: [
      ...todo('DTSTART;VALUE=DATE:20270601', 'RRULE:FREQ=DAILY;COUNT=10'),
      ...todo(
        'RECURRENCE-ID;VALUE=DATE;RANGE=THISANDFUTURE:20270605',
        'DTSTART;VALUE=DATE:20270605',
        'PRIORITY:1',
      ),
    ],
    todos: [
      { id: 't', series: rule('FREQ=DAILY;UNTIL=20270604') },
      {
        id: 't/20270605',
        series: { start: '2027-06-05', ...rule('FREQ=DAILY;COUNT=6') },
        details: { importance: 'high' },
      },
    ],
  },
  {
    about: 'a repeating one that is COMPLETED has ended with its last known time',
    lines: [
      ...todo('DTSTART;VALUE=DATE:20270501', 'RRULE:FREQ=DAILY', 'STATUS:COMPLETED'),
      ...todo(
        'RECURRENCE-ID;VALUE=DATE:20270507',
        'DUE;VALUE=DATE:20270507',
        'STATUS:COMPLETED',
        'COMPLETED:20270507T090000Z',
      ),
    ],
    todos: [
      { series: { ends: { on: '2027-05-07' } }, times: [{ slot: '2027-05-07', status: 'done' }] },
    ],
  },
  {
    about: 'what takes a while',
    lines: event(
      'DTSTART;TZID=Europe/London:20270604T090000',
      'DTEND;TZID=Europe/London:20270604T101500',
    ),
    todos: [{ details: { takes: 75 } }],
  },
  {
    about: 'several days are listed',
    lines: event('DTSTART;VALUE=DATE:20270604', 'DTEND;VALUE=DATE:20270607'),
    todos: [{ series: { start: '2027-06-04' }, details: { takes: null } }],
    problems: ['changed'],
  },
  {
    about: 'ESTIMATED-DURATION',
    lines: todo('ESTIMATED-DURATION:PT2H30M'),
    todos: [{ details: { takes: 150 } }],
  },
  {
    about: 'alarms before an hour (§3.6.6)',
    lines: todo(
      'DUE;TZID=Europe/London:20270604T090000',
      ...alarm('TRIGGER:-PT15M'),
      ...alarm('TRIGGER;RELATED=END:PT0S'),
    ),
    todos: [{ series: { reminders: [{ before: 'PT15M' }, { before: 'PT0M' }] } }],
  },
  {
    about: 'alarms of a date, before and on it',
    lines: event(
      'DTSTART;VALUE=DATE:20270604',
      ...alarm('TRIGGER:-PT15H'),
      ...alarm('TRIGGER:PT8H'),
    ),
    todos: [{ series: { reminders: [{ before: 'P1D', at: '09:00' }, { at: '08:00' }] } }],
  },
  {
    about: 'an alarm by e-mail that is said again (§3.8.6.2)',
    lines: todo(
      'DUE;TZID=Europe/London:20270604T090000',
      'BEGIN:VALARM',
      'ACTION:EMAIL',
      'TRIGGER:-P1D',
      'REPEAT:2',
      'DURATION:PT30M',
      'END:VALARM',
    ),
    todos: [
      {
        series: {
          reminders: [
            { before: 'PT1440M', channel: 'email', again: { every: 'PT30M', atMost: 2 } },
          ],
        },
      },
    ],
  },
  {
    about: 'alarms after it is due and at a moment are listed',
    lines: todo(
      'DUE;TZID=Europe/London:20270604T090000',
      ...alarm('TRIGGER;RELATED=END:PT30M'),
      ...alarm('TRIGGER;VALUE=DATE-TIME:20270604T070000Z'),
    ),
    todos: [{ series: { start: '2027-06-04' } }],
    problems: ['changed', 'changed'],
  },
  {
    about: 'an alarm of an event counts from its start, whatever its length',
    lines: event(
      'DTSTART;TZID=Europe/London:20270604T090000',
      'DTEND;TZID=Europe/London:20270604T120000',
      ...alarm('TRIGGER:-PT1H'),
    ),
    todos: [{ series: { reminders: [{ before: 'PT60M' }] } }],
  },
  {
    about: 'properties that the table does not name are kept, with their parameters',
    lines: event(
      'DTSTART;VALUE=DATE:20270604',
      'LOCATION;LANGUAGE=en:Boat shed',
      'URL:https://example.org/a',
      'X-COLOUR:teal',
      'ATTENDEE;CN="Rowe, Anna":mailto:a@example.org',
      'TRANSP:OPAQUE',
    ),
    todos: [
      {
        kept: [
          ['location', { language: 'en' }, 'text', 'Boat shed'],
          ['url', {}, 'uri', 'https://example.org/a'],
          ['x-colour', {}, 'unknown', 'teal'],
          ['attendee', { cn: 'Rowe, Anna' }, 'cal-address', 'mailto:a@example.org'],
        ],
      },
    ],
  },
  {
    about: 'of relations only ours to another hour is taken',
    lines: todo('RELATED-TO;RELTYPE=SIBLING:other', 'RELATED-TO:parent'),
    todos: [
      {
        kept: [
          ['related-to', { reltype: 'SIBLING' }, 'text', 'other'],
          ['related-to', {}, 'text', 'parent'],
        ],
      },
    ],
  },
  {
    about: 'names in any case, and a part that only its program knows',
    lines: [
      'begin:vtodo',
      'uid:t',
      'summary:Turn it',
      'due;value=date:20270604',
      'begin:x-part',
      'x-a:1',
      'end:x-part',
      'end:vtodo',
    ],
    todos: [{ id: 't', details: { title: 'Turn it' } }],
    problems: ['changed'],
  },
  {
    about: 'what is neither to-do nor event is listed',
    lines: ['BEGIN:VFREEBUSY', 'UID:f', 'END:VFREEBUSY', ...todo()],
    todos: [{ id: 't' }],
    problems: ['left out'],
  },
  {
    about: 'too long a title, too many categories: cut, and listed',
    lines: [
      'BEGIN:VTODO',
      'UID:t',
      `SUMMARY:${'a'.repeat(250)}`,
      `CATEGORIES:${'abcdefghijkl'.split('').join(',')}`,
      'END:VTODO',
    ],
    todos: [{ details: { title: 'a'.repeat(200), tags: 'abcdefghij'.split('') } }],
    problems: ['changed', 'changed'],
  },
  {
    about: 'a weekly one of another zone, across midnight; its exception too',
    lines: event(
      'DTSTART;TZID=Australia/Sydney:20270607T073000',
      'RRULE:FREQ=WEEKLY;BYDAY=MO',
      'EXDATE;TZID=Australia/Sydney:20270614T073000',
    ),
    todos: [
      {
        series: {
          start: '2027-06-06',
          at: ['22:30'],
          ...rule('FREQ=WEEKLY;BYDAY=SU', { except: ['2027-06-13'] }),
        },
      },
    ],
    problems: ['changed'],
  },
  {
    about: 'daily in UTC lies at another hour in winter',
    lines: event('DTSTART:20270601T080000Z', 'RRULE:FREQ=DAILY'),
    todos: [{ series: { start: '2027-06-01', at: ['09:00'], ...rule('FREQ=DAILY') } }],
    problems: ['changed'],
  },
  {
    about: 'a zone under a path of its own',
    lines: todo('DUE;TZID=/example.org/20240205_1/Europe/Paris:20270604T090000'),
    todos: [{ series: { start: '2027-06-04', at: ['08:00'] } }],
  },
  {
    about: 'start and due in hours of the same day',
    lines: todo(
      'DTSTART;TZID=Europe/London:20270604T090000',
      'DUE;TZID=Europe/London:20270604T170000',
      'RRULE:FREQ=WEEKLY;BYDAY=FR',
    ),
    todos: [{ series: { start: '2027-06-04', at: ['17:00'], ...rule('FREQ=WEEKLY;BYDAY=FR') } }],
  },
  {
    about: 'days of the month that can be shifted are, and it opens with its start',
    lines: todo(
      'DTSTART;VALUE=DATE:20270601',
      'DUE;VALUE=DATE:20270603',
      'RRULE:FREQ=MONTHLY;BYMONTHDAY=1',
    ),
    todos: [
      {
        series: {
          start: '2027-06-03',
          opensBefore: 'P2D',
          repeat: { rule: 'FREQ=MONTHLY;BYMONTHDAY=3' },
        },
      },
    ],
  },
  {
    about: 'days of the month that cannot be shifted stay on the start',
    lines: todo(
      'DTSTART;VALUE=DATE:20270630',
      'DUE;VALUE=DATE:20270702',
      'RRULE:FREQ=MONTHLY;BYMONTHDAY=30',
    ),
    todos: [{ series: { start: '2027-06-30', repeat: { rule: 'FREQ=MONTHLY;BYMONTHDAY=30' } } }],
    problems: ['changed'],
  },
  {
    about:
      'every second week on two days, one of which would go into the next: it stays on its start',
    lines: todo(
      'DTSTART;VALUE=DATE:20270607',
      'DUE;VALUE=DATE:20270610',
      'RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,FR',
    ),
    todos: [
      { series: { start: '2027-06-07', repeat: { rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,FR' } } },
    ],
    problems: ['changed'],
  },
  {
    about: 'an entry of a journal without a date',
    lines: ['BEGIN:VJOURNAL', 'UID:j', 'SUMMARY:Thoughts', 'END:VJOURNAL'],
    todos: [{ id: 'j', series: { start: null, repeat: null } }],
  },
];

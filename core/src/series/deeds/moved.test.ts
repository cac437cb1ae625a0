import { rehearse, type Rehearsal, type RehearsalStep } from '../life/rehearse.ts';

// R9: a slot that has not opened is moved. Results by hand, from the rules R5, R9, R12, R13 and R17.

const play = (
  series: unknown,
  until: string,
  steps: RehearsalStep[] = [],
  more: Partial<Rehearsal> = {},
) => rehearse({ series, steps, until: at(until), ...more });
const at = (text: string) => (text.length === 10 ? `${text}T12:00:00Z` : `${text}:00Z`);
const step = (when: string, what: RehearsalStep['do'], more: Partial<RehearsalStep> = {}) => ({
  at: at(when),
  do: what,
  ...more,
});
const move = (when: string, slot: string, to: { due?: string; plan?: string }) =>
  step(when, 'move', { slot, ...to });
/** Times as “slot due plan status”, without their year and month. */
const brief = ({ times }: ReturnType<typeof rehearse>) =>
  times.map(
    ({ slot, due, plan, status }) => `${short(slot)} ${short(due)} ${short(plan)} ${status}`,
  );
const short = (date: string | null) => date?.slice(8) ?? 'none';
const ahead = (result: ReturnType<typeof rehearse>) => result.ahead!.map(({ due }) => short(due));

// Tuesdays in June 2027: 1, 8, 15, 22, 29.
const TUESDAYS = {
  title: 'Check the bilge',
  start: '2027-06-01',
  repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' },
};
const DAILY = { ...TUESDAYS, repeat: { by: 'calendar', rule: 'FREQ=DAILY' } };
const TWICE = { ...DAILY, at: ['08:00', '20:00'] };
const GREASE = {
  title: 'Grease the stern gland',
  start: '2027-06-02',
  repeat: { by: 'completion', every: 'P14D' },
};
const QUOTA = {
  title: 'Swim',
  start: '2027-05-31',
  repeat: { by: 'quota', times: 2, per: 'week' },
};

type Case = [
  string,
  ReturnType<typeof rehearse>,
  string[],
  Partial<{ next: string | null; ahead: string[] }>?,
];

const UNTIL_JUNE = { ahead: '2027-06-30' };
test.each<Case>([
  [
    'later: it stays to come, and opens by its new due day, in the order of the days',
    play(
      TUESDAYS,
      '2027-06-09',
      [move('2027-06-02', '2027-06-08', { due: '2027-06-10' })],
      UNTIL_JUNE,
    ),
    ['01 01 09 open'],
    { next: '2027-06-10', ahead: ['10', '15', '22', '29'] },
  ],
  [
    'it keeps its name when it opens; the one before is over with its due day, once it has opened',
    play(TUESDAYS, '2027-06-11', [move('2027-06-02', '2027-06-08', { due: '2027-06-10' })]),
    ['01 01 09 missed', '08 10 11 open'],
    { next: '2027-06-15' },
  ],
  [
    'earlier: it opens on the day to which it was moved',
    play(
      TUESDAYS,
      '2027-06-05',
      [move('2027-06-02', '2027-06-08', { due: '2027-06-05' })],
      UNTIL_JUNE,
    ),
    ['01 01 04 missed', '08 05 05 open'],
    { next: '2027-06-15', ahead: ['15', '22', '29'] },
  ],
  [
    'a planned day that is earlier opens it at the start of that day; it stays due',
    play(TUESDAYS, '2027-06-06T00:00', [move('2027-06-02', '2027-06-08', { plan: '2027-06-06' })]),
    ['01 01 05 missed', '08 08 06 open'],
  ],
  [
    'a planned day that is later does not open it late',
    play(TUESDAYS, '2027-06-08', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { plan: '2027-06-10' }),
    ]),
    ['01 01 01 done', '08 08 10 open'],
  ],
  [
    'behind a later slot: newer and older go by slot; moved, it is kept until its own days are over',
    play(TUESDAYS, '2027-06-17', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { due: '2027-06-17' }),
      step('2027-06-15', 'done'),
    ]),
    ['01 01 01 done', '08 17 17 open', '15 15 15 done'],
    { next: '2027-06-22' },
  ],
  [
    'the same, once its day is over',
    play(TUESDAYS, '2027-06-18', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { due: '2027-06-17' }),
      step('2027-06-15', 'done'),
    ]),
    ['01 01 01 done', '08 17 17 missed', '15 15 15 done'],
  ],
  [
    'with what it opens before',
    play({ ...TUESDAYS, opensBefore: 'P3D' }, '2027-06-15T23:59', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { due: '2027-06-19' }),
    ]),
    ['01 01 01 done', '15 15 15 open'],
    { next: '2027-06-19' },
  ],
  [
    'with what it opens before, on the day',
    play({ ...TUESDAYS, opensBefore: 'P3D' }, '2027-06-16T00:00', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { due: '2027-06-19' }),
    ]),
    ['01 01 01 done', '08 19 19 open', '15 15 16 open'],
  ],
  [
    'done ahead where it was moved to, and skipped there: the others come as before',
    play(
      TUESDAYS,
      '2027-06-09',
      [
        move('2027-06-02', '2027-06-08', { due: '2027-06-12' }),
        step('2027-06-03', 'done', { slot: '2027-06-08' }),
        move('2027-06-03', '2027-06-15', { due: '2027-06-14' }),
        step('2027-06-04', 'skip', { slot: '2027-06-15' }),
      ],
      UNTIL_JUNE,
    ),
    ['01 01 09 open', '08 12 12 done', '15 14 14 skipped'],
    { ahead: ['22', '29'] },
  ],
  [
    'undone, it is where the repeat yields it',
    play(
      TUESDAYS,
      '2027-06-05',
      [
        step('2027-06-01', 'done'),
        move('2027-06-02', '2027-06-08', { due: '2027-06-05' }),
        step('2027-06-05T10:00', 'undo'),
      ],
      UNTIL_JUNE,
    ),
    ['01 01 01 done'],
    { ahead: ['08', '15', '22', '29'] },
  ],
  [
    'moved twice: the plan goes along with the due day, unless it had been moved by itself',
    play(TUESDAYS, '2027-06-20', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { plan: '2027-06-09' }),
      move('2027-06-02', '2027-06-08', { due: '2027-06-10' }),
      step('2027-06-08', 'skip', { slot: '2027-06-08' }),
      move('2027-06-09', '2027-06-15', { plan: '2027-06-16', due: '2027-06-15' }),
      move('2027-06-09', '2027-06-15', { due: '2027-06-17' }),
      step('2027-06-17', 'skip', { slot: '2027-06-15' }),
    ]),
    ['01 01 01 done', '08 10 09 skipped', '15 17 17 skipped'],
  ],
  [
    'a move without a time of day takes it away',
    play({ ...TUESDAYS, at: ['18:00'] }, '2027-06-09', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08T18:00', { due: '2027-06-09' }),
    ]),
    ['01T18:00 01T18:00 01 done', '08T18:00 09 09 open'],
  ],
  [
    'a closed day does not move what the person set',
    play({ ...TUESDAYS, closedDays: 'after' }, '2027-06-12', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { due: '2027-06-12' }),
    ]),
    ['01 01 01 done', '08 12 12 open'],
  ],
  [
    'so many times: it counts as one wherever it was moved',
    play(
      { ...TUESDAYS, ends: { after: 3 } },
      '2027-06-16',
      [
        step('2027-06-01', 'done'),
        move('2027-06-02', '2027-06-08', { due: '2027-06-25' }),
        step('2027-06-15', 'done'),
      ],
      UNTIL_JUNE,
    ),
    ['01 01 01 done', '15 15 15 done'],
    { next: '2027-06-25', ahead: ['25'] },
  ],
  [
    'a pause that holds where it was leaves it alone until it opens, then holds it',
    play(TUESDAYS, '2027-06-12', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { due: '2027-06-10' }),
      step('2027-06-03', 'pause'),
    ]),
    ['01 01 01 done', '08 10 10 open'],
  ],
  [
    'it would lapse: it does by the day to which it was moved',
    play({ ...TUESDAYS, late: 'lapse' }, '2027-06-11', [
      step('2027-06-01', 'done'),
      move('2027-06-02', '2027-06-08', { due: '2027-06-10' }),
    ]),
    ['01 01 01 done', '08 10 10 missed'],
  ],
  [
    'one to come that is no slot, or has ended, is not moved',
    play(
      TUESDAYS,
      '2027-06-05',
      [
        step('2027-06-01', 'done'),
        move('2027-06-02', '2027-06-09', { due: '2027-06-10' }),
        move('2027-06-02', '2027-06-01', { due: '2027-06-04' }),
      ],
      UNTIL_JUNE,
    ),
    ['01 01 01 done'],
    { ahead: ['08', '15', '22', '29'] },
  ],
])('by the calendar: %s', (_name, result, times, more = {}) => {
  expect(brief(result)).toEqual(times);
  if (more.next !== undefined) expect(result.next).toBe(more.next);
  if (more.ahead) expect(ahead(result)).toEqual(more.ahead);
});

describe('onto a day with others (R5)', () => {
  const opened = (result: ReturnType<typeof rehearse>) =>
    result.times.filter(({ status }) => status === 'open').map(({ slot }) => slot.slice(8));

  test('it counts among the several of that day: the first due opens with the day', () => {
    // The evening of the 3rd is brought forward to the 2nd at seven.
    const steps = [
      step('2027-06-01T21:00', 'done', { slot: '2027-06-01T20:00' }),
      move('2027-06-01T22:00', '2027-06-03T20:00', { due: '2027-06-02T07:00' }),
    ];
    expect(opened(play(TWICE, '2027-06-02T00:00', steps))).toEqual(['03T20:00']);
    expect(opened(play(TWICE, '2027-06-02T08:00', steps))).toEqual(['02T08:00', '03T20:00']);
    // Its newer one of the day has opened at 20:00.
    expect(opened(play(TWICE, '2027-06-02T20:00', steps))).toEqual(['02T20:00', '03T20:00']);
  });

  test('a further one of its day opens at its own time', () => {
    const steps = [move('2027-06-01T07:00', '2027-06-05T08:00', { due: '2027-06-02T13:00' })];
    expect(opened(play(TWICE, '2027-06-02T12:59', steps))).toEqual(['02T08:00']);
    // It is newer than the one of eight, which was not moved.
    expect(opened(play(TWICE, '2027-06-02T13:00', steps))).toEqual(['05T08:00']);
  });

  test('with the first of a day moved away, the next one is the first', () => {
    const steps = [move('2027-06-01T07:00', '2027-06-02T08:00', { due: '2027-06-04T10:00' })];
    expect(opened(play(TWICE, '2027-06-02T00:00', steps))).toEqual(['02T20:00']);
  });

  test('a planned day within the day on which it is due opens nothing early', () => {
    const steps = [move('2027-06-01T07:00', '2027-06-02T20:00', { plan: '2027-06-02T15:00' })];
    expect(opened(play(TWICE, '2027-06-02T15:00', steps))).toEqual(['02T08:00']);
  });
});

describe('after I finish', () => {
  test('the pending one is moved; the next counts from when it is done', () => {
    const steps = [
      step('2027-06-02', 'done'),
      move('2027-06-03', '2027-06-16', { due: '2027-06-12' }),
    ];
    const before = play(GREASE, '2027-06-11', steps, UNTIL_JUNE);
    expect(before.next).toBe('2027-06-12');
    expect(before.ahead).toEqual([
      { due: '2027-06-12', kind: 'expected' },
      { due: '2027-06-26', kind: 'expected' },
    ]);
    const done = play(GREASE, '2027-06-14', [...steps, step('2027-06-13', 'done')]);
    expect(brief(done)).toEqual(['02 02 02 done', '16 12 13 done']);
    expect(done.next).toBe('2027-06-27');
  });

  test('a move ends with its time: the next one is where it is counted to', () => {
    const result = play({ ...GREASE, repeat: { by: 'completion', every: 'P1D' } }, '2027-06-03', [
      step('2027-06-02', 'done'),
      move('2027-06-02T13:00', '2027-06-03', { due: '2027-06-09' }),
      step('2027-06-02T14:00', 'done', { slot: '2027-06-03' }),
    ]);
    expect(brief(result)).toEqual(['02 02 02 done', '03 09 09 done', '03 03 03 open']);
  });

  test('a due day moved into a pause goes to the first day after it', () => {
    const steps = [
      step('2027-06-02', 'done'),
      move('2027-06-03', '2027-06-16', { due: '2027-06-12' }),
    ];
    const pauses = [{ from: '2027-06-10', to: '2027-06-18' }];
    const result = play({ ...GREASE, pauses }, '2027-06-19', steps);
    expect(brief(result)).toEqual(['02 02 02 done', '16 19 19 open']);
    const forever = [{ from: '2027-06-10', to: null }];
    expect(play({ ...GREASE, pauses: forever }, '2027-08-01', steps)).toMatchObject({
      next: null,
      ended: false,
    });
  });

  test('a one-off to come', () => {
    const once = { ...GREASE, repeat: null, start: '2027-06-20' };
    const result = play(once, '2027-06-10', [
      move('2027-06-03', '2027-06-20', { due: '2027-06-10' }),
    ]);
    expect(brief(result)).toEqual(['20 10 10 open']);
    expect(result.next).toBeNull();
  });
});

describe('so many times a week', () => {
  test('it opens with its period, and ends with it wherever its due day was moved', () => {
    const steps = [move('2027-06-02', '2027-06-07', { due: '2027-06-16' })];
    expect(brief(play(QUOTA, '2027-06-07T00:00', steps)).at(-1)).toBe('07 16 16 open');
    expect(brief(play(QUOTA, '2027-06-14T00:00', steps)).slice(1)).toEqual([
      '07 16 16 missed',
      '14 20 20 open',
    ]);
  });

  test('or on an earlier planned day', () => {
    const steps = [move('2027-06-02', '2027-06-07', { plan: '2027-06-05' })];
    const result = play(QUOTA, '2027-06-06', steps);
    // It does not roll; the period before lasts as long as ever.
    expect(brief(result)).toEqual(['31 06 06 open', '07 13 05 open']);
    expect(brief(play(QUOTA, '2027-06-07T00:00', steps))[0]).toBe('31 06 06 missed');
  });
});

describe('its reminders go along', () => {
  const said = (
    series: object,
    reminders: object[],
    steps: RehearsalStep[],
    until = '2027-06-20',
  ) =>
    play({ ...series, reminders }, until, steps, { made: '2027-05-31T10:00:00Z' }).reminders.map(
      ({ slot, at: moment }) => `${short(slot)} ${moment.slice(8, 16)}`,
    );

  test('by its new due day and its plan', () => {
    const steps = [move('2027-06-02', '2027-06-08', { due: '2027-06-12', plan: '2027-06-11' })];
    expect(said(TUESDAYS, [{ before: 'P1D' }], steps, '2027-06-13')).toEqual(['08 11T09:00']);
    expect(said(TUESDAYS, [{ of: 'plan', at: '07:00' }], steps, '2027-06-13')).toEqual([
      '01 01T07:00',
      '08 11T07:00',
    ]);
  });

  test('one that a planned day opened early: the day on which it would have opened', () => {
    const steps = [move('2027-06-02', '2027-06-08', { plan: '2027-06-05' })];
    expect(said(TUESDAYS, [{ of: 'opens' }], steps, '2027-06-10')).toEqual([
      '01 01T09:00',
      '08 08T09:00',
    ]);
  });

  test('what a move puts into the past is not made up for', () => {
    const steps = [move('2027-06-05', '2027-06-08', { due: '2027-06-05' })];
    expect(said(TUESDAYS, [{}], steps, '2027-06-10')).toEqual(['01 01T09:00']);
  });
});

describe('from this time on (R13)', () => {
  const change = (when: string, series: RehearsalStep['series'], slot?: string) =>
    step(when, 'change', { series: series!, ...(slot ? { slot } : {}) });
  const MOVES = [
    step('2027-06-01', 'done'),
    move('2027-06-02', '2027-06-08', { due: '2027-06-10' }),
    move('2027-06-02', '2027-06-15', { due: '2027-06-14' }),
  ];

  test('the new repeat keeps what it yields under the same name, and lets go of the rest', () => {
    const rule = 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU';
    const result = play(
      TUESDAYS,
      '2027-06-04',
      [...MOVES, change('2027-06-03', { repeat: { by: 'calendar', rule } })],
      UNTIL_JUNE,
    );
    // Every second Tuesday from 1 June: the 8th is none of them.
    expect(ahead(result)).toEqual(['14', '29']);
  });

  test.each<[string, NonNullable<RehearsalStep['series']>, string[]]>([
    ['within its ends', { ends: { on: '2027-06-09' } }, ['10']],
    ['within its count', { ends: { after: 2 } }, ['10']],
    [
      'the hour is of the name',
      { at: ['08:00'] },
      ['08T08:00', '15T08:00', '22T08:00', '29T08:00'],
    ],
    ['closed days', { closedDays: 'drop' }, ['10', '14', '22', '29']],
  ])('%s', (_name, parts, wanted) => {
    const steps = [...MOVES, change('2027-06-03', parts)];
    expect(ahead(play(TUESDAYS, '2027-06-04', steps, UNTIL_JUNE))).toEqual(wanted);
  });

  test('open moved ones stay, and from a later time on those before it', () => {
    const rule = 'FREQ=WEEKLY;BYDAY=WE';
    const result = play(
      TUESDAYS,
      '2027-06-04',
      [...MOVES, change('2027-06-03', { repeat: { by: 'calendar', rule } }, '2027-06-15')],
      UNTIL_JUNE,
    );
    expect(ahead(result)).toEqual(['10', '16', '23', '30']);
  });

  test('changed to after I finish with nothing open, the first is due on the given slot', () => {
    const every = { repeat: { by: 'completion', every: 'P10D' } } as const;
    const result = play(TUESDAYS, '2027-06-04', [
      step('2027-06-01', 'done'),
      change('2027-06-03', every, '2027-06-08'),
    ]);
    expect(result.next).toBe('2027-06-08');
    const moved = play(TUESDAYS, '2027-06-04', [
      ...MOVES,
      change('2027-06-03', every, '2027-06-08'),
    ]);
    expect(moved.next).toBe('2027-06-10');
  });

  test('ended from a time on, what was moved behind it is no more', () => {
    const result = play(
      { ...TUESDAYS, owe: 'every' },
      '2027-06-04',
      [...MOVES, step('2027-06-03', 'undo')],
      UNTIL_JUNE,
    );
    expect(ahead(result)).toEqual(['10', '15', '22', '29']);
  });
});

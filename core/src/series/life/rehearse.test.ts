import { rehearse, type Rehearsal, type RehearsalStep } from './rehearse.ts';

// The worked examples of the rules, computed by hand and by calendar arithmetic.

const TUESDAYS = {
  title: 'Check the bilge',
  start: '2027-06-01',
  repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' },
};
const GREASE = {
  title: 'Grease the stern gland',
  start: '2027-06-02',
  repeat: { by: 'completion', every: 'P14D' },
};

const play = (
  series: unknown,
  until: string,
  steps: RehearsalStep[] = [],
  more: Partial<Rehearsal> = {},
) => rehearse({ series, steps, until, ...more });
const brief = (result: ReturnType<typeof rehearse>) =>
  result.times.map((time) => `${time.slot} ${time.status}`);

describe('worked examples', () => {
  test('every 9 days until 30 September: 21 times, the last on the 28th', () => {
    const series = {
      title: 'Top up the batteries',
      start: '2027-04-01',
      repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=9' },
      ends: { on: '2027-09-30' },
    };
    const result = play(series, '2027-12-01T00:00:00Z');
    expect(result.times).toHaveLength(21);
    expect(result.times.at(-1)).toMatchObject({ slot: '2027-09-28', status: 'open' });
    expect(result).toMatchObject({ next: null, ended: false });
  });

  test('every day from 3 May within P50D: 50 times, the last on Monday 21 June', () => {
    const series = {
      title: 'Feed the nucleus',
      start: '2027-05-03',
      repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
      ends: { within: 'P50D' },
    };
    const result = play(series, '2027-12-01T00:00:00Z');
    expect(result.times).toHaveLength(50);
    expect(result.times.at(-1)!.slot).toBe('2027-06-21');
  });

  test('Tuesdays, nothing until Wednesday 9 June: the 1st missed, the 8th done, next the 15th', () => {
    const result = play(TUESDAYS, '2027-06-09T12:00:00Z', [
      { at: '2027-06-09T10:00:00Z', do: 'done' },
    ]);
    expect(brief(result)).toEqual(['2027-06-01 missed', '2027-06-08 done']);
    expect(result.times[0]!.closedAt).toBe('2027-06-08T00:00:00Z');
    expect(result.next).toBe('2027-06-15');
  });

  test('14 days after done, done on the 16th: 14 days late, next on the 30th', () => {
    const result = play(GREASE, '2027-06-16T12:00:00Z', [
      { at: '2027-06-16T10:00:00Z', do: 'done' },
    ]);
    expect(result.times).toEqual([
      {
        slot: '2027-06-02',
        due: '2027-06-02',
        plan: '2027-06-16',
        status: 'done',
        closedAt: '2027-06-16T10:00:00Z',
        rolled: 14,
      },
    ]);
    expect(result.next).toBe('2027-06-30');
  });

  test('the 12th of each month, moved to the 15th and done then: next on 12 July', () => {
    const series = {
      title: 'Read the meter',
      start: '2027-06-12',
      repeat: { by: 'calendar', rule: 'FREQ=MONTHLY;BYMONTHDAY=12' },
    };
    const result = play(series, '2027-06-15T12:00:00Z', [
      { at: '2027-06-12T08:00:00Z', do: 'move', due: '2027-06-15' },
      { at: '2027-06-15T10:00:00Z', do: 'done' },
    ]);
    expect(result.times).toMatchObject([
      { slot: '2027-06-12', due: '2027-06-15', plan: '2027-06-15', status: 'done', rolled: 0 },
    ]);
    expect(result.next).toBe('2027-07-12');
  });

  test('Tue, Thu, Sat with roll: Wednesday rolls it once, Thursday ends it as missed', () => {
    const series = {
      title: 'Air the cabin',
      start: '2027-06-08',
      repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU,TH,SA' },
    };
    expect(play(series, '2027-06-09T12:00:00Z').times).toMatchObject([
      { slot: '2027-06-08', due: '2027-06-08', plan: '2027-06-09', rolled: 1, status: 'open' },
    ]);
    const thursday = play(series, '2027-06-10T00:00:00Z');
    expect(brief(thursday)).toEqual(['2027-06-08 missed', '2027-06-10 open']);
    expect(thursday.times[0]!.rolled).toBe(1);
  });

  test('PT1000H after done at 18:20Z on 1 March: due 12 April 10:20', () => {
    const series = {
      title: 'Change the engine oil',
      start: '2027-03-01',
      repeat: { by: 'completion', every: 'PT1000H' },
    };
    const result = play(series, '2027-03-02T00:00:00Z', [
      { at: '2027-03-01T18:20:00Z', do: 'done' },
    ]);
    expect(result.next).toBe('2027-04-12T10:20');
  });

  test.each([
    ['02:30', '2027-03-28T02:30'],
    ['01:30', '2027-03-28T02:30'],
  ])('%s each day on the day the clock skips 01:00 to 02:00 in London', (at, due) => {
    const series = {
      title: 'Log the barometer',
      start: '2027-03-28',
      at: [at],
      repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
    };
    const result = play(series, '2027-03-28T12:00:00Z', [], {
      settings: { zone: 'Europe/London' },
    });
    expect(result.times).toMatchObject([{ slot: `2027-03-28T${at}`, due }]);
  });

  test('a month after done on 31 January: 28 February; done then: 28 March', () => {
    const series = {
      title: 'Test the gas alarm',
      start: '2027-01-31',
      repeat: { by: 'completion', every: 'P1M' },
    };
    const first = { at: '2027-01-31T10:00:00Z', do: 'done' } as const;
    expect(play(series, '2027-01-31T12:00:00Z', [first]).next).toBe('2027-02-28');
    const second = { at: '2027-02-28T10:00:00Z', do: 'done' } as const;
    expect(play(series, '2027-02-28T12:00:00Z', [first, second]).next).toBe('2027-03-28');
  });
});

describe('finishing', () => {
  test('early closes that slot alone (R6)', () => {
    const result = play(TUESDAYS, '2027-06-16T00:00:00Z', [
      { at: '2027-06-03T09:00:00Z', do: 'done', slot: '2027-06-08' },
      { at: '2027-06-09T09:00:00Z', do: 'done' },
    ]);
    expect(brief(result)).toEqual(['2027-06-01 done', '2027-06-08 done', '2027-06-15 open']);
  });

  test('a missed time can still be marked as done, and undone again', () => {
    const late: RehearsalStep = { at: '2027-06-09T10:00:00Z', do: 'done', slot: '2027-06-01' };
    expect(brief(play(TUESDAYS, '2027-06-09T12:00:00Z', [late]))).toEqual([
      '2027-06-01 done',
      '2027-06-08 open',
    ]);
    const back = play(TUESDAYS, '2027-06-09T12:00:00Z', [
      late,
      { at: '2027-06-09T11:00:00Z', do: 'undo' },
    ]);
    expect(back).toEqual(play(TUESDAYS, '2027-06-09T12:00:00Z'));
  });

  test('entered later with an earlier moment closes what was open then, missed since (R7)', () => {
    const result = play(TUESDAYS, '2027-06-09T12:00:00Z', [
      { at: '2027-06-09T10:00:00Z', do: 'done', when: '2027-06-03T18:00:00Z' },
    ]);
    expect(brief(result)).toEqual(['2027-06-01 done', '2027-06-08 open']);
    expect(result.times[0]!.closedAt).toBe('2027-06-03T18:00:00Z');
  });

  test('after I finish, an earlier moment counts on from that day', () => {
    const result = play(GREASE, '2027-06-16T12:00:00Z', [
      { at: '2027-06-16T10:00:00Z', do: 'done', when: '2027-06-04T10:00:00Z' },
    ]);
    expect(result.next).toBe('2027-06-18');
    expect(result.times[0]).toMatchObject({ rolled: 2, status: 'done' });
  });

  test('two at night belongs to the day before where days begin at four', () => {
    const result = play(
      GREASE,
      '2027-06-03T03:00:00Z',
      [{ at: '2027-06-03T02:00:00Z', do: 'done' }],
      { settings: { dayStart: '04:00' } },
    );
    expect(result.next).toBe('2027-06-16');
    expect(result.times[0]!.rolled).toBe(0);
  });

  test('ends after so many times done', () => {
    const series = { ...GREASE, ends: { after: 2 } };
    const result = play(series, '2027-09-01T00:00:00Z', [
      { at: '2027-06-02T10:00:00Z', do: 'done' },
      { at: '2027-06-20T10:00:00Z', do: 'done' },
    ]);
    expect(result).toMatchObject({ ended: true, next: null });
  });
});

describe('skipping after I finish (R8)', () => {
  test('counts from the due day while that is to come', () => {
    const result = play(GREASE, '2027-06-18T00:00:00Z', [
      { at: '2027-06-02T10:00:00Z', do: 'done' },
      { at: '2027-06-10T10:00:00Z', do: 'skip', slot: '2027-06-16' },
    ]);
    expect(result.next).toBe('2027-06-30');
  });

  test('and from today once it is past', () => {
    const result = play(GREASE, '2027-06-05T12:00:00Z', [
      { at: '2027-06-05T10:00:00Z', do: 'skip' },
    ]);
    expect(result.times[0]!.status).toBe('skipped');
    expect(result.next).toBe('2027-06-19');
  });
});

describe('undo', () => {
  test('gives what would have been, days later', () => {
    const steps: RehearsalStep[] = [
      { at: '2027-06-03T10:00:00Z', do: 'done' },
      { at: '2027-06-20T10:00:00Z', do: 'undo' },
    ];
    expect(play(GREASE, '2027-06-20T12:00:00Z', steps)).toEqual(
      play(GREASE, '2027-06-20T12:00:00Z'),
    );
  });

  test('two undo two', () => {
    const at = (hour: number) => `2027-06-09T${hour}:00:00Z`;
    const steps: RehearsalStep[] = [
      { at: at(10), do: 'move', plan: '2027-06-12' },
      { at: at(11), do: 'done' },
      { at: at(12), do: 'undo' },
      { at: at(13), do: 'undo' },
    ];
    expect(play(TUESDAYS, at(14), steps)).toEqual(play(TUESDAYS, at(14)));
  });
});

describe('moving (R9)', () => {
  test('due takes the plan along unless that had been moved by itself', () => {
    const at = '2027-06-01T10:00:00Z';
    const until = '2027-06-01T12:00:00Z';
    expect(play(TUESDAYS, until, [{ at, do: 'move', due: '2027-06-04' }]).times[0]).toMatchObject({
      due: '2027-06-04',
      plan: '2027-06-04',
    });
    expect(
      play(TUESDAYS, until, [
        { at, do: 'move', plan: '2027-06-03' },
        { at, do: 'move', due: '2027-06-04' },
      ]).times[0],
    ).toMatchObject({ due: '2027-06-04', plan: '2027-06-03' });
  });

  test('a moved time outlives a newer one until its day is over (R5)', () => {
    const steps: RehearsalStep[] = [{ at: '2027-06-01T10:00:00Z', do: 'move', plan: '2027-06-10' }];
    expect(brief(play(TUESDAYS, '2027-06-10T23:00:00Z', steps))).toEqual([
      '2027-06-01 open',
      '2027-06-08 open',
    ]);
    expect(brief(play(TUESDAYS, '2027-06-11T00:00:00Z', steps))).toEqual([
      '2027-06-01 missed',
      '2027-06-08 open',
    ]);
  });
});

describe('forecast (R18)', () => {
  test('expected times take the usual lateness: the lower middle of the last', () => {
    const steps: RehearsalStep[] = [
      { at: '2027-06-04T10:00:00Z', do: 'done' }, // due 2 June, 2 late; next 18 June
      { at: '2027-06-19T10:00:00Z', do: 'done' }, // 1 late; next 3 July
      { at: '2027-07-06T10:00:00Z', do: 'done' }, // 3 late; next 20 July
    ];
    const result = play(GREASE, '2027-07-06T12:00:00Z', steps, { ahead: '2027-09-01' });
    expect(result.ahead).toEqual([
      { due: '2027-07-20', kind: 'expected' },
      { due: '2027-08-05', kind: 'expected' },
      { due: '2027-08-21', kind: 'expected' },
    ]);
  });

  test('an overdue open one counts as finished today', () => {
    const result = play(GREASE, '2027-06-10T12:00:00Z', [], { ahead: '2027-06-30' });
    expect(result.ahead).toEqual([{ due: '2027-06-24', kind: 'expected' }]);
  });
});

test.each([
  ['every day', 'series.form'],
  [{ title: 'Wax', start: '2027-02-30', repeat: null }, 'date.missing'],
  [
    {
      title: 'Wax',
      start: '2027-02-01',
      repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=0' },
    },
    'rule.interval',
  ],
  [
    {
      title: 'Wax',
      start: '2027-02-01',
      repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=10000000' },
    },
    'rule.interval',
  ],
  [
    {
      title: 'Wax',
      start: '2027-02-01',
      repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
      ends: { on: '2027-01-01' },
    },
    'ends.before',
  ],
  [{ title: 'Wax', start: null, repeat: { by: 'completion', every: 'P3D' } }, 'series.start'],
  [{ title: 'Wax', start: '2027-02-01', repeat: { by: 'completion', every: 'P0D' } }, 'span.empty'],
  [{ title: 'Wax', start: '2027-02-01', repeat: null, colour: 'red' }, 'series.part'],
])('a definition that cannot be is refused: %j', (series, code) => {
  expect(() => play(series, '2027-06-01T00:00:00Z')).toThrow(expect.objectContaining({ code }));
});

describe('working days, closed days, picked dates', () => {
  // Public holidays of England in the first half of 2027, as the dataset has them.
  const holidays = ['2027-01-01', '2027-03-26', '2027-03-29', '2027-05-03', '2027-05-31'];
  const monthly = (more: object) => ({
    start: '2027-01-01',
    repeat: { by: 'calendar', rule: 'FREQ=MONTHLY;BYMONTHDAY=31;SKIP=BACKWARD' },
    ...more,
  });
  const ahead = (series: object, to: string, more: Partial<Rehearsal> = {}) =>
    play({ title: 'Send the invoices', ...series }, '2026-12-01T00:00:00Z', [], {
      ...more,
      ahead: to,
    }).ahead!.map(({ due }) => due);

  test('the last working day of each month, with the holidays of England', () => {
    const series = { start: '2027-01-01', repeat: { by: 'calendar', workday: -1, per: 'month' } };
    expect(ahead(series, '2027-06-30', { holidays })).toEqual([
      '2027-01-29',
      '2027-02-26',
      '2027-03-31',
      '2027-04-30',
      '2027-05-28',
      '2027-06-30',
    ]);
  });

  test('14 days after done, onto Saturdays: done on Wed 16 Jun, next Sat 3 Jul', () => {
    const series = {
      ...GREASE,
      repeat: { by: 'completion', every: 'P14D', onto: 'FREQ=WEEKLY;BYDAY=SA' },
    };
    const result = play(series, '2027-06-20T00:00:00Z', [
      { at: '2027-06-16T10:00:00Z', do: 'done' },
    ]);
    expect(result.next).toBe('2027-07-03');
  });

  test('3 working days after done: the weekend and the holiday are left out, weeks stay weeks', () => {
    const of = (every: string) =>
      play(
        { ...GREASE, start: '2027-05-27', repeat: { by: 'completion', every, workdays: true } },
        '2027-05-28T00:00:00Z',
        [{ at: '2027-05-27T10:00:00Z', do: 'done' }],
        { holidays },
      ).next;
    // Thu 27 May: Fri 28, then Tue 1 and Wed 2 June (31 May is a holiday).
    expect(of('P3D')).toBe('2027-06-02');
    expect(of('P1W')).toBe('2027-06-03');
    expect(of('P1W1D')).toBe('2027-06-04');
  });

  test('a closed day: before, after, nearest, dropped; the slot stays what it was', () => {
    // The 31st (or the month's last): Sun 31 Jan, Sun 28 Feb, Wed 31 Mar, Fri 30 Apr, Mon 31 May (holiday), Wed 30 Jun.
    const of = (closedDays: string) => ahead(monthly({ closedDays }), '2027-07-05', { holidays });
    expect(of('before')).toEqual([
      '2027-01-29',
      '2027-02-26',
      '2027-03-31',
      '2027-04-30',
      '2027-05-28',
      '2027-06-30',
    ]);
    expect(of('after')).toEqual([
      '2027-02-01',
      '2027-03-01',
      '2027-03-31',
      '2027-04-30',
      '2027-06-01',
      '2027-06-30',
    ]);
    expect(of('nearest')).toEqual([
      '2027-02-01',
      '2027-03-01',
      '2027-03-31',
      '2027-04-30',
      '2027-06-01',
      '2027-06-30',
    ]);
    expect(of('drop')).toEqual(['2027-03-31', '2027-04-30', '2027-06-30']);
    const { times } = play(
      { title: 'Pay', ...monthly({ closedDays: 'before' }) },
      '2027-01-30T00:00:00Z',
      [],
      { holidays },
    );
    expect(times).toMatchObject([{ slot: '2027-01-31', due: '2027-01-29' }]);
  });

  test('times that come to be due on one day are one time, named by the first', () => {
    const daily = {
      start: '2027-06-04',
      repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
      closedDays: 'after',
    };
    // Fri 4, then Sat, Sun and Mon are all Monday’s.
    expect(ahead(daily, '2027-06-09')).toEqual([
      '2027-06-04',
      '2027-06-07',
      '2027-06-08',
      '2027-06-09',
    ]);
    const { times } = play({ title: 'Pay', ...daily }, '2027-06-07T12:00:00Z');
    expect(times.map(({ slot, due }) => [slot, due])).toEqual([
      ['2027-06-04', '2027-06-04'],
      ['2027-06-05', '2027-06-07'],
    ]);
  });

  test('so many times: dropped and excepted ones are none, added ones are some', () => {
    const drop = {
      start: '2027-06-04',
      repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
      closedDays: 'drop',
      ends: { after: 3 },
    };
    expect(ahead(drop, '2027-12-31')).toEqual(['2027-06-04', '2027-06-07', '2027-06-08']);
    const edited = {
      start: '2027-06-04',
      repeat: {
        by: 'calendar',
        rule: 'FREQ=WEEKLY;BYDAY=FR',
        except: ['2027-06-11'],
        extra: ['2027-06-09'],
      },
      ends: { after: 4 },
    };
    expect(ahead(edited, '2027-12-31')).toEqual([
      '2027-06-04',
      '2027-06-09',
      '2027-06-18',
      '2027-06-25',
    ]);
  });

  test('an after-I-finish one never goes back to the day it is counted from', () => {
    const series = {
      ...GREASE,
      start: '2027-06-04',
      repeat: { by: 'completion', every: 'P1D' },
      closedDays: 'before',
    };
    // Done on Fri 4 June: Saturday is closed, the day before is Friday itself, so it goes on to Monday.
    expect(
      play(series, '2027-06-04T20:00:00Z', [{ at: '2027-06-04T10:00:00Z', do: 'done' }]).next,
    ).toBe('2027-06-07');
  });

  test('each third working day, and picked dates', () => {
    const third = { start: '2027-06-05', repeat: { by: 'calendar', everyWorkdays: 3 } };
    expect(ahead(third, '2027-06-20')).toEqual([
      '2027-06-07',
      '2027-06-10',
      '2027-06-15',
      '2027-06-18',
    ]);
    const picked = {
      start: '2027-05-01',
      repeat: { by: 'dates', dates: ['2027-07-09', '2027-05-03', '2027-04-01'] },
    };
    const result = play({ title: 'Open the lock', ...picked }, '2027-07-01T00:00:00Z');
    expect(result.times.map(({ slot }) => slot)).toEqual(['2027-05-03']);
    expect(result.next).toBe('2027-07-09');
    const over = play({ title: 'Open the lock', ...picked }, '2027-07-20T00:00:00Z', [
      { at: '2027-07-10T00:00:00Z', do: 'done' },
    ]);
    expect(over).toMatchObject({ ended: true, next: null });
  });

  test('the person’s own working days', () => {
    const series = { start: '2027-06-01', repeat: { by: 'calendar', workday: 1, per: 'month' } };
    expect(ahead(series, '2027-08-10', { settings: { workdays: ['SA', 'SU'] } })).toEqual([
      '2027-06-05',
      '2027-07-03',
      '2027-08-01',
    ]);
  });

  test.each<[string, object, string]>([
    [
      'a 32nd working day of a month',
      { repeat: { by: 'calendar', workday: 32, per: 'month' } },
      'repeat.workday',
    ],
    [
      'working days of a week',
      { repeat: { by: 'calendar', workday: 1, per: 'week' } },
      'repeat.per',
    ],
    [
      'each 0th working day',
      { repeat: { by: 'calendar', everyWorkdays: 0 } },
      'repeat.everyWorkdays',
    ],
    ['no dates', { repeat: { by: 'dates', dates: [] } }, 'repeat.dates'],
    ['a date that is none', { repeat: { by: 'dates', dates: ['2027-02-30'] } }, 'repeat.dates.0'],
    [
      'an added date before the start',
      { repeat: { by: 'calendar', rule: 'FREQ=DAILY', extra: ['2027-05-01'] } },
      'repeat.extra.0',
    ],
    [
      'dropped days after I finish',
      { repeat: { by: 'completion', every: 'P3D' }, closedDays: 'drop' },
      'closedDays',
    ],
    [
      'hours onto a Saturday',
      { repeat: { by: 'completion', every: 'PT3H', onto: 'FREQ=WEEKLY;BYDAY=SA' } },
      'repeat.every',
    ],
    [
      'a rule beside a working day',
      { repeat: { by: 'calendar', workday: 1, per: 'month', rule: 'FREQ=DAILY' } },
      'repeat.rule',
    ],
    [
      'another closed day',
      { repeat: { by: 'calendar', rule: 'FREQ=DAILY' }, closedDays: 'sideways' },
      'closedDays',
    ],
  ])('%s is refused by name', (_name, part, where) => {
    const series = { title: 'Pay', start: '2027-06-01', ...part };
    expect(() => play(series, '2027-06-02T00:00:00Z')).toThrow(expect.objectContaining({ where }));
  });
});

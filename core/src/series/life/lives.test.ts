import { rehearse, type Rehearsal, type RehearsalStep } from './rehearse.ts';

// Rules R5, R10, R12, R13 and R15: owed, lapsed, paused and changed to-dos, and so many times a
// period. Results by hand.

const play = (
  series: unknown,
  until: string,
  steps: RehearsalStep[] = [],
  more: Partial<Rehearsal> = {},
) => rehearse({ series, steps, until: at(until), ...more });
const at = (text: string) => (text.endsWith('Z') ? text : `${text}:00Z`);
const step = (when: string, what: RehearsalStep['do'], more: Partial<RehearsalStep> = {}) => ({
  at: at(when),
  do: what,
  ...more,
});
const brief = (result: ReturnType<typeof rehearse>) =>
  result.times.map((time) => `${time.slot.slice(5)} ${time.status}`);

const TUESDAYS = {
  title: 'Check the bilge',
  start: '2027-06-01',
  repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' },
};
const DAILY = { ...TUESDAYS, repeat: { by: 'calendar', rule: 'FREQ=DAILY' } };
const GREASE = {
  title: 'Grease the stern gland',
  start: '2027-06-02',
  repeat: { by: 'completion', every: 'P14D' },
};

describe('each one is owed (R5)', () => {
  const owed = { ...TUESDAYS, owe: 'every' };

  test('worked example: done twice on Wednesday 9 June', () => {
    const result = play(owed, '2027-06-09T12:00', [
      step('2027-06-09T10:00', 'done'),
      step('2027-06-09T10:01', 'done'),
    ]);
    expect(brief(result)).toEqual(['06-01 done', '06-08 done']);
    expect(result.next).toBe('2027-06-15');
  });

  test('several a day stay open beside one another', () => {
    const result = play({ ...DAILY, owe: 'every', at: ['08:00', '20:00'] }, '2027-06-02T07:00');
    expect(brief(result)).toEqual(['06-01T08:00 open', '06-01T20:00 open', '06-02T08:00 open']);
  });
});

describe('one that lapses (R10)', () => {
  test('a due day is over at its end, a due time at once', () => {
    const result = play({ ...TUESDAYS, late: 'lapse' }, '2027-06-02T10:00');
    expect(result.times).toMatchObject([
      { slot: '2027-06-01', status: 'missed', closedAt: '2027-06-02T00:00:00Z', rolled: 0 },
    ]);
    const timed = play({ ...TUESDAYS, late: 'lapse', at: ['09:00'] }, '2027-06-01T10:00');
    expect(timed.times).toMatchObject([{ status: 'missed', closedAt: '2027-06-01T09:00:00Z' }]);
  });

  test.each([
    ['P2D', undefined, '2027-06-04T00:00:00Z'],
    ['P2D', ['09:00'], '2027-06-03T09:00:00Z'],
    ['PT6H', undefined, '2027-06-02T06:00:00Z'],
    ['PT6H', ['09:00'], '2027-06-01T15:00:00Z'],
  ])('with %s of grace, at %j: at %s', (grace, times, closedAt) => {
    const series = { ...TUESDAYS, late: 'lapse', grace, ...(times ? { at: times } : {}) };
    expect(play(series, closedAt).times).toMatchObject([{ status: 'missed', closedAt }]);
    const before = new Date(Date.parse(closedAt) - 1000).toISOString().replace('.000', '');
    expect(play(series, before).times).toMatchObject([{ status: 'open' }]);
  });

  test('after I finish, the next counts from the day of that instant', () => {
    const result = play({ ...GREASE, late: 'lapse', grace: 'P2D' }, '2027-06-06T10:00');
    // Due on the 2nd, over with the end of the 4th: the 5th begins, and 14 days on is the 19th.
    expect(brief(result)).toEqual(['06-02 missed']);
    expect(result.next).toBe('2027-06-19');
  });

  test('after I finish in hours, from the instant', () => {
    const hourly = { ...GREASE, repeat: { by: 'completion', every: 'PT10H' }, late: 'lapse' };
    const result = play(hourly, '2027-06-03T01:00');
    expect(brief(result)).toEqual(['06-02 missed', '06-03T10:00 open']);
  });

  test('with each one owed, each lapses by itself', () => {
    const result = play(
      { ...DAILY, owe: 'every', late: 'lapse', grace: 'P2D' },
      '2027-06-05T10:00',
    );
    expect(brief(result)).toEqual([
      '06-01 missed',
      '06-02 missed',
      '06-03 open',
      '06-04 open',
      '06-05 open',
    ]);
  });
});

describe('pauses (R12)', () => {
  const paused = (from: string, to: string | null) => ({ pauses: [{ from, to }] });

  test('slots inside do not open and use up no count', () => {
    const series = { ...DAILY, ends: { after: 4 }, ...paused('2027-06-03', '2027-06-08') };
    const result = play(series, '2027-06-30T10:00');
    expect(result.times.map(({ slot }) => slot.slice(8))).toEqual(['01', '02', '09', '10']);
  });

  test('set on a day it holds what is open from then on; resumed, it opens what is due today', () => {
    const steps = [step('2027-06-02T10:00', 'pause')];
    const held = play(DAILY, '2027-06-06T10:00', steps);
    expect(held.times).toMatchObject([
      { slot: '2027-06-01', status: 'missed' },
      { slot: '2027-06-02', status: 'open', plan: '2027-06-02', rolled: 0 },
    ]);
    expect(held).toMatchObject({ ended: false, next: null });
    const back = play(DAILY, '2027-06-06T11:00', [...steps, step('2027-06-06T10:30', 'resume')]);
    expect(brief(back)).toEqual(['06-01 missed', '06-02 missed', '06-06 open']);
    expect(back.next).toBe('2027-06-07');
    // At that very moment, and not with the next tick.
    const resumed = step('2027-06-06T10:30', 'resume');
    expect(brief(play(DAILY, resumed.at, [...steps, resumed]))).toEqual(brief(back));
  });

  test('a time that is held rolls again at the first start of a day after the pause', () => {
    const series = { ...TUESDAYS, ...paused('2027-06-03', '2027-06-05') };
    const rolled = (until: string) =>
      play(series, until).times.map(({ plan, rolled: n }) => [plan!.slice(8), n]);
    expect(rolled('2027-06-02T10:00')).toEqual([['02', 1]]);
    expect(rolled('2027-06-05T10:00')).toEqual([['02', 1]]);
    expect(rolled('2027-06-06T10:00')).toEqual([['06', 2]]);
  });

  test('a time that is held lapses with the end of the pause', () => {
    const series = {
      ...TUESDAYS,
      late: 'lapse',
      grace: 'P2D',
      ...paused('2027-06-02', '2027-06-05'),
    };
    expect(brief(play(series, '2027-06-05T23:00'))).toEqual(['06-01 open']);
    const [time] = play(series, '2027-06-06T00:00').times;
    expect(time).toMatchObject({ status: 'missed', closedAt: '2027-06-06T00:00:00Z' });
  });

  test('after I finish: a due day inside goes to the first day after it', () => {
    const series = { ...GREASE, ...paused('2027-06-10', '2027-06-20') };
    const result = play(series, '2027-06-03T10:00', [step('2027-06-02T10:00', 'done')], {
      ahead: '2027-07-10',
    });
    expect(result.next).toBe('2027-06-21');
    expect(result.ahead).toEqual([
      { due: '2027-06-21', kind: 'expected' },
      { due: '2027-07-05', kind: 'expected' },
    ]);
  });

  test('without an end it is no end of the to-do', () => {
    const series = { ...GREASE, ...paused('2027-06-10', null) };
    const result = play(series, '2027-09-01T10:00', [step('2027-06-02T10:00', 'done')]);
    expect(result).toMatchObject({ ended: false, next: null });
    const back = play(series, '2027-09-01T11:00', [
      step('2027-06-02T10:00', 'done'),
      step('2027-09-01T10:30', 'resume'),
    ]);
    expect(brief(back)).toEqual(['06-02 done', '06-16 open']);
    expect(back.times[1]).toMatchObject({ due: '2027-09-01' });
    const last = { ...DAILY, ends: { on: '2027-06-05' }, ...paused('2027-06-03', '2027-06-20') };
    expect(play(last, '2027-06-04T10:00', [step('2027-06-02T10:00', 'done')]).ended).toBe(true);
  });

  test('resumed on the day on which it was set, it is as though it had not been', () => {
    const steps = [step('2027-06-02T10:00', 'pause'), step('2027-06-02T11:00', 'resume')];
    expect(play(DAILY, '2027-06-05T10:00', steps)).toEqual(play(DAILY, '2027-06-05T10:00'));
  });

  test('a pause is undone', () => {
    const steps = [step('2027-06-02T10:00', 'pause'), step('2027-06-04T10:00', 'undo')];
    expect(play(DAILY, '2027-06-05T10:00', steps)).toEqual(play(DAILY, '2027-06-05T10:00'));
  });
});

describe('so many times a period (R15)', () => {
  const SWIM = {
    title: 'Swim at the weir',
    start: '2027-06-02', // a Wednesday
    repeat: { by: 'quota', times: 4, per: 'week' },
  };
  const tallies = (...days: string[]) => days.map((day) => step(`2027-06-${day}T10:00`, 'tally'));

  test('worked example: 3 tallied by Sunday, missed with 3 of 4; a new one opens on Monday', () => {
    const result = play(SWIM, '2027-06-07T08:00', tallies('02', '04', '06'));
    expect(result.times).toMatchObject([
      {
        slot: '2027-05-31',
        due: '2027-06-06',
        status: 'missed',
        tally: 3,
        closedAt: '2027-06-07T00:00:00Z',
      },
      { slot: '2027-06-07', due: '2027-06-13', status: 'open', tally: 0, plan: '2027-06-13' },
    ]);
    expect(result.next).toBe('2027-06-20');
  });

  test('it opens with its period, the first not before the start', () => {
    expect(play(SWIM, '2027-06-01T23:00').times).toEqual([]);
    expect(brief(play(SWIM, '2027-06-02T00:00'))).toEqual(['05-31 open']);
  });

  test('done when the tally is full, further ones still count; done is one tally', () => {
    const steps = [
      ...tallies('02', '03'),
      step('2027-06-03T11:00', 'done'),
      step('2027-06-04T09:00', 'done'),
      ...tallies('05'),
    ];
    const result = play(SWIM, '2027-06-06T10:00', steps);
    expect(result.times).toMatchObject([
      { status: 'done', tally: 5, closedAt: '2027-06-04T09:00:00Z' },
    ]);
    const undone = play(SWIM, '2027-06-06T10:00', [...steps, step('2027-06-05T11:00', 'undo')]);
    expect(undone.times).toMatchObject([{ status: 'done', tally: 4 }]);
    const twice = [...steps, ...['11', '12'].map((hour) => step(`2027-06-05T${hour}:00`, 'undo'))];
    expect(play(SWIM, '2027-06-06T10:00', twice).times).toMatchObject([
      { status: 'open', tally: 3 },
    ]);
  });

  test('entered later, it goes to the period of that moment', () => {
    const steps = [
      ...tallies('02', '04', '06'),
      step('2027-06-08T10:00', 'tally', { when: '2027-06-05T10:00:00Z' }),
    ];
    expect(brief(play(SWIM, '2027-06-08T11:00', steps))).toEqual(['05-31 done', '06-07 open']);
  });

  test('a missed period is done with one more', () => {
    const steps = [
      ...tallies('02', '04', '06'),
      step('2027-06-08T10:00', 'tally', { slot: '2027-05-31' }),
    ];
    expect(play(SWIM, '2027-06-08T11:00', steps).times[0]).toMatchObject({
      status: 'done',
      tally: 4,
    });
  });

  test('a period is paused only when it lies wholly inside', () => {
    const series = { ...SWIM, pauses: [{ from: '2027-06-10', to: '2027-06-22' }] };
    expect(play(series, '2027-06-30T10:00').times.map(({ slot }) => slot.slice(5))).toEqual([
      '05-31',
      '06-07',
      '06-21',
      '06-28',
    ]);
  });

  test('days, and months; weeks begin on the person’s own day', () => {
    const daily = { ...SWIM, repeat: { by: 'quota', times: 2, per: 'day' } };
    expect(brief(play(daily, '2027-06-03T10:00', tallies('02', '02')))).toEqual([
      '06-02 done',
      '06-03 open',
    ]);
    const monthly = { ...SWIM, repeat: { by: 'quota', times: 2, per: 'month' } };
    expect(play(monthly, '2027-07-01T10:00').times.map(({ due }) => due)).toEqual([
      '2027-06-30',
      '2027-07-31',
    ]);
    const sunday = play(SWIM, '2027-06-06T10:00', [], { settings: { weekStart: 'SU' } });
    expect(brief(sunday)).toEqual(['05-30 missed', '06-06 open']);
  });
});

describe('from this time on (R13)', () => {
  const change = (when: string, series: RehearsalStep['series'], slot?: string) =>
    step(when, 'change', { series: series!, ...(slot ? { slot } : {}) });

  test('this time and what follows take the new days; what came before keeps its record', () => {
    const result = play(TUESDAYS, '2027-06-20T10:00', [
      step('2027-06-01T10:00', 'done'),
      change('2027-06-09T10:00', { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TH' } }),
    ]);
    expect(brief(result)).toEqual(['06-01 done', '06-10 missed', '06-17 open']);
  });

  test('from a later time on: those before it stay as they were', () => {
    const result = play(TUESDAYS, '2027-06-26T10:00', [
      change(
        '2027-06-02T10:00',
        { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=FR' } },
        '2027-06-15',
      ),
    ]);
    expect(result.times.map(({ slot }) => slot.slice(8))).toEqual(['01', '08', '18', '25']);
  });

  test('another time of day holds for this very day, and none for the whole of it', () => {
    const timed = { ...DAILY, at: ['08:00', '20:00'] };
    const changed = (at: string[], when: string) =>
      brief(
        play(timed, '2027-06-02T21:00', [step('2027-06-01T09:00', 'done'), change(when, { at })]),
      ).slice(2);
    expect(changed(['09:30'], '2027-06-02T09:00')).toEqual(['06-02T09:30 open']);
    expect(changed([], '2027-06-02T09:00')).toEqual(['06-02 open']);
    // With the morning gone by, the evening alone is changed.
    expect(changed(['07:00', '20:30'], '2027-06-02T20:10')).toEqual([
      '06-02T08:00 missed',
      '06-02T20:30 open',
    ]);
    const later = play(
      timed,
      '2027-06-01T10:00',
      [change('2027-06-01T09:00', { at: [] }, '2027-06-03T08:00')],
      { ahead: '2027-06-04' },
    );
    expect(later.ahead!.map(({ due }) => due)).toEqual([
      '2027-06-01T20:00',
      '2027-06-02T08:00',
      '2027-06-02T20:00',
      '2027-06-03',
      '2027-06-04',
    ]);
  });

  test('a touched time keeps its own', () => {
    const result = play(TUESDAYS, '2027-06-09T12:00', [
      step('2027-06-08T09:00', 'move', { plan: '2027-06-12' }),
      change('2027-06-09T10:00', { at: ['09:00'] }),
    ]);
    expect(result.times.at(-1)).toMatchObject({ slot: '2027-06-08', plan: '2027-06-12' });
    expect(result.next).toBe('2027-06-15T09:00');
  });

  test('counts go on', () => {
    const result = play({ ...TUESDAYS, ends: { after: 4 } }, '2027-07-30T10:00', [
      change('2027-06-09T10:00', { repeat: { by: 'calendar', rule: 'FREQ=DAILY' } }),
    ]);
    expect(result.times.map(({ slot }) => slot.slice(8))).toEqual(['01', '08', '09', '10']);
    expect(
      play({ ...GREASE, ends: { after: 2 } }, '2027-07-30T10:00', [
        step('2027-06-02T10:00', 'done'),
        change('2027-06-03T10:00', { repeat: { by: 'completion', every: 'P3D' } }),
        step('2027-06-05T10:00', 'done'),
      ]),
    ).toMatchObject({ ended: true });
  });

  test('after I finish, one still pending is computed anew, and one open that nobody touched', () => {
    const longer = { repeat: { by: 'completion', every: 'P21D' } } as const;
    const pending = play(GREASE, '2027-06-05T10:00', [
      step('2027-06-02T10:00', 'done'),
      change('2027-06-04T10:00', longer),
    ]);
    expect(pending.next).toBe('2027-06-23');
    const open = play(GREASE, '2027-06-17T12:00', [
      step('2027-06-02T10:00', 'done'),
      change('2027-06-17T10:00', longer),
    ]);
    expect(brief(open)).toEqual(['06-02 done']);
    expect(open.next).toBe('2027-06-23');
  });

  test('from fixed to after I finish and back', () => {
    const after = play(TUESDAYS, '2027-06-09T12:00', [
      step('2027-06-03T10:00', 'done'),
      change('2027-06-09T10:00', { repeat: { by: 'completion', every: 'P10D' } }),
    ]);
    expect(brief(after)).toEqual(['06-01 done']);
    expect(after.next).toBe('2027-06-13');
    const fixed = play(GREASE, '2027-06-09T12:00', [
      step('2027-06-03T10:00', 'done'),
      change('2027-06-09T10:00', { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' } }),
    ]);
    expect(fixed.next).toBe('2027-06-22');
  });

  test('an end, a title, what becomes of late ones: the open time stays as it is', () => {
    const result = play(TUESDAYS, '2027-06-10T12:00', [
      change('2027-06-09T10:00', { late: 'wait', ends: { on: '2027-06-10' } }),
    ]);
    expect(result.times.at(-1)).toMatchObject({ slot: '2027-06-08', status: 'open', rolled: 1 });
    expect(result.next).toBeNull();
  });

  test('undone, it is as it was', () => {
    const steps = [
      step('2027-06-01T10:00', 'done'),
      change('2027-06-09T10:00', { repeat: { by: 'calendar', rule: 'FREQ=DAILY' } }),
    ];
    const back = play(TUESDAYS, '2027-06-20T10:00', [...steps, step('2027-06-12T10:00', 'undo')]);
    expect(back).toEqual(play(TUESDAYS, '2027-06-20T10:00', steps.slice(0, 1)));
  });

  test('a change to what makes no sense is refused by name', () => {
    expect(() =>
      play(GREASE, '2027-06-10T10:00', [change('2027-06-09T10:00', { closedDays: 'drop' })]),
    ).toThrow(expect.objectContaining({ code: 'series.closedDays' }));
  });
});

const QUOTA = { repeat: { by: 'quota', times: 3, per: 'week' } };
test.each<[object, string]>([
  [{ grace: 'P2D' }, 'series.grace'],
  [{ late: 'later' }, 'series.late'],
  [{ owe: 'some' }, 'series.owe'],
  [{ pauses: [{ from: '2027-06-05', to: '2027-06-01' }] }, 'pauses.order'],
  [{ pauses: [{ to: '2027-06-01' }] }, 'pauses.form'],
  [{ repeat: { by: 'quota', times: 0, per: 'week' } }, 'repeat.interval'],
  [{ repeat: { by: 'quota', times: 3, per: 'year' } }, 'repeat.per'],
  [{ ...QUOTA, late: 'wait' }, 'series.late'],
  [{ ...QUOTA, owe: 'latest' }, 'series.owe'],
  [{ ...QUOTA, at: ['09:00'] }, 'series.at'],
  [{ ...QUOTA, closedDays: 'before' }, 'series.closedDays'],
  [{ ...QUOTA, opensBefore: 'P2D' }, 'series.opensBefore'],
])('refuses %j', (parts, code) => {
  expect(() => play({ ...TUESDAYS, ...parts }, '2027-06-10T10:00')).toThrow(
    expect.objectContaining({ code }),
  );
});

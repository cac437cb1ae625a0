import { chance } from '../chance.ts';
import { formatDay, parseDay } from '../calendar/day.ts';
import type { Answer, Question } from '../definition/details.ts';
import { keptOf, spreadOf, sumOf } from './figures.ts';
import { insight, type Insight, type InsightInput } from './insight.ts';
import { intervalOf, withInterval } from './instead.ts';
import type { Outcome } from './times.ts';

// How it is counted (8-past), definition by definition, each with cases worked out by hand.

type Time = InsightInput['times'][number];
const SERIES = { start: '2027-01-01', repeat: { by: 'completion', every: 'P21D' } };

/** A time: its due day, how it ended, and the moment (UTC) of that. */
const time = (due: string | null, status: Outcome, closedAt: string, more = {}): Time => ({
  slot: due ?? 'undated',
  due,
  status,
  closedAt: closedAt.length === 10 ? `${closedAt}T12:00:00Z` : closedAt,
  ...more,
});
const ask = (times: Time[], more: Partial<InsightInput> = {}): Insight =>
  insight({ series: SERIES, times, from: '2027-01-01', to: '2027-12-31', ...more });
/** Times done on these days, each due on that very day. */
const doneOn = (...days: string[]) => days.map((day) => time(day, 'done', day));

describe('due days decide what is counted', () => {
  test('done late, after the span: counted by its due day, its gap and minutes not', () => {
    const it = ask(
      [
        time('2027-01-10', 'done', '2027-01-10', { spent: 10 }),
        time('2027-01-31', 'done', '2027-02-02', { spent: 20 }),
      ],
      { to: '2027-01-31' },
    );
    expect(it).toMatchObject({
      done: 2,
      gaps: null,
      lateness: { usual: 0, least: 0, greatest: 2 },
    });
    expect(it.months).toEqual([
      { month: '2027-01', done: 2, skipped: 0, missed: 0, kept: 100, minutes: 10, estimated: 0 },
    ]);
  });

  test('due before the span and done within: its minutes alone', () => {
    const it = ask([time('2026-12-30', 'done', '2027-01-02', { spent: 15 })]);
    expect(it).toMatchObject({ done: 0, kept: null, lateness: null });
    expect(it.months).toEqual([
      { month: '2027-01', done: 0, skipped: 0, missed: 0, kept: null, minutes: 15, estimated: 0 },
    ]);
  });

  test('without a due date the day on which it ended is both, and it is never late', () => {
    const it = ask([time(null, 'done', '2027-03-04')]);
    expect(it).toMatchObject({ done: 1, lateness: { usual: 0, least: 0, greatest: 0 } });
    expect(it.months.map(({ month }) => month)).toEqual(['2027-03']);
  });

  test.each([
    // London, days from 04:00: half past one at night is of the day before.
    ['2027-06-10', '2027-06-11T00:30:00Z', 0],
    ['2027-06-10', '2027-06-11T03:00:00Z', 1],
    // Due at two at night: of the day before by the person's days.
    ['2027-06-11T02:00', '2027-06-11T00:30:00Z', 0],
    // The night in which the clocks go back (31 October 2027): 03:59 is still the day before.
    ['2027-10-30', '2027-10-31T03:59:00Z', 0],
    ['2027-10-30', '2027-10-31T04:00:00Z', 1],
  ])('the days are the person’s: due %s, done %s is %i days late', (due, at, late) => {
    const it = ask([time(due, 'done', at)], {
      settings: { zone: 'Europe/London', dayStart: '04:00' },
    });
    expect(it.lateness?.usual).toBe(late);
  });
});

describe('kept', () => {
  test.each([
    [0, 0, null],
    [0, 3, 0],
    [9, 1, 90],
    // 1 of 8 is 12.5: halves up.
    [1, 7, 13],
    [1, 2, 33],
    [2, 1, 67],
    [199, 1, 100],
  ])('%i done and %i missed is %p per cent', (done, missed, kept) => {
    expect(keptOf(done, missed)).toBe(kept);
  });

  test('skipped ones are told beside it and count for neither', () => {
    const it = ask([
      time('2027-01-01', 'done', '2027-01-01'),
      time('2027-01-02', 'skipped', '2027-01-02'),
      time('2027-01-03', 'missed', '2027-01-04'),
    ]);
    expect(it).toMatchObject({ done: 1, skipped: 1, missed: 1, kept: 50 });
  });
});

describe('usual', () => {
  test.each([
    [[], null],
    [[5], { usual: 5, least: 5, greatest: 5 }],
    [[9, 1, 5], { usual: 5, least: 1, greatest: 9 }],
    // Of an even number the lower middle, never a mean.
    [[1, 2, 10, 20], { usual: 2, least: 1, greatest: 20 }],
    [[-3, -1], { usual: -3, least: -3, greatest: -1 }],
  ])('of %j', (values, spread) => {
    expect(spreadOf(values)).toEqual(spread);
  });

  test.each([
    [[0.1, 0.2], 0.3],
    [[34.2, 31.8, 1], 67],
    [[1e21, 1], 1e21],
    [[1e-7, 2e-7], 3e-7],
    [[], 0],
  ])('the sum of %j is %d, as written in decimals', (values, sum) => {
    expect(sumOf(values)).toBe(sum);
  });
});

describe('gaps', () => {
  test('are the days between done days in their order; several on one day are gaps of 0', () => {
    const it = ask(doneOn('2027-01-20', '2027-01-01', '2027-01-20', '2027-01-11'));
    expect(it.gaps).toEqual({ usual: 9, least: 0, greatest: 10, last: [10, 9, 0] });
  });

  test('belong to the span when both their days do, and what was skipped makes none', () => {
    const times = [
      ...doneOn('2027-01-01', '2027-01-10', '2027-01-25'),
      time('2027-01-15', 'skipped', '2027-01-15'),
    ];
    expect(ask(times, { from: '2027-01-05' }).gaps).toMatchObject({ last: [15] });
    expect(ask(times, { from: '2027-01-11' }).gaps).toBeNull();
  });

  test('the last twelve are given, the oldest first; what is usual is of them all', () => {
    const days = Array.from({ length: 15 }, (_, i) =>
      formatDay(parseDay('2027-01-01') + (i * (i + 1)) / 2),
    );
    const { gaps } = ask(doneOn(...days));
    expect(gaps).toEqual({
      usual: 7,
      least: 1,
      greatest: 14,
      last: [3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14],
    });
  });
});

describe('in a row', () => {
  const row = (outcomes: string) =>
    ask(
      [...outcomes].map((it, i) => {
        const day = formatDay(parseDay('2027-01-01') + i);
        return time(day, it === 'd' ? 'done' : it === 's' ? 'skipped' : 'missed', day);
      }),
    ).inARow;

  test.each([
    ['', 0, 0],
    ['ddd', 3, 3],
    ['ddm', 0, 2],
    ['dmdd', 2, 2],
    ['dddmdsd', 2, 3],
    ['ms', 0, 0],
    ['dds', 2, 2],
  ])('%s: %i now, %i at most', (outcomes, now, most) => {
    expect(row(outcomes)).toEqual({ now, most });
  });

  test('within the span alone', () => {
    const times = doneOn('2027-01-01', '2027-01-02', '2027-01-03');
    expect(ask(times, { from: '2027-01-02' }).inARow).toEqual({ now: 2, most: 2 });
  });

  test('ties of due day are in the order of their slots, and of slots in that of their ends', () => {
    const at = (slot: string, status: Outcome, closedAt: string) => ({
      ...time('2027-01-05', status, closedAt),
      slot,
    });
    const morning = at('2027-01-05T08:00', 'missed', '2027-01-05T20:00:00Z');
    const noon = at('2027-01-05T12:00', 'done', '2027-01-05T13:00:00Z');
    expect(ask([noon, morning]).inARow.now).toBe(1);
    const again = at('2027-01-05T12:00', 'missed', '2027-01-05T12:30:00Z');
    expect(ask([noon, again]).inARow.now).toBe(1);
  });
});

describe('another interval', () => {
  const every = (gaps: number[], from = '2027-01-01') => {
    let day = parseDay(from);
    return doneOn(from, ...gaps.map((gap) => formatDay((day += gap))));
  };
  const repeats = {
    days: { by: 'completion', every: 'P21D' },
    weeks: { by: 'completion', every: 'P3W' },
    both: { by: 'completion', every: 'P2W7D' },
    month: { by: 'completion', every: 'P1M' },
    hours: { by: 'completion', every: 'PT504H' },
    workdays: { by: 'completion', every: 'P21D', workdays: true },
    onto: { by: 'completion', every: 'P21D', onto: 'FREQ=WEEKLY;BYDAY=SA' },
    daily: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=21' },
    ends: { by: 'calendar', rule: 'INTERVAL=21;FREQ=DAILY;WKST=SU;COUNT=90' },
    inMay: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=21;BYMONTH=5' },
    onDay: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=21;BYDAY=MO' },
    weekly: { by: 'calendar', rule: 'FREQ=WEEKLY;INTERVAL=3' },
    onOne: { by: 'calendar', rule: 'FREQ=WEEKLY;INTERVAL=3;BYDAY=FR' },
    onTwo: { by: 'calendar', rule: 'FREQ=WEEKLY;INTERVAL=3;BYDAY=FR,MO' },
    monthly: { by: 'calendar', rule: 'FREQ=MONTHLY' },
    dates: { by: 'dates', dates: ['2027-01-01'] },
    quota: { by: 'quota', times: 1, per: 'week' },
  } as const;

  test.each<[keyof typeof repeats, number, string | null]>([
    ['days', 24, null],
    // 15 % of 21 days are 3.15: four days away are enough, three are not.
    ['days', 25, 'P25D'],
    ['days', 18, null],
    ['days', 17, 'P17D'],
    ['days', 28, 'P28D'],
    ['weeks', 28, 'P4W'],
    ['weeks', 25, 'P25D'],
    ['both', 28, null],
    ['month', 20, null],
    ['hours', 28, null],
    ['workdays', 28, null],
    ['onto', 28, null],
    ['daily', 28, 'P28D'],
    ['ends', 28, 'P28D'],
    ['inMay', 28, null],
    ['onDay', 28, null],
    ['weekly', 28, 'P4W'],
    ['onOne', 14, 'P2W'],
    ['onOne', 25, 'P25D'],
    ['onTwo', 28, null],
    ['monthly', 20, null],
    ['dates', 28, null],
    ['quota', 28, null],
  ])('%s, done every %i days: %p', (name, gap, span) => {
    const series = { start: '2027-01-01', repeat: repeats[name] };
    expect(ask(every(Array(7).fill(gap)), { series }).instead).toBe(span);
  });

  test.each([
    // At least six gaps.
    [[25, 25, 25, 25, 25], null],
    [[25, 25, 25, 25, 25, 25], 'P25D'],
    // Of the last twelve alone.
    [[...Array(12).fill(21), ...Array(12).fill(30)], 'P30D'],
    [[...Array(12).fill(30), ...Array(12).fill(21)], null],
    // The usual one: the lower middle.
    [[21, 21, 21, 30, 30, 30], null],
    [[21, 21, 30, 30, 30, 30], 'P30D'],
    // At least a day.
    [[0, 0, 0, 0, 0, 0], null],
  ])('gaps of %j: %p', (gaps, span) => {
    const to = '2029-12-31';
    expect(ask(every(gaps), { to }).instead).toBe(span);
  });

  test('at least two days away, however short the interval', () => {
    const at = (n: number) => ({
      start: '2027-01-01',
      repeat: { by: 'completion', every: `P${n}D` },
    });
    expect(ask(every(Array(6).fill(2)), { series: at(1) }).instead).toBeNull();
    expect(ask(every(Array(6).fill(3)), { series: at(1) }).instead).toBe('P3D');
  });

  test('what is offered is put in the place of the one defined, the rest stays', () => {
    const put = (name: keyof typeof repeats, span: string) =>
      withInterval(structuredClone(repeats[name]) as never, span);
    expect(put('days', 'P24D')).toEqual({ by: 'completion', every: 'P24D' });
    expect(put('onOne', 'P2W')).toEqual({
      by: 'calendar',
      rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=FR',
    });
    expect(put('onOne', 'P10D')).toEqual({ by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=10' });
    expect(put('ends', 'P28D')).toEqual({
      by: 'calendar',
      rule: 'FREQ=DAILY;INTERVAL=28;WKST=SU;COUNT=90',
    });
    for (const [name, repeat] of Object.entries(repeats))
      if (intervalOf({ repeat } as never))
        expect(intervalOf({ repeat: put(name as 'days', 'P4W') })).toMatchObject({ days: 28 });
  });
});

describe('months', () => {
  test('go from the first to the last that has something, without gaps; minutes by done month', () => {
    const it = ask(
      [
        time('2027-01-31', 'done', '2027-02-01', { spent: 30 }),
        time('2027-04-02', 'missed', '2027-04-03'),
        time('2027-04-09', 'done', '2027-04-09'),
      ],
      { details: { takes: 20 } },
    );
    const none = { skipped: 0, minutes: 0, estimated: 0 };
    expect(it.months).toEqual([
      { ...none, month: '2027-01', done: 1, missed: 0, kept: 100 },
      { ...none, month: '2027-02', done: 0, missed: 0, kept: null, minutes: 30 },
      { ...none, month: '2027-03', done: 0, missed: 0, kept: null },
      { ...none, month: '2027-04', done: 1, missed: 1, kept: 50, minutes: 20, estimated: 20 },
    ]);
  });

  test('a month that is cut counts what lies in the span', () => {
    const times = doneOn('2027-03-10', '2027-03-20');
    expect(ask(times, { from: '2027-03-15' }).months).toMatchObject([{ done: 1 }]);
  });
});

describe('answers', () => {
  const questions: Question[] = [
    { id: 'litres', asks: 'litres', kind: 'number', unit: 'l' },
    { id: 'calm', asks: 'calm', kind: 'scale', to: 5 },
    { id: 'cleaning', asks: 'cleaning', kind: 'minutes' },
    { id: 'mites', asks: 'mites', kind: 'yesno' },
    { id: 'wind', asks: 'wind', kind: 'choice', of: ['none', 'some'] },
    { id: 'odd', asks: 'odd', kind: 'text' },
    { id: 'never', asks: 'never', kind: 'text' },
  ];
  const said = (day: string, answers: Record<string, Answer>) =>
    time(day, 'done', day, { answers });

  test('each kind has what makes sense of it; without any it is left out', () => {
    const it = ask(
      [
        said('2027-01-01', { litres: 0.1, calm: 4, cleaning: 5, mites: true, wind: 'none' }),
        said('2027-01-05', { litres: 0.2, calm: 2, mites: false, wind: 'none', odd: 'a queen' }),
        said('2027-01-09', { mites: true }),
        time('2027-01-12', 'skipped', '2027-01-12', { answers: { litres: 99 } }),
        // Done after the span.
        said('2028-01-12', { litres: 99 }),
        said('2027-01-13', { gone: 'of a question that is no more' }),
      ],
      { details: { questions } },
    );
    expect(it.answers).toEqual({
      litres: { usual: 0.1, least: 0.1, greatest: 0.2, sum: 0.3, of: 2 },
      calm: { usual: 2, least: 2, greatest: 4, of: 2 },
      cleaning: { usual: 5, least: 5, greatest: 5, sum: 5, of: 1 },
      mites: { counts: { true: 2, false: 1 }, of: 3 },
      wind: { counts: { none: 2 }, of: 2 },
      odd: { of: 1 },
    });
  });

  test('an answer of a kind that its question no longer has says nothing of it', () => {
    const it = ask([said('2027-01-01', { litres: 'much', mites: 1, wind: true })], {
      details: { questions },
    });
    expect(it.answers).toEqual({});
  });

  test('minutes that are asked for are no minutes spent', () => {
    const it = ask([said('2027-01-01', { cleaning: 90 })], { details: { questions } });
    expect(it.months).toMatchObject([{ minutes: 0 }]);
  });
});

describe('what is wrong is said with its place', () => {
  test.each<[Record<string, unknown>, string]>([
    [{ to: '2026-12-31' }, 'to'],
    [{ from: '2027-02-30' }, 'from'],
    [{ times: null }, 'times'],
    [{ times: [null] }, 'times.0'],
    [{ times: [{ slot: '2027-01-01', due: '2027-01-01', status: 'open' }] }, 'times.0.status'],
    [{ times: [time('2027-01-01', 'done', 'yesterday')] }, 'times.0.closedAt'],
    [{ times: [time('2027-13-01', 'done', '2027-01-01')] }, 'times.0.slot'],
    [{ times: [time('2027-01-01', 'done', '2027-01-01', { spent: -1 })] }, 'times.0.spent'],
    [{ details: { takes: 0 } }, 'takes'],
    [{ details: { questions: [{ id: 'x' }] } }, 'questions.0.asks'],
    [{ settings: { zone: 'Nowhere/At all' } }, 'settings.zone'],
    [{ series: { repeat: { by: 'moon' } } }, 'repeat.by'],
  ])('%j', (wrong, where) => {
    expect(() => ask([], wrong as Partial<InsightInput>)).toThrow(
      expect.objectContaining({ where }),
    );
  });

  test('a span of 200 years is answered, from the first month to the last that has something', () => {
    const it = ask(doneOn('1951-03-04', '2049-11-02'), { from: '1900-01-01', to: '2099-12-31' });
    expect(it.months).toHaveLength(98 * 12 + 9);
    expect(it.gaps?.last).toEqual([parseDay('2049-11-02') - parseDay('1951-03-04')]);
  });
});

test('the counts of months add up to the whole, and halves of a span to the span', () => {
  for (let seed = 1; seed <= 300; seed++) {
    const below = chance(seed);
    const first = parseDay('2027-01-01');
    const times = Array.from({ length: below(60) }, () => {
      const due = formatDay(first + below(500));
      const closed = formatDay(parseDay(due) - 2 + below(9));
      const more = below(2) ? { spent: below(90) } : {};
      return time(
        below(12) ? due : null,
        (['done', 'done', 'skipped', 'missed'] as const)[below(4)]!,
        closed,
        more,
      );
    });
    const of = (from: number, to: number) =>
      ask(times, {
        details: { takes: 25 },
        from: formatDay(first + from),
        to: formatDay(first + to),
      });
    const sum = (it: Insight, what: 'done' | 'skipped' | 'missed' | 'minutes' | 'estimated') =>
      it.months.reduce((all, month) => all + month[what], 0);
    const whole = of(0, 600);
    const cut = below(500);
    const halves = [of(0, cut), of(cut + 1, 600)];
    for (const what of ['done', 'skipped', 'missed'] as const) {
      expect(sum(whole, what)).toBe(whole[what]);
      expect(halves[0]![what] + halves[1]![what]).toBe(whole[what]);
    }
    for (const what of ['minutes', 'estimated'] as const)
      expect(sum(halves[0]!, what) + sum(halves[1]!, what)).toBe(sum(whole, what));
    expect(whole.kept).toBe(keptOf(whole.done, whole.missed));
    expect(whole.inARow.most).toBeGreaterThanOrEqual(halves[1]!.inARow.now);
  }
});

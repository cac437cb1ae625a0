import { chance } from '../chance.ts';
import { formatDay, parseDay, type LocalDate } from '../calendar/day.ts';
import { parseInstant } from '../calendar/zone.ts';
import { checkSeries } from '../definition/check.ts';
import { NO_DETAILS } from '../definition/details.ts';
import { Life } from '../series/life/life.ts';
import { forecast } from '../series/plan/forecast.ts';
import { checkSettings, type Settings } from '../series/person/settings.ts';
import { plannerOf } from '../series/plan/planner.ts';
import type { Deed } from '../series/deeds/deeds.ts';
import { Desk } from './desk.ts';
import { entryKey, isToDo, type PlannedTodo } from './entries.ts';

// What stands on the days ahead, what may move there and why. Results by hand; the property holds it
// against the forecast of each to-do by itself.

const NOW = parseInstant('2027-06-09T10:00:00Z');
const MADE = parseInstant('2027-05-01T10:00:00Z');
const SETTINGS = checkSettings({ holds: { TH: 60, FR: 60, SA: 0, SU: 1440 } });

/** A to-do as it stands on Wednesday 9 June after some deeds of that morning. */
function todo(
  id: string,
  series: object,
  details: Partial<PlannedTodo['details']> = {},
  deeds: readonly Deed[] = [],
  settings: Settings = SETTINGS,
): PlannedTodo {
  const planner = plannerOf(settings);
  const life = new Life(planner, { series: checkSeries({ title: id, ...series }), at: MADE });
  life.pass(NOW - 3_600_000);
  deeds.forEach((deed, i) => life.do({ key: String(i), at: NOW - 3_600_000, deed }));
  life.pass(NOW);
  return { id, made: MADE, progress: life.progress, details: { ...NO_DETAILS, ...details } };
}

function deskOf(todos: readonly PlannedTodo[], settings: Settings = SETTINGS): Desk {
  const desk = new Desk();
  desk.look({ settings, holidays: [], now: NOW });
  desk.put(todos);
  return desk;
}

const rule = (text: string, start = '2027-06-01') => ({
  start,
  repeat: { by: 'calendar', rule: text },
});
const once = (start: LocalDate) => ({ start, repeat: null });
const done: Deed = { do: 'done' };
const WEEK = ['2027-06-07', '2027-06-13'] as const;
const standing = (desk: Desk, [from, to]: readonly [LocalDate, LocalDate] = WEEK) =>
  desk
    .days(from, to)
    .flatMap(({ date, entries }) =>
      entries.map(
        ({ todo: id, kind, at }) => `${date.slice(8)} ${id} ${kind}${at ? ` ${at}` : ''}`,
      ),
    );

test.each<[string, PlannedTodo, string[]]>([
  [
    'by the calendar',
    todo('a', rule('FREQ=DAILY;INTERVAL=2')),
    ['09 a open', '11 a firm', '13 a firm'],
  ],
  [
    'its hour on its due day',
    todo('a', { ...rule('FREQ=WEEKLY;BYDAY=TH'), at: ['18:00'] }, {}, [done]),
    ['10 a firm 18:00'],
  ],
  [
    'late ones stand on today',
    todo('a', { ...rule('FREQ=MONTHLY;BYMONTHDAY=2'), late: 'wait' }),
    ['09 a open'],
  ],
  [
    'after I finish: what follows is expected',
    todo('a', { start: '2027-06-08', repeat: { by: 'completion', every: 'P2D' } }),
    ['09 a open', '11 a expected', '13 a expected'],
  ],
  [
    'moved: on the day for which it is planned',
    todo('a', rule('FREQ=WEEKLY;BYDAY=FR'), {}, [
      done,
      { do: 'move', slot: '2027-06-11', plan: '2027-06-12T15:00' },
    ]),
    ['12 a firm 15:00'],
  ],
  [
    'so many times a week: the missing ones on its last days, one a day',
    todo('a', { start: '2027-06-07', repeat: { by: 'quota', times: 3, per: 'week' } }, {}, [
      { do: 'tally' },
    ]),
    ['12 a open', '13 a open'],
  ],
  [
    'where the person put them',
    todo('a', { start: '2027-06-07', repeat: { by: 'quota', times: 3, per: 'week' } }, {}, [
      { do: 'move', slot: '2027-06-07', days: ['2027-06-10', '2027-06-08'] },
    ]),
    ['10 a open', '12 a open', '13 a open'],
  ],
  ['paused, it stands on no day', todo('a', rule('FREQ=DAILY'), {}, [{ do: 'pause' }]), []],
])('%s', (_name, one, wanted) => expect(standing(deskOf([one]))).toEqual(wanted));

test('each day has what its to-dos by themselves have, whatever was done to them', () => {
  const REPEATS = [
    rule('FREQ=DAILY'),
    rule('FREQ=WEEKLY;BYDAY=TU,FR'),
    { ...rule('FREQ=DAILY'), at: ['08:00', '20:00'] },
    { ...rule('FREQ=WEEKLY'), opensBefore: 'P3D' },
    { start: '2027-06-02', repeat: { by: 'completion', every: 'P5D' } },
    { start: '2027-06-02', repeat: { by: 'completion', every: 'PT30H' } },
    rule('FREQ=MONTHLY;BYMONTHDAY=31;SKIP=BACKWARD'),
    once('2027-06-20'),
    rule('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29'),
  ];
  const below = chance(5);
  const planner = plannerOf(SETTINGS);
  const day = (n: number) => formatDay(parseDay('2027-06-09') + n);
  const todos = Array.from({ length: 60 }, (_, i) => {
    const slot = below(2) ? { slot: day(1 + below(8)) } : {};
    const deeds: Deed[] = [
      { do: 'done', ...slot },
      { do: 'move', ...slot, plan: day(below(20)) },
      { do: 'move', ...slot, due: day(below(20)) },
      { do: 'pause', from: day(below(10)), to: day(12) },
    ];
    return todo(
      `t${i}`,
      REPEATS[i % REPEATS.length]!,
      { takes: below(3) ? 5 * below(20) : null },
      deeds.filter(() => below(3) === 0),
    );
  });
  const desk = deskOf(todos);
  const wanted = todos.flatMap(({ id, progress }) =>
    forecast(planner, progress, NOW, parseDay('2028-07-01')).map(({ due, plan, kind }) => ({
      id,
      kind,
      day: plan ?? due.slice(0, 10),
    })),
  );
  // Asked month by month, or all at once, and after each was handed over again.
  const spans: [LocalDate, LocalDate][] = [
    ['2027-06-09', '2027-06-30'],
    ['2027-07-01', '2027-12-31'],
    ['2028-01-01', '2028-06-08'],
    ['2027-06-09', '2028-06-08'],
  ];
  for (const [from, to] of spans) {
    const found = desk
      .days(from, to)
      .flatMap(({ date, entries }) =>
        entries
          .filter(({ number }) => number === null)
          .map((entry) => `${date} ${entry.todo} ${entry.kind}`),
      );
    const those = wanted
      .filter((it) => it.day >= from && it.day <= to)
      .map((it) => `${it.day} ${it.id} ${it.kind}`);
    expect(found.sort()).toEqual(those.sort());
    const numbers = desk.months(from, to);
    for (const [i, it] of desk.days(from, to).entries()) {
      const toDo = it.entries.filter(isToDo);
      expect(numbers[i]).toMatchObject({ date: it.date, minutes: it.minutes });
      expect(numbers[i]!.firm + numbers[i]!.expected).toBe(toDo.length);
    }
    desk.put(todos.filter(() => below(2) === 0));
  }
});

test('only what changed is worked out again; what is taken away stands no more', () => {
  const [a, b] = [todo('a', rule('FREQ=DAILY')), todo('b', rule('FREQ=DAILY'))];
  const desk = deskOf([a, b]);
  expect(standing(desk).length).toBe(10);
  const other = todo('b', rule('FREQ=DAILY;INTERVAL=9'));
  desk.put([other], []);
  expect(standing(desk).filter((it) => it.includes(' b '))).toEqual(['09 b open', '10 b firm']);
  desk.put([], ['a', 'b']);
  expect(standing(desk)).toEqual([]);
});

describe('evening out', () => {
  const TWO_HOURS = { takes: 120 };
  const moves = (todos: readonly PlannedTodo[], settings = SETTINGS) =>
    deskOf(todos, settings)
      .even(...WEEK)
      .moves.map(({ key, from, to }) => `${key.split(' ')[0]} ${from.slice(8)} to ${to.slice(8)}`);
  /** Fills Thursday, so that what stands there and may move does. */
  const FULL = todo('full', { ...once('2027-06-10'), at: ['08:00'] }, { takes: 60 });

  test.each<[string, PlannedTodo, string[]]>([
    [
      'by the calendar: from its opening day to its due day',
      todo('a', { ...rule('FREQ=WEEKLY;BYDAY=TH'), opensBefore: 'P2D' }, { takes: 30 }, []),
      ['a 10 to 09'],
    ],
    [
      'it opens on its day: it stays',
      todo('a', rule('FREQ=WEEKLY;BYDAY=TH'), { takes: 30 }, [done]),
      [],
    ],
    [
      'with slack: so many days before and after',
      todo('a', rule('FREQ=WEEKLY;BYDAY=TH'), { takes: 30, slack: { before: 0, after: 1 } }, [
        done,
      ]),
      ['a 10 to 11'],
    ],
    [
      'a one-off: up to its due day, never to before today',
      todo('a', once('2027-06-10'), { takes: 30 }),
      ['a 10 to 09'],
    ],
    [
      'never past it',
      todo('a', once('2027-06-10'), { takes: 30 }, [
        { do: 'move', slot: '2027-06-10', plan: '2027-06-10', proposed: true },
      ]),
      ['a 10 to 09'],
    ],
    [
      'moved by hand it stays',
      todo('a', once('2027-06-10'), { takes: 30 }, [
        { do: 'move', slot: '2027-06-10', plan: '2027-06-10' },
      ]),
      [],
    ],
    [
      'with an hour it stays',
      todo('a', { ...once('2027-06-10'), at: ['12:00'] }, { takes: 30 }),
      [],
    ],
    [
      'after I finish: by a tenth of its span',
      todo(
        'a',
        { start: '2027-05-11', repeat: { by: 'completion', every: 'P30D' } },
        { takes: 30 },
        [
          { do: 'done', slot: '2027-05-11' },
          { do: 'move', slot: '2027-07-09', due: '2027-06-10', proposed: true },
        ],
      ),
      ['a 10 to 09'],
    ],
    [
      'a tenth of less than ten days is none',
      todo(
        'a',
        { start: '2027-06-01', repeat: { by: 'completion', every: 'P9D' } },
        { takes: 30 },
        [done, { do: 'move', slot: '2027-06-18', due: '2027-06-10', proposed: true }],
      ),
      [],
    ],
    [
      'spans in hours do not move',
      todo(
        'a',
        { start: '2027-06-01', repeat: { by: 'completion', every: 'PT500H' } },
        { takes: 30, slack: { before: 3, after: 3 } },
        [done],
      ),
      [],
    ],
    ['without an estimate nothing is gained', todo('a', once('2027-06-10')), []],
  ])('%s', (_name, one, wanted) => expect(moves([FULL, one])).toEqual(wanted));

  test('onto no closed day of one that avoids them, and into no pause', () => {
    const weekend = { ...rule('FREQ=WEEKLY;BYDAY=FR'), closedDays: 'before' };
    const slack = { before: 0, after: 2 };
    const settings = checkSettings({ holds: { FR: 0 } });
    const it = (series: object) => todo('a', series, { takes: 30, slack }, [done], settings);
    expect(moves([it(weekend)], settings)).toEqual([]);
    expect(moves([it({ ...weekend, closedDays: 'keep' })], settings)).toEqual(['a 11 to 12']);
    const pauses = [{ from: '2027-06-12', to: '2027-06-12' }];
    expect(moves([it({ ...weekend, closedDays: 'keep', pauses })], settings)).toEqual([
      'a 11 to 13',
    ]);
  });

  test('so many times a week: each missing one on a day of its own', () => {
    const swim = todo(
      'swim',
      { start: '2027-06-07', repeat: { by: 'quota', times: 2, per: 'week' } },
      TWO_HOURS,
    );
    const settings = checkSettings({ holds: { WE: 120, TH: 120, FR: 0, SA: 0, SU: 0 } });
    // On Saturday and Sunday at first; today and Thursday have room, and one at most each.
    expect(moves([swim], settings).sort()).toEqual(['swim 12 to 09', 'swim 13 to 10']);
  });

  test('each reason is true, and one alone is never worse: 120 made-up weeks', () => {
    const below = chance(11);
    for (let n = 0; n < 120; n++) {
      const settings = checkSettings({
        holds: Object.fromEntries(
          ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'].map((it) => [it, 15 * below(10)]),
        ),
      });
      const todos = Array.from({ length: 4 + below(10) }, (_, i) => {
        const date = formatDay(parseDay('2027-06-09') + below(5));
        const details = {
          takes: 15 * (1 + below(6)),
          slack: { before: below(3), after: below(3) },
        };
        return below(5)
          ? todo(`t${i}`, once(date), details, [], settings)
          : todo(
              `t${i}`,
              { start: '2027-06-07', repeat: { by: 'quota', times: 1 + below(4), per: 'week' } },
              details,
              [],
              settings,
            );
      });
      const desk = deskOf(todos, settings);
      const entries = desk.days(...WEEK).flatMap((day) => day.entries);
      const proposal = desk.even(...WEEK);
      const takes = (key: string) => entries.find((it) => entryKey(it) === key)!.takes!;
      const loads = (some: typeof proposal.moves) => {
        const found = new Map(desk.days(...WEEK).map(({ date, minutes }) => [date, minutes]));
        for (const { key, from, to } of some) {
          found.set(from, found.get(from)! - takes(key));
          found.set(to, found.get(to)! + takes(key));
        }
        return found;
      };
      const over = (some: typeof proposal.moves) =>
        proposal.before.reduce(
          (sum, { date, holds }) => sum + Math.max(0, loads(some).get(date)! - (holds ?? Infinity)),
          0,
        );
      const before = loads([]);
      for (const move of proposal.moves) {
        const { why, from, group } = move;
        if (why.kind === 'over') {
          const day = proposal.before.find(({ date }) => date === from)!;
          expect(why).toEqual({ kind: 'over', day: from, holds: day.holds, has: before.get(from) });
          expect(why.has).toBeGreaterThan(why.holds);
        } else {
          // Without it, what comes to its day would be too much there, or would meet its like.
          expect(why.for.length).toBeGreaterThan(0);
          for (const key of why.for)
            expect(proposal.moves.find((it) => it.key === key)).toMatchObject({ to: from, group });
        }
      }
      // Each group that is taken by itself makes nothing worse.
      for (const group of new Set(proposal.moves.map((it) => it.group)))
        expect([n, over(proposal.moves.filter((it) => it.group === group)) <= over([])]).toEqual([
          n,
          true,
        ]);
      for (const { date, minutes } of proposal.after)
        expect(loads(proposal.moves).get(date)).toBe(minutes);
    }
  });
});

describe('laying out a day', () => {
  const WINDOW = { takes: 30, window: { from: '07:00', to: '12:00' } };
  test('around what has an hour, not before now, and by what is important', () => {
    const desk = deskOf([
      todo('bees', { ...once('2027-06-09'), at: ['10:00'] }, { takes: 45 }),
      todo('stretch', rule('FREQ=DAILY'), WINDOW),
      todo('letter', once('2027-06-09'), { ...WINDOW, importance: 'high', takes: 75 }),
      todo('none', once('2027-06-09'), { takes: 30 }),
    ]);
    const {
      '2027-06-09': today,
      '2027-06-10': next,
      ...rest
    } = desk.lay('2027-06-07', '2027-06-10');
    expect(today!.left.map((key) => key.split(' ')[0])).toEqual(['stretch']);
    expect(today!.laid).toMatchObject([{ at: '10:45' }]);
    expect(next!.laid).toMatchObject([{ at: '07:00' }]);
    expect(rest).toEqual({});
  });

  test('a window that the clock change swallows', () => {
    const settings = checkSettings({ zone: 'Europe/London', up: { from: '00:00', to: '24:00' } });
    const now = parseInstant('2027-03-27T10:00:00Z');
    const planner = plannerOf(settings);
    const made = (from: string, to: string): PlannedTodo => {
      const life = new Life(planner, {
        series: checkSeries({ title: 'a', ...once('2027-03-28') }),
        at: now,
      });
      life.pass(now);
      const details = { ...NO_DETAILS, takes: 20, window: { from, to } };
      return { id: 'a', made: now, progress: life.progress, details };
    };
    const lay = (one: PlannedTodo) => {
      const desk = new Desk();
      desk.look({ settings, holidays: [], now });
      desk.put([one]);
      return desk.lay('2027-03-28', '2027-03-28')['2027-03-28']!;
    };
    // From one to two there is no time that day.
    expect(lay(made('01:00', '02:00'))).toMatchObject({ laid: [], left: [expect.any(String)] });
    expect(lay(made('01:00', '02:30'))).toMatchObject({ laid: [{ at: '02:00' }], left: [] });
  });

  test('what was left and rolls is laid out anew on the next day', () => {
    const series = once('2027-06-09');
    const planner = plannerOf(SETTINGS);
    const life = new Life(planner, { series: checkSeries({ title: 'a', ...series }), at: MADE });
    life.pass(NOW);
    life.do({
      key: '1',
      at: NOW,
      deed: { do: 'move', slot: '2027-06-09', plan: '2027-06-09T10:30', proposed: true },
    });
    const next = NOW + 86_400_000;
    life.pass(next);
    const desk = new Desk();
    desk.look({ settings: SETTINGS, holidays: [], now: next });
    desk.put([
      { id: 'a', made: MADE, progress: life.progress, details: { ...NO_DETAILS, ...WINDOW } },
    ]);
    expect(standing(desk)).toEqual(['10 a open']);
    expect(desk.lay('2027-06-10', '2027-06-10')['2027-06-10']!.laid).toMatchObject([
      { at: '10:00' },
    ]);
  });
});

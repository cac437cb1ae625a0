import { chance } from '../chance.ts';
import { formatInstant, parseInstant } from '../calendar/zone.ts';
import { read } from '../phrase/meaning/read.ts';
import { begin } from '../series/life/begin.ts';
import { Life } from '../series/life/life.ts';
import { newestRemindersIn, remindersIn, speaksAt } from '../series/reminding/reminding.ts';
import { plannerOf } from '../series/plan/planner.ts';
import { standOf, type KeptTodo } from './kept.ts';
import { rehearseToday, type TodayRehearsal } from './rehearse.ts';
import { todayOf } from './today.ts';

// Today, to the letter. 2 June 2027 is a Wednesday; worked out by hand.

const NOW = '2027-06-02T10:00:00Z';
type Given = TodayRehearsal['todos'][number];
const todo = (id: string, sentence: string, more: Partial<Given> = {}): Given => ({
  id,
  series: read(sentence, '2027-06-01').series,
  made: '2027-06-01T08:00:00Z',
  ...more,
});
const todayWith = (todos: Given[], more: Partial<TodayRehearsal> = {}) =>
  rehearseToday({ todos, now: NOW, ...more });
const rowsOf = (todos: Given[], more: Partial<TodayRehearsal> = {}) =>
  todayWith(todos, more).sections.map(({ id, rows }) => [id, ...rows.map((row) => row.todo)]);

test('each part of the day has its own, in order; what is late comes first', () => {
  expect(
    rowsOf(
      [
        todo('e', 'Lock the gate every day at 17:00'),
        todo('n', 'Sleep every day at 02:00'),
        todo('m', 'Weigh the hives every day at 11:59'),
        todo('a', 'Top up the batteries every day at 12:00'),
        todo('x', 'Air the cabin every day'),
        todo('q', 'Swim at the weir 3 times a week'),
        todo('f', 'Clean the panels on 9 June opens 10 days before'),
        todo('l', 'Pump out the tank on 1 June'),
        todo('u', 'Read the manual'),
      ],
      { settings: { dayStart: '04:00' } },
    ),
  ).toEqual([
    ['late', 'l'],
    ['morning', 'm'],
    ['afternoon', 'a'],
    ['evening', 'e', 'n'],
    ['anytime', 'x'],
    ['period', 'q'],
    ['early', 'f'],
  ]);
});

test('what a person planned for today or later is not late, also together with a due', () => {
  const move = (more: object) => [{ at: '2027-06-02T09:00:00Z', do: 'move' as const, ...more }];
  expect(
    rowsOf([
      todo('a', 'Pump out the tank on 1 June at 9', { steps: move({ plan: '2027-06-02' }) }),
      todo('b', 'Order wax on 1 June', { steps: move({ plan: '2027-06-02T15:30' }) }),
      todo('c', 'Send the log on 1 June', { steps: move({ plan: '2027-06-04' }) }),
      todo('d', 'Air the cabin on 5 June opens a week before', {
        steps: move({ plan: '2027-06-02', due: '2027-06-01' }),
      }),
      todo('e', 'Grease the stern gland on 1 June, stays late until done', {
        steps: move({ due: '2027-06-01T08:00' }),
      }),
    ]),
  ).toEqual([
    ['late', 'e'],
    ['morning', 'a'],
    ['afternoon', 'b'],
    ['anytime', 'd'],
    ['early', 'c'],
  ]);
});

test('an hour that was set goes with a plan without one, a new due, and a roll', () => {
  const at = (hour: number, more: object) => ({
    at: `2027-06-01T${hour}:00:00Z`,
    do: 'move' as const,
    ...more,
  });
  const planned = at(10, { plan: '2027-06-02T15:30' });
  const order = todo('a', 'Order wax on 2 June opens a week before', { steps: [planned] });
  expect(rowsOf([order])).toEqual([['afternoon', 'a']]);
  for (const more of [{ plan: '2027-06-02' }, { due: '2027-06-02' }])
    expect(rowsOf([{ ...order, steps: [planned, at(11, more)] }])).toEqual([['anytime', 'a']]);
  expect(rowsOf([order], { now: '2027-06-03T10:00:00Z' })).toEqual([['late', 'a']]);
});

test('within a section by importance, then by the moment, by when it was made, by id', () => {
  const low = { details: { importance: 'low' as const } };
  const high = { details: { importance: 'high' as const } };
  expect(
    rowsOf([
      todo('e', 'Check the bilge every day at 9'),
      todo('d', 'Check the ropes every day at 8', low),
      todo('c', 'Check the ropes every day at 10', high),
      todo('b', 'Check the pump every day at 9', { made: '2027-06-01T07:00:00Z' }),
      todo('a', 'Check the gauge every day at 9'),
    ]),
  ).toEqual([['morning', 'c', 'b', 'a', 'e', 'd']]);
  const { made: _made, ...ancient } = todo('z', 'Check the bilge every day');
  expect(rowsOf([todo('a', 'Check the gauge every day'), ancient])).toEqual([
    ['anytime', 'z', 'a'],
  ]);
});

test('further ones of the day, and what counts in hours, show before they open', () => {
  expect(
    todayWith([todo('a', 'Feed the hens every day at 8, 13 and 20')]).sections.map(
      ({ id, rows }) => [id, ...rows.map(({ slot }) => slot.slice(11))],
    ),
  ).toEqual([
    ['morning', '08:00'],
    ['afternoon', '13:00'],
    ['evening', '20:00'],
  ]);
  const gauge = todo('g', 'Look at the gauge 9 hours after done', {
    steps: [{ at: '2027-06-02T09:30:00Z', do: 'done' }],
  });
  expect(todayWith([gauge]).sections).toEqual([
    { id: 'evening', rows: [{ todo: 'g', slot: '2027-06-02T18:30' }] },
  ]);
});

test('so many times a period, on its last day too; a day without an hour comes before its hours', () => {
  const week = todo('q', 'Swim at the weir 3 times a week');
  expect(rowsOf([week], { now: '2027-06-06T10:00:00Z' })).toEqual([['period', 'q']]);
  expect(
    rowsOf([todo('a', 'Send the log on 1 June at 9'), todo('z', 'Pump out the tank on 1 June')]),
  ).toEqual([['late', 'z', 'a']]);
});

test('put above all: three, in the order in which they were put, for that day alone', () => {
  const above = (minute: number) => [{ at: `2027-06-02T09:0${minute}:00Z`, do: 'above' as const }];
  const todos = ['a', 'b', 'c', 'd'].map((id, i) =>
    todo(id, 'Check the bilge every day', { steps: above(4 - i) }),
  );
  expect(rowsOf(todos)).toEqual([
    ['above', 'd', 'c', 'b'],
    ['anytime', 'a'],
  ]);
  expect(rowsOf(todos, { now: '2027-06-03T10:00:00Z' })).toEqual([['anytime', 'a', 'b', 'c', 'd']]);
});

test('in a pause, at rest, not begun, or out of focus: none of it shows, late ones elsewhere are counted', () => {
  const places = [
    { id: 'home', name: 'Home', kind: 'sphere' as const },
    { id: 'boat', name: 'Aboard', kind: 'sphere' as const },
    { id: 'bees', name: 'Bees', kind: 'strand' as const, in: 'home', state: 'rests' as const },
    { id: 'fair', name: 'Fair', kind: 'project' as const, in: 'home', state: 'planned' as const },
    { id: 'wax', name: 'Wax', kind: 'project' as const, in: 'bees', state: 'on' as const },
  ];
  const inside = (place: string) => ({ details: { place } });
  const todos = [
    todo('a', 'Air the cabin every day', inside('home')),
    todo('b', 'Weigh the hives every day', inside('bees')),
    todo('c', 'Sell honey every day', inside('fair')),
    todo('d', 'Order wax every day', inside('wax')),
    todo('e', 'Pump out the tank on 1 June', inside('boat')),
    todo('f', 'Check the bilge every day, paused from 1 June 2027 to 3 June 2027'),
    todo('g', 'Read the log every day'),
  ];
  expect(todayWith(todos, { places })).toMatchObject({
    sections: [
      { id: 'late', rows: [{ todo: 'e' }] },
      { id: 'anytime', rows: [{ todo: 'a' }, { todo: 'g' }] },
    ],
    soon: [{ todo: 'f', due: '2027-06-04' }],
    elsewhere: 0,
  });
  expect(todayWith(todos, { places, focus: 'home' })).toMatchObject({
    sections: [{ id: 'anytime', rows: [{ todo: 'a' }] }],
    soon: [],
    elsewhere: 1,
  });
});

test('back soon: within seven days after today, each once, by due, twelve at most', () => {
  const far = todo('z', 'Order wax on 10 June');
  const near = todo('y', 'Order wax on 9 June');
  const many = Array.from({ length: 13 }, (_, i) =>
    todo(`n${String(i).padStart(2, '0')}`, 'Test it on 3 June'),
  );
  expect(todayWith([far, near]).soon).toEqual([{ todo: 'y', due: '2027-06-09', kind: 'firm' }]);
  expect(todayWith([near, ...many]).soon).toHaveLength(12);
  const gland = todo('g', 'Grease the stern gland 3 days after done', {
    steps: [{ at: '2027-06-02T09:00:00Z', do: 'done' }],
  });
  expect(todayWith([gland]).soon).toEqual([{ todo: 'g', due: '2027-06-05', kind: 'expected' }]);
});

test('what is wrong is said with its place', () => {
  expect(() => todayWith([todo('a', 'x every day'), todo('a', 'y every day')])).toThrow(
    expect.objectContaining({ where: 'todos.1.id' }),
  );
  expect(() => todayWith([todo('a', 'x every day', { made: 'noon' })])).toThrow(
    expect.objectContaining({ where: 'todos.0.made' }),
  );
});

const SENTENCES = [
  'Check the bilge every day at 8 and 20',
  'Check the ropes every Tuesday and Friday, each one is owed',
  'Grease the stern gland 3 days after done, remind me the day before at 18:00',
  'Look at the gauge 9 hours after done, remind me 2 hours before',
  'Swim at the weir 3 times a week, remind me at 9',
  'Change the mite board 2 days after done, missed 1 day after it is due, remind me at 9',
  'Clean the panels every 5 days opens 3 days before, remind me 3 days before',
  'Weigh the hives every month on the 31st, remind me at 7 and again every hour twice',
  'Order wax tomorrow',
];
const settings = {
  zone: 'Europe/London',
  dayStart: '04:00',
  weekStart: 'MO',
  remindAt: '08:30',
} as const;

test('what is known of a to-do beside it changes nothing: any to-dos, at any moment', () => {
  const below = chance(11);
  const planner = plannerOf(settings);
  const made = parseInstant('2027-06-01T08:00:00Z');
  const plain = SENTENCES.map((sentence, i): KeptTodo => ({
    id: String(i),
    made,
    progress: begin(planner, read(sentence, '2027-06-01').series, made),
  }));
  const known: KeptTodo[] = plain.map((it) => {
    const life = new Life(planner, { series: it.progress.series, at: made });
    life.pass(made);
    return { ...it, progress: life.progress, ...standOf(planner, life.progress) };
  });
  for (let now = made; now < made + 30 * 86_400_000; now += (1 + below(300)) * 60_000) {
    // A copy is worked out anew; the others are known from before.
    const anew = plain.map((it) => ({ ...it }));
    expect(todayOf(planner, known, now)).toEqual(todayOf(planner, anew, now));
  }
});

test('looked at only when there is something to say, a to-do is spoken of as though it were watched', () => {
  const planner = plannerOf(settings);
  const made = parseInstant('2027-06-01T08:00:00Z');
  const until = made + 70 * 86_400_000;
  for (const sentence of SENTENCES) {
    const { series } = read(sentence, '2027-06-01');
    const looked = new Life(planner, { series, at: made });
    looked.pass(made);
    const said: string[] = [];
    let looks = 0;
    for (;;) {
      const at = speaksAt(planner, looked.progress, settings);
      if (at === null || at > until) break;
      const from = looked.progress.through!;
      looked.pass(Math.max(at, from + 1));
      looks++;
      for (const it of newestRemindersIn(planner, looked.progress, settings, from, at))
        said.push(`${it.slot} ${formatInstant(it.at)}`);
    }
    const watched = new Life(planner, { series, at: made });
    const wanted: string[] = [];
    for (let at = made; at < until; at += 30 * 60_000) {
      watched.pass(at);
      for (const it of remindersIn(planner, watched.progress, settings, at, at + 30 * 60_000 - 1))
        wanted.push(`${it.slot} ${formatInstant(it.at)}`);
      watched.pass(at + 30 * 60_000 - 1);
      for (const it of remindersIn(
        planner,
        watched.progress,
        settings,
        at + 30 * 60_000 - 1,
        at + 30 * 60_000,
      ))
        wanted.push(`${it.slot} ${formatInstant(it.at)}`);
    }
    expect([sentence, said]).toEqual([sentence, wanted]);
    if (series.reminders === undefined) expect(looks).toBe(0);
  }
});

import { QueryTypes } from 'sequelize';
import { parseInstant } from '@back-again/core';
import { randomUUID } from 'node:crypto';
import type { Running } from '../server.ts';
import type { TodoPage } from '@back-again/contract';
import { Client, startTestServer } from '../testing/harness.ts';

let server: Running;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function someone(at = '2027-06-01T10:00:00Z'): Promise<Client> {
  const client = await new Client(server.url).register();
  await client.clock(at);
  return client;
}
const id = randomUUID;

describe('the life of a to-do over HTTP', () => {
  test('finished late after I finish, it counts from that day; undone, it is as before', async () => {
    const client = await someone('2027-06-02T10:00:00Z');
    const todo = await client.write('Grease the stern gland 14 days after done', '2027-06-02');
    await client.clock('2027-06-16T10:00:00Z');
    const before = await client.page(todo);
    expect(before.todo.open).toMatchObject([{ due: '2027-06-02', plan: '2027-06-16', rolled: 14 }]);
    const action = id();
    const done = await client.act({ do: 'done', id: action, todo });
    expect(done.body.todos[0]).toMatchObject({
      open: [],
      next: { due: '2027-06-30', kind: 'expected' },
      lastDone: '2027-06-16',
    });
    expect((await client.today()).ended).toMatchObject([{ action, time: { status: 'done' } }]);
    const undone = await client.act({ do: 'undo', id: id(), of: action });
    expect(undone.status).toBe(200);
    expect(await client.page(todo)).toEqual(before);
  });

  test('a missed weekly one is in its record, and can still be marked as done', async () => {
    const client = await someone();
    const todo = await client.write('Check the bilge every Tuesday');
    await client.clock('2027-06-09T10:00:00Z');
    await client.act({ do: 'done', id: id(), todo });
    const page = await client.page(todo);
    expect(page.record.map((time) => [time.slot, time.status])).toEqual([
      ['2027-06-08', 'done'],
      ['2027-06-01', 'missed'],
    ]);
    expect(page).toMatchObject({
      totals: { done: 1, missed: 1, skipped: 0 },
      todo: { next: { due: '2027-06-15', kind: 'firm' } },
    });
    const late = id();
    await client.act({ do: 'done', id: late, todo, slot: '2027-06-01' });
    expect((await client.page(todo)).totals).toEqual({ done: 2, missed: 0, skipped: 0 });
    await client.act({ do: 'undo', id: id(), of: late });
    expect((await client.page(todo)).totals).toEqual({ done: 1, missed: 1, skipped: 0 });
  });

  test('several times a day: what is still to come is shown, and can be finished ahead', async () => {
    const client = await someone('2027-06-01T09:00:00Z');
    const todo = await client.write('Feed the hens every day at 8, 13 and 20');
    await client.write('Weigh the hives every Wednesday');
    const before = await client.today();
    expect(before.open[0]!.open).toMatchObject([{ slot: '2027-06-01T08:00' }]);
    expect(before.later.map(({ ahead }) => ahead)).toEqual([
      { slot: '2027-06-01T13:00', due: '2027-06-01T13:00', kind: 'firm' },
      { slot: '2027-06-01T20:00', due: '2027-06-01T20:00', kind: 'firm' },
    ]);
    expect(before.soon.map(({ series }) => series.title)).toEqual(['Weigh the hives']);
    await client.act({ do: 'done', id: id(), todo, slot: '2027-06-01T20:00' });
    await client.clock('2027-06-01T13:00:00Z');
    const after = await client.today();
    expect(after.open[0]!.open).toMatchObject([{ slot: '2027-06-01T13:00' }]);
    expect(after.later).toEqual([]);
    expect((await client.page(todo)).totals).toEqual({ done: 1, missed: 1, skipped: 0 });
  });

  test('done on an earlier day, entered today', async () => {
    const client = await someone('2027-06-02T10:00:00Z');
    const todo = await client.write('Grease the stern gland 14 days after done', '2027-06-02');
    await client.clock('2027-06-09T10:00:00Z');
    const action = id();
    const { body } = await client.act({
      do: 'done',
      id: action,
      todo,
      slot: '2027-06-02',
      when: '2027-06-05T12:00:00Z',
    });
    expect(body.todos[0]).toMatchObject({ next: { due: '2027-06-19' }, lastDone: '2027-06-05' });
    await client.act({ do: 'undo', id: id(), of: action });
    expect((await client.page(todo)).todo.open).toMatchObject([{ rolled: 7 }]);
    const early = await client.act({ do: 'done', id: id(), todo, when: '2027-06-10T12:00:00Z' });
    expect(early).toMatchObject({
      status: 400,
      body: { error: { code: 'when.future', where: 'when' } },
    });
  });

  test('bringing late ones to today is one action with one undo', async () => {
    const client = await someone();
    const todos = [
      await client.write('Pump out the tank 21 days after done'),
      await client.write('Send the mooring log on the 1st of each month'),
    ];
    await client.clock('2027-06-04T10:00:00Z');
    const action = id();
    const times = todos.map((todo) => ({ todo, slot: '2027-06-01' }));
    const { body } = await client.act({ do: 'bring', id: action, times });
    expect(body.todos.map((todo) => todo.open[0])).toMatchObject(
      times.map(() => ({ plan: '2027-06-04', planBy: 'person', due: '2027-06-01' })),
    );
    await client.act({ do: 'undo', id: id(), of: action });
    expect((await client.todos()).todos.map((todo) => todo.open[0]!.planBy)).toEqual([
      'roll',
      'roll',
    ]);
  });

  test('skipped, moved, finished ahead', async () => {
    const client = await someone();
    const todo = await client.write('Check the bilge every Tuesday');
    await client.act({ do: 'move', id: id(), todo, plan: '2027-06-03' });
    expect((await client.page(todo)).todo.open).toMatchObject([
      { plan: '2027-06-03', due: '2027-06-01' },
    ]);
    await client.act({ do: 'skip', id: id(), todo });
    await client.act({ do: 'done', id: id(), todo, slot: '2027-06-08' });
    const page = await client.page(todo);
    expect(page.record.map((time) => [time.slot, time.status])).toEqual([
      ['2027-06-08', 'done'],
      ['2027-06-01', 'skipped'],
    ]);
    expect(page.todo.next).toEqual({ slot: '2027-06-15', due: '2027-06-15', kind: 'firm' });
  });

  test('removing takes it out of sight, its undo brings it back with its record', async () => {
    const client = await someone();
    const todo = await client.write('Check the bilge every Tuesday');
    const action = id();
    expect((await client.act({ do: 'remove', id: action, todo })).body.removed).toEqual([todo]);
    expect((await client.todos()).todos).toEqual([]);
    expect((await client.send('GET', `/todos/${todo}`)).status).toBe(404);
    await client.clock('2027-06-09T10:00:00Z');
    await client.act({ do: 'undo', id: id(), of: action });
    expect((await client.page(todo)).record).toMatchObject([
      { slot: '2027-06-01', status: 'missed' },
    ]);
  });

  test('undoing an early step goes through the later ones again, or says why it cannot', async () => {
    const client = await someone();
    const todo = await client.write('Grease the stern gland 14 days after done');
    const [move, done] = [id(), id()];
    await client.act({ do: 'move', id: move, todo, due: '2027-06-03' });
    await client.act({ do: 'done', id: done, todo });
    expect((await client.act({ do: 'undo', id: id(), of: move })).status).toBe(200);
    expect((await client.page(todo)).record).toMatchObject([{ due: '2027-06-01', status: 'done' }]);
    const next = id();
    await client.act({ do: 'done', id: next, todo, slot: '2027-06-15' });
    const refused = await client.act({ do: 'undo', id: id(), of: done });
    expect(refused).toMatchObject({ status: 409, body: { error: { code: 'undo.conflict' } } });
    expect((await client.page(todo)).totals.done).toBe(2);
  });
});

describe('the same id twice', () => {
  test('changes nothing and answers with how things stand', async () => {
    const client = await someone();
    const todo = await client.write('Check the bilge every day');
    const action = { do: 'done', id: id(), todo } as const;
    const answers = await Promise.all([client.act(action), client.act(action), client.act(action)]);
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
    expect(answers[1]!.body).toEqual(answers[0]!.body);
    expect((await client.page(todo)).totals.done).toBe(1);
    const undo = { do: 'undo', id: id(), of: action.id } as const;
    expect((await client.act(undo)).body).toEqual((await client.act(undo)).body);
    expect((await client.act({ do: 'skip', id: action.id, todo })).body.error.code).toBe(
      'action.id',
    );
  });

  test('twenty actions at once on one to-do all happen, each once', async () => {
    const client = await someone();
    const todo = await client.write('Check the bilge every day');
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, i) => {
        const slot = `2027-06-${String(i + 1).padStart(2, '0')}`;
        return client.act({ do: 'done', id: id(), todo, slot });
      }),
    );
    expect(answers.map(({ status }) => status)).toEqual(Array(20).fill(200));
    const page = await client.page(todo);
    expect(page.record.map((time) => time.slot).sort()).toEqual(
      Array.from({ length: 20 }, (_, i) => `2027-06-${String(i + 1).padStart(2, '0')}`),
    );
    expect(page.todo.next!.due).toBe('2027-06-21');
  });
});

describe('bad input is answered with what is wrong and where, and changes nothing', () => {
  const todo = randomUUID();
  const series = { start: '2027-06-01', repeat: null };
  const create = (more: object, details: object = { title: 'Wax' }) => ({
    do: 'create',
    id: randomUUID(),
    todo,
    series: { ...series, ...more },
    details,
  });
  test.each<[string, unknown, number, string, string]>([
    ['no JSON', '{"do": ', 400, 'body.json', 'body'],
    ['a list', [], 400, 'action.do', 'do'],
    ['nothing that can be done', { do: 'paint', id: todo }, 400, 'action.do', 'do'],
    ['an impossible date', create({ start: '2027-02-30' }), 400, 'date.missing', 'series.start'],
    [
      'an interval of 0',
      create({ repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=0' } }),
      400,
      'rule.interval',
      'series.repeat.rule',
    ],
    [
      'an interval of 10,000,000',
      create({ repeat: { by: 'completion', every: 'P10000000D' } }),
      400,
      'span.long',
      'series.repeat.every',
    ],
    [
      'a rule in hours',
      create({ repeat: { by: 'calendar', rule: 'FREQ=HOURLY;INTERVAL=5' } }),
      400,
      'repeat.times',
      'series.repeat.rule',
    ],
    [
      'an end before the start',
      create({ repeat: { by: 'completion', every: 'P3D' }, ends: { on: '2027-05-01' } }),
      400,
      'ends.before',
      'series.ends.on',
    ],
    ['an empty title', create({}, { title: '  ' }), 400, 'series.title', 'details.title'],
    ['no title', create({}, { takes: 5 }), 400, 'series.title', 'details.title'],
    ['a title among the when', create({ title: 'Wax' }), 400, 'series.part', 'series.title'],
    ['no details', { ...create({}), details: undefined }, 400, 'input.optionality', 'details'],
    ['an unknown part', { ...create({}), colour: 'red' }, 400, 'input.noUnknown', ''],
    ['an id that is none', { do: 'done', id: 'x', todo }, 400, 'input.matches', 'id'],
    [
      'a foreign id',
      { do: 'done', id: randomUUID(), todo: randomUUID() },
      404,
      'todo.none',
      'todo',
    ],
    [
      'an unknown action',
      { do: 'undo', id: randomUUID(), of: randomUUID() },
      404,
      'action.none',
      'of',
    ],
    ['a move to nowhere', { do: 'move', id: randomUUID(), todo }, 400, 'input.somewhere', ''],
    [
      'a slot that is no date',
      { do: 'done', id: randomUUID(), todo, slot: '2027-13-01' },
      400,
      'date.missing',
      'slot',
    ],
  ])('%s', async (_name, body, status, code, where) => {
    const client = await someone();
    const before = await server.db.actions.count();
    const answer = await client.send('POST', '/actions', body);
    expect(answer).toMatchObject({ status, body: { error: { code, where } } });
    expect(answer.body.error.message.length).toBeGreaterThan(10);
    expect((await client.todos()).todos).toEqual([]);
    expect(await server.db.actions.count()).toBe(before);
  });
});

test('the record comes in pages, the last ones first', async () => {
  const client = await new Client(server.url).register();
  await client.clock('2027-06-01T10:00:00Z');
  const todo = await client.write('Check the bilge every day');
  await client.clock('2027-08-20T10:00:00Z');
  const pages = [];
  for (const skip of [0, 50, 100]) {
    const { body } = await client.send<TodoPage>('GET', `/todos/${todo}?skip=${skip}`);
    pages.push([body.record.length, body.more, body.record[0]?.slot]);
  }
  expect(pages).toEqual([
    [50, true, '2027-08-19'],
    [30, false, '2027-06-30'],
    [0, false, undefined],
  ]);
  expect((await client.send('GET', `/todos/${todo}?skip=all`)).status).toBe(400);
});

describe('what has changed', () => {
  let client: Client;
  beforeEach(async () => {
    server.now.set(parseInstant('2027-06-01T10:00:00Z'));
    client = await new Client(server.url).register();
  });

  test('is sent alone, and nothing where nothing did', async () => {
    const todo = await client.write('Check the bilge every day');
    const other = await client.write('Order wax');
    const all = await client.changes();
    expect(all).toMatchObject({ all: true, settings: { zone: 'UTC' }, holidays: [], next: null });
    expect(await client.changes(all.version)).toMatchObject({ todos: [], removed: [], all: false });
    const { body } = await client.act({ do: 'done', id: randomUUID(), todo });
    expect(body.version).toBe(all.version + 1);
    const after = await client.changes(all.version);
    expect(after.todos.map(({ id, version }) => [id, version])).toEqual([[todo, body.version]]);
    expect(after.todos[0]!.lately).toMatchObject([{ time: { status: 'done' } }]);
    expect(after).not.toHaveProperty('settings');
    await client.act({ do: 'remove', id: randomUUID(), todo: other });
    expect((await client.changes(body.version)).removed).toEqual([other]);
    const settings = { zone: 'UTC', dayStart: '04:00', weekStart: 'MO' };
    const { version } = await client.changes();
    await client.send('PUT', '/settings', settings);
    expect(await client.changes(version)).toMatchObject({ settings: { dayStart: '04:00' } });
  });

  test('since a version that is none of theirs it is all that there is', async () => {
    await client.write('Check the bilge every day');
    expect(await client.changes(99_999)).toMatchObject({ all: true, todos: [{}] });
    const { status, body } = await client.send('GET', '/changes?since=-1');
    expect([status, body.error.where]).toEqual([400, 'since']);
    expect((await client.send('GET', '/changes?since=0&after=x')).status).toBe(400);
  });

  test('what comes with time alone is no change', async () => {
    await client.write('Check the bilge every day, remind me at 9');
    const { version } = await client.changes();
    await client.clock('2027-06-05T10:00:00Z');
    await server.clock.tick();
    expect(await client.changes(version)).toMatchObject({ version, todos: [] });
  });

  test('transactions wait for a row, not for the gap beside it', async () => {
    const [row] = await server.db.sequelize.query<{ level: string }>(
      'SELECT @@tx_isolation AS level',
      { type: QueryTypes.SELECT },
    );
    expect(row!.level).toBe('READ-COMMITTED');
  });
});

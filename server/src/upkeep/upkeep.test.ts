import { randomUUID } from 'node:crypto';
import { Op } from 'sequelize';
import { parseInstant } from '@back-again/core';
import { Client, startTestServer } from '../testing/harness.ts';
import type { Running } from '../server.ts';
import { tidy } from './upkeep.ts';

// Nothing grows without bound, and what is left is what the record needs.

const BORN = '2027-06-01T08:00:00Z';
let server: Running;
let client: Client;
let userId: string;

beforeAll(async () => {
  server = await startTestServer(BORN);
});
afterAll(() => server.stop());
beforeEach(async () => {
  server.now.set(parseInstant(BORN));
  client = await new Client(server.url).register();
  const { body } = await client.send<{ name: string; settings: object }>('GET', '/session');
  userId = (await server.db.users.findOne({ where: { name: body.name } }))!.id;
  await client.send('PUT', '/settings', { ...body.settings, channels: ['email'] });
});

/** As though so many other things had been changed since. */
const changedSince = (n: number) =>
  server.db.users.increment('version', { by: n, where: { id: userId } });
const done = async (todo: string, more: object = {}) => {
  const id = randomUUID();
  const { status } = await client.act({ do: 'done', id, todo, ...more });
  expect(status).toBe(200);
  return id;
};
const undo = (of: string) => client.act({ do: 'undo', id: randomUUID(), of });
const statesOf = (todo: string) =>
  server.db.steps.count({ where: { seriesId: todo, kind: 'deed', before: { [Op.ne]: null } } });

test('undo at the edge of what is kept says why it cannot, and the record stays', async () => {
  const todo = await client.write('Check the bilge every day');
  const first = await done(todo);
  await changedSince(3000);
  // 400 days to the minute: still within reach.
  await client.clock('2028-07-05T08:00:00Z');
  expect((await undo(first)).status).toBe(200);
  await client.clock(BORN);
  const again = await done(todo);
  await changedSince(3000);
  await client.clock('2028-07-05T08:01:00Z');
  const refused = await undo(again);
  expect([refused.status, refused.body.error]).toEqual([
    409,
    {
      code: 'undo.old',
      where: 'of',
      message:
        'This was done more than 400 days and 2,000 changes ago: it stands in the record, and can no longer be taken back.',
    },
  ]);
  const { record } = await client.page(todo);
  expect(record.filter(({ status }) => status === 'done')).toHaveLength(1);
});

test('who changed less than 2,000 things since can take back what is older', async () => {
  const todo = await client.write('Check the bilge every day');
  const first = await done(todo);
  await changedSince(1990);
  await client.clock('2029-06-01T08:00:00Z');
  await tidy(server.db, userId, server.now());
  expect((await undo(first)).status).toBe(200);
});

test('steps that are out of reach shrink; the last of each to-do keeps its state', async () => {
  const todo = await client.write('Check the bilge every day');
  for (const day of ['01', '02', '03', '04']) {
    await client.clock(`2027-06-${day}T09:00:00Z`);
    await done(todo, { slot: `2027-06-${day}` });
  }
  await changedSince(3000);
  await client.clock('2028-08-01T09:00:00Z');
  const late = await done(todo);
  expect(await statesOf(todo)).toBe(5);
  const before = (await client.page(todo)).record;
  await tidy(server.db, userId, server.now());
  expect(await statesOf(todo)).toBe(2);
  expect((await client.page(todo)).record).toEqual(before);
  // What is within reach is taken back and entered as before.
  const when = '2028-07-20T10:00:00Z';
  const entered = randomUUID();
  expect((await client.act({ do: 'done', id: entered, todo, when })).status).toBe(200);
  expect((await undo(late)).status).toBe(200);
  expect((await undo(entered)).status).toBe(200);
  // What would have to be gone through again from before that cannot be entered any more.
  const refused = await client.act({
    do: 'done',
    id: randomUUID(),
    todo,
    when: '2027-06-02T12:00:00Z',
  });
  expect([refused.status, refused.body.error.code]).toEqual([409, 'when.old']);
  expect(refused.body.error.where).toBe('when');
});

test('what was said and sent is kept a year', async () => {
  const todo = await client.write('Send the log today, remind me at 9');
  await client.clock('2027-06-01T09:00:00Z');
  await server.clock.tick();
  await server.sender.tick();
  const counts = async () => [
    await server.db.notices.count({ where: { userId } }),
    await server.db.messages.count({ where: { userId } }),
    await server.db.arrivals.count({ where: { userId } }),
  ];
  expect(await counts()).toEqual([1, 1, 1]);
  await tidy(server.db, userId, parseInstant('2028-05-31T09:00:00Z'));
  expect(await counts()).toEqual([1, 1, 1]);
  await tidy(server.db, userId, parseInstant('2028-06-02T09:00:00Z'));
  expect(await counts()).toEqual([0, 0, 0]);
  // It is not said once more.
  await client.clock('2028-06-02T09:00:00Z');
  await server.clock.tick();
  expect(await counts()).toEqual([0, 0, 0]);
  expect((await client.page(todo)).todo.open).toHaveLength(1);
});

test('of many owed times only the one that changes is written', async () => {
  const todo = await client.write('Check the ropes every day, each one is owed');
  await client.clock('2027-09-01T08:00:00Z');
  const { open } = (await client.page(todo)).todo;
  expect(open.length).toBeGreaterThan(90);
  const { slot } = open[40]!;
  const { body } = await client.act({ do: 'part', id: randomUUID(), todo, slot, part: 50 });
  const written = await server.db.occurrences.findAll({
    where: { seriesId: todo, version: body.version },
  });
  expect(written.map((it) => [it.slot, it.part])).toEqual([[slot, 50]]);
  expect((await client.page(todo)).todo.open).toHaveLength(open.length);
});

test('a person is tidied by whichever server is first, each week', async () => {
  await client.write('Check the bilge every day');
  const tidyAt = async () => (await server.db.users.findByPk(userId))!.tidyAt!.toISOString();
  expect(await tidyAt()).toBe('2027-06-08T08:00:00.000Z');
  await client.clock('2027-06-09T08:00:00Z');
  await server.upkeep.tick();
  expect(await tidyAt()).toBe('2027-06-16T08:00:00.000Z');
});

import { randomUUID } from 'node:crypto';
import { formatInstant, parseInstant } from '@back-again/core';
import { rehearse } from '@back-again/core/rehearsal';
import { read } from '@back-again/core/reading';
import { makeClock } from './clock.ts';
import { logFor } from '../log.ts';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';

const BORN = '2027-06-01T10:00:00Z';
let server: Running;
beforeEach(async () => {
  server = await startTestServer(BORN);
  await server.clock.stop();
});
afterEach(() => server.stop());

const SENTENCES = [
  'Check the bilge every day',
  'Air the cabin every 2 weeks on Tue and Sat until 1 Oct',
  'Grease the stern gland 14 days after done',
  'Send the mooring log on the 31st of each month at 13:00',
  'Feed the bees every 4 days 10 times',
  'Order wax in 3 weeks',
];
const DAY = 86_400_000;
const at = (days: number) => parseInstant(BORN) + days * DAY;

async function someone(): Promise<{ client: Client; todos: string[] }> {
  const client = await new Client(server.url).register();
  const todos: string[] = [];
  for (const sentence of SENTENCES) todos.push(await client.write(sentence));
  return { client, todos };
}

/** What is kept of a to-do in the tables, read without letting it catch up. */
async function kept(todo: string) {
  const rows = await server.db.occurrences.findAll({
    where: { seriesId: todo },
    order: ['number'],
  });
  return rows.map(({ slot, due, plan, status, rolled, closedAt }) => ({
    slot,
    due,
    plan,
    status,
    rolled,
    ...(closedAt ? { closedAt: formatInstant(closedAt.getTime()) } : {}),
  }));
}

/** What someone has who is spoken to each day of everything. */
async function spokenTo(n: number): Promise<{ client: Client; todos: string[] }> {
  const client = await new Client(server.url).register();
  const todos: string[] = [];
  for (let i = 0; i < n; i++)
    todos.push(await client.write('Check the bilge every day, remind me at 9'));
  return { client, todos };
}

test('without anything to say it does nothing; after a year who reads finds what the core alone computes', async () => {
  const { client, todos } = await someone();
  server.now.set(at(365));
  expect(await server.clock.tick()).toBe(0);
  for (const [i, sentence] of SENTENCES.entries()) {
    const { times } = rehearse({
      series: read(sentence, '2027-06-01').series,
      settings: { zone: 'UTC' },
      until: formatInstant(at(365)),
    });
    await client.page(todos[i]!);
    const byNumber = await kept(todos[i]!);
    expect(byNumber.map(({ slot }) => slot)).toEqual(times.map(({ slot }) => slot));
    expect(byNumber).toEqual(times);
  }
});

test('after an outage of a year it catches up with what it speaks of in one go', async () => {
  const { todos } = await spokenTo(3);
  server.now.set(at(365));
  expect(await server.clock.tick()).toBe(3);
  const { times } = rehearse({
    series: read('Check the bilge every day', '2027-06-01').series,
    settings: { zone: 'UTC' },
    until: formatInstant(at(365)),
  });
  expect(await kept(todos[0]!)).toEqual(times);
  expect(await server.clock.tick()).toBe(0);
});

test('day by day it comes to the same as in one leap', async () => {
  const leap = await spokenTo(2);
  server.now.set(at(100));
  await server.clock.tick();
  const expected = await Promise.all(leap.todos.map(kept));
  server.now.set(at(0));
  const steps = await spokenTo(2);
  for (let day = 1; day <= 100; day++) {
    server.now.set(at(day));
    await server.clock.tick();
  }
  expect(await Promise.all(steps.todos.map(kept))).toEqual(expected);
});

test('two clocks on one database: each to-do is advanced once', async () => {
  await spokenTo(120);
  server.now.set(at(3));
  const other = makeClock(server.db, server.now, logFor('silent'));
  const [a, b] = await Promise.all([server.clock.tick(), other.tick()]);
  expect(a + b).toBe(120);
  expect(await server.db.occurrences.count({ where: { slot: '2027-06-02' } })).toBe(120);
});

test('a to-do that cannot be advanced does not stop the rest, and rests for an hour', async () => {
  const { client, todos } = await spokenTo(3);
  const broken = todos[0]!;
  const [row] = await server.db.series.findAll({ where: { id: broken } });
  const progress = { ...row!.progress, open: null as never };
  await server.db.series.update({ progress }, { where: { id: broken } });
  server.now.set(at(3));
  expect(await server.clock.tick()).toBe(2);
  const [after] = await server.db.series.findAll({ where: { id: broken } });
  expect(after!.speaksAt!.getTime()).toBe(at(3) + 3600_000);
  expect((await kept(todos[1]!)).length).toBeGreaterThan(0);
  expect((await client.act({ do: 'done', id: randomUUID(), todo: todos[2]! })).status).toBe(200);
});

test('started, it advances by itself what falls due', async () => {
  const { todos } = await spokenTo(3);
  const clock = makeClock(server.db, server.now, logFor('silent'));
  server.now.set(at(1));
  clock.start();
  let slots: string[] = [];
  for (let tries = 0; tries < 500 && !slots.includes('2027-06-02'); tries++)
    slots = (await kept(todos[0]!)).map(({ slot }) => slot);
  await clock.stop();
  expect(slots).toEqual(['2027-06-01', '2027-06-02']);
});

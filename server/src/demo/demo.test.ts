import { formatInstant, parseInstant } from '@back-again/core';
import type { OutboxView, SaidView } from '@back-again/contract';
import { startServer, type Running } from '../server.ts';
import { userNamed } from '../account/users.ts';
import { Client, freshDatabase, testConfig, type ShownToday } from '../testing/harness.ts';
import { DEMO, loadDemo } from './load.ts';

let server: Running | null = null;
afterEach(async () => {
  await server?.stop();
  server = null;
});

async function demoAt(now: string): Promise<{
  today: ShownToday;
  all: Awaited<ReturnType<Client['todos']>>;
}> {
  const config = testConfig(await freshDatabase(), { demo: true, testNow: parseInstant(now) });
  server = await startServer(config);
  const client = new Client(server.url);
  await client.send('POST', '/session', DEMO);
  return { today: await client.today(), all: await client.todos() };
}

const linked = ({ text }: { text: string }) => text;

const titles = (todos: { series: { title: string } }[]) => todos.map(({ series }) => series.title);

test.each(['2026-11-24T09:40:00Z', '2027-02-28T12:00:00Z', '2028-03-01T21:00:00Z'])(
  'any day shows late ones, some for today and some on their way: %s',
  async (now) => {
    const { today, all } = await demoAt(now);
    const late = today.open.filter((todo) => (todo.open[0]!.due ?? '9999') < today.today);
    expect(late.length).toBeGreaterThanOrEqual(2);
    expect(late.length).toBeLessThanOrEqual(5);
    const due = today.open.filter((todo) => todo.open[0]!.due?.startsWith(today.today));
    expect(due.length).toBeGreaterThanOrEqual(4);
    expect(today.soon.length).toBeGreaterThanOrEqual(4);
    expect(all.todos.filter(({ ended }) => ended).map(({ series }) => series.title)).toContain(
      'Feed the bees',
    );
    expect(all.todos.filter(({ series }) => series.start === null)).toHaveLength(4);
    const history = all.todos.reduce((sum, { done }) => sum + done, 0);
    expect(history).toBeGreaterThan(150);
    expect(late.map(({ series }) => series.title)).toEqual(
      expect.arrayContaining(['Pump out the tank', 'Send the mooring log']),
    );
  },
);

test('the same day gives the same data', async () => {
  const first = await demoAt('2026-11-24T09:40:00Z');
  await server!.stop();
  const second = await demoAt('2026-11-24T09:40:00Z');
  expect(second).toEqual(first);
  expect(titles(first.today.open)).toContain('Grease the stern gland');
});

test('it is made once, and made anew where it was cut short', async () => {
  const now = parseInstant('2026-11-24T09:40:00Z');
  server = await startServer(testConfig(await freshDatabase(), { testNow: now }));
  const { db } = server;
  const fails = { ...db, steps: { ...db.steps, create: () => Promise.reject(new Error('cut')) } };
  await expect(loadDemo(fails as never, now, linked)).rejects.toThrow();
  expect(await userNamed(db, DEMO.name)).toBeNull();
  expect(await loadDemo(db, now, linked)).toBe(true);
  expect(await loadDemo(db, now, linked)).toBe(false);
  const user = await userNamed(db, DEMO.name);
  expect(await db.users.count()).toBe(1);
  const count = await db.series.count({ where: { userId: user!.id } });
  expect(count).toBeGreaterThan(20);
  expect(formatInstant(now)).toBe('2026-11-24T09:40:00Z');
});

test('what was said lately is in its list, the outbox has a message with its links and one that was given up', async () => {
  const now = '2026-11-24T09:40:00Z';
  await demoAt(now);
  const client = new Client(server!.url);
  await client.send('POST', '/session', DEMO);
  const { rows, fresh } = (await client.send<SaidView>('GET', '/said')).body;
  expect(rows.filter(({ overview }) => overview).map(({ saidAt }) => saidAt)).toEqual([
    '2026-11-24T07:30:00Z',
  ]);
  expect(rows.filter(({ canAct }) => canAct).length).toBeGreaterThan(1);
  expect(fresh).toBeGreaterThan(0);
  expect(fresh).toBeLessThan(rows.length);
  const times = rows.map(({ saidAt }) => saidAt);
  expect(times).toEqual([...times].sort().reverse());
  expect(times[0]! <= now).toBe(true);
  const { messages } = (await client.send<OutboxView>('GET', '/outbox')).body;
  expect(messages.filter(({ state }) => state === 'given up')).toHaveLength(1);
  expect(
    messages.filter(({ arrived }) => arrived?.text.includes(`${server!.url}/finish/`)).length,
  ).toBe(
    messages.filter(({ state, subject }) => state === 'sent' && !subject.includes('for today'))
      .length,
  );
});

import { randomUUID } from 'node:crypto';
import type { FoundView } from '@back-again/contract';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';

let server: Running;
beforeAll(async () => {
  server = await startTestServer('2027-06-01T10:00:00Z');
});
afterAll(() => server.stop());

const id = randomUUID;
const find = async (client: Client, words: string, after?: string | null) =>
  (
    await client.send<FoundView>(
      'GET',
      `/record?words=${encodeURIComponent(words)}${after ? `&after=${encodeURIComponent(after)}` : ''}`,
    )
  ).body;

test('notes, answers and steps of ended times are found by the beginnings of their words, in any order', async () => {
  const client = await new Client(server.url).register();
  await client.clock('2027-06-01T10:00:00Z');
  const todo = await client.write(
    'Weigh the hives every day, ask for “hive one” in kg, ask what was odd',
  );
  const other = await client.write('Check the bilge every day');
  const slot = '2027-06-01';
  await client.act({ do: 'note', id: id(), todo: other, slot, note: 'Déjà dry, the pump ran hot' });
  await client.act({ do: 'done', id: id(), todo: other, slot });
  // What is open is not in the record.
  await client.act({ do: 'answer', id: id(), todo, slot, answers: { 2: 'Drones on the floor' } });
  expect((await find(client, 'drones')).found).toEqual([]);
  await client.clock('2027-06-01T11:00:00Z');
  await client.act({ do: 'done', id: id(), todo, slot, answers: { 1: 31.5 } });
  const [one] = (await find(client, 'FLO dron')).found;
  expect(one).toMatchObject({
    todo,
    title: 'Weigh the hives',
    slot,
    text: expect.stringContaining('Drones on the floor'),
  });
  expect((await find(client, 'hive 31')).found).toHaveLength(1);
  expect((await find(client, 'deja hot')).found.map((it) => it.title)).toEqual(['Check the bilge']);
  expect((await find(client, 'one drones pump')).found).toEqual([]);
  // The title as it was then stays with it; another person finds nothing.
  await client.clock('2027-06-01T12:00:00Z');
  await client.act({ do: 'change', id: id(), todo, details: { title: 'Weigh both hives' } });
  expect((await find(client, 'drones')).found[0]!.title).toBe('Weigh the hives');
  const stranger = await new Client(server.url).register();
  expect((await find(stranger, 'drones')).found).toEqual([]);
});

test('in pages, the latest first, each once; what is no page is refused', async () => {
  const client = await new Client(server.url).register();
  await client.clock('2027-06-01T10:00:00Z');
  const todo = await client.write('Check the ropes every day, each one is owed');
  await client.clock('2027-07-15T10:00:00Z');
  const { todo: view } = await client.page(todo);
  for (const { slot } of view.open) {
    await client.act({ do: 'note', id: id(), todo, slot, note: `Frayed at ${slot}` });
    await client.act({ do: 'done', id: id(), todo, slot });
  }
  const slots: string[] = [];
  let after: string | null = null;
  do {
    const page: FoundView = await find(client, 'frayed', after);
    expect(page.found.length).toBeLessThanOrEqual(20);
    slots.push(...page.found.map(({ slot }) => slot));
    after = page.next;
  } while (after);
  expect(slots).toHaveLength(view.open.length);
  expect(new Set(slots).size).toBe(view.open.length);
  const { status } = await client.send('GET', '/record?words=x&after=1%20OR%201');
  expect(status).toBe(400);
  expect((await client.send('GET', '/record')).status).toBe(400);
});

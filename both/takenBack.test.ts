import 'fake-indexeddb/auto';
import { randomUUID } from 'node:crypto';
import { formatInstant, parseInstant, plannerOf } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { act, type Draft } from '../app/src/data/local/act.ts';
import type { Running } from '../server/src/server.ts';
import { Client, halvesOf, startTestServer } from '../server/src/testing/harness.ts';
import { Device, asText, textsOf, type Compared } from './device.ts';

// What is shown of taking something back is what the server then says, in the cases that are rare.

const BORN = '2027-06-01T10:00:00Z';
const DAY = 86_400_000;
const planner = plannerOf({ zone: 'UTC', dayStart: '00:00', weekStart: 'MO' });

let server: Running;
let now: number;
beforeAll(async () => {
  server = await startTestServer(BORN);
});
afterAll(() => server.stop());

/** A person with two devices; each does something and is answered. */
async function someone() {
  now = parseInstant(BORN);
  server.now.set(now);
  const differences: string[] = [];
  const check = (_device: Device, { action, shown, answer, error }: Compared) => {
    if (!answer) {
      if (shown.length) differences.push(`${action.do} was refused, though shown: ${error}`);
      return;
    }
    const said = textsOf(planner, answer, now);
    for (const { key, after } of shown)
      if (said.get(key) !== asText(planner, after, now))
        differences.push(
          `${JSON.stringify(action)}\n${asText(planner, after, now)}\n${said.get(key)}`,
        );
  };
  const run = `${randomUUID()}@example.org`;
  const client = await new Client(server.url).register('UTC', run);
  const devices = [0, 1].map((n) => new Device(client, run, `${run} ${n}`, check));
  for (const device of devices) await device.begin();
  const one = devices[0]!;
  const does = async (draft: Draft, device = one) => {
    now += 60_000;
    server.now.set(now);
    await device.sync.refresh();
    const { id } = act(device, draft, now);
    await device.sync.send();
    expect(differences).toEqual([]);
    return id;
  };
  const writes = async (sentence: string) => {
    const todo = randomUUID();
    const { series } = read(sentence, formatInstant(now).slice(0, 10));
    await does({ do: 'create', todo, ...halvesOf(series) });
    return todo;
  };
  const held = async () => {
    await one.sync.refresh();
    const all = await client.changes();
    const wanted = textsOf(planner, all, now);
    for (const todo of all.todos)
      expect(asText(planner, one.local.said.entities[todo.id]!, now)).toBe(wanted.get(todo.id));
    expect(one.local.own.above).toEqual(all.own!.above);
    return all;
  };
  return { one, other: devices[1]!, does, writes, held };
}

const later = (days: number) => {
  now += days * DAY;
  server.now.set(now);
};

test('what was above all already stays so when that is taken back', async () => {
  const { does, writes, held } = await someone();
  const todo = await writes('Check the bilge every day');
  const put = { do: 'above', todo, slot: '2027-06-01', on: true } as const;
  await does(put);
  const again = await does(put);
  await does({ do: 'undo', of: again });
  expect((await held()).own!.above).toHaveLength(1);
});

test('what was above all long ago is there again when what came after it is taken back', async () => {
  const { does, writes, held } = await someone();
  const todo = await writes('Read the manual');
  const put = { do: 'above', todo, slot: 'undated', on: true } as const;
  await does(put);
  later(40);
  const after = await does(put);
  expect((await held()).own!.above.map(({ day }) => day)).toEqual(['2027-07-11']);
  await does({ do: 'undo', of: after });
  expect((await held()).own!.above.map(({ day }) => day)).toEqual(['2027-06-01']);
});

test('a fourth that stood among three open ones stands there again', async () => {
  const { does, writes, held } = await someone();
  const todos: string[] = [];
  for (const what of ['the bilge', 'the ropes', 'the hives', 'the stove'])
    todos.push(await writes(`Check ${what} today`));
  const put = (todo: string, on = true) => does({ do: 'above', todo, slot: '2027-06-01', on });
  for (const todo of todos.slice(0, 3)) await put(todo);
  await does({ do: 'done', todo: todos[0]! });
  await put(todos[3]!);
  const order = (await held()).own!.above;
  const down = await put(todos[0]!, false);
  await does({ do: 'undo', of: down });
  expect((await held()).own!.above).toEqual(order);
});

test('a to-do that was over and comes back outside a planned project goes on', async () => {
  const { does, writes, held } = await someone();
  const sphere = randomUUID();
  const project = randomUUID();
  await does({ do: 'place', place: sphere, parts: { kind: 'sphere', name: 'The boat', in: null } });
  await does({
    do: 'place',
    place: project,
    parts: { kind: 'project', name: 'Paint the hull', in: sphere, state: 'planned' },
  });
  const todo = await writes('Order paint today');
  await does({ do: 'describe', todos: [todo], details: { place: project } });
  await does({ do: 'done', todo });
  expect((await held()).todos.find(({ id }) => id === todo)!.over).toBe(true);
  const { series, details } = halvesOf(read('Order paint every 3 days', '2027-06-01').series);
  await does({ do: 'change', todo, series, details: { ...details, place: null } });
  const state = (await held()).todos.find(({ id }) => id === todo)!;
  expect(state.progress.series.pauses?.at(-1)?.to).not.toBeNull();
});

test('a removed to-do that was changed elsewhere since comes back as it is there', async () => {
  const { one, other, does, writes, held } = await someone();
  const todo = await writes('Read the manual');
  const change = await does({ do: 'change', todo, details: { title: 'Read it again' } });
  const removal = await does({ do: 'remove', todo });
  await does({ do: 'undo', of: change }, other);
  await does({ do: 'undo', of: removal }, one);
  const state = (await held()).todos.find(({ id }) => id === todo)!;
  expect(state.details.title).toBe('Read the manual');
});

test('of several, all are taken back or none', async () => {
  const { does, writes, held } = await someone();
  const one = await writes('Check the bilge every 3 days');
  const two = await writes('Check the ropes every 3 days');
  await does({ do: 'pause', todos: [one, two], to: null });
  const resumed = await does({ do: 'resume', todos: [one, two] });
  await does({ do: 'pause', todos: [two], to: null });
  await does({ do: 'undo', of: resumed });
  await held();
});

test('what was over already, with nobody having looked, stays as it is when its project is finished', async () => {
  const { does, writes, held } = await someone();
  const [sphere, project] = [randomUUID(), randomUUID()];
  await does({ do: 'place', place: sphere, parts: { kind: 'sphere', name: 'The boat', in: null } });
  const parts = { kind: 'project', name: 'Paint the hull', in: sphere } as const;
  await does({ do: 'place', place: project, parts });
  const todo = await writes('Order paint tomorrow, missed 1 day after it is due');
  await does({ do: 'describe', todos: [todo], details: { place: project } });
  later(9);
  await does({ do: 'finishProject', place: project, open: 'end' });
  await does({ do: 'pause', to: null });
  await held();
});

import { randomUUID } from 'node:crypto';
import { changedPreview, plannerOf, previewOf, type Settings } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { Client, startTestServer } from '../testing/harness.ts';
import type { Running } from '../server.ts';

// What is shown before a change is kept is what the server makes of it, and the first time of what was done
// before is where it was said to be.

const BORN = '2027-06-01T10:00:00Z';
let server: Running;
let client: Client;
beforeAll(async () => {
  server = await startTestServer(BORN);
  await server.clock.stop();
  client = await new Client(server.url).register();
});
afterAll(() => server.stop());

async function stateOf(todo: string) {
  const row = await server.db.series.findOne({ where: { id: todo } });
  const user = await server.db.users.findOne({ where: { id: row!.userId } });
  return { progress: row!.progress, settings: user!.settings as Settings };
}

const datesOf = async (todo: string) => {
  const { todo: view, ahead } = await client.page(todo);
  return [...view.open.map(({ due }) => due), ...ahead.map(({ due }) => due)].slice(0, 5);
};

test('a changed to-do goes on from where it stands: moved, finished ahead and counted', async () => {
  const todo = await client.write('Check the bilge every Tuesday, 8 times');
  const id = randomUUID;
  await client.act({ do: 'done', id: id(), todo, slot: '2027-06-08' });
  await client.act({ do: 'move', id: id(), todo, slot: '2027-06-01', due: '2027-06-03' });
  const series = { repeat: { by: 'calendar' as const, rule: 'FREQ=WEEKLY;BYDAY=TU,FR' } };
  const { progress, settings } = await stateOf(todo);
  const now = server.now();
  const shown = changedPreview(plannerOf(settings), settings, progress, series, now)
    .dates.slice(0, 5)
    .map(({ due }) => due);
  expect((await client.act({ do: 'change', id: id(), todo, series })).status).toBe(200);
  expect(shown).toEqual(await datesOf(todo));
  expect(shown[0]).toBe('2027-06-03');
  expect(shown).not.toContain('2027-06-08');
});

test('last done 20 May, 3 weeks after: its first time is on 10 June', async () => {
  const words = 'Turn the compost 3 weeks after done, last done 20 May';
  const todo = await client.write(words);
  const { settings } = await stateOf(todo);
  const { series } = read(words, '2027-06-01');
  const shown = previewOf(plannerOf(settings), settings, series, server.now());
  expect(shown.dates[0]!.due).toBe('2027-06-10');
  expect((await datesOf(todo))[0]).toBe('2027-06-10');
});

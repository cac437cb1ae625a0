import { randomUUID } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import { formatInstant, parseInstant, type Deed } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { randomFrom } from '../demo/random.ts';
import { Client, freshDatabase, halvesOf, startTestServer } from '../testing/harness.ts';
import { spawnServer } from '../testing/process.ts';
import type { Running } from '../server.ts';

// A year of a busy person: what it takes in the database, and what acting on a to-do with 366 owed times costs.
// `npm run check:year`; YEAR_DAYS and YEAR_EACH make it shorter.

const DAYS = Number(process.env.YEAR_DAYS ?? 365);
const EACH_DAY = Number(process.env.YEAR_EACH ?? 60);
const MOST_MB = 40;
const MOST_TIMES = 3;
const START = parseInstant('2027-06-01T07:00:00Z');
const DAY = 86_400_000;

async function sizesOf({ db }: Running): Promise<Map<string, number>> {
  const all = { type: QueryTypes.SELECT } as const;
  const names = await db.sequelize.query<{ name: string }>(
    'SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()',
    all,
  );
  await db.sequelize.query(`ANALYZE TABLE ${names.map(({ name }) => name).join(', ')}`, all);
  const rows = await db.sequelize.query<{ name: string; bytes: number }>(
    'SELECT table_name AS name, data_length + index_length AS bytes FROM information_schema.tables WHERE table_schema = DATABASE()',
    all,
  );
  return new Map(rows.map(({ name, bytes }) => [name, Number(bytes)]));
}

test('a year of a busy person takes 40 MB at most, and 366 owed times cost three times one at most', async () => {
  const url = await freshDatabase();
  const server = await startTestServer(formatInstant(START), { databaseUrl: url });
  try {
    const client = await new Client(server.url).register();
    const { body } = await client.send<{ settings: object }>('GET', '/session');
    await client.send('PUT', '/settings', { ...body.settings, channels: ['email'] });
    const make = async (sentence: string) => {
      const todo = randomUUID();
      const { series } = read(sentence, '2027-06-01');
      await client.send('POST', '/actions', {
        ...{ do: 'create', id: randomUUID(), todo },
        ...halvesOf(series),
      });
      return todo;
    };
    const act = async (todo: string, deed: Deed, by = client) => {
      const id = randomUUID();
      const from = process.hrtime.bigint();
      const { status } = await by.send('POST', '/actions', { ...deed, id, todo });
      return { status, id, ms: Number(process.hrtime.bigint() - from) / 1e6 };
    };
    const before = await sizesOf(server);
    const owed = await make('Check the ropes every day, each one is owed');
    const daily = [];
    for (let i = 0; i < Math.max(1, EACH_DAY - 16); i++)
      daily.push(await make(`Look at gauge ${i} every day${i < 10 ? ', remind me at 8' : ''}`));
    const random = randomFrom(1);
    let done = 0;
    let last = '';
    for (let day = 0; day < DAYS; day++) {
      const now = START + day * DAY + 3_600_000;
      server.now.set(now);
      await server.clock.tick();
      await server.sender.tick();
      await server.upkeep.tick();
      const slot = formatInstant(now).slice(0, 10);
      const some = async (todo: string, deed: Deed) => {
        const { status, id } = await act(todo, deed);
        if (status === 200) done++;
        last = id;
      };
      for (const todo of daily) await some(todo, { do: 'done', slot });
      await some(owed, { do: 'note', slot, note: `Heavy on ${slot}` });
      for (let i = daily.length + 1; i < EACH_DAY; i++) {
        const todo = daily[random.below(daily.length)]!;
        const kind = random.below(4);
        if (kind === 0) {
          await client.send('POST', '/actions', { do: 'undo', id: randomUUID(), of: last });
          done++;
        } else if (kind === 1) await some(todo, { do: 'note', slot, note: 'It stuck a little' });
        else if (kind === 2)
          await some(todo, { do: 'move', slot: nextDay(slot), plan: nextDay(slot) });
        else await some(todo, { do: 'done', slot });
      }
    }
    const after = await sizesOf(server);
    const taken = [...after].map(
      ([name, bytes]) => [name, bytes - (before.get(name) ?? 0)] as const,
    );
    const all = taken.reduce((sum, [, bytes]) => sum + bytes, 0) / 1e6;
    const most = taken.filter(([, bytes]) => bytes > 2e5).sort(([, a], [, b]) => b - a);
    process.stdout.write(
      `${done} actions in ${DAYS} days take ${all.toFixed(1)} MB: ${most.map(([name, bytes]) => `${name} ${(bytes / 1e6).toFixed(1)}`).join(', ')}\n`,
    );
    // On a server by itself: as often on one with a single open time, in turn with the one that owes many.
    const { open } = (await client.page(owed)).todo;
    const one = await make('Walk the towpath today');
    const alone = await spawnServer(url, { at: server.now() });
    const asked = client.beside(alone.url);
    const times: [number[], number[]] = [[], []];
    try {
      for (let i = 0; i < 150; i++) {
        const { slot } = open[i % open.length]!;
        times[0].push((await act(owed, { do: 'part', slot, part: i % 100 }, asked)).ms);
        times[1].push((await act(one, { do: 'part', part: i % 100 }, asked)).ms);
      }
    } finally {
      await alone.kill();
    }
    const [many, single] = times.map((it) => it.sort((a, b) => a - b)[75]!) as [number, number];
    process.stdout.write(
      `${open.length} owed times: ${(many / single).toFixed(1)} times what one costs (${many.toFixed(1)} ms for ${single.toFixed(1)})\n`,
    );
    expect(all).toBeLessThan(MOST_MB);
    expect(many / single).toBeLessThan(MOST_TIMES);
  } finally {
    await server.stop();
  }
}, 3_600_000);

const nextDay = (slot: string) =>
  new Date(Date.parse(`${slot}T00:00:00Z`) + DAY).toISOString().slice(0, 10);

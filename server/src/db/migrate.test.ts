import { randomUUID } from 'node:crypto';
import { DEFAULT_SETTINGS, beginLongAgo, parseInstant, formatInstant } from '@back-again/core';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { SaidView, TodoPage, TodoView } from '@back-again/contract';
import { read } from '@back-again/core/reading';
import { makeClock } from '../clock/clock.ts';
import { systemNow } from '../clock/now.ts';
import { logFor } from '../log.ts';
import { startServer } from '../server.ts';
import { DEMO } from '../demo/load.ts';
import { Client, freshDatabase, testConfig } from '../testing/harness.ts';
import { expectSame, putBack, zipOf } from '../testing/zips.ts';
import { openDatabase } from './database.ts';
import { migrate } from './migrate.ts';
import { first } from './migrations/0001-first.ts';
import { speakingUp } from './migrations/0002-speaking-up.ts';
import { itHolds } from './migrations/0003-it-holds.ts';

test('a database from before reminders were said keeps what is in it, and says them from then on', async () => {
  const db = openDatabase(await freshDatabase());
  const { sequelize } = db;
  await first.up({ context: sequelize });
  await sequelize.query('CREATE TABLE migrations (name VARCHAR(255) NOT NULL PRIMARY KEY)');
  await sequelize.query(`INSERT INTO migrations VALUES ('${first.name}')`);
  const born = parseInstant('2026-06-01T10:00:00Z');
  const [userId, id] = [randomUUID(), randomUUID()];
  const { series } = read('Send the log on 12 June 2027, remind me at 9', '2026-06-01');
  const insert = (table: string, row: Record<string, unknown>) =>
    sequelize.query(
      `INSERT INTO ${table} (${Object.keys(row).join(', ')}) VALUES (${Object.keys(row)
        .map(() => '?')
        .join(', ')})`,
      { replacements: Object.values(row) },
    );
  await insert('users', {
    id: userId,
    name: 'old@example.org',
    passwordHash: 'x',
    settings: JSON.stringify(DEFAULT_SETTINGS),
    createdAt: new Date(born),
  });
  await insert('series', {
    userId,
    id,
    definition: JSON.stringify(series),
    progress: JSON.stringify({ ...beginLongAgo(series, born), through: born }),
    // It would wake when it opens, and never for its reminder.
    wakeAt: new Date('2027-06-12T00:00:00Z'),
    ended: false,
    createdAt: new Date(born),
  });

  expect(await migrate(sequelize)).toEqual([
    '0002-speaking-up',
    '0003-it-holds',
    '0004-both-sides',
    '0005-when-and-what',
    '0006-belongings',
    '0007-files',
    '0008-bundles',
    '0009-past',
    '0010-doors',
    '0011-leases',
    '0012-reach',
  ]);
  expect(await migrate(sequelize)).toEqual([]);
  const now = systemNow();
  const clock = makeClock(db, now, logFor('silent'));
  now.set(Date.now());
  expect(await clock.tick()).toBe(1);
  now.set(parseInstant('2027-06-12T09:00:00Z'));
  await clock.tick();
  expect((await db.notices.findAll()).map(({ seriesId, slot }) => [seriesId, slot])).toEqual([
    [id, '2027-06-12'],
  ]);
  await db.close();
});

/** A half year of the demo as it was kept before when and what lay apart, and what was shown of it then. */
interface Before {
  now: string;
  tables: Record<string, Record<string, unknown>[]>;
  before: Shown;
  /** What was taken back, with how that was answered. */
  undone: [of: string, status: number][];
  after: Shown;
}
interface Shown {
  pages: Record<string, TodoPage>;
  said: SaidView;
}

/** A definition of then as one of now: what it takes in minutes. */
function seriesOf({ takes, ...series }: Record<string, unknown>): object {
  const [, hours = 0, minutes = 0] = /^PT(?:(\d+)H)?(?:(\d+)M)?$/u.exec(String(takes)) ?? [];
  return takes === undefined ? series : { ...series, takes: Number(hours) * 60 + Number(minutes) };
}
const whenIn = ({
  title: _title,
  takes: _takes,
  place: _place,
  ...series
}: Record<string, unknown>) => series;

const viewOf = (view: TodoView) => ({
  ...view,
  createdAt: formatInstant(Date.parse(view.createdAt)),
  series: seriesOf(view.series as never),
  turns: view.turns.map(({ from, series }) => ({ from, series: whenIn(series as never) })),
});
/** What filled a period could not be taken back in place then. */
const withoutTallied = (page: Omit<TodoPage, 'deeds'>) => ({
  ...page,
  record: page.record.map((time) => (time.tally === null ? time : { ...time, action: null })),
});
const pageOf = ({ todo, ...page }: TodoPage) => {
  const { done, skipped, missed } = page.totals;
  return {
    ...withoutTallied({ todo, ...page }),
    todo: viewOf(todo),
    more: page.record.length < done + skipped + missed,
  };
};
const saidOf = ({ rows, ...said }: SaidView) => ({
  ...said,
  rows: rows.map((row) => ({ ...row, todo: row.todo && viewOf(row.todo) })),
});

test('the demo’s half year of before is the same after: its record, its reminders, and what is taken back', async () => {
  const file = join(process.cwd(), 'server/src/db/testing/before-0004.json.gz');
  const before = JSON.parse(gunzipSync(readFileSync(file)).toString()) as Before;
  const url = await freshDatabase();
  const { sequelize } = openDatabase(url);
  for (const step of [first, speakingUp, itHolds]) await step.up({ context: sequelize });
  await sequelize.query('CREATE TABLE migrations (name VARCHAR(255) NOT NULL PRIMARY KEY)');
  const query = sequelize.getQueryInterface();
  for (const [table, rows] of Object.entries(before.tables)) {
    const kept = rows.map((row) =>
      Object.fromEntries(
        Object.entries(row).map(([key, value]) => [
          key,
          typeof value === 'object' && value !== null ? JSON.stringify(value) : value,
        ]),
      ),
    );
    for (let i = 0; i < kept.length; i += 100)
      await query.bulkInsert(table, kept.slice(i, i + 100));
  }
  await sequelize.close();

  const server = await startServer(testConfig(url, { testNow: parseInstant(before.now) }));
  await server.clock.stop();
  try {
    const client = new Client(server.url);
    expect((await client.send('POST', '/session', DEMO)).status).toBe(200);
    // Each name that stood with a to-do is a sphere now.
    const { places = [] } = await client.changes();
    expect(places.map(({ name }) => name).sort()).toEqual(['Aboard', 'Bees', 'Work']);
    const named = <T>(shown: T): T => {
      const names = places.map(({ id, name }) => [`"place":"${id}"`, `"place":"${name}"`] as const);
      const text = names.reduce(
        (all, [id, name]) => all.replaceAll(id, name),
        JSON.stringify(shown),
      );
      return JSON.parse(text) as T;
    };
    const expectShown = async ({ pages, said }: Shown) => {
      expect((await client.todos()).todos.map(({ id }) => id).sort()).toEqual(
        Object.keys(pages).sort(),
      );
      for (const [id, page] of Object.entries(pages)) {
        // The page did not tell of what was done last then.
        const { deeds: _deeds, ...shown } = await client.page(id);
        expect(withoutTallied(named(shown))).toEqual(pageOf(page));
      }
      const { body } = await client.send<SaidView>('GET', '/said');
      expect(named(body)).toEqual(saidOf(said));
    };
    await expectShown(before.before);
    for (const [of, status] of before.undone)
      expect([of, (await client.act({ do: 'undo', id: randomUUID(), of })).status]).toEqual([
        of,
        status,
      ]);
    await expectShown(before.after);
    // What was ended lately can be taken back in place.
    const { todos } = await client.changes();
    expect(todos.flatMap(({ lately }) => lately).length).toBeGreaterThan(0);
    // What was kept in that form goes out and comes back the same.
    const zip = await zipOf(client);
    const other = await new Client(server.url).register();
    expect((await putBack(other, zip as never)).body).toMatchObject({
      there: 0,
      todos: todos.length,
    });
    await expectSame(zip, await zipOf(other));
  } finally {
    await server.stop();
  }
});

import { randomUUID } from 'node:crypto';
import { DEFAULT_SETTINGS, beginLongAgo, parseInstant } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { makeClock } from '../clock/clock.ts';
import { systemNow } from '../clock/now.ts';
import { logFor } from '../log.ts';
import { freshDatabase } from '../testing/harness.ts';
import { openDatabase } from './database.ts';
import { migrate } from './migrate.ts';
import { first } from './migrations/0001-first.ts';

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

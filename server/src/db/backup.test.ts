import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { QueryTypes } from 'sequelize';
import { read } from '@back-again/core/reading';
import { Client, freshDatabase, halvesOf, startTestServer } from '../testing/harness.ts';
import { openDatabase, type Database } from './database.ts';

// The drill: everything is backed up while it is used, restored elsewhere, and held against what there was.

const NAME = 'someone@example.org';
const ROOT = join(__dirname, '../../..');
let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'back-again-drill-'))));
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** Runs one of the two commands on a database; gives how it ended and its words. */
const run = (script: 'backup' | 'restore', file: string, url: string) =>
  new Promise<{ code: number; words: string }>((resolve) => {
    execFile(
      process.execPath,
      [join(ROOT, `scripts/${script}.mjs`), file],
      { env: { ...process.env, DATABASE_URL: url, NODE_OPTIONS: '' } },
      (error, stdout, stderr) =>
        resolve({ code: error ? Number(error.code) : 0, words: `${stdout}${stderr}` }),
    );
  });

async function tablesIn({ sequelize }: Database): Promise<string[]> {
  const names = await sequelize.query<{ name: string }>(
    'SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()',
    { type: QueryTypes.SELECT },
  );
  return names.map(({ name }) => name).sort();
}

/** The checksum of each table (MariaDB manual, CHECKSUM TABLE: the same rows give the same). */
async function sums(url: string): Promise<Record<string, unknown>> {
  const db = openDatabase(url);
  try {
    const tables = await tablesIn(db);
    const rows = await db.sequelize.query<{ Table: string; Checksum: number }>(
      `CHECKSUM TABLE ${tables.map((it) => `\`${it}\``).join(', ')}`,
      { type: QueryTypes.SELECT },
    );
    return Object.fromEntries(rows.map((it) => [it.Table.split('.').at(-1), it.Checksum]));
  } finally {
    await db.close();
  }
}

test('a backup of one moment, made while people act; restored, everything is as it was', async () => {
  const url = await freshDatabase();
  const server = await startTestServer('2027-06-01T10:00:00Z', { databaseUrl: url });
  const busy = join(folder, 'busy.backup');
  const quiet = join(folder, 'quiet.backup');
  try {
    const client = await new Client(server.url).register('UTC', NAME);
    // Files are written out between what people did and who they are: time enough for what is torn to show.
    await server.db.sequelize.query(`
      INSERT INTO files SELECT id, UUID(), 'a', 'b', 1, NULL, FALSE, FALSE, NULL, NOW(), NOW() FROM users`);
    await server.db.sequelize.query(`
      INSERT INTO filePieces
      SELECT files.userId, files.id, seq, RANDOM_BYTES(1024) FROM files, seq_1_to_20000`);
    let isOver = false;
    const acting = (async () => {
      const halves = halvesOf(read('Check the bilge every Tuesday', '2027-06-01').series);
      while (!isOver)
        await client.send('POST', '/actions', {
          ...{ id: randomUUID(), do: 'create', todo: randomUUID() },
          ...halves,
        });
    })();
    const first = await run('backup', busy, url);
    isOver = true;
    await acting;
    expect(first).toEqual({ code: 0, words: expect.stringContaining('MB') as string });
    expect(await run('backup', busy, url)).toMatchObject({ code: 1 });
  } finally {
    await server.stop();
  }
  expect(await run('backup', quiet, url)).toMatchObject({ code: 0 });

  const elsewhere = await freshDatabase();
  expect(await run('restore', quiet, elsewhere)).toMatchObject({ code: 0 });
  const all = await sums(url);
  expect(Object.keys(all).length).toBeGreaterThan(10);
  expect(await sums(elsewhere)).toEqual(all);

  // What was made while people acted is of one moment: each person's version is that of their last action.
  const between = await freshDatabase();
  expect(await run('restore', busy, between)).toMatchObject({ code: 0 });
  const db = openDatabase(between);
  const select = { type: QueryTypes.SELECT } as const;
  const torn = await db.sequelize.query(
    `SELECT u.id FROM users u JOIN actions a ON a.userId = u.id
      GROUP BY u.id, u.version HAVING MAX(a.version) <> u.version`,
    select,
  );
  const [made] = await db.sequelize.query<{ n: number }>(
    'SELECT COUNT(*) AS n FROM actions',
    select,
  );
  await db.close();
  expect(torn).toEqual([]);
  expect(made!.n).toBeGreaterThan(0);
  // The program goes on from it.
  const again = await startTestServer('2027-06-01T10:00:00Z', { databaseUrl: elsewhere });
  const someone = new Client(again.url);
  const session = { name: NAME, password: 'a long password' };
  expect((await someone.send('POST', '/session', session)).status).toBe(200);
  await again.stop();

  // A database with something in it stays as it is.
  const full = await run('restore', quiet, elsewhere);
  expect(full.code).toBe(1);
  expect(full.words).toContain('not empty');

  const bytes = readFileSync(quiet);
  const spoilt: [string, Buffer, string][] = [
    ['half', bytes.subarray(0, bytes.length / 2), 'not whole'],
    [
      'changed',
      Buffer.from(bytes.map((byte, i) => (i === bytes.length - 100 ? byte ^ 1 : byte))),
      'not whole',
    ],
    [
      'later',
      Buffer.from(bytes.toString('latin1').replace(/1 \d{4} /u, '1 9999 '), 'latin1'),
      'later',
    ],
    ['other', Buffer.from('something else'), 'no backup'],
  ];
  const empty = await freshDatabase();
  for (const [name, content, words] of spoilt) {
    const file = join(folder, name);
    writeFileSync(file, content);
    const refused = await run('restore', file, empty);
    expect(refused).toMatchObject({ code: 1 });
    expect(refused.words).toContain(words);
  }
  expect((await run('restore', join(folder, 'none'), empty)).words).toContain('There is no');
  const untouched = openDatabase(empty);
  const tables = await tablesIn(untouched);
  await untouched.close();
  expect(tables).toEqual([]);
  // Nothing half made is left beside them.
  expect(readdirSync(folder).filter((it) => it.endsWith('.new'))).toEqual([]);
}, 240_000);

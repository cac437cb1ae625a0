import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { restore, clientOf } from './lib/backup.mjs';
import { startMariadb } from './lib/mariadb.mjs';
import { ROOT, ensureMariadb, giveUp, say } from './lib/setup.mjs';

/**
 * `npm run restore -- FILE`: what a backup holds, into an empty database: that of DATABASE_URL, else a new one in
 * DATA_DIR.
 */

const [file, ...rest] = process.argv.slice(2);
if (!file || rest.length) giveUp('Say which: npm run restore -- FILE');
ensureMariadb();
const data = resolve(process.env.DATA_DIR ?? join(ROOT, '.data'));
let database = null;
try {
  const url = process.env.DATABASE_URL;
  if (!url) {
    if (existsSync(join(data, 'running.json')))
      throw new Error(
        `Back Again runs from ${data}: stop it, and name an empty folder in DATA_DIR.`,
      );
    database = await startMariadb(data);
  }
  const client = clientOf(url, data);
  try {
    await restore(client, file);
    say(url ? 'All of it is restored.' : `All of it is restored, in ${data}.`);
  } finally {
    client.close();
  }
  await database?.stop();
} catch (error) {
  await database?.stop();
  giveUp(error.message);
}

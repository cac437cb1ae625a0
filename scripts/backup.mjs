import { join, resolve } from 'node:path';
import { backUp, clientOf } from './lib/backup.mjs';
import { ROOT, ensureMariadb, giveUp, say } from './lib/setup.mjs';

/** `npm run backup -- FILE`: everything that the program keeps, in one file, while it runs. */

const [file, ...rest] = process.argv.slice(2);
if (!file || rest.length) giveUp('Say where to: npm run backup -- FILE');
ensureMariadb();
try {
  const client = clientOf(
    process.env.DATABASE_URL,
    resolve(process.env.DATA_DIR ?? join(ROOT, '.data')),
  );
  try {
    const bytes = await backUp(client, file);
    say(`${resolve(file)}: ${(bytes / 1e6).toFixed(1)} MB`);
  } finally {
    client.close();
  }
} catch (error) {
  giveUp(error.message);
}

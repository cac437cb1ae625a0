import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from '../../../scripts/lib/mariadb.mjs';

/** One MariaDB for all server tests, on a folder of its own; each test file uses its own database. */
export default async function databaseUp() {
  if (process.env.TEST_DATABASE_URL) return;
  const folder = mkdtempSync(join(tmpdir(), 'back-again-test-'));
  const database = await startMariadb(folder, { tests: true });
  process.env.TEST_DATABASE_URL = database.url;
  globalThis.testDatabase = { folder, database };
}

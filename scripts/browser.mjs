import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from './lib/mariadb.mjs';
import { ROOT, ensureBrowsers, ensureMariadb, ensurePackages } from './lib/setup.mjs';
import { buildWeb } from './lib/web.mjs';

/** Some browser tests by themselves, on a database of their own: `node scripts/browser.mjs today.spec.ts`. */

ensurePackages();
ensureMariadb();
const browsers = ensureBrowsers();
await buildWeb();
const folder = mkdtempSync(join(tmpdir(), 'back-again-browser-'));
const database = await startMariadb(folder, { tests: true });
const { status } = spawnSync(
  'npx',
  [
    '--no-install',
    'playwright',
    'test',
    '-c',
    'e2e/playwright.config.ts',
    ...process.argv.slice(2),
  ],
  {
    cwd: ROOT,
    env: { ...process.env, ...browsers, TEST_DATABASE_URL: database.url },
    stdio: 'inherit',
  },
);
await database.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(status ?? 1);

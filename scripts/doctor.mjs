import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { urlOf } from './lib/mariadb.mjs';
import { ROOT, ensurePackages, giveUp } from './lib/setup.mjs';

/** `npm run doctor`: what is wrong with this set-up, in words. It reads the variables that `npm start` reads. */

ensurePackages();
const data = resolve(process.env.DATA_DIR ?? join(ROOT, '.data'));
const secret = join(data, 'session-secret');
const url = process.env.DATABASE_URL ?? ownUrl();
if (!url) giveUp(`There is no database in ${data}: start the program there, or set DATABASE_URL.`);
const { status } = spawnSync(
  process.execPath,
  ['--import', 'tsx', join(ROOT, 'server/src/operator/doctorMain.ts')],
  {
    cwd: ROOT,
    stdio: 'inherit',
    env: {
      ...process.env,
      DATABASE_URL: url,
      SESSION_SECRET:
        process.env.SESSION_SECRET ??
        (existsSync(secret) ? readFileSync(secret, 'utf8').trim() : 'none'),
      ...(process.env.DATABASE_URL ? {} : { DATA_FOLDER: data }),
    },
  },
);
process.exit(status ?? 1);

/** Where the program’s own database is; null where there is none. */
function ownUrl() {
  const file = join(data, 'database.cnf');
  if (!existsSync(file)) return null;
  const options = readFileSync(file, 'utf8');
  const of = (key) => new RegExp(`^${key}=(.*)$`, 'mu').exec(options)?.[1] ?? '';
  return urlOf(of('password'), of('socket'));
}

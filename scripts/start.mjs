import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { startMariadb } from './lib/mariadb.mjs';
import { startProgram } from './lib/program.mjs';
import { ROOT, ensureMariadb, ensurePackages, giveUp, say } from './lib/setup.mjs';
import { buildWeb } from './lib/web.mjs';

/** `npm start`: everything that is missing is installed and built, then the program is served. */

const args = process.argv.slice(2);
const unknown = args.find((arg) => arg !== '--empty');
if (unknown) giveUp(`“${unknown}” is unknown. “npm start -- --empty” starts without demo data.`);
const empty = args.includes('--empty');

const DATA = process.env.DATA_DIR ?? join(ROOT, '.data');
const RUNNING = join(DATA, 'running.json');

ensurePackages();
if (!process.env.DATABASE_URL) ensureMariadb();
const web = buildWeb();
mkdirSync(DATA, { recursive: true });
await endLeftOver();

let database = null;
if (!process.env.DATABASE_URL) {
  say(`Starting MariaDB, its data in ${DATA}`);
  database = await startMariadb(DATA).catch((error) => giveUp(error.message));
}
writeFileSync(RUNNING, JSON.stringify({ pid: process.pid, mariadb: database?.pid ?? null }));

if (!empty) say('Starting the server; the first time it makes the demo data');
let program;
try {
  program = await startProgram(
    {
      DATABASE_URL: process.env.DATABASE_URL ?? database.url,
      DATA_DIR: DATA,
      WEB_DIR: web,
      DEMO: empty ? '0' : '1',
      LOG: process.env.LOG ?? 'warn',
    },
    (line) => process.stdout.write(`${line}\n`),
  );
} catch (error) {
  await database?.stop();
  giveUp(error.message);
}

process.stdout.write(`\nBack Again is at ${program.url}\n`);
if (!empty)
  process.stdout.write(
    'Sign in to the demo with demo@example.org and the password “comes back again”.\n',
  );
process.stdout.write('Ctrl+C stops it; the data stays.\n');

let stopping = false;
async function stop(code) {
  if (stopping) return;
  stopping = true;
  await program.stop();
  await database?.stop();
  rmSync(RUNNING, { force: true });
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
void program.ended.then((code) => stop(code ?? 1));

/** A start that was killed leaves its database running: that one is ended, so that its data is free. */
async function endLeftOver() {
  if (!existsSync(RUNNING)) return;
  const before = JSON.parse(readFileSync(RUNNING, 'utf8'));
  if (isNode(before.pid))
    giveUp(`Back Again runs already from this folder (process ${before.pid}).`);
  if (before.mariadb && nameOf(before.mariadb) === 'mariadbd') {
    say('Ending the database of a start that was killed');
    process.kill(before.mariadb, 'SIGTERM');
    while (nameOf(before.mariadb) === 'mariadbd')
      await new Promise((done) => setTimeout(done, 100));
  }
  rmSync(RUNNING, { force: true });
}

function nameOf(pid) {
  try {
    return readFileSync(`/proc/${pid}/comm`, 'utf8').trim();
  } catch {
    return null;
  }
}

function isNode(pid) {
  return pid !== process.pid && (nameOf(pid) ?? '').startsWith('node');
}

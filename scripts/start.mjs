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
let program = null;
if (!process.env.DATABASE_URL) {
  say(`Starting MariaDB, its data in ${DATA}`);
  database = await startMariadb(DATA).catch((error) => giveUp(error.message));
}
note();

if (!empty) say('Starting the server; the first time it makes the demo data');
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

note();
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

/** Writes down what runs, for a start after this one was killed, and for whoever makes a backup. */
function note() {
  const port = database ? Number(new URL(database.url).port) : null;
  const running = { pid: process.pid, server: program?.pid, mariadb: database?.pid, port };
  writeFileSync(RUNNING, JSON.stringify(running));
}

/** A start that was killed leaves its server and database running: they are ended first. */
async function endLeftOver() {
  if (!existsSync(RUNNING)) return;
  const before = JSON.parse(readFileSync(RUNNING, 'utf8'));
  if (before.pid !== process.pid && commandOf(before.pid).includes('start.mjs'))
    giveUp(`Back Again runs already from this folder (process ${before.pid}).`);
  for (const [pid, mark] of [
    [before.server, 'server/src/main.ts'],
    [before.mariadb, 'mariadbd'],
  ]) {
    if (!pid || !commandOf(pid).includes(mark)) continue;
    say(`Ending ${mark}, left over from a start that was killed`);
    process.kill(pid, 'SIGTERM');
    while (commandOf(pid).includes(mark)) await new Promise((done) => setTimeout(done, 100));
  }
  rmSync(RUNNING, { force: true });
}

/** The command line of a process; empty where there is none. */
function commandOf(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ');
  } catch {
    return '';
  }
}

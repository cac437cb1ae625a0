import { existsSync, mkdirSync, readFileSync, readdirSync, readlinkSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { keeper } from './lib/keep.mjs';
import { startMariadb } from './lib/mariadb.mjs';
import { startProgram } from './lib/program.mjs';
import { secretIn } from './lib/secret.mjs';
import { ROOT, ensureMariadb, ensurePackages, giveUp, say } from './lib/setup.mjs';
import { buildWeb } from './lib/web.mjs';
import { writeWhole } from './lib/wholeFile.mjs';

/**
 * `npm start`: everything that is missing is installed and built, then the program is served. What
 * ends by itself meanwhile, database or server, is started again.
 */

const args = process.argv.slice(2);
const unknown = args.find((arg) => arg !== '--empty');
if (unknown) giveUp(`“${unknown}” is unknown. “npm start -- --empty” starts without demo data.`);
const empty = args.includes('--empty');

const DATA = resolve(process.env.DATA_DIR ?? join(ROOT, '.data'));
const RUNNING = join(DATA, 'running.json');
/** In milliseconds. */
const LONGEST_WAIT = 15_000;

ensurePackages();
if (!process.env.DATABASE_URL) ensureMariadb();
const web = await buildWeb();
mkdirSync(DATA, { recursive: true });
await endLeftOver();

const environment = {
  DATABASE_URL: process.env.DATABASE_URL,
  SESSION_SECRET:
    process.env.SESSION_SECRET ??
    secretIn(
      DATA,
      'session-secret',
      'everyone has to sign in again, and links in messages are over.',
    ),
  WEB_DIR: web,
  DEMO: empty ? '0' : '1',
  LOG: process.env.LOG ?? 'warn',
};
let database = null;
let program = null;
const parts = keeper({
  away: (ends) => (ends < 3 ? 0 : Math.min(LONGEST_WAIT, 250 * 2 ** (ends - 3))),
  onStart: note,
  last: () => rmSync(RUNNING, { force: true }),
});
note();
if (!environment.DATABASE_URL) {
  say(`Starting MariaDB, its data in ${DATA}`);
  await parts.start({
    name: 'The database',
    start: async () => {
      database = await startMariadb(DATA, { at: database?.at });
    },
    ended: () => database.ended,
    stop: () => database.stop(),
  });
  environment.DATABASE_URL = database.url;
}
if (!empty) say('Starting the server; the first time it makes the demo data');
await parts.start({
  name: 'The server',
  start: async (signal) => {
    program = await startProgram(environment, (line) => process.stdout.write(`${line}\n`), signal);
  },
  ended: () => program.ended,
  stop: () => program.stop(),
});

process.stdout.write(`\nBack Again is at ${program.url}\n`);
if (!empty)
  process.stdout.write(
    'Sign in to the demo with demo@example.org and the password “comes back again”.\n',
  );
process.stdout.write('Ctrl+C stops it; the data stays.\n');
// From here on it answers at the same address, whatever happens.
environment.PORT = new URL(program.url).port;
parts.watch();

/** Writes down what runs, for a start after this one was killed. */
function note() {
  const running = {
    pid: process.pid,
    server: program?.pid,
    mariadb: database?.pid,
    datadir: database?.datadir,
  };
  writeWhole(RUNNING, JSON.stringify(running));
}

/** A start that was killed leaves its server and database running: they are ended first. */
async function endLeftOver() {
  const before = readRunning();
  if (before?.pid && before.pid !== process.pid && commandOf(before.pid).includes('start.mjs'))
    giveUp(`Back Again runs already from this folder (process ${before.pid}).`);
  for (const [pid, mark] of [
    [before?.server, 'server/src/main.ts'],
    [before?.mariadb ?? databaseIn(join(DATA, 'mariadb')), 'mariadbd'],
  ]) {
    if (!pid || !commandOf(pid).includes(mark)) continue;
    say(`Ending ${mark}, left over from a start that was killed`);
    process.kill(pid, 'SIGTERM');
    while (commandOf(pid).includes(mark)) await new Promise((done) => setTimeout(done, 100));
  }
  rmSync(RUNNING, { force: true });
}

/** What was written down by the start before; null where there is nothing that can be read. */
function readRunning() {
  if (!existsSync(RUNNING)) return null;
  try {
    return JSON.parse(readFileSync(RUNNING, 'utf8'));
  } catch {
    say(`${RUNNING} was broken: what is left over is looked for`);
    return null;
  }
}

/** The process of the database that works on a folder, where there is one. */
function databaseIn(datadir) {
  const pids = existsSync('/proc')
    ? readdirSync('/proc').filter((name) => /^\d+$/u.test(name))
    : [];
  return pids
    .map(Number)
    .find((pid) => commandOf(pid).includes('mariadbd') && commandOf(pid).includes(`=${datadir} `));
}

/** The command line of a process; empty where there is none, or it has ended. */
function commandOf(pid) {
  try {
    readlinkSync(`/proc/${pid}/exe`);
    return `${readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ')} `;
  } catch {
    return '';
  }
}

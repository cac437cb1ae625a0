import { existsSync, mkdirSync, readFileSync, readdirSync, readlinkSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
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

let stopping = false;
let database = null;
let program = null;
if (!process.env.DATABASE_URL) {
  say(`Starting MariaDB, its data in ${DATA}`);
  database = await startMariadb(DATA).catch((error) => giveUp(error.message));
}
note();

if (!empty) say('Starting the server; the first time it makes the demo data');
const environment = {
  DATABASE_URL: process.env.DATABASE_URL ?? database.url,
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
const serve = () => startProgram(environment, (line) => process.stdout.write(`${line}\n`));
try {
  program = await serve();
} catch (error) {
  stopping = true;
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

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
// From here on it answers at the same address, whatever happens.
environment.PORT = new URL(program.url).port;
keep(
  'The database',
  () => database?.ended,
  async () => {
    database = await startMariadb(DATA, { at: database.at });
  },
);
keep(
  'The server',
  () => program.ended,
  async () => {
    program = await serve();
  },
);

/** Starts a part again whenever it ends by itself, after a moment where it ends again and again. */
async function keep(name, ended, start) {
  let ends = [];
  for (;;) {
    const code = await ended();
    if (code === undefined || stopping) return;
    for (let runs = false; !runs && !stopping;) {
      ends = [...ends.filter((at) => at > Date.now() - 60_000), Date.now()];
      say(`${name} ended by itself, and is started again`);
      const wait = ends.length < 3 ? 0 : Math.min(LONGEST_WAIT, 250 * 2 ** (ends.length - 3));
      await new Promise((done) => setTimeout(done, wait));
      try {
        if (stopping) return;
        await start();
        runs = true;
        note();
        say(`${name} runs again`);
      } catch (error) {
        say(`${name} could not be started: ${error.message}`);
      }
    }
  }
}

async function stop(code) {
  if (stopping) return;
  stopping = true;
  await program.stop();
  await database?.stop();
  rmSync(RUNNING, { force: true });
  process.exit(code);
}

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

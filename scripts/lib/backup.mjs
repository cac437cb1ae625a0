import { Buffer } from 'node:buffer';
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import {
  closeSync,
  createReadStream,
  createWriteStream,
  existsSync,
  fsyncSync,
  mkdtempSync,
  openSync,
  readSync,
  readdirSync,
  renameSync,
  rmSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { ROOT } from './setup.mjs';

/**
 * A backup is one line, `back-again backup 1 <form> <SHA-256 of the rest, in hexadecimal>`, and behind it the
 * statements that make everything anew, compressed (RFC 1952). The line is written last: what was cut short has none.
 */
const LINE = /^back-again backup 1 (\d{4}) ([0-9a-f]{64})\n$/u;
const lineOf = (form, hash) => `back-again backup 1 ${form} ${hash}\n`;
const LENGTH = lineOf('0000', '0'.repeat(64)).length;

/** The newest form of the database that this program knows, as 0011. */
export function newestForm() {
  const names = readdirSync(join(ROOT, 'server/src/db/migrations'));
  return names
    .map((name) => name.slice(0, 4))
    .sort()
    .at(-1);
}

/** Which database is meant: options for MariaDB's own clients, kept in a file that nobody else reads. */
export function clientOf(url, dataFolder) {
  if (!url) {
    const file = join(dataFolder, 'database.cnf');
    if (!existsSync(file))
      throw new Error(
        `There is no database in ${dataFolder}: start the program there, or set DATABASE_URL.`,
      );
    return { file, name: 'backagain', close: () => undefined };
  }
  // Of several nodes, parted by commas, the first that answers.
  const clients = eachHost(url).map(clientAt);
  const found = clients.find(answers) ?? clients[0];
  for (const other of clients) if (other !== found) other.close();
  return found;
}

/** The same database at each of the hosts that a URL names. */
function eachHost(url) {
  const [, before, hosts, after] = /^(\w+:\/\/(?:[^@/]*@)?)([^/?]*)(.*)$/su.exec(url) ?? [];
  return (hosts ?? '').split(',').map((host) => new URL(`${before}${host}${after}`));
}

function clientAt({ hostname, port, username, password, pathname, searchParams }) {
  const socket = searchParams.get('socketPath');
  const folder = mkdtempSync(join(tmpdir(), 'back-again-client-'));
  const file = join(folder, 'client.cnf');
  const quoted = (text) => `"${text.replaceAll('\\', '\\\\').replaceAll('"', '\\"')}"`;
  const options = [
    '[client]',
    ...(socket
      ? [`socket=${quoted(socket)}`]
      : [`host=${quoted(hostname)}`, ...(port ? [`port=${port}`] : []), 'protocol=tcp']),
    ...tlsOf(searchParams.get('tls'), quoted),
    `user=${quoted(decodeURIComponent(username))}`,
    `password=${quoted(decodeURIComponent(password))}`,
  ];
  writeFileSync(file, `${options.join('\n')}\n`, { mode: 0o600 });
  return {
    file,
    name: decodeURIComponent(pathname.slice(1)),
    close: () => rmSync(folder, { recursive: true, force: true }),
  };
}

/** What the URL says of TLS, as MariaDB's clients take it (MariaDB manual, Securing connections for client and server). */
function tlsOf(given, quoted) {
  if (given === null || given === '0') return [];
  return ['ssl', 'ssl-verify-server-cert', ...(given === '1' ? [] : [`ssl-ca=${quoted(given)}`])];
}

const answers = ({ file, name }) =>
  spawnSync('mariadb', [`--defaults-file=${file}`, '--connect-timeout=5', name, '-e', 'SELECT 1'], {
    stdio: 'ignore',
  }).status === 0;

/**
 * Writes all that a database holds to a file, as of one moment, while it is used. The file is there whole or not
 * at all. Gives how many bytes it has.
 */
export async function backUp(client, file) {
  const to = resolve(file);
  if (existsSync(to)) throw new Error(`${to} is there already: a backup overwrites nothing.`);
  const beside = `${to}.${process.pid}.new`;
  try {
    const form = await formOf(client);
    if (form === null) throw new Error(`${client.name} holds nothing of Back Again.`);
    const hash = createHash('sha256');
    let bytes = LENGTH;
    const hashed = new Transform({
      transform(piece, _encoding, done) {
        hash.update(piece);
        bytes += piece.length;
        done(null, piece);
      },
    });
    // One moment for all tables, with no table locked (MariaDB manual, mariadb-dump: --single-transaction).
    const dump = run('mariadb-dump', client, [
      '--single-transaction',
      '--quick',
      '--hex-blob',
      '--skip-lock-tables',
      '--skip-dump-date',
      '--default-character-set=utf8mb4',
      client.name,
    ]);
    const out = createWriteStream(beside, { mode: 0o600, flags: 'wx', start: 0 });
    out.write('\n'.padStart(LENGTH));
    await Promise.all([dump.ended, pipeline(dump.child.stdout, createGzip(), hashed, out)]);
    const descriptor = openSync(beside, 'r+');
    try {
      writeSync(descriptor, lineOf(form, hash.digest('hex')), 0);
      fsyncSync(descriptor);
    } finally {
      closeSync(descriptor);
    }
    renameSync(beside, to);
    const folder = openSync(dirname(to), 'r');
    fsyncSync(folder);
    closeSync(folder);
    return bytes;
  } catch (error) {
    rmSync(beside, { force: true });
    throw error.code === 'ENOSPC'
      ? new Error(`There is no room for ${to}: nothing was kept.`)
      : error;
  }
}

/**
 * Puts what a backup holds into an empty database. It is read through first: half a file, one that was changed,
 * and one of a later program are refused before anything is written.
 */
export async function restore(client, file) {
  const form = await checked(resolve(file));
  if (form > newestForm())
    throw new Error(
      `${file} was made by a later Back Again (its form is ${form}, the newest known here ${newestForm()}): restore it with that one.`,
    );
  const tables = await tablesOf(client);
  if (tables.length)
    throw new Error(
      `${client.name} is not empty (${tables.length} tables): a backup goes into an empty database alone.`,
    );
  const into = run('mariadb', client, ['--binary-mode', client.name]);
  try {
    await Promise.all([
      into.ended,
      pipeline(
        createReadStream(resolve(file), { start: LENGTH }),
        createGunzip(),
        into.child.stdin,
      ),
    ]);
  } catch (error) {
    // It was empty, and is empty again.
    const left = await tablesOf(client);
    const drops = left.map((name) => `DROP TABLE IF EXISTS \`${name}\`;`).join('');
    if (drops) await ask(client, `SET FOREIGN_KEY_CHECKS = 0; ${drops}`);
    throw error;
  }
}

/** The form of a backup that is whole. */
async function checked(file) {
  if (!existsSync(file)) throw new Error(`There is no ${file}.`);
  const head = Buffer.alloc(LENGTH);
  const descriptor = openSync(file, 'r');
  readSync(descriptor, head, 0, LENGTH, 0);
  closeSync(descriptor);
  const [, form, wanted] = LINE.exec(head.toString('latin1')) ?? [];
  if (!form) throw new Error(`${file} is no backup of Back Again, or its beginning is missing.`);
  const hash = createHash('sha256');
  await pipeline(createReadStream(file, { start: LENGTH }), hash);
  if (hash.digest('hex') !== wanted)
    throw new Error(
      `${file} is not whole, or was changed: its hash is another. Nothing was restored.`,
    );
  return form;
}

async function tablesOf(client) {
  const found = await ask(
    client,
    `SELECT table_name FROM information_schema.tables WHERE table_schema = ${literal(client.name)}`,
  );
  return found.split('\n').filter(Boolean);
}

/** The form that a database has; null where it holds nothing of the program. */
async function formOf(client) {
  if (!(await tablesOf(client)).includes('migrations')) return null;
  const name = await ask(client, `SELECT MAX(name) FROM \`${client.name}\`.migrations`);
  return name.slice(0, 4);
}

const literal = (text) => `'${text.replaceAll('\\', '\\\\').replaceAll("'", "\\'")}'`;

async function ask(client, sql) {
  const asked = run('mariadb', client, ['--batch', '--skip-column-names', client.name, '-e', sql]);
  let text = '';
  asked.child.stdout.on('data', (piece) => (text += piece));
  await asked.ended;
  return text.trim();
}

/** One of MariaDB's own programs; `ended` fails with its own words. */
function run(program, { file }, args) {
  const child = spawn(program, [`--defaults-file=${file}`, ...args]);
  let words = '';
  child.stderr.on('data', (piece) => (words = `${words}${piece}`.slice(-1000)));
  // That it has ended is told below.
  child.stdin.on('error', () => undefined);
  const ended = (async () => {
    const [code] = await once(child, 'close');
    if (code !== 0) throw new Error(`${program}: ${words.trim() || `it ended with ${code}`}`);
  })();
  return { child, ended };
}

import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, openSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';

/** Where MariaDB's server program is, or null. */
export function findMariadbd() {
  for (const path of [
    '/usr/sbin/mariadbd',
    '/usr/bin/mariadbd',
    '/usr/local/sbin/mariadbd',
    '/opt/homebrew/bin/mariadbd',
    '/usr/local/bin/mariadbd',
  ])
    if (existsSync(path)) return path;
  return null;
}

/** A port of this machine that nobody listens on. */
export function freePort() {
  return new Promise((done, fail) => {
    const probe = createServer();
    probe.once('error', fail);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => done(port));
    });
  });
}

const asRoot = () => process.getuid?.() === 0;

/**
 * Starts MariaDB on loopback with its data in `folder`, made when it is new. Gives its URL, its
 * process id and `stop()`, which lets it write everything and waits until it has ended.
 */
export async function startMariadb(folder, { port, database = 'backagain' } = {}) {
  const mariadbd = findMariadbd();
  if (!mariadbd) throw new Error('MariaDB is not installed.');
  const base = resolve(folder);
  const datadir = join(base, 'mariadb');
  mkdirSync(base, { recursive: true });
  if (!existsSync(join(datadir, 'mysql'))) {
    if (existsSync(datadir) && readdirSync(datadir).length)
      throw new Error(`${datadir} holds something that is not MariaDB's data.`);
    execFileSync(
      'mariadb-install-db',
      [
        '--no-defaults',
        `--datadir=${datadir}`,
        '--auth-root-authentication-method=normal',
        '--skip-test-db',
        ...(asRoot() ? ['--user=root'] : []),
      ],
      { stdio: 'ignore' },
    );
  }
  const at = port ?? (await freePort());
  // A socket's path has 107 characters at most, and folders can be deep.
  const socket = `/tmp/backagain-${process.pid}-${at}.sock`;
  const log = join(base, 'mariadb.log');
  const out = openSync(log, 'a');
  const child = spawn(
    mariadbd,
    [
      '--no-defaults',
      `--datadir=${datadir}`,
      `--socket=${socket}`,
      `--port=${at}`,
      '--bind-address=127.0.0.1',
      '--character-set-server=utf8mb4',
      ...(asRoot() ? ['--user=root'] : []),
    ],
    { stdio: ['ignore', out, out], detached: true },
  );
  let ended = false;
  child.once('exit', () => {
    ended = true;
  });
  for (;;) {
    if (ended)
      throw new Error(
        `MariaDB did not start; its log is ${log}:\n${readFileSync(log, 'utf8').split('\n').slice(-6).join('\n')}`,
      );
    try {
      execFileSync(
        'mariadb',
        [
          '--no-defaults',
          `--socket=${socket}`,
          '-u',
          'root',
          '-e',
          `CREATE DATABASE IF NOT EXISTS ${database} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`,
        ],
        { stdio: 'ignore' },
      );
      break;
    } catch {
      await new Promise((done) => setTimeout(done, 100));
    }
  }
  return {
    url: `mariadb://root@127.0.0.1:${at}/${database}`,
    pid: child.pid,
    async stop() {
      if (!ended) {
        const gone = new Promise((done) => child.once('exit', done));
        child.kill('SIGTERM');
        await gone;
      }
      rmSync(socket, { force: true });
    },
  };
}

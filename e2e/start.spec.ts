import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import {
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  readlinkSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { createInterface } from 'node:readline';
import { request as newRequest, test, expect, type APIRequestContext } from '@playwright/test';
import { create, done, expectKept, from, sendAll, type Sent } from './kept.ts';
import { register } from './program.ts';

// The start command: what ends by itself is started again, and what it leaves on the machine is its own
// alone. KILLS names how many of each kind in a long run.

const KILLS = Number(process.env.KILLS ?? 1);
const ROOT = join(import.meta.dirname, '..');

interface Started {
  url: string;
  folder: string;
  lines: string[];
  running(): { pid: number; server: number; mariadb: number; datadir: string };
  stop(): Promise<void>;
}

const started: ChildProcess[] = [];
const folders: string[] = [];
test.afterEach(async () => {
  for (const child of started.splice(0)) await ended(child);
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

async function ended(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  await gone;
}

function newFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'back-again-start-'));
  folders.push(folder);
  return folder;
}

/** Runs the start command with its data in a folder. */
async function start(folder = newFolder()): Promise<Started> {
  const { DATABASE_URL: _url, SESSION_SECRET: _secret, ...env } = process.env;
  const child = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), '--empty'], {
    cwd: ROOT,
    env: { ...env, DATA_DIR: folder, PORT: '0', LOG: 'warn' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  started.push(child);
  const lines: string[] = [];
  const url = await new Promise<string>((resolve, reject) => {
    for (const stream of [child.stdout, child.stderr])
      createInterface({ input: stream }).on('line', (line) => {
        lines.push(line);
        const found = /^Back Again is at (\S+)$/u.exec(line);
        if (found) resolve(found[1]!);
      });
    child.once('exit', (code) => reject(new Error(`It ended with ${code}:\n${lines.join('\n')}`)));
  });
  return {
    url,
    folder,
    lines,
    running: () =>
      JSON.parse(readFileSync(join(folder, 'running.json'), 'utf8')) as ReturnType<
        Started['running']
      >,
    stop: () => ended(child),
  };
}

const clientOf = (it: Started) => newRequest.newContext(from(it));
const health = async (client: APIRequestContext) => {
  try {
    const answer = await client.get('/api/health');
    return { status: answer.status(), ...((await answer.json()) as object) };
  } catch {
    return { status: 0 };
  }
};

for (const part of ['mariadb', 'server'] as const)
  test(`kill -9 of the ${part}: it runs again by itself, and each answered action is kept once`, async () => {
    test.setTimeout(120_000 * KILLS);
    const it = await start();
    const client = await clientOf(it);
    await register(client);
    const todos: string[] = [];
    for (let i = 0; i < 3; i++)
      todos.push(await create(client, new Date().toISOString().slice(0, 10)));
    const sent: Sent[] = [];
    for (let kill = 0; kill < KILLS; kill++) {
      const before = sent.filter(({ answered }) => answered).length;
      let over = false;
      const runs = sendAll(client, todos, sent, () => over);
      await expect
        .poll(() => sent.filter(({ answered }) => answered).length - before, { intervals: [5] })
        .toBeGreaterThan(8);
      const pid = it.running()[part];
      process.kill(pid, 'SIGKILL');
      await expect.poll(() => it.running()[part], { timeout: 60_000 }).not.toBe(pid);
      over = true;
      await runs;
      await expect.poll(async () => (await health(client)).status, { timeout: 60_000 }).toBe(200);
      for (const one of sent.filter(({ answered }) => !answered))
        one.answered = await done(client, one);
      await expectKept(client, todos, sent, ({ answered }) => answered);
      expect(sent.every(({ answered }) => answered)).toBe(true);
    }
    expect(it.lines.filter((line) => line.includes('runs again'))).toHaveLength(KILLS);
    await client.dispose();
  });

for (const part of ['mariadb', 'server'] as const)
  test(`stopped while the ${part} comes back, it leaves no process behind`, async () => {
    const it = await start();
    expect(processesOf(it.folder)).toEqual(expect.arrayContaining([it.running()[part]]));
    process.kill(it.running()[part], 'SIGKILL');
    await expect
      .poll(() => it.lines.some((line) => line.includes('is started again')), { intervals: [2] })
      .toBe(true);
    await it.stop();
    expect(processesOf(it.folder)).toEqual([]);
  });

/** The processes that were started with their data in a folder; a child has the variables of whoever started it. */
const processesOf = (folder: string): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/u.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        return readFileSync(`/proc/${pid}/environ`, 'utf8')
          .split('\0')
          .includes(`DATA_DIR=${folder}`);
      } catch {
        return false;
      }
    });

test('a frozen database: requests end in words, and go on once it answers again', async () => {
  const it = await start();
  const client = await clientOf(it);
  await register(client);
  const { mariadb } = it.running();
  process.kill(mariadb, 'SIGSTOP');
  try {
    // It is frozen a moment after it is told to be.
    await expect
      .poll(() => health(client))
      .toMatchObject({ status: 503, ok: false, database: false });
    const answer = await client.get('/api/today');
    expect(answer.status()).toBe(503);
    expect(await answer.json()).toMatchObject({ error: { code: 'server.slow' } });
  } finally {
    process.kill(mariadb, 'SIGCONT');
  }
  await expect.poll(async () => (await health(client)).status).toBe(200);
  await expect.poll(async () => (await client.get('/api/today')).status()).toBe(200);
  await client.dispose();
});

test('what was written down and is broken is said, and mended', async () => {
  const it = await start();
  const { mariadb } = it.running();
  const [main] = started.splice(0);
  main!.kill('SIGKILL');
  writeFileSync(join(it.folder, 'running.json'), '{"pid":');
  writeFileSync(join(it.folder, 'session-secret'), '');
  const again = await start(it.folder);
  const said = again.lines.join('\n');
  expect(said).toContain('running.json was broken');
  expect(said).toContain('session-secret was broken');
  expect(again.running().mariadb).not.toBe(mariadb);
  expect(readFileSync(join(it.folder, 'session-secret'), 'utf8')).toMatch(/^[0-9a-f]{64}$/u);
  const client = await clientOf(again);
  expect((await health(client)).status).toBe(200);
  await client.dispose();
});

const isRoot = process.getuid?.() === 0;
const mode = (path: string) => statSync(path).mode & 0o777;

/** What the program’s own account is answered. */
function ask(folder: string, sql: string): string[] {
  const file = join(folder, 'database.cnf');
  const args = [`--defaults-file=${file}`, '-N', '-e', sql, 'backagain'];
  const out = execFileSync('mariadb', args, { stdio: ['ignore', 'pipe', 'ignore'] });
  return out.toString().trim().split('\n').filter(Boolean);
}

function expectOwn(it: Started): void {
  const { mariadb } = it.running();
  const status = readFileSync(`/proc/${mariadb}/status`, 'utf8');
  const uid = Number(/^Uid:\s+(\d+)/mu.exec(status)![1]);
  expect(uid === 0).toBe(false);
  if (!isRoot) expect(uid).toBe(process.getuid!());
  const socket = readFileSync(join(it.folder, 'database.cnf'), 'utf8');
  const place = /socket=(.*)\/mariadb\.sock/u.exec(socket)![1]!;
  expect([mode(place), mode(join(it.folder, 'mariadb'))]).toEqual([0o700, 0o700]);
  expect([
    mode(join(it.folder, 'database.cnf')),
    mode(join(it.folder, 'database-password')),
  ]).toEqual([0o600, 0o600]);
  // No port: of the sockets of its process none is of TCP.
  const listening = ['tcp', 'tcp6'].flatMap((kind) =>
    readFileSync(`/proc/net/${kind}`, 'utf8')
      .split('\n')
      .slice(1)
      .map((line) => line.trim().split(/\s+/u)[9]),
  );
  const own = execFileSync('ls', [`/proc/${mariadb}/fd`])
    .toString()
    .trim()
    .split('\n');
  for (const fd of own) {
    const inode = /^socket:\[(\d+)\]$/u.exec(linkOf(`/proc/${mariadb}/fd/${fd}`))?.[1];
    if (inode) expect(listening).not.toContain(inode);
  }
  const grants = ask(it.folder, 'SHOW GRANTS').join('\n');
  expect(grants).toMatch(/GRANT USAGE ON \*\.\* TO `backagain`@`localhost`/u);
  expect(grants).not.toMatch(/FILE|SUPER|ALL PRIVILEGES ON \*\.\*/u);
  expect(() => ask(it.folder, 'SELECT User FROM mysql.global_priv')).toThrow();
  for (const args of [['-u', 'root'], ['-u', 'backagain'], []])
    expect(() =>
      execFileSync(
        'mariadb',
        ['--no-defaults', `--socket=${place}/mariadb.sock`, ...args, '-e', 'SELECT 1'],
        { stdio: 'ignore' },
      ),
    ).toThrow();
}

function linkOf(path: string): string {
  try {
    return readlinkSync(path);
  } catch {
    return '';
  }
}

test('the database that ships lets nobody else in, runs as nobody special, and reads no files', async () => {
  expectOwn(await start());
});

test('in a folder that only its owner may enter it finds a place for its data', async () => {
  const closed = newFolder();
  const folder = join(closed, 'data');
  mkdirSync(folder);
  const it = await start(folder);
  const client = await clientOf(it);
  expect((await health(client)).status).toBe(200);
  const { datadir } = it.running();
  await client.dispose();
  await it.stop();
  expect(mode(closed)).toBe(0o700);
  expect(datadir.startsWith(folder)).toBe(!isRoot);
  rmSync(dirname(datadir), { recursive: true, force: true });
});

test('one from before, open to all who are on the machine, is closed at the next start', async () => {
  const folder = newFolder();
  const datadir = join(folder, 'mariadb');
  const user = isRoot ? ['--user=root'] : [];
  execFileSync(
    'mariadb-install-db',
    [
      '--no-defaults',
      `--datadir=${datadir}`,
      '--auth-root-authentication-method=normal',
      '--skip-test-db',
      ...user,
    ],
    { stdio: 'ignore' },
  );
  const socket = join(folder, 'old.sock');
  const old = spawn(
    ['/usr/sbin/mariadbd', '/usr/bin/mariadbd'].find((path) =>
      statSync(path, { throwIfNoEntry: false }),
    )!,
    ['--no-defaults', `--datadir=${datadir}`, `--socket=${socket}`, '--skip-networking', ...user],
    { stdio: 'ignore' },
  );
  started.push(old);
  const asRoot = (sql: string) =>
    execFileSync('mariadb', ['--no-defaults', `--socket=${socket}`, '-u', 'root', '-e', sql], {
      stdio: 'ignore',
    });
  await expect
    .poll(() => {
      try {
        asRoot('SELECT 1');
        return true;
      } catch {
        return false;
      }
    })
    .toBe(true);
  asRoot("CREATE USER 'helper'@'%'; GRANT FILE ON *.* TO 'helper'@'%'; CREATE DATABASE backagain");
  asRoot(
    "CREATE TABLE backagain.kept (word VARCHAR(20)); INSERT INTO backagain.kept VALUES ('wax')",
  );
  await ended(old);
  const it = await start(folder);
  expectOwn(it);
  expect(ask(folder, 'SELECT word FROM kept')).toEqual(['wax']);
});

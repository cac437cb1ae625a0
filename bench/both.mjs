import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mariadb';
import { startMariadb } from '../scripts/lib/mariadb.mjs';
import { ROOT, ensureMariadb } from '../scripts/lib/setup.mjs';
import { checkout } from './before.mjs';

/**
 * What one thing that is done costs: actions a second, twenty people at a time on one process, against
 * the state before the app computed by itself; statements and requests for one; how much a device is
 * sent at first, and after something was done.
 */

const BEFORE = '37c07a0';
const PEOPLE = 20;
const EACH = 40;
const MANY = 2000;
/** What must hold. */
const LEAST_TIMES = 4;
const MOST_STATEMENTS = 8;
const MOST_FIRST = 250 * 1024;
const NOW = '2027-06-01T10:00:00Z';

const line = (text) => process.stdout.write(`${text}\n`);

/** Someone with an account on a program. */
async function someone(url) {
  const person = { cookie: '' };
  person.send = async (method, path, body) => {
    const response = await fetch(`${url}/api${path}`, {
      method,
      headers: {
        Origin: url,
        ...(body ? { 'Content-Type': 'application/json' } : {}),
        ...(person.cookie ? { Cookie: person.cookie } : {}),
      },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    const cookie = response.headers.get('set-cookie');
    if (cookie) person.cookie = cookie.split(';')[0];
    const text = await response.text();
    return { status: response.status, body: text ? JSON.parse(text) : {} };
  };
  person.act = async (action) => {
    const { status, body } = await person.send('POST', '/actions', { id: randomUUID(), ...action });
    if (status !== 200) throw new Error(`${action.do}: ${status} ${body.error?.message}`);
    return body;
  };
  const account = { name: `${randomUUID()}@example.org`, password: 'a long password', zone: 'UTC' };
  const { status } = await person.send('POST', '/accounts', account);
  if (status !== 201) throw new Error(`An account: ${status}`);
  return person;
}

const TITLES = [
  'Check the bilge',
  'Weigh the hives',
  'Grease the stern gland',
  'Pump out the tank',
];
const REPEATS = [
  { by: 'calendar', rule: 'FREQ=DAILY' },
  { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU,TH' },
  { by: 'completion', every: 'P14D' },
  { by: 'calendar', rule: 'FREQ=MONTHLY;BYMONTHDAY=31;SKIP=BACKWARD' },
  null,
];

/** Keeps a to-do, in the form of either program. */
async function create(person, i, isBefore) {
  const todo = randomUUID();
  const title = `${TITLES[i % TITLES.length]} ${i}`;
  const series = {
    start: `2027-0${5 + (i % 2)}-${String((i % 28) + 1).padStart(2, '0')}`,
    repeat: REPEATS[i % REPEATS.length],
    ...(i % 7 ? {} : { reminders: [{ before: 'P1D', at: '18:00' }] }),
  };
  await person.act({
    do: 'create',
    todo,
    ...(isBefore
      ? { series: { title, ...series } }
      : { series, details: { title, takes: i % 3 ? 30 : null } }),
  });
  return todo;
}

/** Starts a program on a database of its own. */
async function started(code) {
  const folder = mkdtempSync(join(tmpdir(), 'back-again-bench-'));
  const database = await startMariadb(folder);
  const { startProgram } = await import(join(code, 'scripts/lib/program.mjs'));
  const program = await startProgram({
    DATABASE_URL: database.url,
    PORT: '0',
    SESSION_SECRET: 'for measuring alone',
    SIGN_IN_TRIES: '100000',
    TEST_CLOCK: '1',
    TEST_NOW: NOW,
    LOG: 'silent',
  });
  return {
    url: program.url,
    database: database.url,
    async stop() {
      await program.stop();
      await database.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** What a window asked for after each thing done, before: what it shows, and once more as it heard of it. */
const ASKED_BEFORE = ['/today', '/said', '/today', '/said'];

/** How many things are done a second, by so many people at a time: alone, and with all that a window asks then. */
async function rateOf({ url }, isBefore) {
  const people = await Promise.all(Array.from({ length: PEOPLE }, () => someone(url)));
  const todos = await Promise.all(
    people.map(async (person) => {
      const made = [];
      for (let i = 0; i < EACH; i++) {
        const todo = randomUUID();
        const series = { start: '2027-06-01', repeat: REPEATS[i % 3] };
        await person.act({
          do: 'create',
          todo,
          ...(isBefore
            ? { series: { title: TITLES[i % 4], ...series } }
            : { series, details: { title: TITLES[i % 4] } }),
        });
        made.push(todo);
      }
      return made;
    }),
  );
  const half = EACH / 2;
  const done = async (asks) => {
    const from = performance.now();
    await Promise.all(
      people.map(async (person, n) => {
        for (const todo of todos[n].splice(0, half)) {
          await person.act({ do: 'done', todo });
          for (const path of asks) await person.send('GET', path);
        }
      }),
    );
    return (PEOPLE * half) / ((performance.now() - from) / 1000);
  };
  return { alone: await done([]), window: await done(isBefore ? ASKED_BEFORE : []) };
}

/** How many statements the database was asked for one thing done, session and all. */
async function statementsOf({ url, database }) {
  const at = new URL(database);
  const connection = await createConnection({
    socketPath: at.searchParams.get('socketPath'),
    user: at.username,
    password: decodeURIComponent(at.password),
  });
  const questions = async () =>
    Number((await connection.query("SHOW GLOBAL STATUS LIKE 'Questions'"))[0].Value);
  const person = await someone(url);
  const todos = [];
  for (let i = 0; i < 40; i++) todos.push(await create(person, 0, false));
  const counts = [];
  for (const todo of todos) {
    const before = await questions();
    await person.act({ do: 'done', todo });
    // The asking is one of them.
    counts.push((await questions()) - before - 1);
  }
  await connection.end();
  // The clock asks now and then, too.
  return counts.sort((a, b) => a - b)[Math.floor(counts.length / 2)];
}

/** The bytes of an answer as they are sent, compressed. */
function bytesOf(url, path, cookie) {
  return new Promise((done, fail) => {
    const headers = { Cookie: cookie, 'Accept-Encoding': 'br, gzip' };
    const asked = request(`${url}/api${path}`, { headers }, (response) => {
      let bytes = 0;
      response.on('data', (some) => (bytes += some.length));
      response.on('end', () => done(bytes));
    });
    asked.on('error', fail);
    asked.end();
  });
}

async function sentTo({ url }) {
  const person = await someone(url);
  const todos = [];
  for (let i = 0; i < MANY; i++) todos.push(await create(person, i, false));
  let first = 0;
  for (let after = null; after !== undefined;) {
    const path = `/changes?since=0${after ? `&after=${after}` : ''}`;
    first += await bytesOf(url, path, person.cookie);
    after = (await person.send('GET', path)).body.next ?? undefined;
  }
  const { version } = (await person.send('GET', '/changes?since=0')).body;
  await person.act({ do: 'describe', todos: [todos[1]], details: { takes: 45 } });
  const { body } = await person.send('GET', `/changes?since=${version}`);
  const later = await bytesOf(url, `/changes?since=${version}`, person.cookie);
  return { first, later, changed: body.todos.length };
}

ensureMariadb();
const before = checkout(BEFORE);
const now = await started(ROOT);
const rates = { before: [], now: [] };
const old = before && (await started(before.code));
for (let round = 0; round < 3; round++) {
  if (old) rates.before.push(await rateOf(old, true));
  rates.now.push(await rateOf(now, false));
}
await old?.stop();
before?.remove();
const best = (all, kind) => Math.max(...all.map((rate) => rate[kind]));
line(`\nThings done a second, ${PEOPLE} people at a time, the best of three rounds`);
for (const [kind, words] of [
  ['window', 'with all that a window asks for it'],
  ['alone', 'the action alone'],
]) {
  const rate = best(rates.now, kind);
  if (!rates.before.length) {
    line(
      `${words}: ${Math.round(rate)}; the history here does not have ${BEFORE} to measure against`,
    );
    continue;
  }
  const was = best(rates.before, kind);
  line(
    `${words}: ${Math.round(rate)}, before (${BEFORE}) ${Math.round(was)}: ` +
      `${(rate / was).toFixed(1)} times as many`,
  );
  if (kind === 'window' && rate / was < LEAST_TIMES) process.exitCode = 1;
}
const statements = await statementsOf(now);
line(`statements for one thing done: ${statements} (at most ${MOST_STATEMENTS})`);
if (statements > MOST_STATEMENTS) process.exitCode = 1;
const { first, later, changed } = await sentTo(now);
line(
  `${MANY} to-dos at first: ${Math.round(first / 1024)} KB compressed (at most ${MOST_FIRST / 1024}); ` +
    `after one thing done ${later} bytes, ${changed} to-do`,
);
if (first > MOST_FIRST || changed !== 1) process.exitCode = 1;
await now.stop();

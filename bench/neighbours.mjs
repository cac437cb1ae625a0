import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from '../scripts/lib/mariadb.mjs';
import { startProgram } from '../scripts/lib/program.mjs';
import { ensureMariadb } from '../scripts/lib/setup.mjs';

/**
 * Two people on one server, of whom one sends the worst that is let through, again and again, eight
 * requests at a time: how long the other waits for Today, in milliseconds, and how long when nobody
 * else is there.
 */

const SECONDS = 30;
const AT_ONCE = 8;
const TODOS = 40;
/** The other’s Today takes no longer in 99 of a hundred. */
const MOST = 200;

const daily = { by: 'calendar', rule: 'FREQ=DAILY' };
const hours = Array.from({ length: 24 }, (_, i) => `${String(i).padStart(2, '0')}:30`);
const far = Array.from({ length: 8 }, (_, i) => ({ before: `P${720 + i}D` }));
const made = [];

/** What costs most of all that is let through: see `corners.ts`. */
const create = (series) => (person) => {
  const todo = randomUUID();
  made.push(todo);
  return person.act({ do: 'create', todo, series: { title: 'Weigh the hives', ...series } });
};
const toOne = (deed) => (person) =>
  made.length ? person.act({ ...deed, todo: made.at(-1 - (made.length % 7)) ?? made[0] }) : 0;
const WORST = [
  create({
    start: '1900-01-01',
    late: 'lapse',
    grace: 'PT1M',
    repeat: { by: 'completion', every: 'PT15M' },
  }),
  create({
    start: '1900-01-01',
    repeat: daily,
    at: hours,
    opensBefore: 'P365D',
    owe: 'every',
    reminders: far,
  }),
  create({
    start: '1900-01-01',
    repeat: { by: 'calendar', everyWorkdays: 1 },
    at: hours,
    closedDays: 'after',
    ends: { after: 100_000 },
  }),
  toOne({ do: 'done' }),
  toOne({ do: 'change', series: { reminders: far } }),
  toOne({ do: 'done', when: '1970-01-01T00:00:00Z' }),
  (person) => person.act({ do: 'pause', to: '9999-12-31' }),
  (person) => person.act({ do: 'resume' }),
  (person) => person.get('/today'),
  (person) => person.get('/todos'),
  (person) => (made.length ? person.get(`/todos/${made.at(-1)}`) : 0),
  (person) =>
    person.put('/settings', { zone: 'Australia/Lord_Howe', dayStart: '11:59', weekStart: 'MO' }),
];

ensureMariadb();
const folder = mkdtempSync(join(tmpdir(), 'back-again-bench-'));
const database = await startMariadb(folder);
const program = await startProgram({
  DATABASE_URL: database.url,
  SESSION_SECRET: 'for measuring alone',
  PORT: '0',
  SIGN_IN_TRIES: '1000',
  LOG: 'silent',
});
try {
  const today = new Date().toISOString().slice(0, 10);
  const other = await someone();
  for (let i = 0; i < TODOS; i++)
    await other.act({
      do: 'create',
      todo: randomUUID(),
      series: { title: `Check the bilge ${i}`, start: today, repeat: daily },
    });
  const quiet = await looking(other, 5, async () => undefined);
  const attacker = await someone();
  const busy = await looking(other, SECONDS, async (isOver) => {
    let n = 0;
    const statuses = new Map();
    const send = async () => {
      while (!isOver()) {
        const status = await WORST[n++ % WORST.length](attacker);
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, send));
    return [...statuses].map(([status, times]) => `${times} × ${status}`).join(', ');
  });
  const show = ({ at }) => [0.5, 0.99, 1].map((share) => at(share).toFixed(0).padStart(8)).join('');
  process.stdout.write(`\nToday of one person, in ms        median    99 %     all\n`);
  process.stdout.write(`nobody else is there          ${show(quiet)}\n`);
  process.stdout.write(`another sends the worst       ${show(busy)}  (answered: ${busy.what})\n`);
  if (busy.at(0.99) > MOST) process.exitCode = 1;
} finally {
  await program.stop();
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
}

/** Looks at Today again and again while something goes on. */
async function looking(person, seconds, meanwhile) {
  const times = [];
  let over = false;
  const what = meanwhile(() => over);
  const end = performance.now() + seconds * 1000;
  while (performance.now() < end) {
    const from = performance.now();
    const answer = await person.get('/today');
    times.push(performance.now() - from);
    if (answer !== 200) throw new Error(`Today was answered with ${answer}.`);
    await new Promise((done) => setTimeout(done, 20));
  }
  over = true;
  times.sort((a, b) => a - b);
  const at = (share) => times[Math.min(times.length - 1, Math.floor(share * times.length))];
  return { at, what: await what };
}

async function someone() {
  let cookie = '';
  const send = async (method, path, body) => {
    const response = await fetch(`${program.url}/api${path}`, {
      method,
      headers: { 'Content-Type': 'application/json', Origin: program.url, Cookie: cookie },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    cookie = response.headers.get('set-cookie')?.split(';')[0] ?? cookie;
    await response.text();
    return response.status;
  };
  const name = `${randomUUID()}@example.org`;
  await send('POST', '/accounts', { name, password: 'a long password', zone: 'Europe/London' });
  return {
    get: (path) => send('GET', path),
    put: (path, body) => send('PUT', path, body),
    act: (action) => send('POST', '/actions', { id: randomUUID(), ...action }),
  };
}

import { randomUUID } from 'node:crypto';
import {
  DEFAULT_SETTINGS,
  begin,
  pass,
  parseInstant,
  plannerOf,
  speaksAt,
  standOf,
  type Series,
  NO_DETAILS,
} from '@back-again/core';
import { addUser } from '../server/src/account/users.ts';
import { makeClock } from '../server/src/clock/clock.ts';
import { systemNow } from '../server/src/clock/now.ts';
import { openDatabase } from '../server/src/db/database.ts';
import { migrate } from '../server/src/db/migrate.ts';
import { logFor } from '../server/src/log.ts';
import { restMachine } from '../server/src/compute/compute.ts';

/**
 * 200,000 to-dos without reminders, of which nobody looks at one, and 10,000 with a reminder each: what
 * the clock does over a midnight, and how many reminders it says a second.
 */

const SILENT = 200_000;
const SPOKEN = 10_000;
const PEOPLE = 40;
const BORN = parseInstant('2027-06-01T10:00:00Z');
const MIDNIGHT = parseInstant('2027-06-02T00:00:30Z');
const MORNING = parseInstant('2027-06-02T09:00:00Z');

const line = (text: string) => process.stdout.write(`${text}\n`);

const db = openDatabase(process.env.DATABASE_URL!);
await migrate(db.sequelize);
const planner = plannerOf(DEFAULT_SETTINGS);
const users: { id: string }[] = [];
for (let i = 0; i < PEOPLE; i++)
  users.push(
    await addUser(db, {
      name: `${randomUUID()}@example.org`,
      password: 'a long password',
      settings: DEFAULT_SETTINGS,
      now: BORN,
    }),
  );

async function add(n: number, series: Series): Promise<void> {
  const { progress } = pass(planner, begin(planner, series, BORN), BORN);
  const { changesAt, nextDue } = standOf(planner, progress);
  const speaks = speaksAt(planner, progress, DEFAULT_SETTINGS);
  const row = (i: number) => ({
    id: randomUUID(),
    userId: users[i % PEOPLE]!.id,
    title: 'Check the bilge',
    place: null,
    details: NO_DETAILS,
    describedAt: null,
    definition: series,
    progress,
    speaksAt: speaks === null ? null : new Date(speaks),
    changesAt: changesAt === null ? null : new Date(changesAt),
    nextDue,
    ended: false,
    createdAt: new Date(BORN),
    removedAt: null,
    steps: 0,
    version: 1,
    lately: null,
  });
  for (let i = 0; i < n; i += 2000)
    await db.series.bulkCreate(
      Array.from({ length: Math.min(2000, n - i) }, (_, j) => row(i + j)),
      { validate: false, hooks: false },
    );
}

const daily = { start: '2027-06-01', repeat: { by: 'calendar', rule: 'FREQ=DAILY' } } as const;
await add(SILENT, daily);
const now = systemNow();
const clock = makeClock(db, now, logFor('silent'));
let statements = 0;
db.sequelize.addHook('beforeQuery', () => void statements++);
now.set(MIDNIGHT);
const silent = await clock.tick();
line(
  `\n${SILENT} to-dos without reminders over a midnight: ${silent} looked at, ${statements} statements`,
);
if (silent) process.exitCode = 1;

await add(SPOKEN, { ...daily, reminders: [{ at: '09:00' }] });
now.set(MORNING);
const from = performance.now();
const spoken = await clock.tick();
const seconds = (performance.now() - from) / 1000;
const said = await db.notices.count();
line(
  `${SPOKEN} with a reminder each beside them: ${spoken} looked at, ${said} said, ` +
    `${Math.round(said / seconds)} a second, the last ${seconds.toFixed(1)} s after its moment`,
);
if (said !== SPOKEN) process.exitCode = 1;
await db.close();
await restMachine();

import { randomUUID } from 'node:crypto';
import {
  DEFAULT_SETTINGS,
  NO_DETAILS,
  beginLongAgo,
  checkSeries,
  formatDay,
  parseDay,
} from '@back-again/core';
import { addUser } from '../server/src/account/users.ts';
import { restMachine } from '../server/src/compute/compute.ts';
import { openDatabase } from '../server/src/db/database.ts';
import { migrate } from '../server/src/db/migrate.ts';
import { randomFrom } from '../server/src/demo/random.ts';
import { pastDay, pastDays } from '../server/src/past/days.ts';
import { lookBack } from '../server/src/past/lookBack.ts';
import { pastTodo } from '../server/src/past/todo.ts';
import { totals } from '../server/src/past/totals.ts';
import { upToDate } from '../server/src/past/upToDate.ts';

/**
 * Looking back with 2,000 ended times (half a year of 40 to-dos) and with 200,000 (ten years of 400): what the
 * page of a to-do and the totals of a year take, as ratios; bytes sent and statements. The record of a to-do
 * itself grows tenfold with it.
 */

const TODAY = parseDay('2027-06-01');
const NOW = Date.UTC(2027, 5, 1, 12);
const YEAR = { from: '2026-06-02', to: '2027-06-01' };
const ROUNDS = 15;
const [MOST_TODO, MOST_YEAR] = [2, 5];

const line = (text: string) => process.stdout.write(`${text}\n`);
const db = openDatabase(process.env.DATABASE_URL!);
await migrate(db.sequelize);
let statements = 0;
(db.sequelize as unknown as { options: { logging: unknown } }).options.logging = () => statements++;

const series = checkSeries({ start: '2017-06-01', repeat: { by: 'completion', every: 'P7D' } });
const questions = [{ id: 'litres', asks: 'litres', kind: 'number', unit: 'l' } as const];

/** A person with so many to-dos, each with so many ended times over so many days. */
async function person(todos: number, each: number, days: number) {
  const random = randomFrom(todos);
  const user = await addUser(db, {
    name: `${randomUUID()}@example.org`,
    password: 'a long password',
    settings: DEFAULT_SETTINGS,
    now: NOW,
  });
  const userId = user.id;
  const places = Array.from({ length: 12 }, () => randomUUID());
  await db.places.bulkCreate(
    places.map((id, i) => ({
      userId,
      id,
      parts: {
        kind: i ? 'strand' : 'sphere',
        name: `Strand ${i}`,
        in: i ? places[0]! : null,
        state: 'on',
        from: null,
        to: null,
        note: '',
        order: i,
        heldSince: null,
        gone: false,
      } as never,
      describedAt: new Date(0),
      createdAt: new Date(0),
      version: 1,
    })),
  );
  const ids = Array.from({ length: todos }, () => randomUUID());
  for (const [n, id] of ids.entries()) {
    const place = places[n % places.length]!;
    await db.series.create({
      id,
      userId,
      title: `Check the bilge ${n}`,
      place,
      details: { ...NO_DETAILS, takes: 20, tags: [`Tag ${n % 9}`], questions } as never,
      definition: series,
      progress: { ...beginLongAgo(series, NOW), through: NOW },
      ended: false,
      createdAt: new Date(0),
      countedAs: null,
    });
    await db.occurrences.bulkCreate(
      Array.from({ length: each }, (_, i) => {
        const day = formatDay(TODAY - 1 - Math.floor(((each - i) * days) / each));
        const status = (['done', 'done', 'done', 'skipped', 'missed'] as const)[random.below(5)]!;
        return {
          userId,
          seriesId: id,
          number: i + 1,
          slot: day,
          due: day,
          plan: day,
          planBy: 'due' as const,
          moved: false,
          status,
          openedAt: null,
          closedAt: new Date(`${day}T10:00:00Z`),
          rolled: 0,
          filled: status === 'done' ? { answers: { litres: 100 + random.below(90) } } : null,
        };
      }),
    );
  }
  return { actor: { userId, settings: DEFAULT_SETTINGS, now: NOW }, todo: ids[0]! };
}

const small = await person(40, 50, 180);
const big = await person(400, 500, 3650);
// Counted once, as after a change of the zone: the first reading does it.
const started = performance.now();
for (let isLeft = true; isLeft;)
  isLeft = await upToDate(db, big.actor).then(
    () => false,
    () => true,
  );
line(`200,000 times counted by other days, once: ${Math.round(performance.now() - started)} ms`);
await upToDate(db, small.actor);

type Who = typeof small;
const work: [string, number | null, (who: Who) => Promise<object>][] = [
  ['the page of a to-do', MOST_TODO, ({ actor, todo }) => pastTodo(db, actor, todo, {})],
  [
    'a year by strand, month by month',
    MOST_YEAR,
    ({ actor }) => totals(db, actor, { ...YEAR, by: 'place', each: 'month' }),
  ],
  // Ten times the to-dos are ten times the rows.
  ['a year by to-do', null, ({ actor }) => totals(db, actor, { ...YEAR, by: 'todo' })],
  ['a year by month', null, ({ actor }) => totals(db, actor, { ...YEAR, by: 'month' })],
  [
    'a year by tag, week by week',
    null,
    ({ actor }) => totals(db, actor, { ...YEAR, by: 'tag', each: 'week' }),
  ],
  [
    'litres in a year, by month',
    null,
    ({ actor, todo }) =>
      totals(db, actor, { ...YEAR, by: 'month', asks: 'litres', unit: 'l', todo }),
  ],
  ['the days of a year', null, ({ actor }) => pastDays(db, actor, YEAR)],
  ['a day', null, ({ actor }) => pastDay(db, actor, { on: '2027-05-20' })],
  ['a look-back', null, ({ actor, todo }) => lookBack(db, actor, todo, null)],
];

async function median(run: () => Promise<object>): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < ROUNDS; i++) {
    const from = performance.now();
    await run();
    times.push(performance.now() - from);
  }
  return times.sort((a, b) => a - b)[Math.floor(ROUNDS / 2)]!;
}

line('Looking back: 2,000 ended times, 200,000, and the ratio; bytes sent; statements');
for (const [name, most, ask] of work) {
  const [few, many] = [await median(() => ask(small)), await median(() => ask(big))];
  statements = 0;
  const sent = JSON.stringify(await ask(big)).length;
  const ratio = many / few;
  const limit = most === null ? '' : ` (at most ${most})`;
  line(
    `${name}: ${few.toFixed(1)} ms, ${many.toFixed(1)} ms, ${ratio.toFixed(2)} times${limit}; ${(sent / 1024).toFixed(1)} KB; ${statements} statements`,
  );
  if (most !== null && ratio > most) process.exitCode = 1;
}
await restMachine();
await db.close();

import { Op } from 'sequelize';
import {
  DEFAULT_SETTINGS,
  begin,
  formatInstant,
  parseInstant,
  pass,
  plannerOf,
  type Series,
} from '@back-again/core';
import { read } from '@back-again/core/reading';
import type { Database } from '../db/database.ts';
import { makeCrowd, until } from '../testing/crowd.ts';
import { spawnServer, type ServerProcess } from '../testing/process.ts';

// Many to-dos that fall due at once, and several servers on one database, of which one is killed
// half-way. CROWD names how many in a long run, which says how many a second it advanced.

const CROWD = Number(process.env.CROWD ?? 240);
const BORN = parseInstant('2027-06-01T10:00:00Z');
const LATER = parseInstant('2027-06-05T00:00:00Z');
const SENTENCES = [
  'Check the bilge every day',
  'Feed the hens every day at 8 and 20',
  'Pump out the tank 3 days after done',
  'Read the meter every 2 days, missed once it is over',
];
const planner = plannerOf(DEFAULT_SETTINGS);

const crowd = () =>
  makeCrowd({ people: 4, each: CROWD / 4, born: BORN }, (i) => ({
    definition: read(SENTENCES[i % SENTENCES.length]!, '2027-06-01').series,
  }));

const due = (db: Database) =>
  db.series.count({ where: { speaksAt: { [Op.lte]: new Date(LATER) } } });

/** Everything that is kept of each to-do is what the core computes: opened and rolled once. */
async function compare(db: Database, series: Map<string, Series>): Promise<void> {
  const expected = new Map<Series, string[]>();
  const kept = new Map<string, string[]>();
  for (const row of await db.occurrences.findAll({ order: ['seriesId', 'number'] }))
    kept.set(row.seriesId, [
      ...(kept.get(row.seriesId) ?? []),
      `${row.number} ${row.slot} ${row.plan} ${row.status} ${row.rolled}`,
    ]);
  for (const [id, definition] of series) {
    let lines = expected.get(definition);
    if (!lines) {
      const { times } = pass(planner, begin(planner, definition, BORN), LATER);
      lines = times.map((it) => `${it.number} ${it.slot} ${it.plan} ${it.status} ${it.rolled}`);
      expected.set(definition, lines);
    }
    expect(kept.get(id)).toEqual(lines);
  }
}

/** Sets a server’s time; gives whether it answered. */
async function tell({ url }: ServerProcess, now: number): Promise<boolean> {
  try {
    const answer = await fetch(`${url}/api/test/clock`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ now: formatInstant(now) }),
    });
    return answer.ok;
  } catch {
    return false;
  }
}

/** To-dos a second of so many servers; `kill` ends the last of them half-way. */
async function run(servers: number, kill: boolean): Promise<number> {
  const { db, url, series } = await crowd();
  const running: ServerProcess[] = [];
  try {
    for (let i = 0; i < servers; i++) running.push(await spawnServer(url, { at: BORN - 1 }));
    expect(await due(db)).toBe(CROWD);
    const from = performance.now();
    // Each is told the time, and works on what is due until it answers; one is killed before that.
    const told = running.map((server) => tell(server, LATER));
    if (kill) {
      await until(async () => (await due(db)) - CROWD / 2);
      expect(await due(db)).toBeGreaterThan(0);
      await running.pop()!.kill();
    }
    await until(() => due(db));
    const rate = CROWD / ((performance.now() - from) / 1000);
    const answered = (await Promise.all(told)).filter(Boolean);
    expect(answered).toHaveLength(kill ? servers - 1 : servers);
    await compare(db, series);
    return rate;
  } finally {
    for (const server of running) await server.kill();
    await db.close();
  }
}

test('two servers, one of them killed half-way: each to-do opens and rolls exactly once', async () => {
  const killed = await run(2, true);
  if (!process.env.CROWD) return;
  const [one, two] = [await run(1, false), await run(2, false)];
  const show = (rate: number) => `${Math.round(rate)} to-dos a second`;
  process.stdout.write(
    `${CROWD} due at once: one server ${show(one)}, two ${show(two)}, ` +
      `two of which one is killed half-way ${show(killed)}\n`,
  );
}, 300_000);

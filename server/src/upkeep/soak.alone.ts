import { readFileSync } from 'node:fs';
import { formatInstant, parseInstant } from '@back-again/core';
import { openDatabase } from '../db/database.ts';
import { Acting, faultsOf } from '../testing/acting.ts';
import { Client, freshDatabase } from '../testing/harness.ts';
import { spawnServer, type ServerProcess } from '../testing/process.ts';

// People over a simulated year at high speed, on a server that is killed and started again now and then: its memory
// is flat, and nothing differs from the core alone. `npm run check:soak`; SOAK_PEOPLE and SOAK_DAYS make it shorter.

const PEOPLE = Number(process.env.SOAK_PEOPLE ?? 200);
const DAYS = Number(process.env.SOAK_DAYS ?? 365);
/** So many days are between two restarts. */
const RESTARTS = Math.ceil(DAYS / 12);
/** So many of the people do something on a day, each one to three things. */
const ACTIVE = Math.ceil(PEOPLE / 3);
const START = parseInstant('2027-06-01T07:00:00Z');
const DAY = 86_400_000;

/** The memory that a process has, in MB (proc(5), statm: pages of 4 KiB). */
const memoryOf = ({ pid }: ServerProcess) =>
  (Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096) / 1e6;

const mean = (all: readonly number[]) => all.reduce((sum, it) => sum + it, 0) / all.length;

test('a year of many people: memory flat, and nothing differs from the core alone', async () => {
  const url = await freshDatabase();
  const db = openDatabase(url);
  let now = START;
  const server = [await spawnServer(url, { at: START })] as [ServerProcess];
  try {
    const people = Array.from({ length: PEOPLE }, (_, i) => new Acting(server, i + 1, () => now));
    for (const person of people) await person.begin('2027-06-01', 3);
    for (let i = 0; i < PEOPLE; i += 2) await people[i]!.byEmail();
    const admin = await new Client(server[0].url).register();
    const memory: number[][] = [[], [], [], []];
    const from = Date.now();
    let actions = 0;
    for (let day = 0; day < DAYS; day++) {
      now = START + day * DAY + (day % 11) * 3_600_000;
      if (day % RESTARTS === RESTARTS - 1) {
        await server[0].kill();
        const { port } = new URL(server[0].url);
        server[0] = await spawnServer(url, { at: now }, { PORT: port });
      }
      await admin.clock(formatInstant(now));
      const active = Array.from({ length: ACTIVE }, (_, i) => people[(day * 7 + i * 3) % PEOPLE]!);
      await Promise.all(
        [...new Set(active)].map(async (person) => {
          for (let i = 0; i < 1 + (day % 3); i++) await person.act();
          if (day % 30 === 0) await person.look();
        }),
      );
      actions += active.length * (1 + (day % 3));
      // The first day after a start warms up.
      if (day % RESTARTS > 1) memory[Math.floor((day * 4) / DAYS)]!.push(memoryOf(server[0]));
    }
    const [first, second, third, last] = memory.map(mean) as [number, number, number, number];
    const minutes = (Date.now() - from) / 60_000;
    process.stdout.write(
      `${PEOPLE} people, ${DAYS} days, ${actions} actions in ${minutes.toFixed(1)} minutes; memory by quarters ${[first, second, third, last].map((it) => it.toFixed(0)).join(', ')} MB\n`,
    );
    expect(last).toBeLessThan(second * 1.1);
    await Promise.all(people.map((person) => person.look()));
    expect(await faultsOf(db, people)).toEqual([]);
    expect(await db.notices.count({ where: {} })).toBeGreaterThan(0);
  } finally {
    await server[0].kill();
    await db.close();
  }
}, 3_600_000);

import { readFileSync } from 'node:fs';
import { formatInstant, parseInstant } from '@back-again/core';
import { openDatabase } from '../db/database.ts';
import { Acting, faultsOf } from '../testing/acting.ts';
import { Client, freshDatabase } from '../testing/harness.ts';
import { spawnServer, type ServerProcess } from '../testing/process.ts';

// People over simulated days at high speed, on a server that is killed and started again now and then: its memory is
// flat, and nothing differs from the core alone.

const START = parseInstant('2027-06-01T07:00:00Z');
const DAY = 86_400_000;

/** The memory that a process has, in MB (proc(5), statm: pages of 4 KiB). */
const memoryOf = ({ pid }: ServerProcess) =>
  (Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096) / 1e6;

const mean = (all: readonly number[]) => all.reduce((sum, it) => sum + it, 0) / all.length;

/**
 * Lets so many people act for so many days, and holds what was kept against the core alone.
 * @param restarts how often the server is killed and started again
 */
export async function soak({
  people: n,
  days,
  restarts,
}: Record<'people' | 'days' | 'restarts', number>) {
  const between = Math.ceil(days / restarts);
  /** So many of the people do something on a day, each one to three things. */
  const some = Math.ceil(n / 3);
  const url = await freshDatabase();
  const db = openDatabase(url);
  let now = START;
  const server = [await spawnServer(url, { at: START })] as [ServerProcess];
  try {
    const people = Array.from({ length: n }, (_, i) => new Acting(server, i + 1, () => now));
    for (const person of people) await person.begin('2027-06-01', 3);
    for (let i = 0; i < n; i += 2) await people[i]!.byEmail();
    const admin = await new Client(server[0].url).register();
    const memory: number[][] = [[], [], [], []];
    const from = Date.now();
    let actions = 0;
    for (let day = 0; day < days; day++) {
      now = START + day * DAY + (day % 11) * 3_600_000;
      if (day % between === between - 1) {
        await server[0].kill();
        const { port } = new URL(server[0].url);
        server[0] = await spawnServer(url, { at: now }, { PORT: port });
      }
      await admin.clock(formatInstant(now));
      const active = Array.from({ length: some }, (_, i) => people[(day * 7 + i * 3) % n]!);
      await Promise.all(
        [...new Set(active)].map(async (person) => {
          for (let i = 0; i < 1 + (day % 3); i++) await person.act();
          if (day % 30 === 0) await person.look();
        }),
      );
      actions += active.length * (1 + (day % 3));
      // The first day after a start warms up.
      if (day % between > 1) memory[Math.floor((day * 4) / days)]!.push(memoryOf(server[0]));
    }
    const [first, second, third, last] = memory.map(mean) as [number, number, number, number];
    const minutes = (Date.now() - from) / 60_000;
    process.stdout.write(
      `${n} people, ${days} days, ${actions} actions in ${minutes.toFixed(1)} minutes; memory by quarters ${[first, second, third, last].map((it) => it.toFixed(0)).join(', ')} MB\n`,
    );
    await Promise.all(people.map((person) => person.look()));
    expect(await faultsOf(db, people)).toEqual([]);
    return { second, last, actions };
  } finally {
    await server[0].kill();
    await db.close();
  }
}

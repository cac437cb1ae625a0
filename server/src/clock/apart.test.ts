import { parseInstant } from '@back-again/core';
import { openDatabase } from '../db/database.ts';
import { Acting, faultsOf } from '../testing/acting.ts';
import { freshDatabase } from '../testing/harness.ts';
import { spawnServer } from '../testing/process.ts';

// Two servers whose clocks are ten seconds apart, asked in turn: nothing is done before what it follows.

test('clocks ten seconds apart: what is kept is what the core alone gives, in each person’s order', async () => {
  const url = await freshDatabase();
  const ahead = parseInstant('2027-06-01T10:00:00Z') - Date.now();
  const now = () => Date.now() + ahead;
  const servers = [await spawnServer(url, { ahead })];
  const db = openDatabase(url);
  try {
    servers.push(await spawnServer(url, { ahead: ahead + 10_000 }));
    const people = Array.from({ length: 4 }, (_, i) => new Acting(servers, i + 1, now));
    for (const person of people) await person.begin('2027-06-01');
    await Promise.all(
      people.map(async (person) => {
        for (let i = 0; i < 60; i++) await person.act();
      }),
    );
    await Promise.all(people.map((person) => person.look()));
    expect(await faultsOf(db, people)).toEqual([]);
    for (const { answered, refused } of people) {
      expect(answered.length).toBeGreaterThan(25);
      expect(refused).toBeLessThan(38);
    }
  } finally {
    await Promise.all(servers.map((server) => server.kill()));
    await db.close();
  }
});

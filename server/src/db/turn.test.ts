import { QueryTypes } from 'sequelize';
import { freshDatabase } from '../testing/harness.ts';
import { openDatabase } from './database.ts';
import { inTurn } from './turn.ts';

// What one server at a time may do is done by one at a time, with no lock that one node alone would know of.

test('several at once: one after another, each once; what a killed one held is over with its time', async () => {
  const url = await freshDatabase();
  const servers = [openDatabase(url), openDatabase(url)];
  try {
    let now = 0;
    let most = 0;
    let done = 0;
    const work = async ({ sequelize }: (typeof servers)[number]) => {
      most = Math.max(most, ++now);
      await sequelize.query('DO SLEEP(0.05)');
      now--;
      done++;
    };
    const turn = (db: (typeof servers)[number]) => inTurn(db.sequelize, 'a', () => work(db));
    await Promise.all([...servers, ...servers].map(turn));
    expect([most, done]).toEqual([1, 4]);

    const [first] = servers;
    const held = (seconds: number) =>
      first!.sequelize.query(
        `UPDATE turns SET holder = 'gone', until = UTC_TIMESTAMP(3) + INTERVAL ${seconds} SECOND`,
      );
    await held(1);
    const isOver = async () => {
      const [row] = await first!.sequelize.query<{ isOver: number }>(
        "SELECT UTC_TIMESTAMP(3) >= until AS isOver FROM turns WHERE holder = 'gone'",
        { type: QueryTypes.SELECT },
      );
      return row?.isOver;
    };
    expect(await isOver()).toBe(0);
    const from = Date.now();
    await turn(servers[1]!);
    expect(done).toBe(5);
    expect(Date.now() - from).toBeGreaterThanOrEqual(500);
    // It was let go of, and not by whoever held it before.
    expect(await isOver()).toBeUndefined();
    // Work that fails lets go of it too.
    await expect(
      inTurn(first!.sequelize, 'a', () => Promise.reject(new Error('failed'))),
    ).rejects.toThrow('failed');
    await turn(first!);
    expect(done).toBe(6);
  } finally {
    await Promise.all(servers.map((db) => db.close()));
  }
}, 60_000);

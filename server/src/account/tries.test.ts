import type { Request } from 'express';
import { openDatabase, type Database } from '../db/database.ts';
import { migrate } from '../db/migrate.ts';
import { freshDatabase } from '../testing/harness.ts';
import { makeTries } from './tries.ts';

// Counted in the database: whichever of two servers is asked, it is the same count.

let dbs: [Database, Database];
beforeAll(async () => {
  const url = await freshDatabase();
  dbs = [openDatabase(url), openDatabase(url)];
  await migrate(dbs[0].sequelize);
});
beforeEach(() => dbs[0].limits.destroy({ where: {} }));
afterAll(() => Promise.all(dbs.map((db) => db.close())));

const from = (ip: string) => ({ ip }) as Request;
const wrong = () => Promise.reject(new Error('wrong'));
const right = () => Promise.resolve('in');

/** How many wrong tries are taken before one is refused. */
async function taken(most: number, who: (i: number) => [string, string]): Promise<number> {
  const servers = dbs.map((db) => makeTries(db, most));
  for (let i = 0; i < 100; i++) {
    const [ip, account] = who(i);
    const tries = servers[i % 2]!;
    const error = await tries.limited(from(ip), account, wrong).catch((it: unknown) => it);
    if ((error as { status?: number }).status === 429) return i;
  }
  return Infinity;
}

test.each<[string, (i: number) => [string, string], number]>([
  ['one account from one address', () => ['192.0.2.1', 'a'], 3],
  ['many accounts from one address', (i) => ['192.0.2.1', `a${i}`], 15],
  ['one account from many addresses', (i) => [`192.0.2.${i}`, 'a'], 15],
  // RFC 6177: a site has a network of many addresses.
  ['one account from one network', (i) => [`2001:db8::1:2:3:${i + 1}`, 'a'], 3],
  ['an IPv4 address as an IPv6 one', (i) => [i % 2 ? '::ffff:192.0.2.1' : '192.0.2.1', 'a'], 3],
])('%s', async (_name, who, most) => expect(await taken(3, who)).toBe(most));

test('what succeeds does not count', async () => {
  const tries = makeTries(dbs[0], 3);
  for (let i = 0; i < 20; i++)
    expect(await tries.limited(from('192.0.2.1'), 'a', right)).toBe('in');
});

test('accounts that are made count by address', async () => {
  const tries = makeTries(dbs[0], 2);
  for (let i = 0; i < 10; i++) await tries.counted(from('192.0.2.1'));
  await expect(tries.counted(from('192.0.2.1'))).rejects.toMatchObject({ status: 429 });
  await tries.counted(from('192.0.2.2'));
});

test('tries at the same time on two servers count all', async () => {
  const servers = dbs.map((db) => makeTries(db, 5));
  const all = await Promise.allSettled(
    Array.from({ length: 20 }, (_, i) =>
      servers[i % 2]!.limited(from('192.0.2.9'), 'b', () => Promise.reject(new Error('wrong'))),
    ),
  );
  const tried = all.filter((it) => (it as { reason: Error }).reason.message === 'wrong');
  expect(tried).toHaveLength(5);
});

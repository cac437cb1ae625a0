import { QueryTypes } from 'sequelize';
import type { SessionsView } from '@back-again/contract/doors';
import type { SessionView } from '@back-again/contract';
import { randomUUID } from 'node:crypto';
import { Client, startTestServer } from '../testing/harness.ts';
import type { Running } from '../server.ts';

let server: Running;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const OLD = 'a long password';
const address = () => `${randomUUID()}@example.org`;
const signedIn = async (name: string, password = OLD) => {
  const client = new Client(server.url);
  const { status } = await client.send('POST', '/session', { name, password });
  return { client, status };
};
const isIn = async (client: Client) => (await client.send('GET', '/session')).status === 200;

test('another password ends all other sessions, and the old one is worth nothing', async () => {
  const name = address();
  const here = await new Client(server.url).register('UTC', name);
  const { client: elsewhere } = await signedIn(name);
  const wrong = { old: 'not it at all', password: 'another password' };
  expect((await here.send('POST', '/account/password', wrong)).body.error).toMatchObject({
    code: 'password.wrong',
    where: 'old',
  });
  expect(await isIn(elsewhere)).toBe(true);
  const body = { old: OLD, password: 'another password' };
  expect((await here.send('POST', '/account/password', body)).status).toBe(204);
  expect([await isIn(here), await isIn(elsewhere)]).toEqual([true, false]);
  expect((await signedIn(name)).status).toBe(401);
  expect((await signedIn(name, 'another password')).status).toBe(200);
});

test('a password that is little more than the address or the program’s name is none', async () => {
  const taken = async (name: string, password: string) => {
    const { status, body } = await new Client(server.url).send('POST', '/accounts', {
      ...{ name, password, zone: 'UTC' },
    });
    return status === 201 ? 'taken' : body.error.code;
  };
  expect(await taken('mooringlady@example.org', 'mooringlady1')).toBe('password.own');
  expect(await taken('a@example.org', 'Back-Again 2027')).toBe('password.own');
  expect(await taken('b@example.org', 'back again at dusk')).toBe('taken');
});

test('another address is the same account under another name', async () => {
  const [name, next, taken] = [address(), address(), address()];
  await new Client(server.url).register('UTC', taken);
  const here = await new Client(server.url).register('UTC', name);
  await here.write('Check the bilge every Tuesday');
  const { client: elsewhere } = await signedIn(name);
  expect((await here.send('POST', '/account/address', { old: OLD, name: taken })).status).toBe(409);
  expect(
    (await here.send('POST', '/account/address', { old: OLD, name: 'nobody' })).body.error.where,
  ).toBe('name');
  const answer = await here.send<SessionView>('POST', '/account/address', { old: OLD, name: next });
  expect([answer.status, answer.body.name]).toEqual([200, next]);
  expect([await isIn(here), await isIn(elsewhere)]).toEqual([true, false]);
  expect((await signedIn(name)).status).toBe(401);
  const { client } = await signedIn(next);
  expect((await client.todos()).todos).toHaveLength(1);
});

test('sessions are listed, and each can be ended from another', async () => {
  const name = address();
  const here = await new Client(server.url).register('UTC', name);
  const { client: elsewhere } = await signedIn(name);
  const { body } = await here.send<SessionsView>('GET', '/account/sessions');
  expect(body.sessions.map(({ isThis }) => isThis).sort()).toEqual([false, true]);
  // What opens a session is not told.
  expect(JSON.stringify(body)).not.toContain(
    decodeURIComponent(elsewhere.cookies).split(':')[1]!.split('.')[0],
  );
  const other = body.sessions.find(({ isThis }) => !isThis)!;
  expect((await here.send('DELETE', `/account/sessions/${other.id}`)).status).toBe(204);
  expect([await isIn(here), await isIn(elsewhere)]).toEqual([true, false]);
  expect((await here.send('DELETE', `/account/sessions/${other.id}`)).status).toBe(404);
  const stranger = await new Client(server.url).register();
  const mine = body.sessions.find(({ isThis }) => isThis)!;
  expect((await stranger.send('DELETE', `/account/sessions/${mine.id}`)).status).toBe(404);
});

test('a forgotten password: a link to the address, once, for an hour; the answer is the same for every address', async () => {
  const name = address();
  const here = await new Client(server.url).register('UTC', name);
  const stranger = new Client(server.url);
  const sent = async (to: string) =>
    (await stranger.send('POST', '/forgotten', { name: to })).status;
  expect([await sent(address()), await sent(name)]).toEqual([204, 204]);
  const user = (await server.db.users.findOne({ where: { name } }))!;
  const linkOf = async () => {
    let text = '';
    while (!text) {
      const found = await server.db.arrivals.findAll({
        where: { userId: user.id },
        order: [['arrivesAt', 'DESC']],
      });
      text = found[0]?.text ?? '';
    }
    return /\/new-password\/(\S+)/u.exec(text)![1]!;
  };
  const token = await linkOf();
  const choose = (with_: string, password = 'quite another one') =>
    stranger.send('POST', '/new-password', { token: with_, password });
  for (const bad of [`${token}x`, token.replace('.', '.z'), 'nothing', `${user.id}.zzz.`])
    expect([bad, (await choose(bad)).body.error.code]).toEqual([bad, 'reset.none']);
  server.now.set(Date.parse('2027-06-01T11:00:01Z'));
  expect((await choose(token)).status).toBe(400);
  server.now.set(Date.parse('2027-06-01T10:59:00Z'));
  expect((await choose(token, 'short')).body.error.where).toBe('password');
  expect((await choose(token)).status).toBe(204);
  expect(await isIn(here)).toBe(false);
  expect((await signedIn(name, 'quite another one')).status).toBe(200);
  expect((await choose(token, 'and once more again')).status).toBe(400);
  server.now.set(Date.parse('2027-06-01T10:00:00Z'));
});

test('of an account that was removed nothing is left in any table', async () => {
  const name = address();
  const here = await new Client(server.url).register('UTC', name);
  const { client: elsewhere } = await signedIn(name);
  const todo = await here.write('Check the bilge every Tuesday, remind me at 9 by e-mail');
  await here.placeNamed('Aboard');
  await here.act({ do: 'done', id: randomUUID(), todo });
  const file = { id: randomUUID(), name: 'a.txt', type: 'text/plain', size: 5, sum: null };
  await here.send('POST', '/files', file);
  await here.sendPiece(file.id, 0, new TextEncoder().encode('water'));
  await here.send('POST', '/doors', { kind: 'key', reach: 'read' });
  await here.send('POST', '/forgotten', { name });
  server.now.set(Date.parse('2027-06-08T10:00:00Z'));
  await server.clock.tick();
  const { id: userId } = (await server.db.users.findOne({ where: { name } }))!;
  const { sequelize } = server.db;
  const tables = async () => {
    const columns = await sequelize.query<{ name: string }>(
      `SELECT TABLE_NAME AS name FROM information_schema.COLUMNS
        WHERE TABLE_SCHEMA = DATABASE() AND COLUMN_NAME = 'userId'`,
      { type: QueryTypes.SELECT },
    );
    const left: string[] = [];
    for (const [table, key] of [
      ['users', 'id'],
      ...columns.map(({ name: it }) => [it, 'userId']),
    ]) {
      const rows = await sequelize.query(`SELECT 1 FROM ${table} WHERE ${key} = '${userId}'`, {
        type: QueryTypes.SELECT,
      });
      if (rows.length) left.push(table!);
    }
    return left.sort();
  };
  expect(await tables()).toEqual(
    expect.arrayContaining([
      'actions',
      'doors',
      'files',
      'notices',
      'places',
      'series',
      'sessions',
      'users',
    ]),
  );
  expect((await here.send('POST', '/account/remove', { old: 'not it at all' })).status).toBe(400);
  expect(await tables()).toContain('users');
  expect((await here.send('POST', '/account/remove', { old: OLD })).status).toBe(204);
  expect(await tables()).toEqual([]);
  expect([await isIn(here), await isIn(elsewhere)]).toEqual([false, false]);
  expect((await signedIn(name)).status).toBe(401);
  server.now.set(Date.parse('2027-06-01T10:00:00Z'));
});

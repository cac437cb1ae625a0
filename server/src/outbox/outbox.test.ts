import { randomUUID } from 'node:crypto';
import type { FinishView, OutboxView, SaidView, SettingsBody, StandIn } from '@back-again/contract';
import { formatInstant, parseInstant } from '@back-again/core';
import { makeClock } from '../clock/clock.ts';
import { logFor } from '../log.ts';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';
import { makeLinks } from '../finish/links.ts';
import { waitAfter } from './sender.ts';

const BORN = '2027-06-01T10:00:00Z';
const SETTINGS: SettingsBody = {
  zone: 'Europe/London',
  dayStart: '00:00',
  weekStart: 'MO',
  channels: ['email'],
};

let server: Running;
beforeEach(async () => {
  server = await startTestServer(BORN);
  // What falls due is worked on when the test says so.
  await server.clock.stop();
  await server.sender.stop();
});
afterEach(() => server.stop());

async function someone(more: Partial<SettingsBody> = {}): Promise<Client> {
  const client = await new Client(server.url).register();
  const { status } = await client.send('PUT', '/settings', { ...SETTINGS, ...more });
  expect(status).toBe(200);
  return client;
}

/** Lets the server's time be this, and everything happen that is due. */
async function at(time: string): Promise<void> {
  server.now.set(parseInstant(time));
  await server.clock.tick();
  await server.sender.tick();
}

const said = async (client: Client) => (await client.send<SaidView>('GET', '/said')).body;
const outbox = async (client: Client) => (await client.send<OutboxView>('GET', '/outbox')).body;
const standIn = (client: Client, it: Partial<StandIn>) =>
  client.send('PUT', '/stand-in', { failsOneIn: 0, doublesOneIn: 0, delay: 0, ...it });
const titles = ({ rows }: SaidView) => rows.map(({ todo }) => todo?.series.title ?? 'overview');
/** The link that finishes a time, as it stands in a message that arrived. */
async function linkIn(client: Client): Promise<string> {
  const { messages } = await outbox(client);
  return /\/finish\/(\S+)/u.exec(messages[0]!.arrived!.text)![1]!;
}

test('a reminder is said at its moment: in the list, and by e-mail with its two links', async () => {
  const client = await someone();
  const todo = await client.write('Send the log on 12 June, remind me 2 days before at 18:00');
  await at('2027-06-10T16:59:59Z');
  expect((await said(client)).rows).toEqual([]);
  await at('2027-06-10T17:00:00Z');
  const list = await said(client);
  expect(list.fresh).toBe(1);
  expect(list.rows[0]).toMatchObject({
    slot: '2027-06-12',
    saidAt: '2027-06-10T17:00:00Z',
    times: 1,
    canAct: true,
    sent: [{ channel: 'email', state: 'sent' }],
  });
  const [message] = (await outbox(client)).messages;
  expect(message).toMatchObject({
    subject: 'Send the log, due Sat 12 Jun',
    state: 'sent',
    tries: 1,
    arrived: { at: '2027-06-10T17:00:00Z', copies: 1 },
  });
  expect(message!.address).toMatch(/@example\.org$/u);
  expect(message!.arrived!.text).toContain(`${server.url}/todo/${todo}`);
  expect(message!.arrived!.text).toContain(`${server.url}/finish/`);
  await at('2027-06-11T17:00:00Z');
  expect((await said(client)).rows).toHaveLength(1);
});

test('what has been seen is no longer new; the number seen never goes back', async () => {
  const client = await someone();
  await client.write('Send the log every day, remind me at 9');
  await at('2027-06-02T08:00:00Z');
  const { rows, fresh } = await said(client);
  expect(fresh).toBe(1);
  await client.send('PUT', '/said/seen', { through: rows[0]!.seq });
  await client.send('PUT', '/said/seen', { through: 0 });
  expect((await said(client)).fresh).toBe(0);
  await at('2027-06-03T08:00:00Z');
  expect((await said(client)).fresh).toBe(1);
});

test('the person’s own ways, or the one that a reminder names; a text without a number is given up visibly', async () => {
  const client = await someone({ channels: ['browser', 'text'], phone: '+441632960000' });
  await client.write('Send the log on 12 June, remind me by e-mail at 9');
  await client.write('Order wax on 12 June, remind me at 10');
  await at('2027-06-12T10:00:00Z');
  const { rows } = await said(client);
  expect(rows.map(({ browser, sent }) => [browser, sent.map(({ channel }) => channel)])).toEqual([
    [true, ['text']],
    [false, ['email']],
  ]);
  const { phone: _phone, ...without } = { ...SETTINGS, channels: ['text'] as const, phone: '' };
  await client.send('PUT', '/settings', without);
  await client.write('Air the cabin on 13 June, remind me at 10', '2027-06-12');
  await at('2027-06-13T10:00:00Z');
  const [message] = (await outbox(client)).messages;
  expect(message).toMatchObject({ state: 'given up', why: 'There is no number in Settings.' });
});

test.each<[string, (client: Client, todo: string) => Promise<unknown>]>([
  ['done', (c, todo) => c.act({ do: 'done', id: randomUUID(), todo, slot: '2027-06-12' })],
  ['skipped', (c, todo) => c.act({ do: 'skip', id: randomUUID(), todo, slot: '2027-06-12' })],
  ['paused', (c) => c.act({ do: 'pause', id: randomUUID() })],
  ['removed', (c, todo) => c.act({ do: 'remove', id: randomUUID(), todo })],
  ['ended', (c, todo) => c.act({ do: 'end', id: randomUUID(), todo })],
  [
    'changed',
    (c, todo) => c.act({ do: 'change', id: randomUUID(), todo, series: { start: '2027-07-12' } }),
  ],
])('a time that is %s takes its reminder along, and what still waits for it', async (_how, act) => {
  const client = await someone();
  const todo = await client.write(
    'Send the log on 12 June, remind me the day before at 9, remind me at 9',
  );
  await standIn(client, { failsOneIn: 1 });
  await at('2027-06-11T08:00:00Z');
  expect((await outbox(client)).messages[0]).toMatchObject({ state: 'waiting', tries: 1 });
  await standIn(client, {});
  expect(await act(client, todo)).toMatchObject({ status: 200 });
  await at('2027-06-11T08:01:00Z');
  expect((await outbox(client)).messages[0]!.state ?? 'gone').toBe('dropped');
  await at('2027-06-12T09:00:00Z');
  expect((await outbox(client)).messages).toHaveLength(1);
  expect(await server.db.arrivals.count()).toBe(0);
});

test('a moved time is reminded of at its new moment', async () => {
  const client = await someone();
  const todo = await client.write('Send the log on 3 June, open a week before, remind me at 9');
  const due = '2027-06-05T18:00';
  await client.act({ do: 'move', id: randomUUID(), todo, due });
  await at('2027-06-03T12:00:00Z');
  expect((await said(client)).rows).toEqual([]);
  await at('2027-06-05T08:00:00Z');
  expect((await said(client)).rows[0]).toMatchObject({ due, slot: '2027-06-03' });
});

test('put off until a time: it waits, is said once more then, and an undo brings back what was', async () => {
  const client = await someone();
  const todo = await client.write('Send the log on 3 June, remind me at 9');
  await at('2027-06-03T08:00:00Z');
  const id = randomUUID();
  const to = '2027-06-03T14:30:00Z';
  await client.act({ do: 'later', id, todo, slot: '2027-06-03', to });
  expect((await said(client)).rows[0]).toMatchObject({ later: to, canAct: true });
  await client.act({ do: 'undo', id: randomUUID(), of: id });
  expect((await said(client)).rows[0]!.later).toBeNull();
  await client.act({ do: 'later', id: randomUUID(), todo, slot: '2027-06-03', to });
  await at('2027-06-03T14:29:59Z');
  expect((await outbox(client)).messages).toHaveLength(1);
  await at('2027-06-03T14:30:00Z');
  expect((await outbox(client)).messages.map(({ state }) => state)).toEqual(['sent', 'sent']);
  expect((await said(client)).rows[0]).toMatchObject({ times: 2, later: null, saidAt: to });
  const past = { do: 'later', id: randomUUID(), todo, to: '2027-06-03T14:00:00Z' } as const;
  expect((await client.act(past)).body.error).toMatchObject({ code: 'later.range', where: 'to' });
});

test('after an outage of days: one for each open time, the newest, and one overview', async () => {
  const client = await someone({ overview: '07:30' });
  await client.write(
    'Send the log on 5 June, remind me 2 days before, remind me the day before, remind me at 9',
  );
  await client.write('Check the bilge every day, remind me at 10');
  await at('2027-06-08T12:00:00Z');
  const list = await said(client);
  expect(titles(list).sort()).toEqual(['Check the bilge', 'Send the log', 'overview']);
  expect((await outbox(client)).messages).toHaveLength(3);
  const log = list.rows.find(({ slot }) => slot === '2027-06-05')!;
  expect(log).toMatchObject({ times: 1, saidAt: '2027-06-08T12:00:00Z' });
  const [notice] = await server.db.notices.findAll({ where: { slot: '2027-06-05' } });
  expect(notice!.at.toISOString()).toBe('2027-06-05T08:00:00.000Z');
});

test('quiet hours hold what falls into them, a putting off too', async () => {
  const client = await someone({ quiet: { from: '22:00', to: '07:00' } });
  const todo = await client.write('Send the log on 3 June, remind me at 23:00');
  await at('2027-06-03T23:30:00Z');
  expect((await said(client)).rows).toEqual([]);
  await at('2027-06-04T06:00:00Z');
  expect((await said(client)).rows).toHaveLength(1);
  const to = '2027-06-04T22:00:00Z';
  await client.act({ do: 'later', id: randomUUID(), todo, slot: '2027-06-03', to });
  await at('2027-06-05T05:59:00Z');
  expect((await said(client)).rows[0]!.times).toBe(1);
  await at('2027-06-05T06:00:00Z');
  expect((await said(client)).rows[0]!.times).toBe(2);
});

test('another zone: the hours are those of the new one, and what was said is not said again', async () => {
  const client = await someone();
  await client.write('Send the log every day until 4 June, remind me at 9');
  await at('2027-06-03T08:00:00Z');
  expect((await said(client)).rows[0]!.slot).toBe('2027-06-03');
  const before = (await outbox(client)).messages.length;
  server.now.set(parseInstant('2027-06-03T09:00:00Z'));
  await client.send('PUT', '/settings', { ...SETTINGS, zone: 'America/New_York' });
  await at('2027-06-03T13:00:00Z');
  expect((await outbox(client)).messages).toHaveLength(before);
  await at('2027-06-04T08:00:00Z');
  expect((await outbox(client)).messages).toHaveLength(before);
  await at('2027-06-04T13:00:00Z');
  expect((await outbox(client)).messages).toHaveLength(before + 1);
});

test.each([
  ['2027-03-27', 'Europe/London', ['2027-03-27T09:00:00Z', '2027-03-28T08:00:00Z']],
  ['2027-10-30', 'Europe/London', ['2027-10-30T08:00:00Z', '2027-10-31T09:00:00Z']],
  ['2027-03-13', 'America/New_York', ['2027-03-13T14:00:00Z', '2027-03-14T13:00:00Z']],
  ['2027-11-06', 'America/New_York', ['2027-11-06T13:00:00Z', '2027-11-07T14:00:00Z']],
])('over the clock change after %s in %s it is said at nine', async (day, zone, moments) => {
  server.now.set(parseInstant(`${day}T04:00:00Z`));
  const client = await someone({ zone });
  await client.write('Check the bilge every day, remind me at 9', day);
  for (const moment of moments) {
    await at(formatInstant(parseInstant(moment) - 1000));
    const before = (await outbox(client)).messages.length;
    await at(moment);
    expect((await outbox(client)).messages).toHaveLength(before + 1);
  }
});

test('the morning overview: what is late, for today and back soon, once; none where there is nothing', async () => {
  const client = await someone({ overview: '07:30' });
  const idle = await someone({ overview: '07:30' });
  await client.write('Pump out the tank on 1 June');
  await client.write('Check the bilge every day at 18:00');
  await client.write('Order wax on 5 June');
  await at('2027-06-03T06:30:00Z');
  await at('2027-06-03T06:31:00Z');
  const { rows } = await said(client);
  expect(rows).toHaveLength(1);
  expect(rows[0]!.overview).toMatchObject({
    day: '2027-06-03',
    late: [{ title: 'Pump out the tank', due: '2027-06-01' }],
    today: [{ title: 'Check the bilge', due: '2027-06-03T18:00' }],
    soon: [{ title: 'Order wax', due: '2027-06-05' }],
  });
  const [message] = (await outbox(client)).messages;
  expect(message!.subject).toBe('Thu 3 Jun: 1 late, 1 for today');
  expect(message!.text).toContain('Late:\n- Pump out the tank, Tue 1 Jun');
  expect((await said(idle)).rows).toEqual([]);
  await client.send('PUT', '/settings', SETTINGS);
  await at('2027-06-04T12:00:00Z');
  expect((await said(client)).rows).toHaveLength(1);
});

test('a failing way is tried again after growing waits, and given up visibly after a day', async () => {
  expect([1, 2, 3, 4].map(waitAfter)).toEqual([10_000, 30_000, 90_000, 270_000]);
  expect(waitAfter(20)).toBe(3 * 3600_000);
  const client = await someone();
  await client.write('Send the log on 3 June, remind me at 9');
  await standIn(client, { failsOneIn: 1 });
  await at('2027-06-03T08:00:00Z');
  let [message] = (await outbox(client)).messages;
  expect(message).toMatchObject({
    state: 'waiting',
    nextTryAt: '2027-06-03T08:00:10Z',
    why: 'The stand-in was told to fail.',
  });
  const waits: number[] = [];
  while (message!.state === 'waiting') {
    const before = server.now();
    await at(message!.nextTryAt!);
    waits.push(server.now() - before);
    [message] = (await outbox(client)).messages;
  }
  expect(message).toMatchObject({ state: 'given up', arrived: null });
  expect(waits).toEqual([...waits].sort((a, b) => a - b));
  const day = parseInstant('2027-06-03T08:00:00Z') + 86_400_000;
  expect(server.now()).toBeLessThanOrEqual(day);
  expect(server.now()).toBeGreaterThan(day - 3 * 3600_000);
  expect((await said(client)).rows[0]!.sent).toEqual([{ channel: 'email', state: 'given up' }]);
});

test('an answer that is lost: it is handed over again and arrives once; a delay is kept', async () => {
  const client = await someone();
  await client.write('Send the log on 3 June, remind me at 9');
  await standIn(client, { doublesOneIn: 1, delay: 600 });
  await at('2027-06-03T08:00:00Z');
  expect((await outbox(client)).messages[0]).toMatchObject({ state: 'waiting', arrived: null });
  await at('2027-06-03T08:00:10Z');
  expect((await outbox(client)).messages[0]).toMatchObject({ state: 'sent', arrived: null });
  await at('2027-06-03T08:10:00Z');
  expect((await outbox(client)).messages[0]!.arrived).toMatchObject({ copies: 2 });
});

test('a link finishes its time without signing in, once', async () => {
  const client = await someone();
  const todo = await client.write('Grease the stern gland 14 days after done, remind me at 9');
  await at('2027-06-02T08:00:00Z');
  expect((await said(client)).rows).toEqual([]);
  await client.act({ do: 'done', id: randomUUID(), todo });
  await at('2027-06-16T08:00:00Z');
  const link = `/finish/${await linkIn(client)}`;
  const stranger = new Client(server.url);
  const look = async () => (await stranger.send<FinishView>('GET', link)).body;
  expect(await look()).toMatchObject({ state: 'open', title: 'Grease the stern gland' });
  // Looking at it has changed nothing.
  expect((await client.page(todo)).todo.done).toBe(1);
  const { body } = await stranger.send<FinishView>('POST', link, {});
  expect(body).toMatchObject({ state: 'done', next: { due: '2027-06-30' } });
  const over = { state: 'over', title: '', due: null, today: '2027-06-16', next: null };
  expect((await stranger.send('POST', link, {})).body).toEqual(over);
  const page = await client.page(todo);
  expect(page.todo.done).toBe(2);
  await client.act({ do: 'undo', id: randomUUID(), of: page.record[0]!.action! });
  expect(await look()).toEqual(over);
  await stranger.send('POST', link, {});
  expect((await client.page(todo)).todo.done).toBe(1);
});

test('a link is used by its own action alone: the id of its message is of no use to others', async () => {
  const client = await someone();
  const todo = await client.write('Send the log on 3 June, remind me at 9');
  await at('2027-06-03T08:00:00Z');
  const token = await linkIn(client);
  const [id] = token.split('.') as [string];
  await client.act({ do: 'note', id, todo, note: 'With the engine hours' });
  const link = `/finish/${token}`;
  const stranger = new Client(server.url);
  expect((await stranger.send('GET', link)).body).toMatchObject({ state: 'open' });
  expect((await stranger.send('POST', link, {})).body).toMatchObject({ state: 'done' });
  expect((await client.page(todo)).todo.done).toBe(1);
});

test('a link expires after a week, is of no use once its time has ended, and cannot be made up', async () => {
  const client = await someone();
  const todo = await client.write('Send the log on 3 June, remind me at 9');
  await at('2027-06-03T08:00:00Z');
  const token = await linkIn(client);
  const stranger = new Client(server.url);
  const post = (it: string) => stranger.send<FinishView>('POST', `/finish/${it}`, {});
  const [id, expires, signature] = token.split('.') as [string, string, string];
  const others = await client.write('Order wax on 3 June');
  for (const made of [
    `${randomUUID()}.${expires}.${signature}`,
    `${id}.zzzzzz.${signature}`,
    `${id}.${expires}.`,
    `${id}.${expires}.${signature}.x`,
    makeLinks('another secret').token(id, parseInstant(BORN)),
    others,
  ])
    expect((await post(made)).body.error).toMatchObject({ code: 'link.none' });
  await at('2027-06-10T08:00:00Z');
  expect((await post(token)).body).toMatchObject({ state: 'over', title: '', due: null });
  server.now.set(parseInstant('2027-06-05T08:00:00Z'));
  await client.act({ do: 'skip', id: randomUUID(), todo });
  expect((await post(token)).body.state).toBe('ended');
  expect((await client.page(todo)).todo.done).toBe(0);
});

test('one person never sees, or marks, what is said to another', async () => {
  const client = await someone();
  const other = await someone();
  await client.write('Send the log on 3 June, remind me at 9');
  await at('2027-06-03T08:00:00Z');
  expect((await said(other)).rows).toEqual([]);
  expect((await outbox(other)).messages).toEqual([]);
  await other.send('PUT', '/said/seen', { through: Number.MAX_SAFE_INTEGER });
  expect((await said(client)).fresh).toBe(1);
  await standIn(other, { failsOneIn: 1 });
  expect((await outbox(client)).standIn.failsOneIn).toBe(0);
});

test('bad input is refused by name, and nothing changes', async () => {
  const client = await someone();
  const wrong = async (path: string, body: unknown) => {
    const answer = await client.send('PUT', path, body);
    return [answer.status, answer.body.error.where];
  };
  expect(await wrong('/said/seen', { through: -1 })).toEqual([400, 'through']);
  expect(await wrong('/stand-in', { failsOneIn: 3, doublesOneIn: 0 })).toEqual([400, 'delay']);
  const settings = (more: object) => wrong('/settings', { ...SETTINGS, ...more });
  expect(await settings({ remindAt: '9' })).toEqual([400, 'remindAt']);
  expect(await settings({ quiet: { from: '22:00' } })).toEqual([400, 'quiet.to']);
  expect(await settings({ channels: ['drum'] })).toEqual([400, 'channels[0]']);
  expect(await settings({ phone: '0163' })).toEqual([400, 'phone']);
  expect(await settings({ newReminders: [{ at: 'x' }] })).toEqual([400, 'newReminders.0.at']);
  const { body } = await client.send<{ settings: SettingsBody }>('GET', '/session');
  expect(body.settings).toEqual(SETTINGS);
});

test('two clocks and two senders on one database: each is said and sent once', async () => {
  const client = await someone();
  for (let i = 0; i < 60; i++) await client.write(`Send log ${i} on 3 June, remind me at 9`);
  server.now.set(parseInstant('2027-06-03T08:00:00Z'));
  const other = makeClock(server.db, server.now, logFor('silent'));
  await Promise.all([server.clock.tick(), other.tick()]);
  await Promise.all([server.sender.tick(), server.sender.tick()]);
  expect(await server.db.notices.count()).toBe(60);
  expect(await server.db.arrivals.count({ where: { copies: 1 } })).toBe(60);
});

test('started, both work by themselves', async () => {
  const running = await startTestServer(BORN);
  const client = await new Client(running.url).register();
  await client.send('PUT', '/settings', SETTINGS);
  await client.write('Send the log on 3 June, remind me at 9');
  running.now.set(parseInstant('2027-06-03T08:00:00Z'));
  await client.write('Order wax on 5 June');
  await client.today();
  let sent = 0;
  for (let tries = 0; tries < 2000 && !sent; tries++) sent = await running.db.arrivals.count();
  expect(sent).toBe(1);
  await running.stop();
});

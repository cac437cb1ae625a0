import { randomUUID } from 'node:crypto';
import { request as ask } from 'node:http';
import { checkSeries, formatInstant, parseInstant, type Progress } from '@back-again/core';
import type { Action, SaidView, TodayView } from '@back-again/contract';
import { makeClock } from '../clock/clock.ts';
import { logFor } from '../log.ts';
import { startServer, type Running } from '../server.ts';
import { Client, freshDatabase, startTestServer, testConfig } from '../testing/harness.ts';

// One person must not be able to stop the others, and what is done is done.

const BORN = '2027-06-01T10:00:00Z';
const HOUR = 3600_000;
const at = (hours: number) => parseInstant(BORN) + hours * HOUR;
const id = randomUUID;

let server: Running;
let client: Client;
let todo: string;
beforeAll(async () => {
  server = await startTestServer(BORN);
  // What nobody asked for takes no connection meanwhile.
  for (const loop of [server.clock, server.sender, server.upkeep]) await loop.stop();
});
afterAll(() => server.stop());
beforeEach(async () => {
  server.now.set(at(0));
  client = await new Client(server.url).register();
  todo = await client.write('Check the bilge every day');
});

const step = (action: string) =>
  server.db.actions
    .findOne({ where: { id: action } })
    .then((it) => server.db.steps.findOne({ where: { actionSeq: it!.seq } }));

describe('steps are in the order in which they were taken', () => {
  test('of actions at once the undo of each leaves what the other did', async () => {
    for (let i = 0; i < 12; i++) {
      const one = await client.write('Check the ropes every day, each one is owed');
      const [note, part] = [id(), id()];
      await Promise.all([
        client.act({ do: 'note', id: note, todo: one, note: 'Worn' }),
        client.act({ do: 'part', id: part, todo: one, part: 40 }),
      ]);
      const undone = i % 2 ? note : part;
      expect((await client.act({ do: 'undo', id: id(), of: undone })).status).toBe(200);
      const [time] = (await client.page(one)).todo.open;
      expect(time).toMatchObject(i % 2 ? { note: null, part: 40 } : { note: 'Worn', part: null });
    }
  });

  test.each([
    ['5 s ahead', 5 / 3600],
    ['5 s behind', -5 / 3600],
    ['set back by an hour', -1],
  ])('with a clock that is %s', async (_name, hours) => {
    server.now.set(at(4));
    const [first, second] = [id(), id()];
    await client.act({ do: 'part', id: first, todo, part: 10 });
    server.now.set(at(4 + hours));
    await client.act({ do: 'note', id: second, todo, note: 'Wet' });
    const [before, after] = [await step(first), await step(second)];
    expect(after!.place).toBe(before!.place + 1);
    expect(after!.at.getTime()).toBeGreaterThanOrEqual(before!.at.getTime());
    expect((await client.act({ do: 'undo', id: id(), of: first })).status).toBe(200);
    expect((await client.page(todo)).todo.open[0]).toMatchObject({ part: null, note: 'Wet' });
  });

  test('on two servers 300 ms apart', async () => {
    const url = server.db.sequelize.config;
    expect(url.database).toMatch(/^test_/u);
    const database = new URL(process.env.TEST_DATABASE_URL!);
    database.pathname = `/${url.database}`;
    const other = await startServer(testConfig(database.href));
    try {
      const theirs = client.beside(other.url);
      for (let i = 0; i < 6; i++) {
        server.now.set(at(1) + i * 1000 + 300);
        other.now.set(at(1) + i * 1000);
        const [part, note] = [id(), id()];
        await client.act({ do: 'part', id: part, todo, part: i + 1 });
        expect((await theirs.act({ do: 'note', id: note, todo, note: `${i}` })).status).toBe(200);
        expect((await client.act({ do: 'undo', id: id(), of: part })).status).toBe(200);
        expect((await theirs.page(todo)).todo.open[0]!.note).toBe(`${i}`);
      }
    } finally {
      await other.stop();
    }
  });

  test('one entered at an earlier moment puts later ones back, and all can be taken back', async () => {
    const grease = await client.write('Grease the stern gland 2 days after done');
    server.now.set(at(48));
    const late = id();
    await client.act({ do: 'done', id: late, todo: grease });
    const early = id();
    server.now.set(at(49));
    const when = formatInstant(at(5));
    expect((await client.act({ do: 'done', id: early, todo: grease, when })).status).toBe(200);
    const [first, second] = [await step(early), await step(late)];
    expect(first!.place).toBeLessThan(second!.place);
    expect((await client.page(grease)).todo.done).toBe(2);
    expect((await client.act({ do: 'undo', id: id(), of: early })).status).toBe(200);
    expect((await client.page(grease)).record).toHaveLength(1);
  });
});

test('the same action id for another to-do is refused, and does nothing', async () => {
  const other = await client.write('Order wax');
  const done: Action = { do: 'done', id: id(), todo };
  expect((await client.act(done)).status).toBe(200);
  const again = await client.act({ ...done, todo: other });
  expect(again.status).toBe(409);
  expect(again.body.error.code).toBe('action.id');
  expect((await client.page(other)).todo.done).toBe(0);
  expect((await client.act(done)).status).toBe(200);
  expect((await client.act({ do: 'undo', id: done.id, of: done.id })).status).toBe(409);
});

describe('what one person has much of', () => {
  const MANY = 240;
  async function many(): Promise<string[]> {
    const { userId } = (await server.db.series.findOne({ where: { id: todo } }))!;
    const row = (await server.db.series.findOne({ where: { id: todo } }))!.get();
    const ids = Array.from({ length: MANY }, id);
    await server.db.series.bulkCreate(ids.map((one) => ({ ...row, userId, id: one })));
    return ids;
  }

  test('is paused and taken back in few statements', async () => {
    const ids = await many();
    let statements = 0;
    const options = (server.db.sequelize as unknown as { options: { logging: unknown } }).options;
    options.logging = () => statements++;
    const pause = id();
    const paused = await client.act({ do: 'pause', id: pause });
    const ofPause = statements;
    statements = 0;
    const undone = await client.act({ do: 'undo', id: id(), of: pause });
    options.logging = false;
    expect(paused.body.todos).toHaveLength(MANY + 1);
    expect(undone.status).toBe(200);
    expect([ofPause < 40, statements < 40]).toEqual([true, true]);
    const [one] = await server.db.series.findAll({ where: { id: ids[7]! } });
    expect(one!.progress.series.pauses).toBeUndefined();
  });

  test('takes two connections at most, however much is asked for at once', async () => {
    await many();
    const manager = server.db.sequelize.connectionManager as unknown as {
      getConnection(options?: object): Promise<unknown>;
      releaseConnection(connection: unknown): Promise<void>;
    };
    const { getConnection, releaseConnection } = manager;
    let held = 0;
    let most = 0;
    manager.getConnection = async function (options) {
      const connection = await getConnection.call(manager, options);
      most = Math.max(most, ++held);
      return connection;
    };
    manager.releaseConnection = function (connection) {
      held--;
      return releaseConnection.call(manager, connection);
    };
    try {
      const asked = [
        ...Array.from({ length: 4 }, () => client.act({ do: 'pause', id: id() })),
        ...Array.from({ length: 4 }, () => client.today()),
      ];
      await Promise.all(asked);
    } finally {
      manager.getConnection = getConnection;
      manager.releaseConnection = releaseConnection;
    }
    expect(most).toBeLessThanOrEqual(2);
    expect(held).toBe(0);
  });

  test('gives its turn on where nobody waits for the answer any more', async () => {
    const headers = { Cookie: client.cookies };
    for (let round = 0; round < 4; round++) {
      const gone = new AbortController();
      const asked = Array.from({ length: 20 }, () =>
        fetch(`${server.url}/api/todos`, { headers, signal: gone.signal }).catch(() => null),
      );
      await Promise.race(asked);
      gone.abort();
      await Promise.all(asked);
    }
    const answers = await Promise.all([client.today(), client.today(), client.today()]);
    expect(answers.map(({ open }) => open.length)).toEqual([1, 1, 1]);
  });

  test('waits its turn; what is too much at once is asked to come again', async () => {
    const answers = await Promise.all(
      Array.from({ length: 70 }, () => client.send('GET', '/session')),
    );
    const by = (status: number) => answers.filter((it) => it.status === status).length;
    expect(by(200)).toBeGreaterThanOrEqual(52);
    expect(by(200) + by(429)).toBe(70);
  });
});

describe('morning overviews', () => {
  const wanted = {
    zone: 'UTC',
    dayStart: '00:00',
    weekStart: 'MO',
    overview: '07:30',
    channels: ['email'],
  };

  test('are bounded, and one person’s that cannot be said holds up nobody else’s', async () => {
    const [broken, other] = [
      await new Client(server.url).register(),
      await new Client(server.url).register(),
    ];
    for (const it of [client, broken, other]) {
      expect((await it.send('PUT', '/settings', wanted)).status).toBe(200);
      await it.write('Air the cabin every day');
    }
    const title = 'é'.repeat(300);
    const { userId } = (await server.db.series.findOne({ where: { id: todo } }))!;
    const row = (await server.db.series.findOne({ where: { id: todo } }))!.get();
    const rows = Array.from({ length: 130 }, () => ({ ...row, title, userId, id: id() }));
    await server.db.series.bulkCreate(rows);
    const times = await server.db.occurrences.findAll({ where: { seriesId: todo } });
    await server.db.occurrences.bulkCreate(
      rows.flatMap(({ id: seriesId }) => times.map((time) => ({ ...time.get(), seriesId }))),
    );
    const [{ userId: brokenId } = { userId: '' }] = await server.db.actions
      .findAll({
        order: [['seq', 'DESC']],
        limit: 2,
      })
      .then((found) => found.slice(-1));
    await server.db.users.update(
      { settings: { ...wanted, zone: 'Nowhere/At_All', holidays: 'QQ' } as never },
      { where: { id: brokenId } },
    );
    server.now.set(at(24));
    await server.clock.tick();
    const said = (await client.send<SaidView>('GET', '/said')).body.rows[0]!;
    expect(said.overview!.late.length + said.overview!.today.length).toBe(50);
    expect(said.overview!.more!.late + said.overview!.more!.today).toBe(82);
    const others = (await other.send<SaidView>('GET', '/said')).body.rows;
    expect(others).toHaveLength(1);
    const resting = await server.db.users.findByPk(brokenId);
    expect(resting!.overviewAt!.getTime()).toBe(at(25));
    const mail = await server.db.messages.findAll({ where: { userId } });
    expect(mail[0]!.text.split('\n')).toContain('and 112 more');
    expect(Buffer.byteLength(mail[0]!.text)).toBeLessThan(60_000);
    // The clock goes on: nothing fails again every quarter of a minute.
    server.now.set(at(24.5));
    await server.clock.tick();
  });
});

describe('a to-do that cannot be worked out', () => {
  const WAKING = { speaksAt: new Date(at(1)), changesAt: new Date(at(1)) };
  /** As an older form might have let in, or a fault: it is written past all checks. */
  async function breakIt(progress: Partial<Progress>): Promise<void> {
    const row = (await server.db.series.findOne({ where: { id: todo } }))!;
    await server.db.series.update(
      { progress: { ...row.progress, ...progress }, ...WAKING },
      { where: { id: todo } },
    );
  }
  const broken = {
    series: {
      ...checkSeries({ title: 'Check the bilge', start: '2027-06-01' }),
      repeat: { by: 'calendar', rule: 'FREQ=NEVER' },
    },
  } as Partial<Progress>;
  const long = {
    series: checkSeries({
      title: 'Check the bilge',
      start: '2027-06-01',
      repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
    }),
  };

  test('is shown with what is wrong, and takes nothing else down', async () => {
    const other = await client.write('Order wax every day');
    await breakIt(broken);
    server.now.set(at(30));
    const all = await client.todos();
    expect(all.todos.find((it) => it.id === todo)!.wrong).toMatch(/cannot be worked out/u);
    expect(all.todos.find((it) => it.id === other)).toMatchObject({ wrong: null });
    expect((await client.today()).open.map((it) => it.id)).toContain(other);
    const page = await client.page(todo);
    expect(page.todo).toMatchObject({ id: todo, wrong: expect.stringContaining('removed') });
    const settings = { zone: 'Europe/London', dayStart: '04:00', weekStart: 'MO' };
    expect((await client.send('PUT', '/settings', settings)).status).toBe(200);
    expect((await client.act({ do: 'done', id: id(), todo })).status).toBe(422);
    expect((await client.act({ do: 'pause', id: id() })).status).toBe(200);
  });

  test('can be removed, and that taken back', async () => {
    await breakIt(broken);
    server.now.set(at(30));
    const remove = id();
    expect((await client.act({ do: 'remove', id: remove, todo })).body.removed).toEqual([todo]);
    expect((await client.todos()).todos).toEqual([]);
    expect((await client.act({ do: 'undo', id: id(), of: remove })).status).toBe(200);
    expect((await client.todos()).todos).toHaveLength(1);
  });

  test('can be ended', async () => {
    await breakIt(broken);
    server.now.set(at(30));
    expect((await client.act({ do: 'end', id: id(), todo })).status).toBe(200);
    const row = (await server.db.series.findOne({ where: { id: todo } }))!;
    expect([Boolean(row.ended), row.speaksAt, row.changesAt]).toEqual([true, null, null]);
  });

  test('can be changed to one that can, from today on', async () => {
    await breakIt(broken);
    server.now.set(at(30));
    const series = { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=WE' } } as const;
    const { status, body } = await client.act({ do: 'change', id: id(), todo, series });
    expect([status, body.todos[0]!.wrong]).toEqual([200, null]);
    expect((await client.page(todo)).todo.open).toMatchObject([{ slot: '2027-06-02' }]);
    expect((await client.act({ do: 'done', id: id(), todo })).status).toBe(200);
  });

  test('said again after a hundred years, as was let in: it is shown, read and removed', async () => {
    const reminders = [{ again: { every: 'P100Y', atMost: 99 } }];
    await breakIt({ series: { ...long.series, reminders } as never });
    server.now.set(at(48));
    await server.clock.tick();
    expect((await client.page(todo)).todo.id).toBe(todo);
    const settings = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO' };
    expect((await client.send('PUT', '/settings', settings)).status).toBe(200);
    expect((await client.act({ do: 'remove', id: id(), todo })).status).toBe(200);
  });

  test('one that the database refuses rests, and the others go on', async () => {
    const others: string[] = [];
    for (let i = 0; i < 3; i++)
      others.push(await client.write('Check the ropes every day, remind me at 9'));
    const row = (await server.db.series.findOne({ where: { id: todo } }))!;
    const open = row.progress.open.map((time) => ({ ...time, note: 'x'.repeat(70_000) }));
    await breakIt({ open });
    server.now.set(at(30));
    await makeClock(server.db, server.now, logFor('silent')).tick();
    for (const other of others) {
      const times = await server.db.occurrences.findAll({ where: { seriesId: other } });
      expect(times.map(({ slot }) => slot)).toContain('2027-06-02');
    }
    const after = (await server.db.series.findOne({ where: { id: todo } }))!;
    expect(after.speaksAt!.getTime()).toBe(at(31));
    await server.db.series.update({ ...WAKING }, { where: { id: [todo, ...others] } });
    const today = await client.send<TodayView>('GET', '/today');
    expect([today.status, today.body.error]).toEqual([200, undefined]);
    const rows = today.body.sections.flatMap((section) => section.rows);
    expect(rows.length).toBeGreaterThanOrEqual(3);
  });

  test('what is refused of one that is made is refused of a change', async () => {
    const reminders = [{ again: { every: 'P100Y', atMost: 99 } }];
    const change = { do: 'change', id: id(), todo, series: { reminders } } as Action;
    const { status, body } = await client.act(change);
    expect([status, body.error.where]).toEqual([400, 'reminders.0.again.every']);
  });
});

test('an absence of many years is worked out piece by piece, and kept', async () => {
  const often = await client.write('Feed the hens every day at 8, 13 and 20');
  server.now.set(at(24 * 366 * 3));
  await server.clock.tick();
  // A busy machine asks to be asked again; what was worked out meanwhile is kept.
  let page = await client.page(often);
  while (!('totals' in page)) page = await client.page(often);
  const { totals, todo: hens } = page;
  expect(totals.missed).toBe(3 * 366 * 3);
  expect(hens.open).toHaveLength(1);
});

describe('sessions', () => {
  const windowOn = (of: Client) =>
    new Promise<{ ended: Promise<string>; end(): void }>((resolve, reject) => {
      const sent = ask(
        `${server.url}/api/events`,
        { headers: { Cookie: of.cookies } },
        (answer) => {
          let text = '';
          const ended = new Promise<string>((done) => {
            answer.on('data', (some: Buffer) => (text += some.toString()));
            answer.on('end', () => done(text));
            answer.on('error', () => done(text));
          });
          resolve({ ended, end: () => sent.destroy() });
        },
      );
      sent.on('error', reject);
      sent.end();
    });

  test('ten windows of one person are told, and the one that listened longest is let go', async () => {
    const windows = [];
    for (let i = 0; i < 12; i++) windows.push(await windowOn(client));
    for (const window of windows.slice(0, 2)) expect(await window.ended).toContain('event: enough');
    await client.act({ do: 'done', id: id(), todo });
    const other = await new Client(server.url).register();
    const theirs = await windowOn(other);
    const open = await Promise.race([windows[2]!.ended, theirs.ended, Promise.resolve('open')]);
    expect(open).toBe('open');
    for (const window of [...windows, theirs]) window.end();
  });

  test('signing out ends the windows of that session alone', async () => {
    const second = client.beside(server.url);
    const mine = await windowOn(client);
    const elsewhere = await new Client(server.url).register();
    const theirs = await windowOn(elsewhere);
    expect((await second.send('DELETE', '/session')).status).toBe(204);
    // At once, and not only when windows are looked through.
    expect(await mine.ended).not.toContain('still here');
    expect((await client.send('GET', '/today')).status).toBe(401);
    expect((await elsewhere.send('GET', '/today')).status).toBe(200);
    theirs.end();
  });

  test('one that has expired is none, whenever it is swept away', async () => {
    expect((await client.send('GET', '/session')).status).toBe(200);
    const { userId } = (await server.db.series.findOne({ where: { id: todo } }))!;
    await server.db.sequelize.query(
      'UPDATE sessions SET expires = UTC_TIMESTAMP() - INTERVAL 1 SECOND WHERE data LIKE ?',
      { replacements: [`%${userId}%`] },
    );
    expect((await client.send('GET', '/session')).status).toBe(401);
  });

  test('one that is 180 days old ends, however much it was used', async () => {
    const other = await new Client(server.url).register();
    const name = (await other.send<{ name: string }>('GET', '/session')).body.name;
    const { id } = (await server.db.users.findOne({ where: { name } }))!;
    const since = (days: number) =>
      server.db.sequelize.query(
        'UPDATE sessions SET createdAt = UTC_TIMESTAMP() - INTERVAL :days DAY WHERE userId = :id',
        { replacements: { id, days } },
      );
    await since(179);
    expect((await other.send('GET', '/session')).status).toBe(200);
    await since(181);
    expect((await other.send('GET', '/session')).status).toBe(401);
  });
});

describe('where requests come from', () => {
  const post = (headers: Record<string, string>, body = '{}') =>
    fetch(`${server.url}/api/actions`, { method: 'POST', headers, body }).then((it) => it.status);
  const json = { 'Content-Type': 'application/json' };

  test.each<[string, (cookie: string) => Record<string, string>, number]>([
    ['from here', (Cookie) => ({ ...json, Cookie, Origin: server.url }), 400],
    [
      'as the browser says',
      (Cookie) => ({ ...json, Cookie, 'Sec-Fetch-Site': 'same-origin' }),
      400,
    ],
    ['without saying, with a cookie', (Cookie) => ({ ...json, Cookie }), 403],
    ['without saying, and without a cookie', () => json, 401],
    ['from another site', (Cookie) => ({ ...json, Cookie, Origin: 'https://example.org' }), 403],
    [
      'from another site, as the browser says',
      (Cookie) => ({ ...json, Cookie, Origin: server.url, 'Sec-Fetch-Site': 'cross-site' }),
      403,
    ],
    ['from a site beside', (Cookie) => ({ ...json, Cookie, 'Sec-Fetch-Site': 'same-site' }), 403],
    ['from nowhere', (Cookie) => ({ ...json, Cookie, Origin: 'null' }), 403],
    ['as text', (Cookie) => ({ Cookie, Origin: server.url, 'Content-Type': 'text/plain' }), 415],
    [
      'as a form',
      (Cookie) => ({
        Cookie,
        Origin: server.url,
        'Content-Type': 'application/x-www-form-urlencoded',
      }),
      415,
    ],
    ['without a type', (Cookie) => ({ Cookie, Origin: server.url, 'Content-Type': '' }), 415],
  ])('%s', async (_name, headers, status) => {
    expect(await post(headers(client.cookies))).toBe(status);
  });

  test('with an address of its own the origin is that one', async () => {
    const proxied = await startServer(
      testConfig(await freshDatabase(), { secure: true, publicUrl: 'https://boat.example' }),
    );
    const send = (headers: Record<string, string>) =>
      fetch(`${proxied.url}/api/session`, {
        method: 'POST',
        headers: { ...json, ...headers },
        body: '{}',
      });
    const https = { 'X-Forwarded-Proto': 'https', 'X-Forwarded-For': '192.0.2.9' };
    try {
      expect((await send({ ...https, Origin: 'https://boat.example' })).status).toBe(400);
      expect((await send({ ...https, Origin: proxied.url })).status).toBe(403);
      // Without the word of a proxy the cookie would be dropped: that is said.
      const bare = await fetch(`${proxied.url}/api/now`);
      expect(((await bare.json()) as { error: { code: string } }).error.code).toBe(
        'server.insecure',
      );
      expect((await fetch(`${proxied.url}/api/now`, { headers: https })).status).toBe(200);
    } finally {
      await proxied.stop();
    }
  });

  test('over HTTPS the cookie is one that no page of another host can set', async () => {
    const proxied = await startServer(
      testConfig(await freshDatabase(), { secure: true, publicUrl: 'https://boat.example' }),
    );
    try {
      const answer = await fetch(`${proxied.url}/api/accounts`, {
        method: 'POST',
        headers: { ...json, Origin: 'https://boat.example', 'X-Forwarded-Proto': 'https' },
        body: JSON.stringify({ name: 'a@example.org', password: 'a long password', zone: 'UTC' }),
      });
      expect(answer.status).toBe(201);
      expect(answer.headers.get('strict-transport-security')).toMatch(/max-age=31536000/u);
      // RFC 6265bis §4.1.3.2: Secure, for the whole host, of no domain.
      const cookie = answer.headers.get('set-cookie')!;
      expect(cookie).toMatch(/^__Host-back-again=/u);
      for (const part of ['Path=/', 'HttpOnly', 'Secure', 'SameSite=Lax'])
        expect(cookie).toContain(part);
      expect(cookie).not.toContain('Domain');
    } finally {
      await proxied.stop();
    }
  });

  test('what a stranger says of where it came from is not believed', async () => {
    const limited = await startTestServer(BORN, { signInTries: 2 });
    const wrong = (i: number) =>
      fetch(`${limited.url}/api/session`, {
        method: 'POST',
        headers: { ...json, 'X-Forwarded-For': `192.0.2.${i}` },
        body: JSON.stringify({ name: 'a@example.org', password: 'a wrong password' }),
      }).then((it) => it.status);
    try {
      expect([await wrong(1), await wrong(2), await wrong(3)]).toEqual([401, 401, 429]);
    } finally {
      await limited.stop();
    }
  });
});

test('a server whose clock is a year ahead goes a day beyond what the database says, and says so', async () => {
  const ahead = await startServer(
    testConfig(await freshDatabase(), { testShift: 366 * 24 * HOUR, compareClocks: true }),
  );
  try {
    const late = ahead.now() - Date.now();
    expect([late > 23 * HOUR, late < 25 * HOUR]).toEqual([true, true]);
    const person = await new Client(ahead.url).register();
    const daily = await person.write(
      'Check the bilge every day',
      formatInstant(Date.now()).slice(0, 10),
    );
    await ahead.clock.tick();
    expect((await person.page(daily)).totals.missed).toBeLessThan(3);
    const health = await fetch(`${ahead.url}/api/health`);
    expect(health.status).toBe(200);
    expect(await health.json()).toMatchObject({
      ok: false,
      database: true,
      clock: { isClose: false },
    });
  } finally {
    await ahead.stop();
  }
});

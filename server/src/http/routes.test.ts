import { NO_DETAILS, parseInstant } from '@back-again/core';
import { randomUUID } from 'node:crypto';
import type { Running } from '../server.ts';
import { Client, startTestServer, halvesOf } from '../testing/harness.ts';

let server: Running;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const someone = () => new Client(server.url).register();
const id = randomUUID;

/** Each route of the program, with whether it needs someone who is signed in. */
const ROUTES: [method: string, path: string, signedIn: boolean][] = [
  ['GET', '/health', false],
  ['POST', '/accounts', false],
  ['POST', '/session', false],
  ['GET', '/session', true],
  ['DELETE', '/session', false],
  ['GET', '/now', false],
  ['PUT', '/settings', true],
  ['GET', '/today', true],
  ['GET', '/todos', true],
  ['GET', `/todos/${id()}`, true],
  ['GET', '/events', true],
  ['POST', '/actions', true],
  ['GET', `/places/${id()}`, true],
  ['GET', '/record?words=bilge', true],
  ['GET', '/ended?from=2027-06-01&to=2027-06-07', true],
  ['GET', '/past/day?on=2027-06-01', true],
  ['GET', '/past/days?from=2027-06-01&to=2027-06-07', true],
  ['GET', '/past/totals?from=2027-06-01&to=2027-06-07&by=todo', true],
  ['GET', `/past/todos/${id()}`, true],
  ['DELETE', `/past/todos/${id()}`, true],
  ['GET', `/past/looks/${id()}`, true],
  ['POST', '/files', true],
  ['PUT', `/files/${id()}/0`, true],
  ['GET', `/files/${id()}`, true],
  ['GET', '/said', true],
  ['PUT', '/said/seen', true],
  ['GET', '/outbox', true],
  ['PUT', '/stand-in', true],
  ['GET', `/finish/${id()}`, false],
  ['POST', `/finish/${id()}`, false],
  ['POST', '/forgotten', false],
  ['POST', '/new-password', false],
  ['POST', '/account/password', true],
  ['POST', '/account/address', true],
  ['POST', '/account/remove', true],
  ['GET', '/account/sessions', true],
  ['DELETE', `/account/sessions/${id()}`, true],
  ['GET', '/doors', true],
  ['POST', '/doors', true],
  ['DELETE', `/doors/${id()}`, true],
  ['GET', '/calendar.ics', true],
  ['GET', '/everything', true],
  ['POST', '/everything', true],
  ['POST', '/take-in', true],
  ['GET', `/feeds/${id()}.ics`, false],
  ['GET', `/ways/${id()}`, false],
  ['POST', `/ways/${id()}`, false],
  ['GET', '/openapi.json', false],
  ['GET', '/', false],
  ['PUT', '/test/clock', false],
];

describe('another person’s ids answer as if they did not exist', () => {
  test('for every route and action that takes one', async () => {
    const [owner, other] = await Promise.all([someone(), someone()]);
    const todo = await owner.write('Check the bilge every Tuesday');
    const action = id();
    await owner.act({ do: 'done', id: action, todo });
    const before = await owner.page(todo);
    const unknown = id();

    const same = async (theirs: object, none: object) => {
      const [a, b] = [
        await other.send('POST', '/actions', { id: id(), ...theirs }),
        await other.send('POST', '/actions', { id: id(), ...none }),
      ];
      expect([a.status, a.body]).toEqual([b.status, b.body]);
      expect(a.status).toBe(404);
    };
    await same({ do: 'done', todo }, { do: 'done', todo: unknown });
    await same(
      { do: 'done', todo, slot: '2027-06-01' },
      { do: 'done', todo: unknown, slot: '2027-06-01' },
    );
    await same(
      { do: 'done', todo, when: '2027-06-01T09:00:00Z' },
      { do: 'done', todo: unknown, when: '2027-06-01T09:00:00Z' },
    );
    await same({ do: 'skip', todo }, { do: 'skip', todo: unknown });
    await same(
      { do: 'move', todo, plan: '2027-06-03' },
      { do: 'move', todo: unknown, plan: '2027-06-03' },
    );
    await same(
      { do: 'bring', times: [{ todo, slot: '2027-06-01' }] },
      { do: 'bring', times: [{ todo: unknown, slot: '2027-06-01' }] },
    );
    await same({ do: 'remove', todo }, { do: 'remove', todo: unknown });
    for (const [kind, more] of Object.entries({
      tally: {},
      part: { part: 40 },
      note: { note: 'Mine' },
      later: { to: '2027-06-02T10:00:00Z' },
      change: { details: { title: 'Mine' } },
      end: {},
      reopen: {},
      drop: {},
    }))
      await same({ do: kind, todo, ...more }, { do: kind, todo: unknown, ...more });
    for (const kind of ['pause', 'resume'])
      await same({ do: kind, todos: [todo] }, { do: kind, todos: [unknown] });
    await same(
      { do: 'tick', todo, step: '1', on: true },
      { do: 'tick', todo: unknown, step: '1', on: true },
    );
    await same({ do: 'answer', todo, spent: 5 }, { do: 'answer', todo: unknown, spent: 5 });
    const step = { id: '1', text: 'Mine' };
    await same({ do: 'addStep', todo, step }, { do: 'addStep', todo: unknown, step });
    const above = { do: 'above', slot: '2027-06-08', on: true };
    await same({ ...above, todo }, { ...above, todo: unknown });
    await same({ do: 'removeAll', todos: [todo] }, { do: 'removeAll', todos: [unknown] });
    const place = await owner.placeNamed('Aboard');
    await same({ do: 'focus', place }, { do: 'focus', place: unknown });
    await same({ do: 'unplace', place }, { do: 'unplace', place: unknown });
    await same({ do: 'rest', place, rests: true }, { do: 'rest', place: unknown, rests: true });
    await same(
      { do: 'finishProject', place, open: 'end' },
      { do: 'finishProject', place: unknown, open: 'end' },
    );
    const details = { title: 'Mine', place };
    const once = { do: 'create', todo: unknown, series: { start: null, repeat: null } };
    await same({ ...once, details }, { ...once, details: { ...details, place: unknown } });
    const theirs = await other.send('GET', `/places/${place}`);
    expect(theirs).toMatchObject({
      status: 404,
      body: (await other.send('GET', `/places/${unknown}`)).body,
    });
    expect((await other.changes()).places).toBeUndefined();
    await same({ do: 'undo', of: action }, { do: 'undo', of: unknown });

    const page = await other.send('GET', `/todos/${todo}`);
    expect(page).toMatchObject({
      status: 404,
      body: (await other.send('GET', `/todos/${unknown}`)).body,
    });
    expect((await other.todos()).todos).toEqual([]);
    expect((await other.today()).open).toEqual([]);
    // The id of another person's action or to-do is free to be used: it shows nothing.
    expect((await other.act({ do: 'done', id: action, todo: unknown })).body.error.code).toBe(
      'todo.none',
    );
    const { series } = before.todo;
    expect((await other.act({ do: 'create', id: action, todo, ...halvesOf(series) })).status).toBe(
      200,
    );
    expect(await owner.page(todo)).toEqual(before);
  });
});

describe('who is not signed in', () => {
  test.each(ROUTES.filter(([, , signedIn]) => signedIn))(
    'is told so: %s %s',
    async (method, path) => {
      const answer = await new Client(server.url).send(
        method,
        path,
        method === 'GET' ? undefined : {},
      );
      expect(answer).toMatchObject({ status: 401, body: { error: { code: 'session.none' } } });
    },
  );

  test('what a device has of another person gets nothing, and changes nothing', async () => {
    const client = await someone();
    const as = (name: string) => ({ 'Back-Again-Person': encodeURIComponent(name) });
    const { body } = await client.send<{ name: string }>('GET', '/session');
    for (const path of ['/changes?since=0', '/today']) {
      expect((await client.send('GET', path, undefined, as(body.name))).status).toBe(200);
      expect(await client.send('GET', path, undefined, as('you@example.org'))).toMatchObject({
        status: 401,
        body: { error: { code: 'session.none' } },
      });
    }
  });

  test('after signing out the session is worth nothing', async () => {
    const client = await someone();
    expect((await client.send('GET', '/today')).status).toBe(200);
    expect((await client.send('DELETE', '/session')).status).toBe(204);
    expect((await client.send('GET', '/today')).status).toBe(401);
  });
});

describe('accounts', () => {
  const password = 'a long password';
  test('registered once, signed in with the right password alone, in any case of the address', async () => {
    const client = new Client(server.url);
    const name = `${id()}@example.org`;
    const made = await client.send('POST', '/accounts', { name, password, zone: 'Europe/London' });
    expect(made).toMatchObject({
      status: 201,
      body: { name, settings: { zone: 'Europe/London' } },
    });
    expect(
      await client.send('POST', '/accounts', { name: name.toUpperCase(), password, zone: 'UTC' }),
    ).toMatchObject({
      status: 409,
      body: { error: { code: 'name.taken', where: 'name' } },
    });
    expect(await client.send('POST', '/session', { name, password: `${password}!` })).toMatchObject(
      { status: 401, body: { error: { code: 'session.wrong' } } },
    );
    expect(await client.send('POST', '/session', { name: id(), password })).toMatchObject({
      status: 401,
      body: { error: { code: 'session.wrong' } },
    });
    const signedIn = await client.send('POST', '/session', { name: name.toUpperCase(), password });
    expect(signedIn.status).toBe(200);
    const cookie = signedIn.headers.get('set-cookie')!;
    expect(cookie).toContain('HttpOnly');
    expect(cookie).toContain('SameSite=Lax');
  });

  test.each([
    [{ name: 'nobody', password, zone: 'UTC' }, 'name'],
    [{ name: 'a@example.org', password: 'short', zone: 'UTC' }, 'password'],
    [{ name: 'a@example.org', password, zone: 'Nowhere/Land' }, 'zone'],
    [{ name: 'a@example.org', password }, 'zone'],
  ])('what is wrong is said: %j', async (body, where) => {
    const answer = await new Client(server.url).send('POST', '/accounts', body);
    expect(answer).toMatchObject({
      status: 400,
      body: { error: { where } },
    });
  });

  test('too many wrong passwords from one address have to wait', async () => {
    const strict = await startTestServer(undefined, { signInTries: 3 });
    const client = new Client(strict.url);
    const statuses: number[] = [];
    for (let i = 0; i < 4; i++)
      statuses.push(
        (await client.send('POST', '/session', { name: 'a@example.org', password })).status,
      );
    expect(statuses).toEqual([401, 401, 401, 429]);
    await strict.stop();
  });

  test('settings change how days run, from now on', async () => {
    const client = await someone();
    await client.clock('2027-06-01T10:00:00Z');
    await client.write('Check the bilge every day');
    const settings = { zone: 'Pacific/Auckland', dayStart: '04:00', weekStart: 'SU' };
    expect(await client.send('PUT', '/settings', settings)).toMatchObject({
      status: 200,
      body: { settings },
    });
    // 10:00 UTC is 22:00 in Auckland, the same day; six hours later a new one has begun.
    expect((await client.today()).today).toBe('2027-06-01');
    await client.clock('2027-06-01T17:00:00Z');
    expect((await client.today()).today).toBe('2027-06-02');
    expect((await client.todos()).todos[0]!.open.map(({ slot }) => slot)).toContain('2027-06-02');
    expect((await client.send('PUT', '/settings', { ...settings, dayStart: '13:00' })).status).toBe(
      400,
    );
    await client.clock('2027-06-01T10:00:00Z');
  });
});

describe('what goes with each time', () => {
  test('reminders, an estimate and a place are kept, changed and taken away', async () => {
    const client = await someone();
    const todo = await client.write(
      'Renew the pass on 9 March 2028, remind me 3 days before at 18:00, takes 30 min, belongs to Work',
    );
    expect((await client.todos()).todos[0]!.series).toMatchObject({
      reminders: [{ before: 'P3D', at: '18:00' }],
      takes: 30,
      place: await client.placeNamed('Work'),
    });
    const change = (more: object) =>
      client.send<{ todos: { progress: { series: object }; details: object }[] }>(
        'POST',
        '/actions',
        { do: 'change', id: id(), todo, ...more },
      );
    const { todos } = (
      await change({ series: { reminders: null }, details: { takes: 60, place: null } })
    ).body;
    expect(todos[0]!.details).toEqual({ ...NO_DETAILS, title: 'Renew the pass', takes: 60 });
    expect(todos[0]!.progress.series).not.toHaveProperty('reminders');
    for (const [more, where] of [
      [{ details: { takes: 'P3D' } }, 'takes'],
      [{ details: { place: ' ' } }, 'place'],
      [{ details: { place: 'Work' } }, 'place'],
      [{ series: { reminders: [{ before: 'PT2H', at: '08:00' }] } }, 'reminders.0.at'],
      [{ series: { reminders: [{ of: 'noon' }] } }, 'reminders.0.of'],
      [
        { series: { reminders: [{ again: { every: 'PT1H', atMost: 0 } }] } },
        'reminders.0.again.atMost',
      ],
      [{ series: { takes: 30 } }, 'series'],
      [{}, ''],
    ] as const) {
      const refused = await change(more);
      expect(refused.status).toBe(400);
      expect(JSON.stringify(refused.body)).toContain(where);
    }
  });

  test('what several are is said at once, and taken back at once', async () => {
    const client = await someone();
    const todos = [
      await client.write('Weigh the hives every Friday'),
      await client.write('Order wax'),
    ];
    const [bees, work] = [await client.placeNamed('Bees'), await client.placeNamed('Work')];
    server.now.set(parseInstant('2027-06-01T11:00:00Z'));
    const of = id();
    const describe = { do: 'describe', id: of, todos, details: { place: bees } } as const;
    const seriesOf = async () => {
      const all = (await client.todos()).todos;
      return todos.map((todo) => all.find((it) => it.id === todo)!.series);
    };
    expect((await client.act(describe)).status).toBe(200);
    expect((await seriesOf()).map(({ place }) => place)).toEqual([bees, bees]);
    // What was said at an earlier moment does not hold against what was said since.
    server.now.set(parseInstant('2027-06-01T12:00:00Z'));
    const early = {
      ...describe,
      id: id(),
      todos: [todos[0]!],
      details: { place: work, takes: 5 },
    };
    expect((await client.act({ ...early, at: '2027-06-01T10:59:00Z' })).status).toBe(200);
    expect((await seriesOf())[0]).toMatchObject({ place: bees, takes: 5 });
    expect((await client.act({ do: 'undo', id: id(), of })).status).toBe(200);
    expect((await seriesOf()).map(({ place }) => place)).toEqual([work, undefined]);
    expect((await client.act({ do: 'undo', id: id(), of: early.id })).status).toBe(200);
    for (const series of await seriesOf()) {
      expect(series).not.toHaveProperty('takes');
      expect(series).not.toHaveProperty('place');
    }
    server.now.set(parseInstant('2027-06-01T10:00:00Z'));
  });
});

describe('safety', () => {
  test('a request that changes something must come from this site', async () => {
    const client = await someone();
    const body = {
      do: 'create',
      id: id(),
      todo: id(),
      series: { start: null, repeat: null },
      details: { title: 'Wax' },
    };
    const foreign = await client.send('POST', '/actions', body, { Origin: 'https://example.com' });
    expect(foreign).toMatchObject({ status: 403, body: { error: { code: 'origin.other' } } });
    expect((await client.send('POST', '/actions', body, { Origin: server.url })).status).toBe(200);
  });

  test('headers keep the page from being framed, sniffed or stored', async () => {
    const { headers } = await new Client(server.url).send('GET', '/health');
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('content-security-policy')).toMatch(
      /base-uri 'none'.*frame-ancestors 'none'.*object-src 'none'/u,
    );
    expect(headers.get('x-frame-options')).toBe('DENY');
    expect(headers.get('referrer-policy')).toBe('no-referrer');
    expect(headers.get('cache-control')).toBe('no-store');
    expect(headers.get('x-powered-by')).toBeNull();
  });

  test('an address that is none is said to be none', async () => {
    const client = await someone();
    expect(await client.send('GET', '/nothing')).toMatchObject({
      status: 404,
      body: { error: { code: 'route.none' } },
    });
    expect(await client.send('GET', `/todos/${'x'.repeat(300)}`)).toMatchObject({ status: 404 });
  });
});

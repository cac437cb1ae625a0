import { randomUUID } from 'node:crypto';
import ICAL from 'ical.js';
import { fromIcal, type ExchangedTodo } from '@back-again/core/exchange';
import type { DoorsView, MadeDoor, TakeInAnswer, WayView } from '@back-again/contract/doors';
import { halvesOf, Client, startTestServer } from '../testing/harness.ts';
import { read } from '@back-again/core/reading';
import type { Running } from '../server.ts';

let server: Running;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const someone = () => new Client(server.url).register('Europe/London');
const id = randomUUID;

const made = async (client: Client, body: object): Promise<MadeDoor> => {
  const { status, body: answer } = await client.send<MadeDoor>('POST', '/doors', body);
  expect(status).toBe(201);
  return answer;
};
const ask = (path: string, headers: Record<string, string> = {}, more: RequestInit = {}) =>
  fetch(`${server.url}/api${path}`, { ...more, headers });
const withKey = (secret: string) => ({ Authorization: `Bearer ${secret}` });
const post = (secret: string, path: string, body: unknown) =>
  ask(
    path,
    { ...withKey(secret), 'Content-Type': 'application/json' },
    { method: 'POST', body: JSON.stringify(body) },
  );

describe('keys', () => {
  test('open what they say, and nothing of the account; a withdrawn one nothing at once', async () => {
    const client = await someone();
    const todo = await client.write('Check the bilge every Tuesday');
    const keys = {
      read: await made(client, { kind: 'key', name: 'Reader', reach: 'read' }),
      finish: await made(client, { kind: 'key', reach: 'finish' }),
      all: await made(client, { kind: 'key', reach: 'all' }),
    };
    const done = () => ({ do: 'done', id: id(), todo });
    const note = { do: 'note', id: id(), todo, note: 'Dry' };
    for (const [reach, { secret }] of Object.entries(keys)) {
      expect([reach, (await ask('/today', withKey(secret))).status]).toEqual([reach, 200]);
      for (const path of ['/doors', '/account/sessions', '/session'])
        expect([reach, path, (await ask(path, withKey(secret))).status]).toEqual([
          reach,
          path,
          403,
        ]);
      for (const path of ['/account/remove', '/doors', '/everything'])
        expect([path, (await post(secret, path, { old: 'a long password' })).status]).toEqual([
          path,
          403,
        ]);
    }
    expect((await post(keys.read.secret, '/actions', done())).status).toBe(403);
    expect((await post(keys.finish.secret, '/actions', note)).status).toBe(403);
    expect((await post(keys.all.secret, '/actions', note)).status).toBe(200);
    const action = done();
    expect((await post(keys.finish.secret, '/actions', action)).status).toBe(200);
    // The same id again changes nothing.
    expect((await post(keys.finish.secret, '/actions', action)).status).toBe(200);
    const page = await client.page(todo);
    expect(page.totals.done).toBe(1);
    expect(page.record[0]).toMatchObject({ via: 'key' });
    const { body } = await client.send<DoorsView>('GET', '/doors');
    expect(body.doors.map(({ name, reach, usedAt }) => [name, reach, usedAt !== null])).toEqual(
      expect.arrayContaining([['Reader', 'read', true]]),
    );
    expect(JSON.stringify(body)).not.toContain(keys.read.secret.slice(4));
    expect((await client.send('DELETE', `/doors/${keys.all.door.id}`)).status).toBe(204);
    expect((await ask('/today', withKey(keys.all.secret))).status).toBe(401);
    expect((await client.send('DELETE', `/doors/${keys.all.door.id}`)).status).toBe(404);
  });

  test('are kept as hashes of 192 bits; a wrong one is told nothing, and cannot be tried for long', async () => {
    const client = await someone();
    const { secret } = await made(client, { kind: 'key', reach: 'read' });
    expect(Buffer.from(secret.slice(4), 'base64url')).toHaveLength(24);
    const rows = await server.db.doors.findAll({ raw: true });
    expect(JSON.stringify(rows)).not.toContain(secret.slice(4));
    const wrong = `${secret.slice(0, -1)}${secret.endsWith('A') ? 'B' : 'A'}`;
    const answer = await ask('/today', withKey(wrong));
    expect([answer.status, answer.headers.get('www-authenticate')]).toEqual([401, 'Bearer']);
    // A key that came as another kind of secret opens nothing.
    expect((await ask(`/ways/${secret}`)).status).toBe(404);
  });

  test('take so many requests a minute, and say when there are more', async () => {
    const client = await someone();
    const { secret } = await made(client, { kind: 'key', reach: 'read' });
    let limited: Response | null = null;
    for (let i = 0; i < 310 && !limited; i++) {
      const answer = await ask('/said', withKey(secret));
      if (answer.status !== 200) limited = answer;
      await answer.arrayBuffer();
    }
    expect(limited?.status).toBe(429);
    expect(Number(limited!.headers.get('retry-after'))).toBeGreaterThan(0);
  });

  test('what makes no sense is refused, and says where', async () => {
    const client = await someone();
    const refused = async (body: object) =>
      (await client.send('POST', '/doors', body)).body.error?.where;
    expect(await refused({ kind: 'key' })).toBe('reach');
    expect(await refused({ kind: 'way' })).toBe('todo');
    expect(await refused({ kind: 'way', todo: id() })).toBe('todo');
    expect(await refused({ kind: 'feed', place: id() })).toBe('place');
    expect(await refused({ kind: 'window' })).toBe('kind');
  });
});

describe('a feed', () => {
  const eventsIn = (text: string) =>
    new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((event) => ({
      title: String(event.getFirstPropertyValue('summary')),
      start: String(event.getFirstPropertyValue('dtstart')),
      status: event.getFirstPropertyValue('status'),
    }));

  test('has what is open, comes, is expected and was done; 304 until something changes', async () => {
    const client = await someone();
    await client.write('Call the yard every Tuesday at 9, takes 30 min');
    const winch = await client.write('Grease the winch 3 weeks after done');
    await client.act({ do: 'done', id: id(), todo: winch });
    const { secret } = await made(client, { kind: 'feed', place: null });
    const first = await ask(`/feeds/${secret}.ics`);
    expect([first.status, first.headers.get('content-type')]).toEqual([
      200,
      'text/calendar; charset=utf-8',
    ]);
    const text = await first.text();
    const events = eventsIn(text);
    expect(events).toEqual(
      expect.arrayContaining([
        { title: 'Call the yard', start: '2027-06-01T09:00:00', status: null },
        { title: 'Call the yard', start: '2028-07-04T09:00:00', status: null },
        { title: 'Grease the winch (expected)', start: '2027-06-22', status: 'TENTATIVE' },
        { title: 'Grease the winch (done)', start: '2027-06-01T09:59:00Z', status: null },
      ]),
    );
    expect(events.filter(({ title }) => title === 'Call the yard')).toHaveLength(58);
    // It says nothing of the person.
    expect(text).not.toMatch(/@|example\.org/u);
    const tag = first.headers.get('etag')!;
    expect((await ask(`/feeds/${secret}.ics`, { 'If-None-Match': tag })).status).toBe(304);
    await client.act({ do: 'skip', id: id(), todo: winch });
    const todo = (await client.todos()).todos.find(
      ({ series }) => series.title === 'Call the yard',
    )!;
    await client.act({ do: 'done', id: id(), todo: todo.id });
    const later = await ask(`/feeds/${secret}.ics`, { 'If-None-Match': tag });
    expect(later.status).toBe(200);
    expect(eventsIn(await later.text()).map(({ title }) => title)).toContain(
      'Call the yard (done)',
    );
    // A week on it reaches further.
    server.now.set(Date.parse('2027-06-08T10:00:00Z'));
    const tomorrow = await ask(`/feeds/${secret}.ics`, {
      'If-None-Match': later.headers.get('etag')!,
    });
    expect(tomorrow.status).toBe(200);
    server.now.set(Date.parse('2027-06-01T10:00:00Z'));
  });

  test('of a sphere has what it holds, and nothing once it is withdrawn', async () => {
    const client = await someone();
    const hives = await client.write('Weigh the hives every Friday');
    await client.write('Pay the crew every Friday');
    const place = await client.placeNamed('Bees');
    await client.act({ do: 'describe', id: id(), todos: [hives], details: { place } });
    const { secret, door } = await made(client, { kind: 'feed', place, name: 'Bees' });
    const titles = eventsIn(await (await ask(`/feeds/${secret}.ics`)).text()).map(
      ({ title }) => title,
    );
    expect([...new Set(titles)]).toEqual(['Weigh the hives']);
    await client.send('DELETE', `/doors/${door.id}`);
    expect((await ask(`/feeds/${secret}.ics`)).status).toBe(404);
  });
});

describe('a way of its own', () => {
  const use = (secret: string, body: object = {}) =>
    ask(
      `/ways/${secret}`,
      { 'Content-Type': 'application/json' },
      { method: 'POST', body: JSON.stringify(body) },
    );

  test('says what it would do, does it once, and stands in the record', async () => {
    const client = await someone();
    const todo = await client.write('Change the mite board every 2 weeks on Tue');
    const { secret, door } = await made(client, { kind: 'way', todo });
    const look = (await (await ask(`/ways/${secret}`)).json()) as WayView;
    expect(look).toMatchObject({
      state: 'open',
      title: 'Change the mite board',
      due: '2027-06-01',
    });
    expect(JSON.stringify(look)).not.toContain('example.org');
    const action = id();
    for (let i = 0; i < 2; i++) {
      const view = (await (await use(secret, { id: action })).json()) as WayView;
      expect(view).toMatchObject({ state: 'done', next: { due: '2027-06-15', kind: 'firm' } });
    }
    const waits = (await (await use(secret)).json()) as WayView;
    expect(waits).toMatchObject({ state: 'waits', next: { due: '2027-06-15' } });
    const page = await client.page(todo);
    expect(page.totals.done).toBe(1);
    expect(page.record[0]).toMatchObject({ via: 'way' });
    const { body } = await client.send<DoorsView>('GET', '/doors');
    expect(body.doors[0]).toMatchObject({ kind: 'way', todo, uses: 1 });
    await client.act({ do: 'remove', id: id(), todo });
    expect((await ask(`/ways/${secret}`)).status).toBe(404);
    await client.send('DELETE', `/doors/${door.id}`);
    expect((await use(secret)).status).toBe(404);
  });

  test('of so many a period counts one', async () => {
    const client = await someone();
    const todo = await client.write('Stretch 3 times a week');
    const { secret } = await made(client, { kind: 'way', todo });
    expect((await use(secret)).status).toBe(200);
    expect((await client.page(todo)).todo.open[0]).toMatchObject({ tally: 1 });
  });
});

describe('what comes in', () => {
  const entry = (text: string, more: Partial<ExchangedTodo> = {}) => {
    const { series, details } = halvesOf(read(text, '2027-06-01').series);
    return { todo: id(), series, details, ...more };
  };

  test('with its record, in one action with one undo', async () => {
    const client = await someone();
    const times = [
      {
        slot: '2027-05-18',
        due: '2027-05-18',
        status: 'done' as const,
        closedAt: '2027-05-19T09:00:00Z',
        note: 'Dry',
      },
      {
        slot: '2027-05-25',
        due: '2027-05-25',
        status: 'missed' as const,
        closedAt: '2027-06-01T00:00:00Z',
      },
    ];
    const todos = [
      { ...entry('Check the bilge every Tuesday starting 4 May 2027'), times },
      entry('Pay the crew every Friday'),
    ];
    const action = id();
    const body = { id: action, todos };
    const answer = await client.send<TakeInAnswer>('POST', '/take-in', body);
    expect([answer.status, answer.body]).toMatchObject([200, { made: 2, changed: 0 }]);
    // Sent again it is the same.
    expect((await client.send('POST', '/take-in', body)).status).toBe(200);
    const page = await client.page(todos[0]!.todo);
    expect(page.record.map(({ slot, status, note }) => [slot, status, note])).toEqual([
      ['2027-05-25', 'missed', null],
      ['2027-05-18', 'done', 'Dry'],
    ]);
    expect(page.todo.open.map(({ slot, number }) => [slot, number])).toEqual([['2027-06-01', 3]]);
    expect((await client.act({ do: 'undo', id: id(), of: action })).status).toBe(200);
    expect((await client.todos()).todos).toEqual([]);
  });

  test('of which the record goes on: undone, entered earlier and finished late it holds', async () => {
    const client = await someone();
    const times = [
      {
        slot: '2027-05-01',
        due: '2027-05-01',
        status: 'done' as const,
        closedAt: '2027-05-20T09:00:00Z',
      },
    ];
    const it = { ...entry('Grease the winch 2 weeks after done'), times };
    it.series = { ...it.series, start: '2027-05-01' };
    await client.send('POST', '/take-in', { id: id(), todos: [it] });
    const dueOf = async () => {
      const { todo } = await client.page(it.todo);
      return [todo.open[0]?.due ?? todo.next?.due, todo.done];
    };
    expect(await dueOf()).toEqual(['2027-06-03', 1]);
    server.now.set(Date.parse('2027-06-08T10:00:00Z'));
    const done = id();
    expect(
      (await client.act({ do: 'done', id: done, todo: it.todo, when: '2027-06-05T10:00:00Z' }))
        .status,
    ).toBe(200);
    expect(await dueOf()).toEqual(['2027-06-19', 2]);
    await client.act({ do: 'undo', id: id(), of: done });
    expect(await dueOf()).toEqual(['2027-06-03', 1]);
    server.now.set(Date.parse('2027-06-01T10:00:00Z'));
  });

  test('one that is there becomes what it is elsewhere, and one undo takes all back', async () => {
    const client = await someone();
    const todo = await client.write('Check the bilge every Tuesday');
    const before = await client.page(todo);
    const it = { ...entry('Check both bilges every Wednesday'), todo, isThere: true };
    const action = id();
    const times = [{ slot: '2027-06-01', due: '2027-06-01', status: 'done' }];
    const { status } = await client.send('POST', '/take-in', {
      id: action,
      todos: [{ ...it, times }],
    });
    expect(status).toBe(200);
    const { todo: after } = await client.page(todo);
    expect([after.series.title, after.next?.due]).toEqual(['Check both bilges', '2027-06-02']);
    expect((await client.act({ do: 'undo', id: id(), of: action })).status).toBe(200);
    const { todo: again } = await client.page(todo);
    expect([again.series, again.open]).toEqual([before.todo.series, before.todo.open]);
  });

  test('nothing of what is wrong, and nothing twice', async () => {
    const client = await someone();
    const good = entry('Pay the crew every Friday');
    const refused = async (todos: object[]) => {
      const { status, body } = await client.send('POST', '/take-in', { id: id(), todos });
      return [status, body.error?.where];
    };
    expect(await refused([])).toEqual([400, 'todos']);
    expect(await refused([good, good])).toEqual([409, 'todo']);
    expect(await refused([good, { ...entry('Pay the crew'), isThere: true }])).toEqual([
      404,
      'todos',
    ]);
    expect(
      await refused([{ ...good, times: [{ slot: 'soon', due: null, status: 'done' }] }]),
    ).toEqual([400, 'todos[0].times.times.0.slot']);
    expect((await client.todos()).todos).toEqual([]);
    const came = { ...good, details: { ...good.details, came: { uid: 'theirs' } } };
    expect((await client.send('POST', '/take-in', { id: id(), todos: [came] })).status).toBe(200);
    expect(await refused([{ ...came, todo: id() }])).toEqual([409, 'todos']);
  });
});

describe('iCalendar out', () => {
  test('of one, of a place, of all, with records; what came in goes out under its own name', async () => {
    const client = await someone();
    const hives = await client.write('Weigh the hives every Tuesday, tagged honey');
    const place = await client.placeNamed('Bees');
    await client.act({ do: 'describe', id: id(), todos: [hives], details: { place } });
    await client.write('Pay the crew every Friday');
    await client.act({ do: 'done', id: id(), todo: hives });
    const details = {
      title: 'From elsewhere',
      came: { uid: 'theirs@there', kept: [['x-a', {}, 'unknown', '1']] },
    };
    const todos = [{ todo: id(), series: { start: '2027-06-09', repeat: null }, details }];
    await client.send('POST', '/take-in', { id: id(), todos });
    const asked = async (query: string) => {
      const answer = await ask(`/calendar.ics${query}`, { Cookie: client.cookies });
      const ical = await answer.text();
      return [
        answer.status,
        ...fromIcal({ ical, settings: { zone: 'Europe/London' } }).todos.map((it) => it.id),
      ];
    };
    expect(await asked(`?todo=${hives}`)).toEqual([200, hives]);
    expect(await asked(`?place=${place}`)).toEqual([200, hives]);
    expect(await asked('')).toHaveLength(4);
    expect(await asked('')).toContain('theirs@there');
    expect((await ask(`/calendar.ics?todo=${id()}`, { Cookie: client.cookies })).status).toBe(404);
    expect((await ask(`/calendar.ics?place=${id()}`, { Cookie: client.cookies })).status).toBe(404);
    const ical = await (
      await ask(`/calendar.ics?todo=${hives}`, { Cookie: client.cookies })
    ).text();
    expect(ical).toContain('CATEGORIES;X-BACK-AGAIN-PLACE=TRUE:Bees');
    expect(fromIcal({ ical, settings: { zone: 'Europe/London' } }).todos[0]!.times).toMatchObject([
      { slot: '2027-06-01', status: 'done' },
    ]);
  });
});

test('what is another person’s answers as if it did not exist', async () => {
  const [owner, other] = await Promise.all([someone(), someone()]);
  const todo = await owner.write('Check the bilge every Tuesday');
  const { door } = await made(owner, { kind: 'way', todo });
  const place = await owner.placeNamed('Bees');
  const same = async (
    method: string,
    path: (it: string) => string,
    body?: (it: string) => object,
  ) => {
    const [theirs, none] = await Promise.all(
      [path === DOOR ? door.id : todo, id()].map((it) => other.send(method, path(it), body?.(it))),
    );
    expect([theirs!.status, theirs!.body]).toEqual([none!.status, none!.body]);
    expect(theirs!.status).toBe(404);
  };
  const DOOR = (it: string) => `/doors/${it}`;
  await same('DELETE', DOOR);
  await same(
    'POST',
    () => '/doors',
    (it) => ({ kind: 'way', todo: it }),
  );
  await same(
    'POST',
    () => '/doors',
    (it) => ({ kind: 'feed', place: it === todo ? place : it }),
  );
  await same('GET', (it) => `/calendar.ics?todo=${it}`);
  await same('GET', (it) => `/calendar.ics?place=${it === todo ? place : it}`);
  const series = { start: '2027-06-09', repeat: null };
  await same(
    'POST',
    () => '/take-in',
    (it) => ({
      id: id(),
      todos: [{ todo: it, isThere: true, series, details: { title: 'Mine' } }],
    }),
  );
  expect((await owner.page(todo)).todo.series.title).toBe('Check the bilge');
  expect((await other.send<DoorsView>('GET', '/doors')).body.doors).toEqual([]);
  const text = await (await ask('/calendar.ics', { Cookie: other.cookies })).text();
  expect(text).not.toContain('bilge');
});

describe('the documented interface', () => {
  test('is made of the schemas, and names each of its routes', async () => {
    const answer = await ask('/openapi.json');
    const api = (await answer.json()) as {
      openapi: string;
      paths: Record<string, Record<string, object>>;
    };
    expect(api.openapi).toBe('3.1.0');
    const { post: actions } = api.paths['/actions']!;
    const text = JSON.stringify(actions);
    for (const deed of ['done', 'move', 'createAll', 'undo'])
      expect(text).toContain(`"const":"${deed}"`);
    const page = await (await ask('/')).text();
    for (const path of Object.keys(api.paths)) expect(page).toContain(`/api${path}`);
    // Each is really there: none answers that there is nothing at the address.
    const client = await someone();
    for (const [path, methods] of Object.entries(api.paths))
      for (const method of Object.keys(methods)) {
        const { body } = await client
          .send(
            method.toUpperCase(),
            path.replaceAll(/\{\w+\}/gu, id()),
            method === 'get' ? undefined : {},
          )
          .catch(() => ({ body: {} as never }));
        expect([path, (body as { error?: { code: string } }).error?.code]).not.toEqual([
          path,
          'route.none',
        ]);
      }
  });
});

import { randomUUID } from 'node:crypto';
import type { Question } from '@back-again/core';
import type {
  LookBackView,
  PastDayView,
  PastDaysView,
  PastTodoView,
  TotalsView,
} from '@back-again/contract/past';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';

let server: Running;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const id = randomUUID;

async function someone(at = '2027-06-01T10:00:00Z', zone = 'UTC'): Promise<Client> {
  const client = await new Client(server.url).register(zone);
  await client.clock(at);
  return client;
}
const get = async <T>(client: Client, path: string): Promise<T> => {
  const { status, body } = await client.send<T>('GET', path);
  expect({ status, body }).toMatchObject({ status: 200 });
  return body;
};
const dayOf = (client: Client, on: string) => get<PastDayView>(client, `/past/day?on=${on}`);
const todoOf = (client: Client, todo: string, more = '') =>
  get<PastTodoView>(client, `/past/todos/${todo}${more}`);
const totalsOf = (client: Client, asked: string) =>
  get<TotalsView>(client, `/past/totals?from=2027-01-01&to=2027-12-31&${asked}`);
const done = (client: Client, todo: string, more = {}) =>
  client.act({ do: 'done', id: id(), todo, ...more });

describe('true and complete', () => {
  test('what was not ticked while nobody looked is missed, not absent, in every view', async () => {
    const client = await someone();
    const todo = await client.write('Top up the batteries every day');
    await server.clock.stop();
    try {
      await client.clock('2027-06-11T10:00:00Z');
      expect((await dayOf(client, '2027-06-04')).missed).toMatchObject([
        { todo, title: 'Top up the batteries', dueOn: '2027-06-04' },
      ]);
      await client.clock('2027-06-21T10:00:00Z');
      expect((await todoOf(client, todo)).insight).toMatchObject({ done: 0, missed: 20, kept: 0 });
      await client.clock('2027-07-01T10:00:00Z');
      expect((await totalsOf(client, 'by=month')).rows).toMatchObject([
        { key: '2027-06-01', missed: 30 },
      ]);
      await client.clock('2027-07-02T10:00:00Z');
      const { days } = await get<PastDaysView>(client, '/past/days?from=2027-07-01&to=2027-07-09');
      expect(days).toMatchObject([{ date: '2027-07-01', missed: 1 }]);
      await client.clock('2027-07-04T10:00:00Z');
      const { body } = await client.send<{ ended: object[] }>(
        'GET',
        '/ended?from=2027-07-01&to=2027-07-09',
      );
      expect(body.ended).toHaveLength(4);
    } finally {
      server.clock.start();
    }
  });

  test('a finish entered for last month moves every total', async () => {
    const client = await someone('2027-06-02T10:00:00Z');
    const todo = await client.write('Grease the stern gland every day, takes 15 min');
    await client.clock('2027-07-05T10:00:00Z');
    const before = await totalsOf(client, 'by=month');
    expect(before.rows[0]).toMatchObject({ key: '2027-06-01', done: 0, missed: 29 });
    await done(client, todo, { slot: '2027-06-20', when: '2027-06-20T18:00:00Z', spent: 25 });
    const after = await totalsOf(client, 'by=month');
    expect(after.rows[0]).toMatchObject({ done: 1, missed: 28, minutes: 25, estimated: 0 });
    expect((await dayOf(client, '2027-06-20')).done).toMatchObject([
      { todo, minutes: 25, late: 0 },
    ]);
    expect((await todoOf(client, todo)).insight.months[0]).toMatchObject({ done: 1, minutes: 25 });
  });

  test('minutes are those entered, else the estimate as it was then, whenever that is said or taken back', async () => {
    const client = await someone('2027-06-02T10:00:00Z');
    const todo = await client.write('Sweep the flue every day, takes 60 min');
    await done(client, todo);
    await client.clock('2027-06-03T10:00:00Z');
    const said = id();
    await client.act({ do: 'describe', id: said, todos: [todo], details: { takes: 20 } });
    await done(client, todo);
    const minutes = async () => (await todoOf(client, todo)).insight.months[0]?.minutes;
    expect(await minutes()).toBe(80);
    // Answered later: the times before keep their estimate.
    await client.act({ do: 'answer', id: id(), todo, slot: '2027-06-03', spent: 35 });
    expect(await minutes()).toBe(95);
    expect((await totalsOf(client, 'by=month')).all).toMatchObject({ minutes: 95, estimated: 60 });
    await client.act({ do: 'answer', id: id(), todo, slot: '2027-06-03', spent: null });
    expect(await minutes()).toBe(80);
    await client.act({ do: 'answer', id: id(), todo, slot: '2027-06-02', spent: 5 });
    expect(await minutes()).toBe(25);
    await client.act({ do: 'answer', id: id(), todo, slot: '2027-06-02', spent: null });
    expect(await minutes()).toBe(80);
    await client.act({ do: 'undo', id: id(), of: said });
    expect(await minutes()).toBe(120);
    // Said at a moment that has passed, from a device that had no connection.
    await client.act({
      do: 'describe',
      id: id(),
      at: '2027-06-02T12:00:00Z',
      todos: [todo],
      details: { takes: 30 },
    });
    expect(await minutes()).toBe(90);
    expect((await totalsOf(client, 'by=month')).all).toMatchObject({ minutes: 90, estimated: 90 });
  });

  test('in another zone, or with another start of the day, each time counts by the days as they are now', async () => {
    const client = await someone('2027-06-02T02:00:00Z');
    const todo = await client.write('Check the bilge on 1 June 2027', '2027-06-01');
    await done(client, todo);
    expect((await dayOf(client, '2027-06-02')).done).toMatchObject([{ late: 1 }]);
    const { settings } = (await client.changes()) as { settings: object };
    const put = (more: object) => client.send('PUT', '/settings', { ...settings, ...more });
    await put({ dayStart: '04:00' });
    expect((await dayOf(client, '2027-06-02')).done).toEqual([]);
    expect((await dayOf(client, '2027-06-01')).done).toMatchObject([{ late: 0 }]);
    // What ends between two changes counts by neither for long.
    const other = await client.write('Mend the stern fender on 2 June 2027', '2027-06-01');
    await client.clock('2027-06-02T14:00:00Z');
    await put({ zone: 'Pacific/Auckland' });
    await done(client, other);
    await put({ dayStart: '04:00' });
    expect((await dayOf(client, '2027-06-02')).done).toMatchObject([{ todo: other, late: 0 }]);
    expect((await dayOf(client, '2027-06-03')).done).toEqual([]);
  });

  test('what was taken away keeps its record, and says so, until it is brought back', async () => {
    const client = await someone('2027-06-02T10:00:00Z');
    const todo = await client.write('Write up the log every day');
    await done(client, todo);
    const remove = id();
    await client.act({ do: 'remove', id: remove, todo });
    const it = await todoOf(client, todo);
    expect(it.removed).toMatchObject({ action: remove });
    expect(it.insight).toMatchObject({ done: 1 });
    expect((await dayOf(client, '2027-06-02')).done).toMatchObject([{ isGone: true }]);
    expect((await totalsOf(client, 'by=todo')).rows).toMatchObject([{ isGone: true, done: 1 }]);
    await client.act({ do: 'undo', id: id(), of: remove });
    expect((await todoOf(client, todo)).removed).toBeNull();
  });

  test('removed for good it is gone from every view, and nothing brings it back', async () => {
    const client = await someone('2027-06-02T10:00:00Z');
    const todo = await client.write('Write up the log every day');
    const finish = id();
    await client.act({ do: 'done', id: finish, todo });
    const forget = () => client.send('DELETE', `/past/todos/${todo}`);
    expect(await forget()).toMatchObject({ status: 409, body: { error: { code: 'todo.here' } } });
    const remove = id();
    await client.act({ do: 'remove', id: remove, todo });
    const { version } = await client.changes();
    expect((await forget()).status).toBe(204);
    expect((await client.send('GET', `/past/todos/${todo}`)).status).toBe(404);
    expect((await dayOf(client, '2027-06-02')).done).toEqual([]);
    expect((await totalsOf(client, 'by=todo')).rows).toEqual([]);
    const undo = await client.act({ do: 'undo', id: id(), of: remove });
    expect(undo).toMatchObject({ status: 409, body: { error: { code: 'undo.conflict' } } });
    expect((await forget()).status).toBe(404);
    expect((await client.changes(version)).todos).toEqual([]);
  });

  test('what is taken back never was', async () => {
    const client = await someone('2027-06-02T10:00:00Z');
    const todo = await client.write('Write up the log every day, takes 20 min');
    const finish = id();
    await client.act({ do: 'done', id: finish, todo });
    expect((await totalsOf(client, 'by=todo')).all).toMatchObject({ done: 1, minutes: 20 });
    await client.act({ do: 'undo', id: id(), of: finish });
    expect((await totalsOf(client, 'by=todo')).all).toMatchObject({ done: 0, minutes: 0 });
    expect((await dayOf(client, '2027-06-02')).counts).toEqual({ done: 0, skipped: 0, missed: 0 });
  });
});

describe('totals', () => {
  /** A sphere with a strand, a project in it, and a to-do in each, one of them tagged. */
  async function organised() {
    const client = await someone('2027-06-02T10:00:00Z');
    const sphere = await client.placeNamed('Aboard');
    const [strand, project] = [id(), id()];
    const make = (place: string, parts: object) =>
      client.act({ do: 'place', id: id(), place, parts: parts as never });
    await make(strand, { kind: 'strand', name: 'Boat upkeep', in: sphere });
    await make(project, { kind: 'project', name: 'Winter cover', in: strand });
    const write = async (sentence: string, place: string | null, tags: string[] = []) => {
      const todo = await client.write(sentence);
      await client.act({ do: 'describe', id: id(), todos: [todo], details: { place, tags } });
      return todo;
    };
    const grease = await write('Grease the stern gland every day, takes 15 min', strand, ['wet']);
    const sew = await write('Sew new straps every day, takes 60 min', project, ['dry', 'wet']);
    const write1 = await write('Write up the log every day', null);
    for (const todo of [grease, sew, write1]) await done(client, todo);
    return { client, sphere, strand, project, grease, sew };
  }

  test('by place, sphere, strand, project, to-do and tag; each time counts once in all', async () => {
    const { client, sphere, strand, project } = await organised();
    const rows = async (asked: string) =>
      (await totalsOf(client, asked)).rows
        .map(
          ({ name, under, done, minutes }) => `${under ?? '–'} / ${name}: ${done}, ${minutes} min`,
        )
        .sort();
    expect(await rows('by=place')).toEqual([
      'Aboard / Boat upkeep: 1, 15 min',
      'Aboard / Winter cover: 1, 60 min',
      '– / Unsorted: 1, 0 min',
    ]);
    expect(await rows('by=sphere')).toEqual(['– / Aboard: 2, 75 min', '– / Unsorted: 1, 0 min']);
    expect(await rows('by=strand')).toEqual([
      'Aboard / Boat upkeep: 2, 75 min',
      '– / In no strand: 1, 0 min',
    ]);
    expect(await rows('by=project')).toEqual([
      'Aboard / Winter cover: 1, 60 min',
      '– / In no project: 2, 15 min',
    ]);
    expect(await rows('by=tag')).toEqual([
      '– / Without a tag: 1, 0 min',
      '– / dry: 1, 60 min',
      '– / wet: 2, 75 min',
    ]);
    expect((await totalsOf(client, 'by=tag')).all).toMatchObject({ done: 3, minutes: 75 });
    expect(await rows(`by=todo&place=${sphere}`)).toHaveLength(2);
    expect(await rows(`by=todo&place=${strand}`)).toHaveLength(2);
    expect(await rows(`by=todo&place=${project}`)).toHaveLength(1);
  });

  test('what ended stays where it belonged, when its to-do goes elsewhere', async () => {
    const { client, strand, project, grease } = await organised();
    await client.clock('2027-06-03T10:00:00Z');
    await client.act({ do: 'describe', id: id(), todos: [grease], details: { place: project } });
    await done(client, grease);
    const { rows } = await totalsOf(client, `by=place&todo=${grease}`);
    expect(rows.map(({ key, done: n }) => [key, n]).sort()).toEqual(
      [
        [strand, 1],
        [project, 1],
      ].sort(),
    );
  });

  test('week by week from the person’s own first day, without gaps', async () => {
    const { client } = await organised();
    await client.clock('2027-06-20T10:00:00Z');
    // 2 June 2027 is a Wednesday.
    const monday = await totalsOf(client, 'by=week');
    expect(monday.rows.map(({ key }) => key)).toEqual(['2027-05-31', '2027-06-07', '2027-06-14']);
    const { settings } = (await client.changes()) as { settings: object };
    await client.send('PUT', '/settings', { ...settings, weekStart: 'SA' });
    const { rows } = await totalsOf(client, 'by=week');
    expect(rows.map(({ key }) => key)).toEqual([
      '2027-05-29',
      '2027-06-05',
      '2027-06-12',
      '2027-06-19',
    ]);
    const { periods, rows: places } = await totalsOf(client, 'by=sphere&each=month');
    expect(periods).toEqual(['2027-06-01']);
    expect(Object.keys(places[0]!.parts)).toEqual(['2027-06-01']);
  });

  test('numbers that are asked for, by the words of the question', async () => {
    const client = await someone('2027-06-02T10:00:00Z');
    const todo = await client.write('Pump out the tank every day, ask for litres');
    const question = (await todoOf(client, todo)).details.questions[0]!;
    const fill = async (day: string, litres: number) => {
      await client.clock(`${day}T10:00:00Z`);
      await done(client, todo, { answers: { [question.id]: litres } });
    };
    await fill('2027-06-02', 180.5);
    await fill('2027-06-03', 140);
    await fill('2027-07-01', 100);
    const { unit } = question as Extract<Question, { kind: 'number' }>;
    const asked = `by=month&asks=${encodeURIComponent(question.asks.toUpperCase())}&unit=${unit}`;
    const { rows, all } = await totalsOf(client, asked);
    expect(rows.map((row) => row.asked)).toEqual([
      { usual: 140, least: 140, greatest: 180.5, sum: 320.5, of: 2 },
      { usual: 100, least: 100, greatest: 100, sum: 100, of: 1 },
    ]);
    expect(all.asked).toMatchObject({ sum: 420.5, usual: 140 });
    expect((await totalsOf(client, 'by=month&asks=Nothing')).all.asked).toBeNull();
  });
});

describe('bad input is answered with what is wrong, and where', () => {
  test.each([
    ['/past/day?on=2027-02-30', 400, 'on'],
    ['/past/day', 400, 'on'],
    ['/past/days?from=2027-02-02&to=2027-02-01', 400, 'to'],
    ['/past/days?from=2020-01-01&to=2027-01-01', 400, 'to'],
    ['/past/totals?from=2027-02-02&to=2027-02-01&by=todo', 400, 'to'],
    ['/past/totals?from=1900-01-01&to=2099-12-31&by=todo', 400, 'to'],
    ['/past/totals?from=1990-01-01&to=2027-12-31&by=week', 400, 'each'],
    ['/past/totals?from=2027-01-01&to=2027-12-31&by=colour', 400, 'by'],
    ['/past/totals?from=2027-01-01&to=2027-12-31&by=todo&place=x', 400, 'place'],
    [`/past/totals?from=2027-01-01&to=2027-12-31&by=todo&place=${id()}`, 404, 'place'],
    [`/past/todos/${id()}`, 404, 'todo'],
    [`/past/looks/${id()}`, 404, 'todo'],
  ])('%s', async (path, status, where) => {
    const client = await someone();
    const answer = await client.send('GET', path);
    expect({ status: answer.status, where: answer.body.error.where }).toEqual({ status, where });
  });

  test('nobody sees what is another’s', async () => {
    const [one, other] = [await someone('2027-06-02T10:00:00Z'), await someone()];
    const todo = await one.write('Weigh the hives every day');
    const place = await one.placeNamed('Bees');
    await done(one, todo);
    expect((await other.send('GET', `/past/todos/${todo}`)).status).toBe(404);
    expect((await other.send('GET', `/past/looks/${todo}`)).status).toBe(404);
    expect((await dayOf(other, '2027-06-02')).done).toEqual([]);
    expect((await totalsOf(other, `by=todo&todo=${todo}`)).rows).toEqual([]);
    const asked = `/past/totals?from=2027-01-01&to=2027-12-31&by=todo&place=${place}`;
    expect((await other.send('GET', asked)).status).toBe(404);
  });
});

describe('looking back', () => {
  test('tells what ended since the one before, page by page', async () => {
    const client = await someone('2027-06-04T10:00:00Z');
    const look = await client.write('Look over the week every Sunday', '2027-06-04');
    await client.act({ do: 'describe', id: id(), todos: [look], details: { looksBack: true } });
    const log = await client.write('Write up the log every day, takes 20 min', '2027-06-04');
    const fender = await client.write('Mend the stern fender on 5 June 2027', '2027-06-04');
    await done(client, log);
    await client.clock('2027-06-06T17:00:00Z');
    await done(client, look);
    await client.clock('2027-06-06T18:00:00Z');
    for (const plan of ['2027-06-08', '2027-06-10', '2027-06-14'])
      await client.act({ do: 'move', id: id(), todo: fender, slot: '2027-06-05', plan });
    await client.clock('2027-06-08T10:00:00Z');
    await done(client, log);
    await client.clock('2027-06-13T17:00:00Z');
    const now = await get<LookBackView>(client, `/past/looks/${look}`);
    expect(now).toMatchObject({
      since: '2027-06-06T17:00:00Z',
      until: '2027-06-13T17:00:00Z',
      time: null,
      counts: { done: 1, skipped: 0, missed: 6 },
      minutes: 20,
      estimated: 20,
      done: [{ todo: log, times: 1 }],
      moved: [{ todo: fender, slot: '2027-06-05', moves: 3 }],
      late: [{ todo: fender, days: 8 }],
    });
    await done(client, look);
    // The one of this week as it was, and the one before.
    const { record } = await client.page(look);
    const [last, first] = record.map(({ number }) => number);
    expect(await get(client, `/past/looks/${look}?number=${last}`)).toMatchObject({
      before: first,
      after: null,
      counts: now.counts,
      moved: now.moved,
      late: now.late,
      time: { todo: look, status: 'done' },
    });
    expect(await get(client, `/past/looks/${look}?number=${first}`)).toMatchObject({
      before: null,
      after: last,
      counts: { done: 1, skipped: 0, missed: 1 },
      moved: [],
      late: [{ todo: fender, days: 1 }],
    });
    const none = await client.send('GET', `/past/looks/${look}?number=99`);
    expect(none.status).toBe(409);
  });
});

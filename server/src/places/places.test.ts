import { randomUUID } from 'node:crypto';
import type { Action, PlacePage } from '@back-again/contract';
import type { Details, PlaceParts } from '@back-again/core';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';

let server: Running;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const id = randomUUID;

async function someone(at = '2027-06-01T10:00:00Z'): Promise<Client> {
  const client = await new Client(server.url).register();
  await client.clock(at);
  return client;
}

type Draft = Action extends infer A ? (A extends Action ? Omit<A, 'id'> : never) : never;

/** Does something that has to succeed; gives its id. */
async function does(client: Client, draft: Draft): Promise<string> {
  const action = { ...draft, id: id() } as Action;
  const { status, body } = await client.act(action);
  expect([draft.do, status, body.error?.message]).toEqual([draft.do, 200, undefined]);
  return action.id;
}

const refused = async (client: Client, draft: object) => {
  const { status, body } = await client.send('POST', '/actions', { id: id(), ...draft });
  return [status, body.error.code, body.error.where];
};

async function make(client: Client, parts: Partial<PlaceParts>): Promise<string> {
  const place = id();
  await does(client, { do: 'place', place, parts });
  return place;
}

const placesOf = async (client: Client) => (await client.changes()).places ?? [];
const undo = (client: Client, of: string) => does(client, { do: 'undo', of });

/** Aboard, with boat upkeep in it, in which the winter cover is sewn. */
async function aboard(client: Client) {
  const sphere = await make(client, { kind: 'sphere', name: 'Aboard' });
  const strand = await make(client, { kind: 'strand', name: 'Boat upkeep', in: sphere });
  const project = await make(client, { kind: 'project', name: 'Winter cover', in: strand });
  return { sphere, strand, project };
}

async function writeIn(client: Client, sentence: string, place: string): Promise<string> {
  const todo = await client.write(sentence);
  await does(client, { do: 'describe', todos: [todo], details: { place } });
  return todo;
}

describe('places', () => {
  test('are made, renamed, and taken away, which leaves what belonged to them without one', async () => {
    const client = await someone();
    const { sphere, strand } = await aboard(client);
    const todo = await writeIn(client, 'Check the bilge every Tuesday', strand);
    await does(client, { do: 'place', place: strand, parts: { name: 'Upkeep', note: '**Look**' } });
    expect((await placesOf(client)).find((it) => it.id === strand)).toMatchObject({
      name: 'Upkeep',
      note: '**Look**',
      kind: 'strand',
      in: sphere,
      gone: false,
    });
    const taken = await does(client, { do: 'unplace', place: strand });
    const { places = [], todos } = await client.changes();
    expect(places.find((it) => it.id === strand)).toMatchObject({ gone: true });
    expect(todos.find((it) => it.id === todo)!.details.place).toBe(strand);
    expect(await refused(client, { do: 'unplace', place: strand })).toEqual([
      404,
      'place.none',
      'place',
    ]);
    await undo(client, taken);
    expect((await placesOf(client)).find((it) => it.id === strand)).toMatchObject({ gone: false });
  });

  test('what cannot be is refused with its place, and changes nothing', async () => {
    const client = await someone();
    const { sphere, strand, project } = await aboard(client);
    const before = await placesOf(client);
    const place = (parts: object, of: string = id()) => ({ do: 'place', place: of, parts });
    for (const [draft, ...answer] of [
      [place({ kind: 'strand', name: 'BOAT upkeep', in: sphere }), 400, 'place.name', 'name'],
      [place({ in: project }, strand), 400, 'place.holder', 'in'],
      [place({ in: strand }, strand), 400, 'place.holder', 'in'],
      [place({ kind: 'sphere', name: 'Bees', in: sphere }), 400, 'place.holder', 'in'],
      [place({ kind: 'strand', name: 'Bees', in: project }), 400, 'place.holder', 'in'],
      [place({ kind: 'project', name: 'Bees', in: id() }), 400, 'place.holder', 'in'],
      [place({ kind: 'garden', name: 'Bees' }), 400, 'place.kind', 'parts.kind'],
      [place({ kind: 'sphere', name: ' ' }), 400, 'series.name', 'parts.name'],
      [place({ kind: 'sphere', name: 'x'.repeat(61) }), 400, 'series.name', 'parts.name'],
      [place({ name: 'Bees' }), 400, 'place.kind', 'kind'],
      [place({ kind: 'sphere', name: 'Bees', colour: 'red' }), 400, 'place.part', 'parts.colour'],
      [place({ state: 'planned' }, strand), 400, 'place.state', 'state'],
      [place({ from: '2027-06-05', to: '2027-06-01' }, project), 400, 'place.to', 'to'],
      [{ do: 'rest', place: project, rests: true }, 400, 'place.rest', 'place'],
      [{ do: 'finishProject', place: strand, open: 'end' }, 400, 'place.finish', 'place'],
      [{ do: 'focus', place: id() }, 404, 'place.none', 'place'],
    ] as const)
      expect([draft, ...(await refused(client, draft))]).toEqual([draft, ...answer]);
    expect(await placesOf(client)).toEqual(before);
  });

  test('a strand that rests holds its to-dos as a pause does, and nothing is late when it goes on', async () => {
    const client = await someone();
    const { strand, project } = await aboard(client);
    const todo = await writeIn(client, 'Check the bilge every Tuesday', strand);
    const inside = await writeIn(client, 'Sew straps every Wednesday', project);
    const own = await writeIn(client, 'Sweep the flue every Tuesday', strand);
    await does(client, { do: 'pause', todos: [own], to: null });
    await client.clock('2027-06-02T10:00:00Z');
    const tried = await does(client, { do: 'rest', place: strand, rests: true });
    await undo(client, tried);
    expect((await client.page(todo)).todo.series.pauses).toBeUndefined();
    await does(client, { do: 'rest', place: strand, rests: true });
    const moved = await writeIn(client, 'Oil the lock every Thursday', strand);
    await client.clock('2027-06-16T10:00:00Z');
    expect((await client.page(todo)).totals.missed).toBe(0);
    await does(client, { do: 'rest', place: strand, rests: false });
    await client.clock('2027-06-24T10:00:00Z');
    for (const it of [todo, inside, moved]) {
      const { todo: view, record } = await client.page(it);
      const slots = [...record.map(({ slot }) => slot), ...view.open.map(({ slot }) => slot)];
      expect(slots.filter((slot) => slot > '2027-06-02' && slot < '2027-06-16')).toEqual([]);
      expect(slots.filter((slot) => slot >= '2027-06-16').length).toBeGreaterThan(0);
    }
    // A pause of its own goes on.
    expect((await client.page(own)).todo.series.pauses).toEqual([{ from: '2027-06-01', to: null }]);
  });

  test('a planned project holds what belongs to it until it goes on', async () => {
    const client = await someone();
    const sphere = await make(client, { kind: 'sphere', name: 'Bees' });
    const project = await make(client, {
      kind: 'project',
      name: 'Honey at the fair',
      in: sphere,
      state: 'planned',
      from: '2027-06-20',
    });
    const todo = await writeIn(client, 'Print labels every day', project);
    await client.clock('2027-06-04T10:00:00Z');
    expect((await client.page(todo)).totals).toEqual({ done: 0, missed: 0, skipped: 0 });
    await does(client, { do: 'place', place: project, parts: { state: 'on' } });
    expect((await client.page(todo)).todo.open).toMatchObject([{ slot: '2027-06-04' }]);
  });

  test.each(['end', 'strand', 'leave'] as const)(
    'a project is finished, and what is open: %s',
    async (open) => {
      const client = await someone();
      const { strand, project } = await aboard(client);
      const todo = await writeIn(client, 'Sew new straps every day', project);
      const before = await client.changes();
      const finished = await does(client, { do: 'finishProject', place: project, open });
      const { todos, places = [] } = await client.changes();
      expect(places.find((it) => it.id === project)).toMatchObject({ state: 'finished' });
      const state = todos.find((it) => it.id === todo)!;
      expect([state.over, state.details.place]).toEqual(
        open === 'end' ? [true, project] : [false, open === 'strand' ? strand : project],
      );
      await undo(client, finished);
      const after = await client.changes();
      const plain = (view: typeof before) => [
        view.todos.map(({ details, over, progress }) => [details, over, progress.open]),
        view.places!.map(({ state: stands, gone }) => [stands, gone]),
      ];
      expect(plain(after)).toEqual(plain(before));
    },
  );

  test('two devices rename one place: the later name holds, whenever it arrives', async () => {
    const client = await someone();
    const { strand } = await aboard(client);
    await client.clock('2027-06-01T12:00:00Z');
    const rename = (name: string, at: string) =>
      does(client, { do: 'place', place: strand, parts: { name }, at });
    const later = await rename('Hull', '2027-06-01T11:00:00Z');
    await rename('Engine', '2027-06-01T10:30:00Z');
    const name = async () => (await placesOf(client)).find((it) => it.id === strand)!.name;
    expect(await name()).toBe('Hull');
    await undo(client, later);
    expect(await name()).toBe('Engine');
  });

  test('the page of a place has what was done in it, as it was called then, and its months', async () => {
    const client = await someone();
    const { sphere, strand } = await aboard(client);
    const other = await make(client, { kind: 'sphere', name: 'Work' });
    const todo = await writeIn(client, 'Check the bilge every day, takes 20 min', strand);
    await does(client, { do: 'done', todo });
    await client.clock('2027-06-02T10:00:00Z');
    await does(client, { do: 'done', todo, spent: 35 });
    await client.clock('2027-07-01T10:00:00Z');
    await does(client, {
      do: 'describe',
      todos: [todo],
      details: { title: 'Look at the bilge', place: other },
    });
    await does(client, { do: 'done', todo });
    const page = async (of: string) => (await client.send<PlacePage>('GET', `/places/${of}`)).body;
    const { done, months } = await page(sphere);
    expect(done.map(({ title, slot }) => [title, slot])).toEqual([
      ['Check the bilge', '2027-06-02'],
      ['Check the bilge', '2027-06-01'],
    ]);
    expect(months).toHaveLength(12);
    expect(months.at(-2)).toEqual({ month: '2027-06', minutes: 55, done: 2 });
    expect((await page(other)).done).toMatchObject([{ title: 'Look at the bilge' }]);
  });
});

describe('focus, and what is above all', () => {
  test('one sphere alone is in sight, on all devices; an undo gives back what was before', async () => {
    const client = await someone();
    const { sphere } = await aboard(client);
    const other = await make(client, { kind: 'sphere', name: 'Work' });
    await writeIn(client, 'Check the bilge every Tuesday', sphere);
    await writeIn(client, 'Send the log every Tuesday', other);
    await client.write('Order wax every Tuesday');
    await client.clock('2027-06-03T10:00:00Z');
    const today = async () =>
      (
        await client.send<{ sections: { rows: { title: string }[] }[]; elsewhere: number }>(
          'GET',
          '/today',
        )
      ).body;
    const action = await does(client, { do: 'focus', place: sphere });
    const { sections, elsewhere } = await today();
    expect(sections.flatMap(({ rows }) => rows.map(({ title }) => title))).toEqual([
      'Check the bilge',
    ]);
    expect(elsewhere).toBe(2);
    await undo(client, action);
    expect((await today()).elsewhere).toBe(0);
  });

  test('three a day are above all; one that is done leaves room; the next day begins empty', async () => {
    const client = await someone();
    const todos: string[] = [];
    for (const what of ['the bilge', 'the ropes', 'the hives', 'the stove'])
      todos.push(await client.write(`Check ${what} every Tuesday`));
    const slot = '2027-06-01';
    const put = (todo: string) => does(client, { do: 'above', todo, slot, on: true });
    const first = await put(todos[0]!);
    await put(todos[1]!);
    await put(todos[2]!);
    const fourth = { do: 'above', todo: todos[3], slot, on: true };
    expect(await refused(client, fourth)).toEqual([409, 'above.full', 'todo']);
    await undo(client, first);
    await put(todos[3]!);
    await does(client, { do: 'done', todo: todos[1]! });
    await put(todos[0]!);
    const above = async () => {
      const { body } = await client.send<{
        sections: { id: string; rows: { todo: string }[] }[];
      }>('GET', '/today');
      return body.sections.find(({ id: name }) => name === 'above')?.rows.map(({ todo }) => todo);
    };
    expect(await above()).toEqual([todos[2], todos[3], todos[0]]);
    const [none] = [{ do: 'above', todo: todos[0], slot: '2027-06-15', on: true }];
    expect((await refused(client, none!))[1]).toBe('time.none');
    await client.clock('2027-06-02T10:00:00Z');
    expect(await above()).toBeUndefined();
  });
});

describe('on a time', () => {
  const HIVES =
    'Weigh the hives every Friday, steps: smoke, lift and weigh, ask for “hive one” in kg, ask whether they flew, then feed the light one 2 days later';

  test('steps and answers are of their time, and come back fresh', async () => {
    const client = await someone('2027-06-04T10:00:00Z');
    const todo = await client.write(HIVES, '2027-06-04');
    const slot = '2027-06-04';
    await does(client, { do: 'tick', todo, slot, step: '1', on: true });
    await does(client, { do: 'tick', todo, slot, step: '2', on: true });
    await does(client, { do: 'tick', todo, slot, step: '2', on: false });
    await does(client, { do: 'addStep', todo, slot, step: { id: 'x', text: 'look for mites' } });
    const done = await does(client, {
      do: 'done',
      todo,
      slot,
      answers: { 1: 34.2, 2: true },
      spent: 25,
      left: 'keep',
    });
    const page = await client.page(todo);
    expect(page.record[0]).toMatchObject({
      filled: {
        ticks: ['1'],
        added: [{ id: 'x', text: 'look for mites' }],
        answers: { 1: 34.2, 2: true },
        spent: 25,
      },
    });
    const { todos } = await client.todos();
    const titles = todos.map(({ series }) => [series.title, series.start]).sort();
    expect(titles).toEqual([
      ['Feed the light one', '2027-06-06'],
      ['The rest of: Weigh the hives', slot],
      ['Weigh the hives', slot],
    ]);
    const rest = todos.find(({ series }) => series.title.startsWith('The rest'))!;
    expect(rest.series.steps?.map(({ text }) => text)).toEqual(['lift', 'weigh', 'look for mites']);
    await undo(client, done);
    expect((await client.todos()).todos).toHaveLength(1);
    expect((await client.page(todo)).todo.open[0]!.filled).toEqual({
      ticks: ['1'],
      added: [{ id: 'x', text: 'look for mites' }],
    });
    await does(client, { do: 'done', todo, slot });
    await client.clock('2027-06-11T10:00:00Z');
    const [next] = (await client.page(todo)).todo.open;
    expect([next!.slot, next!.filled]).toEqual(['2027-06-11', undefined]);
  });

  test('what was made stays where something was done to it; the rest is taken back', async () => {
    const client = await someone('2027-06-04T10:00:00Z');
    const todo = await client.write(HIVES, '2027-06-04');
    const done = await does(client, { do: 'done', todo });
    const made = (await client.todos()).todos.find((it) => it.id !== todo)!;
    await does(client, { do: 'describe', todos: [made.id], details: { importance: 'high' } });
    await undo(client, done);
    const { todos } = await client.todos();
    expect(todos.map(({ series }) => series.title).sort()).toEqual([
      'Feed the light one',
      'Weigh the hives',
    ]);
    expect(todos.find(({ id: it }) => it === todo)!.open).toHaveLength(1);
  });

  test('what was left out is filled in later, and a change of the definition never rewrites it', async () => {
    const client = await someone('2027-06-04T10:00:00Z');
    const todo = await client.write(HIVES, '2027-06-04');
    await does(client, { do: 'tick', todo, step: '1', on: true });
    await does(client, { do: 'done', todo });
    await client.clock('2027-06-05T10:00:00Z');
    await does(client, {
      do: 'describe',
      todos: [todo],
      details: {
        steps: [{ id: '1', text: 'light the smoker' }],
        questions: [{ id: '9', asks: 'frames', kind: 'number', unit: '' }],
      },
    });
    // Written down on a device that had not heard of that.
    const at = '2027-06-04T12:00:00Z';
    const slot = '2027-06-04';
    await does(client, { do: 'answer', todo, slot, answers: { 1: 33.5 }, spent: 20, at });
    const [time] = (await client.page(todo)).record;
    expect(time!.filled).toEqual({ ticks: ['1'], answers: { 1: 33.5 }, spent: 20 });
    expect(time!.had!.steps.map(({ text }) => text)).toEqual(['smoke', 'lift', 'weigh']);
    expect(time!.had!.questions.map(({ asks }) => asks)).toEqual(['hive one', 'they flew']);
    expect((await client.page(todo)).todo.series.steps).toEqual([
      { id: '1', text: 'light the smoker' },
    ]);
  });

  test('two devices tick different steps of one time: both hold', async () => {
    const client = await someone('2027-06-04T12:00:00Z');
    const todo = await client.write(HIVES, '2027-06-04');
    await client.clock('2027-06-04T14:00:00Z');
    const tick = (step: string, at: string) =>
      does(client, { do: 'tick', todo, slot: '2027-06-04', step, on: true, at });
    await tick('2', '2027-06-04T13:30:00Z');
    await tick('1', '2027-06-04T13:00:00Z');
    expect((await client.page(todo)).todo.open[0]!.filled!.ticks!.toSorted()).toEqual(['1', '2']);
  });

  test('what is no answer, no step and no detail is refused with its place', async () => {
    const client = await someone('2027-06-04T10:00:00Z');
    const todo = await client.write(HIVES, '2027-06-04');
    const step = (n: number) => ({ id: String(n), text: 'look' });
    const describe_ = (details: object) => ({ do: 'describe', todos: [todo], details });
    const many = Array.from({ length: 101 }, (_, n) => step(n));
    for (const [draft, where] of [
      [{ do: 'done', todo, answers: { 1: '34,2' } }, 'answers.1'],
      [{ do: 'done', todo, answers: { 2: 7 } }, 'answers.2'],
      [{ do: 'done', todo, answers: { 1: { a: 1 } } }, 'answers'],
      [{ do: 'done', todo, spent: -1 }, 'spent'],
      [{ do: 'done', todo, left: 'burn' }, 'left'],
      [{ do: 'tick', todo, step: '1', on: 'yes' }, 'on'],
      [{ do: 'addStep', todo, step: { id: 'x', text: 'y'.repeat(301) } }, 'step.text'],
      [describe_({ steps: many }), 'details.steps'],
      [describe_({ steps: [{ id: '1', text: 'y'.repeat(301) }] }), 'details.steps.0.text'],
      [describe_({ steps: [step(1), step(1)] }), 'details.steps.1.id'],
      [describe_({ tags: Array.from({ length: 11 }, (_, n) => `t${n}`) }), 'details.tags'],
      [describe_({ note: 'x'.repeat(20_001) }), 'details.note'],
      [describe_({ importance: 'urgent' }), 'details.importance'],
      [describe_({ window: { from: '6:30', to: '12:00' } }), 'details.window.from'],
      [describe_({ slack: { before: 61, after: 0 } }), 'details.slack.before'],
      [describe_({ then: { title: 'rest', after: 'P3Y' } }), 'details.then.after'],
      [
        describe_({
          questions: [{ id: '1', asks: 'x', kind: 'number', unit: '<script>alert(1)</script>' }],
        }),
        'details.questions.0.unit',
      ],
      [
        describe_({ questions: [{ id: '1', asks: 'x', kind: 'scale', to: 4 }] }),
        'details.questions.0.to',
      ],
    ] as const) {
      const answer = await refused(client, draft);
      expect([draft, answer[0], answer[2]]).toEqual([draft, 400, where]);
    }
    const { todos } = await client.changes();
    expect(todos[0]!.progress.open[0]!.filled).toBeUndefined();
    const details: Partial<Details> = todos[0]!.details;
    expect(details.tags).toEqual([]);
  });

  test('several are removed at once, and brought back at once', async () => {
    const client = await someone();
    const todos = [await client.write('Order wax'), await client.write('Order frames')];
    const removed = await does(client, { do: 'removeAll', todos });
    expect((await client.todos()).todos).toEqual([]);
    await undo(client, removed);
    expect((await client.todos()).todos).toHaveLength(2);
  });
});

import { randomUUID } from 'node:crypto';
import type { Action } from '@back-again/contract';
import type { Definition } from '@back-again/core';
import type { Running } from '../server.ts';
import { Client, halvesOf, startTestServer } from '../testing/harness.ts';

// R9, R17 and several moves at once, through the HTTP interface: what is to come is moved.

let server: Running;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const BILGE: Definition = {
  title: 'Check the bilge',
  start: '2027-06-01',
  repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' },
  reminders: [{ on: 'MO', at: '18:00' }, { before: 'P0D' }],
};

/** Someone with to-dos, on Wednesday 2 June. */
async function person(...all: Definition[]) {
  const client = await new Client(server.url).register();
  await client.clock('2027-05-31T10:00:00Z');
  const settings = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO' };
  expect((await client.send('PUT', '/settings', settings)).status).toBe(200);
  const act = async (body: object) => {
    const action = { id: randomUUID(), ...body } as Action;
    return { id: action.id, ...(await client.act(action)) };
  };
  const ids = all.map(() => randomUUID());
  for (const [i, series] of all.entries())
    expect((await act({ do: 'create', todo: ids[i], ...halvesOf(series) })).status).toBe(200);
  await client.clock('2027-06-02T10:00:00Z');
  const dues = async (i: number) =>
    (await client.page(ids[i]!)).ahead.slice(0, 3).map(({ due }) => due.slice(5));
  return { client, act, ids, dues };
}

test('a slot to come: moved, in the forecast and its reminders, opened, undone', async () => {
  const { client, act, ids, dues } = await person(BILGE);
  const [todo] = ids;
  const moved = await act({ do: 'move', todo, slot: '2027-06-08', due: '2027-06-10' });
  expect(moved.status).toBe(200);
  expect(await dues(0)).toEqual(['06-10', '06-15', '06-22']);
  const { reminders } = await client.page(todo!);
  expect(reminders.slice(0, 2).map(({ at }) => at.slice(5, 16))).toEqual([
    '06-07T18:00',
    '06-10T09:00',
  ]);
  expect((await act({ do: 'undo', of: moved.id })).status).toBe(200);
  expect(await dues(0)).toEqual(['06-08', '06-15', '06-22']);
  await act({ do: 'move', todo, slot: '2027-06-08', plan: '2027-06-04T15:00' });
  await client.clock('2027-06-04T00:00:00Z');
  const { todo: page } = await client.page(todo!);
  expect(page.open.at(-1)).toMatchObject({ slot: '2027-06-08', plan: '2027-06-04' });
});

test('several at once: all or none, one undo takes all back', async () => {
  const wax: Definition = { title: 'Order wax', start: '2027-06-09', repeat: null };
  const { act, ids, dues } = await person(BILGE, wax);
  const [bilge, order] = ids;
  const moves = [
    { todo: bilge, slot: '2027-06-08', plan: '2027-06-11', proposed: true },
    { todo: order, slot: '2027-06-09', due: '2027-06-12' },
  ];
  const both = await act({ do: 'arrange', moves });
  expect(both.status).toBe(200);
  expect(await dues(1)).toEqual(['06-12']);
  expect((await act({ do: 'undo', of: both.id })).status).toBe(200);
  expect(await dues(1)).toEqual(['06-09']);
  const wrong = [...moves, { todo: order, slot: '2027-06-13', due: '2027-06-14' }];
  expect((await act({ do: 'arrange', moves: wrong })).status).toBe(409);
  expect(await dues(1)).toEqual(['06-09']);
});

test('what ended on some days, of one person alone', async () => {
  const { client, act, ids } = await person(BILGE);
  await act({ do: 'done', todo: ids[0], slot: '2027-06-01' });
  const ended = (of: Client, from: string, to: string) =>
    of.send<{ ended: { todo: string }[] }>('GET', `/ended?from=${from}&to=${to}`);
  const { body } = await ended(client, '2027-06-02', '2027-06-02');
  expect(body.ended).toMatchObject([{ todo: ids[0], slot: '2027-06-01', status: 'done' }]);
  expect((await ended(client, '2027-06-03', '2027-06-09')).body.ended).toEqual([]);
  const other = await person();
  expect((await ended(other.client, '2027-06-01', '2027-06-30')).body.ended).toEqual([]);
  for (const [from, to] of [
    ['2027-06-03', '2027-06-02'],
    ['2027-06-01', '2027-09-01'],
    ['2027-02-30', '2027-03-01'],
  ] as const)
    expect((await ended(client, from, to)).status).toBe(400);
});

test.each<[string, object, string]>([
  ['nothing said', {}, 'moves[0]'],
  ['no date', { plan: '2027-02-30' }, 'moves[0].plan'],
  ['no list of days', { days: '2027-06-08' }, 'moves[0].days'],
  ['what there is not', { where: 'home' }, 'moves[0]'],
])('refused: %s', async (_name, to, where) => {
  const { act, ids } = await person(BILGE);
  const { status, body } = await act({
    do: 'arrange',
    moves: [{ todo: ids[0], slot: '2027-06-08', ...to }],
  });
  expect(status).toBe(400);
  expect(JSON.stringify(body)).toContain(where);
});

test.each<[string, object, number]>([
  ['a measure of 0 and of 24 hours', { holds: { MO: 0, SU: 1440 } }, 200],
  ['more than a day', { holds: { MO: 1441 } }, 400],
  ['no weekday', { holds: { XX: 60 } }, 400],
  ['up until midnight', { up: { from: '06:00', to: '24:00' } }, 200],
  ['up at night', { up: { from: '22:00', to: '06:00' } }, 400],
])('measure: %s', async (_name, parts, status) => {
  const { client } = await person();
  const settings = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO', ...parts };
  expect((await client.send('PUT', '/settings', settings)).status).toBe(status);
});

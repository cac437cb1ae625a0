import { randomUUID } from 'node:crypto';
import type { Action } from '@back-again/contract';
import {
  CoreError,
  DEFAULT_SETTINGS,
  formatDay,
  formatInstant,
  parseInstant,
  plannerOf,
  whenOf,
  type Deed,
  type Occurrence,
} from '@back-again/core';
import { Life, chance } from '@back-again/core/rehearsal';
import { read } from '@back-again/core/reading';
import type { Running } from '../server.ts';
import { Client, startTestServer, halvesOf } from '../testing/harness.ts';

// What was done at a moment counts from it, whenever it arrives: from several devices, hours apart and
// out of order, with undo after undo, it is what the core alone gives.

const BORN = '2027-06-01T10:00:00Z';
const HOUR = 3600_000;
const DAY = 24 * HOUR;
const SENTENCES = [
  'Check the bilge every day',
  'Feed the hens every day at 8, 13 and 20',
  'Check the ropes every Tuesday and Friday, each one is owed',
  'Grease the stern gland 3 days after done',
  'Look at the gauge 9 hours after done',
  'Swim at the weir 3 times a week',
  'Change the mite board 2 days after done, missed 1 day after it is due',
  'Clean the panels every 2 days opens 3 days before',
  'Order wax tomorrow',
];

let server: Running;
let client: Client;
beforeAll(async () => {
  server = await startTestServer(BORN);
  await server.clock.stop();
  client = await new Client(server.url).register();
});
afterAll(() => server.stop());

type Below = ReturnType<typeof chance>;
const one = <T>(below: Below, all: readonly T[]): T => all[below(all.length)]!;

function anyDeed(below: Below, life: Life, at: number): Deed {
  const day = (n: number) => formatDay(Math.floor(at / DAY) + n);
  const slots = [...life.times.map((time) => time.slot), day(1 + below(3))];
  const slot = below(4) ? { slot: one(below, slots) } : {};
  return one<Deed>(below, [
    { do: 'done', ...slot },
    { do: 'done', ...slot },
    { do: 'done' },
    { do: 'skip', ...slot },
    { do: 'tally', ...slot },
    { do: 'move', ...slot, plan: day(below(4)) },
    { do: 'part', ...slot, part: 1 + below(98) },
    { do: 'note', ...slot, note: `Heavy ${below(9)}` },
    { do: 'drop', ...slot },
    { do: 'pause', to: day(below(3)) },
    { do: 'resume' },
    {
      do: 'change',
      ...slot,
      series: { repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=3' } },
    },
    { do: 'end' },
    { do: 'reopen' },
  ]);
}

type Brief = Pick<Occurrence, 'number' | 'slot' | 'due' | 'plan' | 'status' | 'rolled'> & {
  closedAt: number | Date | null;
  tally?: number | null;
  part?: number | null;
  note?: string | null;
};
const briefOf = ({ number, slot, due, plan, status, rolled, closedAt, ...it }: Brief) =>
  [number, slot, due, plan, status, rolled, Number(closedAt), it.tally, it.part, it.note]
    .map((part) => part ?? '-')
    .join(' ');

const codeOf = (work: () => boolean): string | null => {
  try {
    return work() ? null : 'time.none';
  } catch (error) {
    if (error instanceof CoreError) return error.code;
    throw error;
  }
};

test.each([1, 2, 3, 4])('random moments out of order, from seed %i', async (seed) => {
  const below = chance(seed);
  let now = parseInstant(BORN) + seed * 400 * DAY;
  server.now.set(now);
  const devices = [client, client.beside(server.url)];
  const lives = new Map<string, Life>();
  for (const sentence of SENTENCES) {
    const { series } = read(sentence, formatInstant(now).slice(0, 10));
    const todo = randomUUID();
    await client.act({ do: 'create', id: randomUUID(), todo, ...halvesOf(series) });
    const life = new Life(plannerOf(DEFAULT_SETTINGS), { series: whenOf(series), at: now });
    life.pass(now);
    lives.set(todo, life);
  }
  const born = now;
  const done: { todo: string; action: string }[] = [];
  let earlier = 0;
  for (let i = 0; i < 90; i++) {
    now += below(7) * HOUR;
    server.now.set(now);
    const device = one(below, devices);
    const id = randomUUID();
    if (done.length && below(5) === 0) {
      const [it] = done.splice(below(done.length), 1);
      const life = lives.get(it!.todo)!;
      life.pass(now);
      const code = codeOf(() => {
        life.undo(it!.action, now);
        return true;
      });
      const { status, body } = await device.act({ do: 'undo', id, of: it!.action });
      expect([i, status === 200 ? null : body.error.code]).toEqual([i, code]);
      if (code) done.push(it!);
      continue;
    }
    const todo = one(below, [...lives.keys()]);
    const life = lives.get(todo)!;
    life.pass(now);
    const given = below(3) ? now - below(50) * HOUR : now;
    const at = Math.max(given, born);
    const deed = anyDeed(below, life, at);
    const step = { key: id, at, deed };
    if (at < now) earlier++;
    const code = codeOf(() => (at < now ? life.doEarlier(step, now) : life.do(step)));
    if (!code) done.push({ todo, action: id });
    const several = deed.do === 'pause' || deed.do === 'resume';
    const of = several ? { todos: [todo] } : { todo };
    const moment = given < now ? { at: formatInstant(given) } : {};
    const action = { ...deed, id, ...of, ...moment } as Action;
    const { status, body } = await device.act(action);
    const got = status === 200 ? null : body.error.code;
    // Where it makes no difference, several at once are none.
    expect([i, action, got]).toEqual([i, action, several && code === 'time.none' ? null : code]);
    if (i % 10 === 9) await compare();
  }
  await compare();
  expect(earlier).toBeGreaterThan(20);

  async function compare(): Promise<void> {
    for (const [todo, life] of lives) {
      life.pass(now);
      await client.page(todo);
      const kept = await server.db.occurrences.findAll({ where: { seriesId: todo } });
      expect(kept.map((row) => briefOf(row.get())).sort()).toEqual(life.times.map(briefOf).sort());
      const row = (await server.db.series.findOne({ where: { id: todo } }))!;
      expect(row.progress.series).toEqual(life.progress.series);
    }
  }
});

describe('moments that are none', () => {
  const done = (todo: string, at: string) =>
    client.act({ do: 'done', id: randomUUID(), todo, at } as Action);

  test.each([
    ['no instant', 'yesterday', 'instant.form'],
    ['more than 60 days ago', '2030-03-01T00:00:00Z', 'at.old'],
  ])('%s', async (_name, at, code) => {
    server.now.set(parseInstant('2030-06-01T10:00:00Z'));
    const todo = await client.write('Check the bilge every day', '2030-06-01');
    const { status, body } = await done(todo, at);
    expect([status, body.error.code, body.error.where]).toEqual([400, code, 'at']);
  });

  test('one ahead counts as now, one before the to-do was made as its making', async () => {
    server.now.set(parseInstant('2030-06-01T10:00:00Z'));
    const todo = await client.write('Grease the stern gland 14 days after done', '2030-06-01');
    expect((await done(todo, '2031-01-01T00:00:00Z')).status).toBe(200);
    expect((await client.page(todo)).record[0]!.closedAt).toBe('2030-06-01T10:00:00Z');
    server.now.set(parseInstant('2030-06-03T10:00:00Z'));
    const other = await client.write('Grease the windlass 14 days after done', '2030-06-01');
    expect((await done(other, '2030-06-02T10:00:00Z')).status).toBe(200);
    expect((await client.page(other)).record[0]!.closedAt).toBe('2030-06-03T10:00:00Z');
  });

  test('what was finished at night and arrives in the morning counts from the night', async () => {
    server.now.set(parseInstant('2030-06-10T23:30:00Z'));
    const todo = await client.write('Grease the stern gland 14 days after done', '2030-06-10');
    server.now.set(parseInstant('2030-06-11T07:10:00Z'));
    expect((await done(todo, '2030-06-10T23:30:00Z')).body.todos[0]!.next!.due).toBe('2030-06-24');
  });
});

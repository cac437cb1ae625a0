import { randomUUID } from 'node:crypto';
import type { Action, TodoPage } from '@back-again/contract';
import type { Definition, Settings } from '@back-again/core';
import type { Running } from '../server.ts';
import { Client, startTestServer, halvesOf } from '../testing/harness.ts';

// The worked examples of the rules, through the HTTP interface: what a client sends and is shown.

let server: Running;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

type Deed = Action extends infer A ? (A extends Action ? Omit<A, 'id' | 'todo'> : never) : never;
interface Step {
  at: string;
  deed: Deed;
}

/** Keeps a definition at `from`, does the steps, and gives its page at `until`. */
async function live(
  series: Definition,
  from: string,
  steps: Step[],
  until: string,
  settings: Partial<Settings> = {},
): Promise<TodoPage> {
  const client = await new Client(server.url).register();
  await client.clock(from);
  const all = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO', ...settings };
  expect((await client.send('PUT', '/settings', all)).status).toBe(200);
  const todo = randomUUID();
  const send = async (body: object) => {
    const { status } = await client.act({ id: randomUUID(), todo, ...body } as Action);
    expect(status).toBe(200);
  };
  await send({ do: 'create', ...halvesOf(series) });
  for (const { at, deed } of steps) {
    await client.clock(at);
    await send(deed);
  }
  await client.clock(until);
  return client.page(todo);
}

const statuses = ({ record, todo }: TodoPage) =>
  [...record, ...todo.open]
    .map(({ slot, status }) => `${slot} ${status}`)
    .sort((a, b) => (a < b ? -1 : 1));
const dues = (page: TodoPage) =>
  [...page.todo.open.map(({ due }) => due), ...page.ahead.map(({ due }) => due)].slice(0, 6);

const calendar = (rule: string) => ({ by: 'calendar', rule }) as const;
const done = (at: string): Step => ({ at, deed: { do: 'done' } });

test.each<[string, Definition, string[], Partial<Settings>?]>([
  [
    'first Saturday of each month at 10:00',
    {
      title: 'Repair café',
      start: '2027-01-02',
      at: ['10:00'],
      repeat: calendar('FREQ=MONTHLY;BYDAY=1SA'),
    },
    ['01-02', '02-06', '03-06', '04-03', '05-01', '06-05'].map((d) => `2027-${d}T10:00`),
  ],
  [
    'last working day of each month, with the holidays of England',
    {
      title: 'Send the invoices',
      start: '2027-01-01',
      repeat: { by: 'calendar', workday: -1, per: 'month' },
    },
    ['01-29', '02-26', '03-31', '04-30', '05-28', '06-30'].map((d) => `2027-${d}`),
    { holidays: 'GB-ENG' },
  ],
  [
    'the 31st of each month or its last day',
    {
      title: 'Read the meter',
      start: '2027-01-31',
      repeat: calendar('FREQ=MONTHLY;SKIP=BACKWARD;BYMONTHDAY=31'),
    },
    ['01-31', '02-28', '03-31', '04-30', '05-31', '06-30'].map((d) => `2027-${d}`),
  ],
  [
    'the 31st of each month that has it',
    {
      title: 'Read the meter',
      start: '2027-01-31',
      repeat: calendar('FREQ=MONTHLY;BYMONTHDAY=31'),
    },
    ['01-31', '03-31', '05-31', '07-31', '08-31', '10-31'].map((d) => `2027-${d}`),
  ],
  [
    '29 February every 4 years',
    {
      title: 'Turn the anode',
      start: '2028-02-29',
      repeat: calendar('FREQ=YEARLY;INTERVAL=4;BYMONTH=2;BYMONTHDAY=29'),
    },
    ['2028', '2032', '2036', '2040', '2044', '2048'].map((year) => `${year}-02-29`),
  ],
])('%s', async (_name, series, expected, settings = {}) => {
  const page = await live(series, '2027-01-01T08:00:00Z', [], '2027-01-01T08:00:00Z', settings);
  expect(dues(page)).toEqual(expected);
});

test('every 9 days until 30 September: 21 times, the last on the 28th', async () => {
  const series: Definition = {
    title: 'Top up the batteries',
    start: '2027-04-01',
    repeat: calendar('FREQ=DAILY;INTERVAL=9'),
    ends: { on: '2027-09-30' },
  };
  const page = await live(series, '2027-04-01T08:00:00Z', [], '2027-12-01T08:00:00Z');
  expect(statuses(page)).toHaveLength(21);
  expect(page.todo.open).toMatchObject([{ slot: '2027-09-28' }]);
  expect(page).toMatchObject({ left: 0, ahead: [] });
});

test('every day from 3 May within 50 days: the last on Monday 21 June, 50 times', async () => {
  const series: Definition = {
    title: 'Feed the nucleus',
    start: '2027-05-03',
    repeat: calendar('FREQ=DAILY'),
    ends: { within: 'P50D' },
  };
  const page = await live(series, '2027-05-03T08:00:00Z', [], '2027-05-03T08:00:00Z');
  expect(page.left).toBe(49);
  const end = await live(series, '2027-05-03T08:00:00Z', [], '2027-12-01T08:00:00Z');
  expect(end.todo.open).toMatchObject([{ slot: '2027-06-21' }]);
});

const TUESDAYS: Definition = {
  title: 'Check the bilge',
  start: '2027-06-01',
  repeat: calendar('FREQ=WEEKLY;BYDAY=TU'),
};
const GREASE: Definition = {
  title: 'Grease the stern gland',
  start: '2027-06-02',
  repeat: { by: 'completion', every: 'P14D' },
};
const BORN = '2027-06-01T08:00:00Z';

test.each<[string, Definition, Step[], string, string[], string | null]>([
  [
    'Tuesdays, the latest alone',
    TUESDAYS,
    [done('2027-06-09T10:00:00Z')],
    '2027-06-09T11:00:00Z',
    ['2027-06-01 missed', '2027-06-08 done'],
    '2027-06-15',
  ],
  [
    'Tuesdays, each one owed, done twice',
    { ...TUESDAYS, owe: 'every' },
    [done('2027-06-09T10:00:00Z'), done('2027-06-09T10:01:00Z')],
    '2027-06-09T11:00:00Z',
    ['2027-06-01 done', '2027-06-08 done'],
    '2027-06-15',
  ],
  [
    '14 days after done, done 14 days late',
    GREASE,
    [done('2027-06-16T10:00:00Z')],
    '2027-06-16T11:00:00Z',
    ['2027-06-02 done'],
    '2027-06-30',
  ],
  [
    '14 days after done, onto Saturdays',
    { ...GREASE, repeat: { by: 'completion', every: 'P14D', onto: 'FREQ=WEEKLY;BYDAY=SA' } },
    [done('2027-06-16T10:00:00Z')],
    '2027-06-16T11:00:00Z',
    ['2027-06-02 done'],
    '2027-07-03',
  ],
  [
    'the 12th of each month, moved to the 15th and done then',
    { ...TUESDAYS, start: '2027-06-12', repeat: calendar('FREQ=MONTHLY;BYMONTHDAY=12') },
    [
      { at: '2027-06-12T10:00:00Z', deed: { do: 'move', plan: '2027-06-15' } },
      done('2027-06-15T10:00:00Z'),
    ],
    '2027-06-15T11:00:00Z',
    ['2027-06-12 done'],
    '2027-07-12',
  ],
  [
    'Tue, Thu, Sat: on Thursday Tuesday’s is missed',
    { ...TUESDAYS, start: '2027-06-08', repeat: calendar('FREQ=WEEKLY;BYDAY=TU,TH,SA') },
    [],
    '2027-06-10T10:00:00Z',
    ['2027-06-08 missed', '2027-06-10 open'],
    '2027-06-12',
  ],
  [
    '1000 hours after done',
    { ...GREASE, start: '2027-03-01', repeat: { by: 'completion', every: 'PT1000H' } },
    [done('2027-06-01T18:20:00Z')],
    '2027-06-01T19:00:00Z',
    ['2027-03-01 done'],
    '2027-07-13T10:20',
  ],
  [
    'a month after done on 31 August',
    { ...GREASE, repeat: { by: 'completion', every: 'P1M' } },
    [done('2027-08-31T10:00:00Z'), done('2027-09-30T10:00:00Z')],
    '2027-09-30T11:00:00Z',
    ['2027-06-02 done', '2027-09-30 done'],
    '2027-10-30',
  ],
])('%s', async (_name, series, steps, until, expected, next) => {
  const page = await live(series, BORN, steps, until);
  expect(statuses(page)).toEqual(expected);
  expect(page.todo.next?.due ?? null).toBe(next);
});

test('rolled once on Wednesday: planned for today, due on Tuesday', async () => {
  const series: Definition = {
    ...TUESDAYS,
    start: '2027-06-08',
    repeat: calendar('FREQ=WEEKLY;BYDAY=TU,TH,SA'),
  };
  const page = await live(series, BORN, [], '2027-06-09T10:00:00Z');
  expect(page.todo.open).toMatchObject([{ due: '2027-06-08', plan: '2027-06-09', rolled: 1 }]);
});

test('4 times a week, 3 tallied by Sunday: missed with 3 of 4', async () => {
  const series: Definition = {
    ...GREASE,
    title: 'Swim at the weir',
    repeat: { by: 'quota', times: 4, per: 'week' },
  };
  const tally = (at: string): Step => ({ at, deed: { do: 'tally' } });
  const steps = ['02', '04', '06'].map((day) => tally(`2027-06-${day}T10:00:00Z`));
  const page = await live(series, BORN, steps, '2027-06-07T08:00:00Z');
  expect(page.record).toMatchObject([{ slot: '2027-05-31', status: 'missed', tally: 3 }]);
  expect(page.todo).toMatchObject({ quota: 4, open: [{ slot: '2027-06-07', tally: 0 }] });
});

test('a time of day that the clock skips, in London on 28 March', async () => {
  const series: Definition = {
    title: 'Close the vents',
    start: '2027-03-28',
    at: ['01:30'],
    repeat: calendar('FREQ=DAILY'),
  };
  const page = await live(series, '2027-03-28T08:00:00Z', [], '2027-03-28T08:00:00Z', {
    zone: 'Europe/London',
  });
  expect(page.todo.open).toMatchObject([{ slot: '2027-03-28T01:30', due: '2027-03-28T02:30' }]);
});

describe('what a person does with a to-do', () => {
  const one = async (series: Definition, at = BORN) => {
    const client = await new Client(server.url).register();
    await client.clock(at);
    const todo = randomUUID();
    await client.act({ do: 'create', id: randomUUID(), todo, ...halvesOf(series) });
    const act = async (deed: { do: Action['do']; [part: string]: unknown }) => {
      const id = randomUUID();
      const of = deed.do === 'undo' || deed.do === 'pause' ? {} : { todo };
      const { status, body } = await client.act({ id, ...of, ...deed } as Action);
      return { id, status, code: status === 200 ? null : body.error.code };
    };
    return { client, todo, act, page: () => client.page(todo) };
  };

  test('a part of it, a note, and both are kept with the record', async () => {
    const { act, page } = await one(TUESDAYS);
    await act({ do: 'part', part: 40 });
    await act({ do: 'note', note: ' The pump ran dry. ' });
    expect((await page()).todo.open).toMatchObject([{ part: 40, note: 'The pump ran dry.' }]);
    await act({ do: 'done' });
    expect((await page()).record).toMatchObject([{ status: 'done', note: 'The pump ran dry.' }]);
    await act({ do: 'note', slot: '2027-06-01', note: 'Mended it.' });
    expect((await page()).record).toMatchObject([{ status: 'done', note: 'Mended it.' }]);
    expect((await act({ do: 'part', part: 100 })).status).toBe(400);
  });

  test('paused and resumed, all at once, with one undo', async () => {
    const { client, act, page } = await one(TUESDAYS);
    await client.write('Weigh the hives every Friday');
    const id = randomUUID();
    const pause = { do: 'pause', id, from: '2027-06-02', to: '2027-06-14' } as const;
    expect((await client.act(pause)).body.todos).toHaveLength(2);
    expect((await page()).ahead[0]).toMatchObject({ due: '2027-06-15' });
    await client.act({ do: 'undo', id: randomUUID(), of: id });
    expect((await page()).ahead[0]).toMatchObject({ due: '2027-06-08' });
    await act({ do: 'pause' });
    await client.clock('2027-06-09T10:00:00Z');
    expect((await page()).todo).toMatchObject({ ended: false, next: null });
    expect((await client.act({ do: 'resume', id: randomUUID() })).body.todos).toHaveLength(2);
    expect((await page()).ahead[0]).toMatchObject({ due: '2027-06-15' });
  });

  test('changed from this time on: one history runs through, and it is undone', async () => {
    const { client, act, page } = await one(TUESDAYS);
    await act({ do: 'done' });
    await client.clock('2027-06-09T10:00:00Z');
    const before = await page();
    const { id } = await act({
      do: 'change',
      series: { repeat: calendar('FREQ=WEEKLY;BYDAY=TH') },
    });
    const after = await page();
    expect(after.todo.series.repeat).toEqual(calendar('FREQ=WEEKLY;BYDAY=TH'));
    expect(statuses(after)).toEqual(['2027-06-01 done']);
    expect(after.todo.next).toMatchObject({ due: '2027-06-10' });
    await act({ do: 'undo', of: id });
    expect(await page()).toEqual(before);
    const bad = await act({ do: 'change', series: { closedDays: 'sometimes' } });
    expect(bad).toMatchObject({ status: 400, code: 'series.closedDays' });
    expect(await page()).toEqual(before);
  });

  test('from a later time on', async () => {
    const { act, page } = await one(TUESDAYS);
    await act({
      do: 'change',
      slot: '2027-06-15',
      series: { repeat: calendar('FREQ=WEEKLY;BYDAY=FR') },
    });
    expect((await page()).ahead.slice(0, 3).map(({ due }) => due)).toEqual([
      '2027-06-08',
      '2027-06-18',
      '2027-06-25',
    ]);
    expect((await page()).todo.turns).toMatchObject([{ from: '2027-06-15' }]);
  });

  test('this time, what follows, or all are taken away', async () => {
    const { client, todo, act, page } = await one(TUESDAYS);
    await act({ do: 'drop', slot: '2027-06-08' });
    expect((await page()).ahead[0]).toMatchObject({ due: '2027-06-15' });
    const { id } = await act({ do: 'drop', slot: '2027-06-01' });
    expect((await page()).todo.open).toEqual([]);
    expect((await page()).record).toEqual([]);
    await act({ do: 'undo', of: id });
    await act({ do: 'end', slot: '2027-06-22' });
    expect((await page()).ahead.map(({ due }) => due)).toEqual(['2027-06-15']);
    await act({ do: 'remove' });
    expect((await client.send('GET', `/todos/${todo}`)).status).toBe(404);
  });

  test('ended now and opened again later: what would have come meanwhile does not', async () => {
    const { client, act, page } = await one(TUESDAYS);
    await act({ do: 'end' });
    expect(await page()).toMatchObject({
      todo: { ended: true, open: [] },
      record: [{ status: 'skipped' }],
    });
    await client.clock('2027-06-16T10:00:00Z');
    await act({ do: 'reopen' });
    expect((await page()).todo).toMatchObject({ ended: false, next: { due: '2027-06-22' } });
    expect((await act({ do: 'reopen' })).code).toBe('time.none');
  });

  test('late ones are put off to one day together', async () => {
    const { client, todo, page } = await one(TUESDAYS);
    await client.clock('2027-06-04T10:00:00Z');
    const times = [{ todo, slot: '2027-06-01' }];
    await client.act({ do: 'bring', id: randomUUID(), times, to: '2027-06-06' });
    expect((await page()).todo.open).toMatchObject([{ plan: '2027-06-06', due: '2027-06-01' }]);
  });
});

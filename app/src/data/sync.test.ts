import type { ChangesView } from '@back-again/contract';
import type { Answered, Asked } from './ask.ts';
import type { Bytes, Kept } from './local/kept.ts';
import type { Dated } from './local/play.ts';
import type { Pending } from './local/slice.ts';
import { Sync, type Told } from './sync.ts';
import { NOW, newStore, todo } from './testing.ts';

// Keeping in step, with a server of its own making for each test.

const settings = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO' } as const;

const changes = (more: Partial<ChangesView>): ChangesView => ({
  version: 1,
  now: NOW,
  all: false,
  todos: [],
  removed: [],
  next: null,
  ...more,
});
const done = (id: string): Pending => ({
  by: 'me',
  action: { do: 'done', id, todo: 'a', at: NOW } as Dated,
});

const answered = (it: 'done' | 'file') => ({
  version: 2,
  now: NOW,
  today: '2027-06-01',
  action: { id: 'x', do: it },
  todos: [],
  removed: [],
});

function made(answers: (asked: Asked) => Answered) {
  const store = newStore();
  const asked: string[] = [];
  const told: Told[] = [];
  const waiting: Pending[] = [];
  const bytes = new Map<string, Bytes>();
  const takeOff = (ids: readonly string[]) => {
    const left = waiting.filter(({ action }) => !ids.includes(action.id));
    waiting.splice(0, waiting.length, ...left);
  };
  const kept: Kept = {
    keepBytes: async (id, it) => void bytes.set(id, it),
    bytes: async (id) => bytes.get(id) ?? null,
    forgetBytes: async (id) => void bytes.delete(id),
    last: async () => null,
    read: async () => ({ part: null, todos: [], pending: [...waiting], aside: [] }),
    pending: async () => waiting,
    wait: async (it) => void waiting.push(it),
    tried: async () => undefined,
    settle: async (ids) => takeOff(ids),
    keep: async (_part, { settled }) => takeOff(settled === undefined ? [] : [settled]),
    forget: async () => undefined,
    onKeeping: () => undefined,
  };
  const sync = new Sync({
    store,
    kept,
    tell: (it) => told.push(it),
    ask: async (it) => {
      asked.push(`${it.method ?? 'GET'} ${it.url}`);
      return answers(it);
    },
  });
  return { sync, store, asked, told, waiting, bytes, here: () => store.getState().local };
}

test('pages that follow on each other lead to the version of the first: what changed meanwhile comes later', async () => {
  const { sync, here, asked } = made(({ url }) => ({
    data: url.includes('after')
      ? changes({ version: 9, all: true, todos: [todo('b', 9)] })
      : changes({
          version: 7,
          all: true,
          settings,
          holidays: [],
          todos: [todo('a', 3)],
          next: 'a',
        }),
  }));
  await sync.begin('me');
  sync.end();
  expect(asked).toEqual(['GET /changes?since=0', 'GET /changes?since=0&after=a']);
  expect(here().version).toBe(7);
  expect(here().said.ids).toEqual(['a', 'b']);
  // A version that is here already is no news; a later one is asked for.
  await sync.news(7);
  expect(asked).toHaveLength(2);
  await sync.news(9);
  expect(asked.at(-2)).toBe('GET /changes?since=7');
});

test('all that there is takes the place of what was here', async () => {
  let n = 0;
  const { sync, here } = made(() => ({
    data: n++
      ? changes({ version: 2, all: true, todos: [todo('b', 2)] })
      : changes({ version: 5, all: true, settings, holidays: [], todos: [todo('a', 5)] }),
  }));
  await sync.begin('me');
  await sync.refresh();
  sync.end();
  expect([here().version, here().said.ids]).toEqual([2, ['b']]);
});

test('what is in a file is sent before it is attached, and goes on where the connection was lost', async () => {
  const PIECE = 4;
  const BYTES = [0, 1, 2, 3, 4, 5, 6, 7, 8];
  const there: number[] = [];
  let isOpen = false;
  const { sync, here, asked, bytes } = made(({ url, method, bytes: piece }) => {
    if (!method) return { data: changes({ all: true, settings, holidays: [] }) };
    if (url === '/files')
      return { data: { id: 'f', pieces: 3, pieceBytes: PIECE, there: [...there], done: false } };
    if (url === '/actions') return { data: answered('file') };
    if (there.length === 1 && !isOpen) return { error: { status: 'FETCH_ERROR' } };
    const n = Number(url.at(-1));
    expect([...piece!]).toEqual(BYTES.slice(n * PIECE, (n + 1) * PIECE));
    there.push(n);
    return { data: {} };
  });
  await sync.begin('me');
  sync.end();
  await sync.holdFile('f', Uint8Array.from(BYTES), 'sum');
  const file = { id: 'f', name: 'a.png', type: 'image/png', size: 9 };
  await sync.add({
    by: 'me',
    action: { do: 'file', id: 'x', at: NOW, todo: 'a', slot: '2027-06-01', file },
  });
  expect(here().pending).toHaveLength(1);
  expect([here().isConnected, bytes.size]).toEqual([false, 1]);
  isOpen = true;
  await sync.send();
  expect(here().pending).toEqual([]);
  expect(asked.slice(1)).toEqual([
    'POST /files',
    'PUT /files/f/0',
    'PUT /files/f/1',
    'POST /files',
    'PUT /files/f/1',
    'PUT /files/f/2',
    'POST /actions',
  ]);
  expect(bytes.size).toBe(0);
  // Taken back before it is sent, it is not kept either.
  isOpen = false;
  there.splice(0, there.length, 0);
  await sync.holdFile('f', Uint8Array.from(BYTES), 'sum');
  await sync.add({
    by: 'me',
    action: { do: 'file', id: 'y', at: NOW, todo: 'a', slot: '2027-06-01', file },
  });
  expect(bytes.size).toBe(1);
  await sync.drop('y');
  expect(bytes.size).toBe(0);
});

test.each<[string, Answered]>([
  ['no connection', { error: { status: 'FETCH_ERROR' } }],
  ['a proxy that fails', { error: { status: 502 } }],
  ['a page of something between', { error: { status: 'PARSING_ERROR' } }],
  ['a page of something between that says no', { error: { status: 404 } }],
  ['a session that ran out', { error: { status: 401, data: { error: { code: 'session.none' } } } }],
  ['half an answer', { data: { now: NOW } }],
])('keeps what waits, and asks for nothing behind it: %s', async (_name, answer) => {
  const { sync, here, asked, waiting } = made(({ method }) =>
    method ? answer : { data: changes({ all: true, settings, holidays: [] }) },
  );
  await sync.begin('me');
  sync.end();
  await sync.add(done('x'));
  await sync.refresh();
  expect(here().pending.map(({ action, tried }) => [action.id, tried])).toEqual([['x', true]]);
  expect(waiting).toHaveLength(1);
  expect(asked.filter((it) => it.startsWith('GET'))).toHaveLength(1);
});

test('a refusal of that very action takes it off, with what was to take it back, and is told once', async () => {
  const refusal = {
    error: { code: 'todo.none', where: 'todo', message: 'There is no such to-do.' },
  };
  const { sync, here, waiting, told } = made(({ method }) =>
    method
      ? { error: { status: 404, data: refusal } }
      : { data: changes({ all: true, settings, holidays: [], todos: [todo('a', 1)] }) },
  );
  await sync.begin('me');
  sync.end();
  sync.hear({ kind: 'waits', it: done('x') });
  waiting.push(done('x'));
  await sync.add({ by: 'me', action: { do: 'undo', id: 'y', of: 'x', at: NOW } as Dated });
  expect(here().pending).toEqual([]);
  expect(waiting).toEqual([]);
  expect(here().refused).toEqual([
    {
      title: 'Weigh the hives',
      words: 'There is no such to-do.',
      of: { action: done('x').action, code: 'todo.none', where: 'todo' },
    },
  ]);
  expect(told.map(({ kind }) => kind)).toContain('refused');
});

test('what another window was sending while it was taken back here is taken back behind it', async () => {
  const { sync, here } = made(() => ({ error: { status: 'FETCH_ERROR' } }));
  await sync.read('me');
  sync.hear({ kind: 'waits', it: done('x') });
  await sync.drop('x');
  const answer = answered('done');
  sync.hear({ kind: 'answered', answer, by: 'me' });
  expect(here().pending.map(({ action }) => action)).toMatchObject([{ do: 'undo', of: 'x' }]);
  // What belongs to another person is none of this window’s matter.
  sync.hear({ kind: 'answered', answer, by: 'you' });
  expect(here().pending).toHaveLength(1);
  sync.end();
});

test('all that is asked says whose to-dos are here', async () => {
  const by: unknown[] = [];
  const { sync } = made((asked) => {
    by.push(asked.by);
    return { error: { status: 'FETCH_ERROR' } };
  });
  await sync.begin('me');
  await sync.add(done('x'));
  sync.end();
  expect(by).toEqual(['me', 'me']);
});

test('a window that slept reads what waits from the device', async () => {
  const { sync, here, waiting } = made(({ method }) =>
    method
      ? { error: { status: 'FETCH_ERROR' } }
      : { data: changes({ all: true, settings, holidays: [] }) },
  );
  await sync.begin('me');
  sync.end();
  // Another window kept one and sent another meanwhile.
  waiting.push(done('x'));
  await sync.wake();
  expect(here().pending.map(({ action }) => action.id)).toEqual(['x']);
});

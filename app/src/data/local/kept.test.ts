import 'fake-indexeddb/auto';
import { randomUUID } from 'node:crypto';
import { deserialize, serialize } from 'node:v8';
import { Sync } from '../sync.ts';
import { makeKept } from './kept.ts';
import type { Dated } from './play.ts';
import type { Pending } from './slice.ts';
import { NOW, newStore, todo } from '../testing.ts';

// What a device keeps, whenever its page ends: the page ends when the database takes nothing any more.

// The page of these tests has none (HTML, structuredClone).
globalThis.structuredClone ??= (it: unknown) => deserialize(serialize(it));

/** A page on a database of a device: it knows one to-do, does something to it, and its server answers. */
async function page(database: string) {
  const store = newStore();
  const data = (version: number) => ({
    version,
    now: NOW,
    todos: [todo('a', version)],
    removed: [],
  });
  const sync = new Sync({
    store,
    kept: makeKept(database),
    tell: () => undefined,
    ask: async ({ url }) => ({
      data:
        url === '/actions'
          ? { ...data(2), today: '2027-06-01', action: { id: 'x', do: 'done' } }
          : { ...data(1), all: true, next: null },
    }),
  });
  await sync.begin('me');
  sync.end();
  return sync;
}

/** Lets the database take so many changes more, and none behind them; gives how many it was asked for. */
function endAfter(changes: number) {
  const { transaction } = IDBDatabase.prototype;
  let asked = 0;
  IDBDatabase.prototype.transaction = function (this: IDBDatabase, names, mode, ...rest) {
    if (mode === 'readwrite' && asked++ >= changes) throw new Error('The page has ended.');
    return transaction.call(this, names, mode, ...rest);
  };
  return {
    asked: () => asked,
    over: () => void (IDBDatabase.prototype.transaction = transaction),
  };
}

test('what the server has done waits no more and can be taken back, or waits still: never neither', async () => {
  const found: string[] = [];
  for (let changes = 0, most = Infinity; changes <= most; changes++) {
    const database = randomUUID();
    const sync = await page(database);
    const ending = endAfter(changes);
    const it: Pending = { by: 'me', action: { do: 'done', id: 'x', todo: 'a', at: NOW } as Dated };
    await sync.add(it).finally(ending.over);
    if (changes > ending.asked()) break;
    most = ending.asked();
    const { part, pending } = await makeKept(database).read('me');
    const waits = pending.some(({ action }) => action.id === 'x');
    const isKept = part!.version === 2 && part!.undoable.some(({ action }) => action === 'x');
    found.push(waits ? (isKept ? 'both' : 'waits') : isKept ? 'kept' : 'neither');
  }
  // The first page ends before it is written down: there it was answered all the same.
  expect(found.slice(1)).toEqual([...found.slice(1, -1).map(() => 'waits'), 'kept']);
  expect(found.length).toBeGreaterThan(2);
});

import type { TodoState } from '@back-again/contract';
import {
  openDB,
  type DBSchema,
  type IDBPCursorWithValue,
  type IDBPDatabase,
  type IDBPObjectStore,
  type StoreNames,
} from 'idb';
import { stored } from '../storage.ts';
import type { Keeping, LocalPart, Pending } from './slice.ts';

/** What this device keeps of people: in IndexedDB, which all windows of one browser share. */

/** The form of what is kept; another form is fetched anew. */
const FORM = 2;
const NAME = 'back-again';

interface Schema extends DBSchema {
  /** By name. */
  people: { key: string; value: LocalPart & { form: number } };
  /** By name and id. */
  todos: { key: [string, string]; value: { by: string; state: TodoState } };
  /** What waits to be sent, by its place in the order. */
  pending: { key: number; value: Pending };
  /** What is in files that wait to be sent, by their ids. */
  bytes: { key: string; value: Bytes };
  /** What was shown last. */
  last: { key: 'name'; value: string };
}

/** What is in a file. */
export interface Bytes {
  by: string;
  bytes: Uint8Array<ArrayBuffer>;
  /** SHA-256 in hexadecimal digits; null where the browser cannot tell. */
  sum: string | null;
}

export interface Read {
  part: LocalPart | null;
  todos: TodoState[];
  pending: Pending[];
  /** What waited and cannot be read, as text. */
  aside: string[];
}

/** The to-dos that changed and those that are gone; or all there are. */
export interface News {
  changed: readonly TodoState[];
  removed: readonly string[];
  all?: boolean;
  /** By which action, that waited. */
  settled?: string;
}

/** Where it is kept; where the browser refuses, all of it comes to nothing, which {@link Kept.keeping} says. */
export interface Kept {
  /** Whose to-dos were shown last. */
  last(): Promise<string | null>;
  read(name: string): Promise<Read>;
  /** What waits, in order. */
  pending(): Promise<Pending[]>;
  wait(it: Pending): Promise<void>;
  tried(id: string): Promise<void>;
  settle(ids: readonly string[]): Promise<void>;
  /** Keeps what is in a file until it is sent. */
  keepBytes(id: string, it: Bytes): Promise<void>;
  bytes(id: string): Promise<Bytes | null>;
  forgetBytes(id: string): Promise<void>;
  /**
   * Keeps how a person’s to-dos stand, and takes off what waits the one by which they came to stand so: both or
   * neither, whenever the page ends.
   */
  keep(part: LocalPart, news: News): Promise<void>;
  /** Removes all of a person, and what waits of them where that is wanted. */
  forget(name: string): Promise<void>;
  /** Hears whether it is kept. */
  onKeeping(heard: (keeping: Keeping) => void): void;
}

type Store = IDBPDatabase<Schema>;
type Waiting = IDBPCursorWithValue<Schema, StoreNames<Schema>[], 'pending', unknown, 'readwrite'>;
type AllWaiting = IDBPObjectStore<Schema, StoreNames<Schema>[], 'pending', 'readwrite'>;

async function opened(name: string): Promise<Store> {
  return openDB<Schema>(name, 2, {
    upgrade(db, before) {
      if (before < 1) {
        db.createObjectStore('people');
        db.createObjectStore('todos');
        db.createObjectStore('pending', { autoIncrement: true });
        db.createObjectStore('last');
      }
      if (before < 2) db.createObjectStore('bytes');
    },
    // A window with a newer program has another form of it: this one lets go.
    blocking: (_current, _wanted, event) => (event.target as IDBDatabase).close(),
  });
}

const isPending = (it: unknown): it is Pending => {
  const { by, action } = (it ?? {}) as Partial<Pending>;
  return typeof by === 'string' && typeof action?.id === 'string' && typeof action.at === 'string';
};

/**
 * What is done is written down at once, in a place that takes it before the page can end, until the
 * database has it: the end of a page ends what the database has not finished. Each has a key of its own.
 */
const AT_ONCE = 'back-again waits ';
const keyOf = ({ action }: Pending) => `${AT_ONCE}${action.at} ${action.id}`;

const writeAtOnce = (it: Pending) =>
  stored((storage) => storage.setItem(keyOf(it), JSON.stringify(it)), undefined);
const forgetAtOnce = (it: Pending) => stored((storage) => storage.removeItem(keyOf(it)), undefined);

const forgetWritten = (isMeant: (it: Pending) => boolean) => {
  for (const it of writtenAtOnce()) if (isMeant(it)) forgetAtOnce(it);
};

/** What the database may not have, in order. Whether the server has taken one of them is not known. */
function writtenAtOnce(): Pending[] {
  return stored((storage) => {
    const keys = Object.keys(storage).filter((key) => key.startsWith(AT_ONCE));
    const all = keys.sort().map((key) => JSON.parse(storage.getItem(key)!) as Pending);
    return all.filter(isPending).map((it) => ({ ...it, tried: true }));
  }, []);
}

const ofPerson = (name: string) => IDBKeyRange.bound([name], [name, []]);

export function makeKept(database = NAME): Kept {
  let keeping: Keeping = 'kept';
  let heard: (keeping: Keeping) => void = () => undefined;
  const say = (now: Keeping) => {
    if (now === keeping) return;
    keeping = now;
    heard(now);
  };
  let store: Promise<Store> | null = null;
  /** What is in files, also where the browser keeps nothing. */
  const inHand = new Map<string, Bytes>();

  /** Does something with the database; nothing comes of it where the browser refuses. */
  async function tryTo<T>(work: (db: Store) => Promise<T>, otherwise: T): Promise<T> {
    try {
      store ??= opened(database);
      const result = await work(await store);
      say('kept');
      return result;
    } catch (error) {
      const { name } = error as Error;
      if (name === 'QuotaExceededError') say('full');
      else {
        say('nothing');
        store = null;
      }
      return otherwise;
    }
  }

  type OfWaiting = (it: Partial<Pending>, cursor: Waiting) => Promise<unknown> | undefined;
  async function goThrough(waiting: AllWaiting, work: OfWaiting): Promise<void> {
    let cursor = await waiting.openCursor();
    while (cursor) {
      await work(cursor.value, cursor);
      cursor = await cursor.continue();
    }
  }

  /** Goes through what waits, in one transaction: what others do with it comes before or after. */
  const eachWaiting = (work: OfWaiting) =>
    tryTo(async (db) => {
      const names: StoreNames<Schema>[] = ['pending'];
      const transaction = db.transaction(names, 'readwrite');
      await goThrough(transaction.objectStore('pending'), work);
      await transaction.done;
    }, undefined);

  /** Takes off those of these ids. */
  const without =
    (ids: readonly string[]): OfWaiting =>
    (it, cursor) =>
      it.action && ids.includes(it.action.id) ? cursor.delete() : undefined;

  const add = async (it: Pending) => {
    const isKept = await tryTo(async (db) => {
      const transaction = db.transaction('pending', 'readwrite', { durability: 'strict' });
      await Promise.all([transaction.store.add(it), transaction.done]);
      return true;
    }, false);
    if (isKept) forgetAtOnce(it);
  };

  /** What was written at once and had not come into the database. */
  function missingFrom(there: readonly unknown[]): Pending[] {
    const ids = new Set(there.filter(isPending).map(({ action }) => action.id));
    return writtenAtOnce().filter(({ action }) => !ids.has(action.id));
  }

  return {
    last: () => tryTo(async (db) => (await db.get('last', 'name')) ?? null, null),
    async pending() {
      const there = await tryTo<unknown[]>((db) => db.getAll('pending'), []);
      return [...there.filter(isPending), ...missingFrom(there)];
    },
    async read(name) {
      // All of one moment: what another window is just taking off what waits is in one of the two.
      const found = await tryTo(async (db) => {
        const transaction = db.transaction(['people', 'todos', 'pending']);
        const [person, all, there] = await Promise.all([
          transaction.objectStore('people').get(name),
          transaction.objectStore('todos').getAll(ofPerson(name)),
          transaction.objectStore('pending').getAll() as Promise<unknown[]>,
          transaction.done,
        ]);
        return { person, all, there };
      }, null);
      const { form, ...part } = found?.person ?? { form: null };
      const isKnown = form === FORM;
      const there = found?.there ?? [];
      const missing = missingFrom(there);
      for (const it of missing) await add(it);
      return {
        part: isKnown ? (part as LocalPart) : null,
        todos: isKnown ? found!.all.map((it) => it.state) : [],
        pending: [...there.filter(isPending), ...missing],
        aside: there.filter((it) => !isPending(it)).map((it) => JSON.stringify(it)),
      };
    },
    wait(it) {
      writeAtOnce(it);
      return add(it);
    },
    tried: (id) =>
      eachWaiting((it, cursor) =>
        it.action?.id === id ? cursor.update({ ...cursor.value, tried: true }) : undefined,
      ),
    settle(ids) {
      forgetWritten(({ action }) => ids.includes(action.id));
      return eachWaiting(without(ids));
    },
    async keepBytes(id, it) {
      inHand.set(id, it);
      await tryTo((db) => db.put('bytes', it, id), undefined);
    },
    bytes: async (id) =>
      inHand.get(id) ?? (await tryTo(async (db) => (await db.get('bytes', id)) ?? null, null)),
    async forgetBytes(id) {
      inHand.delete(id);
      await tryTo((db) => db.delete('bytes', id), undefined);
    },
    async keep(part, { changed, removed, all = false, settled }) {
      const { name } = part;
      const settles = settled === undefined ? null : without([settled]);
      if (settles) forgetWritten(({ action }) => action.id === settled);
      const isKept = await tryTo(async (db) => {
        if (name === null) return false;
        // What is done meanwhile need not wait for news that take nothing off.
        const names: StoreNames<Schema>[] = ['people', 'todos', 'last'];
        if (settles) names.push('pending');
        const transaction = db.transaction(names, 'readwrite');
        const states = transaction.objectStore('todos');
        const work: Promise<unknown>[] = [];
        if (all) work.push(states.delete(ofPerson(name)));
        for (const state of changed) work.push(states.put({ by: name, state }, [name, state.id]));
        for (const id of removed) work.push(states.delete([name, id]));
        work.push(
          transaction.objectStore('people').put({ ...part, form: FORM }, name),
          transaction.objectStore('last').put(name, 'name'),
        );
        if (settles) work.push(goThrough(transaction.objectStore('pending'), settles));
        await Promise.all([...work, transaction.done]);
        return true;
      }, false);
      // Where there is no room for how they stand, it is not sent again and again for that.
      if (settles && !isKept) await eachWaiting(settles);
    },
    async forget(name) {
      forgetWritten(({ by }) => by === name);
      await eachWaiting((it, cursor) => (it.by === name ? cursor.delete() : undefined));
      inHand.clear();
      await tryTo(async (db) => {
        for (const id of await db.getAllKeys('bytes'))
          if ((await db.get('bytes', id))?.by === name) await db.delete('bytes', id);
        const transaction = db.transaction(['people', 'todos', 'last'], 'readwrite');
        await Promise.all([
          transaction.objectStore('todos').delete(ofPerson(name)),
          transaction.objectStore('people').delete(name),
          transaction.objectStore('last').delete('name'),
          transaction.done,
        ]);
      }, undefined);
    },
    onKeeping(listen) {
      heard = listen;
      if (keeping !== 'kept') heard(keeping);
    },
  };
}

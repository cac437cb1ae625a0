import { createHash, randomUUID } from 'node:crypto';
import type { Readable } from 'node:stream';
import { QueryTypes, type Transaction } from 'sequelize';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import {
  CoreError,
  MOST_FILE,
  MOST_FILES,
  checkDetails,
  checkFileName,
  checkPlaceParts,
  checkSeries,
  type Settings,
} from '@back-again/core';
import { settingsSchema } from '@back-again/contract';
import type { PutBackView } from '@back-again/contract/doors';
import { readyFor } from '../../compute/compute.ts';
import { isRefusal, type Database } from '../../db/database.ts';
import { overviewAfter } from '../../account/users.ts';
import { PIECE } from '../../files/kept.ts';
import type { Actor } from '../../machine/work.ts';
import { inBatches } from '../../db/batches.ts';
import { DATA, FORM, MANIFEST, fileName, type DataName, type Manifest } from './form.ts';
import { ACTIONS, FILES, MAILBOX, MESSAGES, PLACES, SAID, STEPS, TIMES, TODOS } from './rows.ts';

/** Puts back what was taken out: all of it or nothing. What is there already stays as it is. */

const wrong = (where: string, words: string) => new CoreError('everything.form', where, words);
const NO_ZIP = () => wrong('zip', 'This is no zip with everything of an account.');

/** So many parts, and so many bytes of rows in one, at most. */
const MOST_PARTS = 20_000;
const MOST_BYTES = 600_000_000;
/** A line is one row: a definition, a state and a record beside it. */
const MOST_LINE = 4_000_000;

interface Opened {
  zip: ZipFile;
  entries: Map<string, Entry>;
  manifest: Manifest;
}

/**
 * @param path a file that holds the zip
 * @returns what came back, and the person’s new version
 * @throws CoreError `everything.form` with what is wrong and where: then nothing has changed
 */
export async function putBack(
  db: Database,
  actor: Actor,
  path: string,
): Promise<{ view: PutBackView; version: number }> {
  const opened = await open(path);
  try {
    return await db.transaction((transaction) =>
      new PuttingBack(db, actor, transaction, opened).all(),
    );
  } catch (error) {
    if (isRefusal(error)) throw wrong('data', 'Something in it does not fit where it belongs.');
    throw error;
  } finally {
    opened.zip.close();
  }
}

function open(path: string): Promise<Opened> {
  return new Promise((resolve, reject) => {
    yauzl.open(
      path,
      { lazyEntries: true, autoClose: false, strictFileNames: true },
      (error, zip) => {
        if (error) return reject(NO_ZIP());
        const entries = new Map<string, Entry>();
        const fail = (why: CoreError) => {
          zip.close();
          reject(why);
        };
        zip.on('error', (why: Error) =>
          fail(wrong('zip', `The zip cannot be read: ${why.message}`)),
        );
        zip.on('entry', (entry: Entry) => {
          const { fileName: name, uncompressedSize } = entry;
          if (entries.size >= MOST_PARTS) return fail(wrong('zip', 'The zip has too many parts.'));
          if (entries.has(name)) return fail(wrong(name, 'It is in the zip twice.'));
          const isRead = name === MANIFEST || name.startsWith('data/') || name.startsWith('files/');
          if (isRead && uncompressedSize > (name.startsWith('files/') ? MOST_FILE : MOST_BYTES))
            return fail(wrong(name, 'This part is larger than any that is given out.'));
          entries.set(name, entry);
          zip.readEntry();
        });
        zip.on('end', () => {
          manifestIn(zip, entries).then((manifest) => resolve({ zip, entries, manifest }), fail);
        });
        zip.readEntry();
      },
    );
  });
}

function streamOf(zip: ZipFile, entry: Entry): Promise<Readable> {
  return new Promise((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) =>
      error
        ? reject(wrong(entry.fileName, `It cannot be read: ${error.message}`))
        : resolve(stream),
    );
  });
}

async function manifestIn(zip: ZipFile, entries: ReadonlyMap<string, Entry>): Promise<Manifest> {
  const entry = entries.get(MANIFEST);
  if (!entry || entry.uncompressedSize > 8_000_000) throw NO_ZIP();
  const pieces: Buffer[] = [];
  for await (const piece of await streamOf(zip, entry)) pieces.push(piece as Buffer);
  let manifest: Manifest;
  try {
    manifest = JSON.parse(Buffer.concat(pieces).toString('utf8')) as Manifest;
  } catch {
    throw wrong(MANIFEST, 'The manifest cannot be read.');
  }
  if (manifest?.program !== 'Back Again' || !Number.isInteger(manifest.form) || manifest.form < 1)
    throw NO_ZIP();
  if (manifest.form > FORM)
    throw wrong(
      MANIFEST,
      `This is of a later form (${manifest.form}) than this program reads (${FORM}).`,
    );
  if (!Array.isArray(manifest.files))
    throw wrong(MANIFEST, 'The manifest does not say what is in it.');
  for (const name of DATA)
    if (!entries.has(name) || !manifest.files.some((it) => it?.name === name))
      throw wrong(name, 'A part of it is missing.');
  return manifest;
}

type Row = Record<string, unknown>;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/u;

class PuttingBack {
  private readonly db: Database;
  private readonly actor: Actor;
  private readonly transaction: Transaction;
  private readonly opened: Opened;
  private version = 0;
  private readonly view: PutBackView = { todos: 0, times: 0, places: 0, files: 0, there: 0 };
  /** To-dos and places that came back just now. */
  private readonly todos = new Set<string>();
  private readonly places = new Set<string>();
  /** By its line: the running number of an action here, and whether it is new. */
  private readonly actions: { seq: number; isNew: boolean }[] = [];
  /** By its line: the id of what was said, where it is new here. */
  private readonly said: ({ id: string; seq: number } | null)[] = [];

  constructor(db: Database, actor: Actor, transaction: Transaction, opened: Opened) {
    this.db = db;
    this.actor = actor;
    this.transaction = transaction;
    this.opened = opened;
  }

  private get mine() {
    return { userId: this.actor.userId };
  }

  async all(): Promise<{ view: PutBackView; version: number }> {
    const { db, transaction, mine } = this;
    const user = await db.users.findByPk(mine.userId, { transaction, lock: true });
    if (!user) throw new CoreError('person.none', '', 'There is no such account any more.');
    this.version = user.version + 1;
    const isEmpty = await this.isEmpty();
    const person = await this.person();
    await this.putPlaces();
    await this.putTodos();
    await this.putTimes();
    await this.putActions();
    await this.putSteps();
    await this.putSaid();
    await this.putMessages();
    await this.putMailbox();
    await this.putFiles();
    const own = isEmpty ? await this.ownOf(person) : {};
    await db.users.update(
      { ...own, version: this.version },
      { where: { id: mine.userId }, transaction },
    );
    return { view: this.view, version: this.version };
  }

  private async isEmpty(): Promise<boolean> {
    const { db, transaction, mine: where } = this;
    for (const model of [db.series, db.places, db.actions] as {
      count(it: object): Promise<number>;
    }[])
      if (await model.count({ where, transaction })) return false;
    return true;
  }

  /** The rows of a part; its hash is held against the manifest as its end is reached. */
  private async *lines(name: DataName): AsyncGenerator<Row> {
    const { zip, entries, manifest } = this.opened;
    const hash = createHash('sha256');
    const decoder = new TextDecoder();
    let n = 0;
    let held = '';
    const row = (line: string): Row => {
      let value: unknown;
      try {
        value = JSON.parse(line);
      } catch {
        throw wrong(`${name}:${n}`, 'This line is not JSON.');
      }
      if (typeof value !== 'object' || value === null || Array.isArray(value))
        throw wrong(`${name}:${n}`, 'A line is an object.');
      return value as Row;
    };
    try {
      for await (const piece of await streamOf(zip, entries.get(name)!)) {
        hash.update(piece as Buffer);
        held += decoder.decode(piece as Buffer, { stream: true });
        const lines = held.split('\n');
        held = lines.pop()!;
        if (held.length > MOST_LINE) throw wrong(`${name}:${n + 1}`, 'This line is too long.');
        for (const line of lines) {
          n++;
          if (line) yield row(line);
        }
      }
    } catch (error) {
      if (error instanceof CoreError || isRefusal(error)) throw error;
      const { message, code } = error as Error & { code?: string };
      // What the zip itself has wrong is told; what fails here is not.
      if (code === undefined) throw wrong(name, `It cannot be read: ${message}`);
      throw error;
    }
    if (held) yield row(held);
    this.check(name, hash.digest('hex'), manifest);
  }

  private check(name: string, sum: string, { files }: Manifest): void {
    if (files.find((it) => it.name === name)?.sha256 !== sum)
      throw wrong(name, 'It is not as it was taken out: its SHA-256 is another.');
  }

  /** Puts rows of a part into a table, a batch at a time; gives null where a row is left out. */
  private async put(
    name: DataName,
    write: (rows: Row[]) => Promise<unknown>,
    rowOf: (row: Row, n: number) => Row | null,
  ): Promise<void> {
    let some: Row[] = [];
    let n = 0;
    const flush = async () => {
      const rows = some;
      some = [];
      await inBatches(rows, write);
    };
    for await (const row of this.lines(name)) {
      n++;
      let made: Row | null;
      try {
        made = rowOf(row, n);
      } catch (error) {
        throw error instanceof CoreError ? wrong(`${name}:${n}`, error.message) : error;
      }
      if (made) some.push(made);
      if (some.length >= 500) await flush();
    }
    await flush();
  }

  private async person(): Promise<Row> {
    const rows: Row[] = [];
    for await (const row of this.lines('data/person.json')) rows.push(row);
    if (rows.length !== 1) throw wrong('data/person.json', 'It has one line.');
    return rows[0]!;
  }

  /** What belongs to the person themselves: for an account in which there is nothing yet. */
  private async ownOf(person: Row): Promise<Row> {
    let settings: Settings;
    try {
      settings = settingsSchema.validateSync(person.settings) as Settings;
    } catch (error) {
      throw wrong(
        'data/person.json',
        error instanceof Error ? error.message : 'It has no settings.',
      );
    }
    await readyFor(settings);
    const seen = Number(person.seen);
    const { above, bundles, focus, focusAt, standIn } = person;
    return {
      settings,
      settingsVersion: this.version,
      overviewAt: overviewAfter(settings, this.actor.now),
      focus: this.places.has(String(focus)) ? focus : null,
      focusAt: momentIn(focusAt),
      above: Array.isArray(above) ? above : null,
      bundles: Array.isArray(bundles) ? bundles : null,
      standIn: standIn ?? null,
      ownVersion: this.version,
      seenThrough: seen > 0 ? (this.said[seen - 1]?.seq ?? 0) : 0,
    };
  }

  private async idsThere(model: unknown): Promise<Set<string>> {
    const { transaction, mine: where } = this;
    const rows = await (model as { findAll(it: object): Promise<{ id: string }[]> }).findAll({
      attributes: ['id'],
      where,
      transaction,
      raw: true,
    });
    return new Set(rows.map(({ id }) => id));
  }

  private async putPlaces(): Promise<void> {
    const { db, transaction, mine, version } = this;
    const there = await this.idsThere(db.places);
    await this.put(
      'data/places.jsonl',
      (rows) => db.places.bulkCreate(rows, { transaction }),
      (row) => {
        const id = idIn(row.id);
        if (there.has(id)) return this.passBy();
        // What else a place is follows from what was done to it.
        const { kind, name, in: holder, note } = Object(row.parts) as Row;
        checkPlaceParts({ kind, name, in: holder, note });
        this.places.add(id);
        this.view.places++;
        return { ...columns(row, PLACES), ...mine, version };
      },
    );
  }

  private passBy(): null {
    this.view.there++;
    return null;
  }

  private async putTodos(): Promise<void> {
    const { db, transaction, mine, version } = this;
    const there = await this.idsThere(db.series);
    await this.put(
      'data/todos.jsonl',
      (rows) => db.series.bulkCreate(rows, { transaction }),
      (row) => {
        const id = idIn(row.id);
        if (there.has(id)) return this.passBy();
        const { title, place, details } = row;
        checkDetails({ ...(details as object), title, place });
        for (const given of [row.definition, (row.progress as { series?: unknown } | null)?.series])
          checkSeries(given);
        this.todos.add(id);
        if (row.removedAt === null) this.view.todos++;
        return { ...columns(row, TODOS), ...mine, version };
      },
    );
  }

  private async putTimes(): Promise<void> {
    const { db, transaction, mine, version } = this;
    await this.put(
      'data/times.jsonl',
      (rows) => db.occurrences.bulkCreate(rows, { transaction }),
      (row) => {
        if (!this.todos.has(String(row.seriesId))) return null;
        this.view.times++;
        return { ...columns(row, TIMES), ...mine, version };
      },
    );
  }

  private async putActions(): Promise<void> {
    const { db, transaction, mine, version } = this;
    const ids: string[] = [];
    const there = await this.idsThere(db.actions);
    await this.put(
      'data/actions.jsonl',
      (rows) => db.actions.bulkCreate(rows, { transaction }),
      (row) => {
        const id = idIn(row.id);
        ids.push(id);
        return there.has(id) ? null : { ...columns(row, ACTIONS), ...mine, version };
      },
    );
    const rows = await db.actions.findAll({
      attributes: ['seq', 'id'],
      where: mine,
      transaction,
      raw: true,
    });
    const seqs = new Map(rows.map(({ id, seq }) => [id, seq]));
    for (const id of ids) this.actions.push({ seq: seqs.get(id)!, isNew: !there.has(id) });
  }

  private async putSteps(): Promise<void> {
    const { db, transaction, mine } = this;
    await this.put(
      'data/steps.jsonl',
      (rows) => db.steps.bulkCreate(rows, { transaction }),
      (row) => {
        const action = this.actions[Number(row.action) - 1];
        if (!action) throw wrong('action', 'There is no such action.');
        const isNew =
          row.seriesId === null
            ? row.placeId === null
              ? action.isNew
              : this.places.has(String(row.placeId))
            : this.todos.has(String(row.seriesId));
        return isNew ? { ...columns(row, STEPS), ...mine, actionSeq: action.seq } : null;
      },
    );
  }

  private async putSaid(): Promise<void> {
    const { db, transaction, mine } = this;
    const marks = new Set(
      (await db.notices.findAll({ attributes: ['mark'], where: mine, transaction, raw: true })).map(
        ({ mark }) => mark,
      ),
    );
    await this.put(
      'data/said.jsonl',
      (rows) => db.notices.bulkCreate(rows, { transaction }),
      (row) => {
        const isThere =
          marks.has(String(row.mark)) ||
          (row.seriesId !== null && !this.todos.has(String(row.seriesId)));
        if (isThere) {
          this.said.push(null);
          return null;
        }
        const id = randomUUID();
        this.said.push({ id, seq: 0 });
        return { ...columns(row, SAID), ...mine, id };
      },
    );
    const rows = await db.notices.findAll({
      attributes: ['seq', 'id'],
      where: mine,
      transaction,
      raw: true,
    });
    const seqs = new Map(rows.map(({ id, seq }) => [id, seq]));
    for (const it of this.said) if (it) it.seq = seqs.get(it.id)!;
  }

  /** By the line of what they are sent for, and the way: the ids of the messages that came back. */
  private readonly messages = new Map<string, string>();

  private async putMessages(): Promise<void> {
    const { db, transaction, mine } = this;
    await this.put(
      'data/messages.jsonl',
      (rows) => db.messages.bulkCreate(rows, { transaction }),
      (row) => {
        const notice = this.said[Number(row.said) - 1];
        if (!notice) return null;
        const id = randomUUID();
        this.messages.set(`${Number(row.said)} ${String(row.channel)}`, id);
        return { ...columns(row, MESSAGES), ...mine, id, noticeId: notice.id };
      },
    );
  }

  private async putMailbox(): Promise<void> {
    const { db, transaction, mine } = this;
    const user = await db.users.findByPk(mine.userId, { transaction });
    await this.put(
      'data/mailbox.jsonl',
      (rows) => db.arrivals.bulkCreate(rows, { transaction }),
      (row) => {
        const messageId = this.messages.get(`${Number(row.said)} ${String(row.channel)}`);
        const address = row.channel === 'text' ? '' : user!.name;
        return messageId ? { ...columns(row, MAILBOX), ...mine, messageId, address } : null;
      },
    );
  }

  private async putFiles(): Promise<void> {
    const { db, transaction, mine } = this;
    const rows: Row[] = [];
    for await (const row of this.lines('data/files.jsonl')) rows.push(row);
    const query = (sql: string, replacements: object) =>
      db.sequelize.query(sql, { replacements: { ...mine, ...replacements }, transaction });
    const [used] = await db.sequelize.query<{ used: string }>(
      'SELECT COALESCE(SUM(size), 0) AS used FROM files WHERE userId = :userId',
      { type: QueryTypes.SELECT, replacements: mine, transaction },
    );
    let all = Number(used!.used);
    for (const row of rows) {
      const id = idIn(row.id);
      const there = await db.sequelize.query(
        'SELECT 1 FROM files WHERE userId = :userId AND id = :id',
        {
          type: QueryTypes.SELECT,
          replacements: { ...mine, id },
          transaction,
        },
      );
      if (there.length) {
        this.view.there++;
        continue;
      }
      checkFileName(row.name);
      const size = Number(row.size);
      all += size;
      if (!Number.isInteger(size) || size < 0 || all > MOST_FILES)
        throw wrong('data/files.jsonl', 'Your 200 MB for files are not enough for what is in it.');
      const names = FILES.filter((name) => name in row);
      await query(
        `INSERT INTO files (userId, isDone, ${names.join(', ')})
          VALUES (:userId, TRUE, ${names.map((name) => `:${name}`).join(', ')})`,
        columns(row, names),
      );
      await this.putBytes(id, size, String(row.sum), query);
      this.view.files++;
    }
  }

  private async putBytes(
    id: string,
    size: number,
    sum: string,
    query: (sql: string, replacements: object) => Promise<unknown>,
  ): Promise<void> {
    const { zip, entries } = this.opened;
    const name = fileName(id);
    const entry = entries.get(name);
    if (!entry || entry.uncompressedSize !== size)
      throw wrong(name, 'A file is missing, or has another length.');
    const hash = createHash('sha256');
    let n = 0;
    let held: Buffer[] = [];
    let length = 0;
    const flush = async (bytes: Buffer) => {
      await query(
        'INSERT INTO filePieces (userId, fileId, n, bytes) VALUES (:userId, :id, :n, :bytes)',
        { id, n: n++, bytes },
      );
    };
    for await (const piece of await streamOf(zip, entry)) {
      hash.update(piece as Buffer);
      held.push(piece as Buffer);
      length += (piece as Buffer).length;
      while (length >= PIECE) {
        const whole = Buffer.concat(held);
        await flush(whole.subarray(0, PIECE));
        held = [whole.subarray(PIECE)];
        length = held[0]!.length;
      }
    }
    if (length) await flush(Buffer.concat(held));
    if (hash.digest('hex') !== sum)
      throw wrong(name, 'It is not as it was taken out: its SHA-256 is another.');
  }
}

function idIn(value: unknown): string {
  if (typeof value !== 'string' || !UUID.test(value))
    throw wrong('id', 'An id is a UUID in lower case.');
  return value;
}

const MOMENT = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z$/u;

/** A moment as the database takes it; null for none. */
function momentIn(value: unknown): Date | null {
  return typeof value === 'string' && MOMENT.test(value) ? new Date(value) : null;
}

/** Moments are told apart from texts by their columns. */
const MOMENTS = new Set([
  ...[
    'describedAt',
    'createdAt',
    'speaksAt',
    'changesAt',
    'removedAt',
    'openedAt',
    'closedAt',
    'at',
  ],
  ...['doneAt', 'saidAt', 'nextTryAt', 'decidedAt', 'settledAt', 'arrivesAt', 'letGoAt', 'focusAt'],
]);

function columns(row: Row, names: readonly string[]): Row {
  return Object.fromEntries(
    names.map((name) => [name, MOMENTS.has(name) ? momentIn(row[name]) : (row[name] ?? null)]),
  );
}

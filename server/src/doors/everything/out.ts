import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Transaction } from 'sequelize';
import { ZipFile } from 'yazl';
import type { Database } from '../../db/database.ts';
import { catchUpAll } from '../../machine/catchUp.ts';
import type { Actor } from '../../machine/work.ts';
import { calendarOf } from '../told.ts';
import { DATA, FORM, MANIFEST, fileName, type DataName, type Manifest } from './form.ts';
import { rowsOf } from './rows.ts';
import { tablesOf } from './tables.ts';

/** Everything of a person as one zip, written to a file of its own: it is made whole before it is sent. */

/** The same for all: what is in it says when it was, and two that hold the same are the same. */
const MTIME = new Date(Date.UTC(2000, 0, 1));

export interface Taken {
  path: string;
  /** Removes the file. */
  done(): Promise<void>;
}

type Pieces = AsyncIterable<string | Buffer>;

/** A part of the zip, in the order in which it is written. */
interface Part {
  name: string;
  pieces: () => Pieces;
}

export async function takeEverything(db: Database, actor: Actor): Promise<Taken> {
  const { userId, settings, now } = actor;
  await catchUpAll(db, userId, settings, now);
  const folder = await mkdtemp(join(tmpdir(), 'back-again-out-'));
  const path = join(folder, 'everything.zip');
  const done = () => rm(folder, { recursive: true, force: true });
  try {
    await db.sequelize.transaction(
      // One moment of everything, whatever is done meanwhile.
      { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ },
      (transaction) => write(db, actor, transaction, path),
    );
  } catch (error) {
    await done();
    throw error;
  }
  return { path, done };
}

async function write(
  db: Database,
  actor: Actor,
  transaction: Transaction,
  path: string,
): Promise<void> {
  const zip = new ZipFile();
  const written = pipeline(zip.outputStream as unknown as Readable, createWriteStream(path));
  const manifest: Manifest = { program: 'Back Again', form: FORM, files: [] };
  const failed = new Promise<never>((_resolve, reject) => zip.once('error', reject));
  for await (const { name, pieces } of partsOf(db, actor, transaction))
    manifest.files.push(await Promise.race([added(zip, name, pieces()), failed]));
  const text = `${JSON.stringify(manifest, null, 1)}\n`;
  zip.addBuffer(Buffer.from(text), MANIFEST, { mtime: MTIME });
  zip.end();
  await written;
}

/** Adds a part, and gives what the manifest says of it. */
async function added(
  zip: ZipFile,
  name: string,
  pieces: Pieces,
): Promise<Manifest['files'][number]> {
  const hash = createHash('sha256');
  let size = 0;
  async function* counted() {
    for await (const piece of pieces) {
      const bytes = Buffer.from(piece as Buffer);
      hash.update(bytes);
      size += bytes.length;
      yield bytes;
    }
  }
  const stream = Readable.from(counted(), { objectMode: false });
  const over = new Promise<void>((resolve, reject) => {
    stream.once('error', reject);
    stream.once('close', resolve);
  });
  zip.addReadStream(stream, name, { mtime: MTIME });
  await over;
  return { name, size, sha256: hash.digest('hex') };
}

async function* partsOf(
  db: Database,
  actor: Actor,
  transaction: Transaction,
): AsyncGenerator<Part> {
  const { userId } = actor;
  const rows = rowsOf({ db, userId, transaction });
  const files = await rows.files();
  const lists: Record<Exclude<DataName, 'data/person.json'>, () => AsyncIterable<object>> = {
    'data/places.jsonl': rows.places,
    'data/todos.jsonl': rows.todos,
    'data/times.jsonl': rows.times,
    'data/actions.jsonl': rows.actions,
    'data/steps.jsonl': rows.steps,
    'data/said.jsonl': rows.said,
    'data/messages.jsonl': rows.messages,
    'data/mailbox.jsonl': rows.mailbox,
    'data/files.jsonl': async function* () {
      yield* files;
    },
  };
  for (const name of DATA)
    if (name !== 'data/person.json') yield { name, pieces: () => linesOf(lists[name]()) };
  const person = `${JSON.stringify(await rows.person())}\n`;
  yield { name: 'data/person.json', pieces: () => one(person) };
  for (const { id } of files as { id: string }[])
    yield { name: fileName(id), pieces: () => rows.bytes(id) };
  const tables = await tablesOf(db, userId, transaction, rows);
  for (const [name, pieces] of Object.entries(tables)) yield { name, pieces };
  const leftOut: string[] = [];
  yield {
    name: 'calendar.ics',
    pieces: () =>
      calendarOf(
        db,
        actor,
        {},
        { transaction, leftOut: (id, why) => leftOut.push(`${id}: ${why}`) },
      ),
  };
  const words = [README, ...(leftOut.length ? ['Not in calendar.ics:', ...leftOut, ''] : [])];
  yield { name: 'READ ME.txt', pieces: () => one(words.join('\r\n')) };
}

async function* one(text: string): AsyncGenerator<string> {
  yield text;
}

async function* linesOf(rows: AsyncIterable<object>): AsyncGenerator<string> {
  for await (const row of rows) yield `${JSON.stringify(row)}\n`;
}

const README = [
  'Everything that you entrusted to Back Again.',
  '',
  'data/       all of it, a line of JSON for each thing: what “Put it back” reads',
  'files/      what is in your files, by their ids (data/files.jsonl has their names)',
  'csv/        to-dos, times and places as tables; words that a spreadsheet would take for a formula',
  '            begin with an apostrophe',
  'calendar.ics  your to-dos for programs that read iCalendar',
  'manifest.json  the form, and a SHA-256 of each part',
  '',
  'Passwords, keys and secret addresses are not in it.',
  '',
].join('\r\n');

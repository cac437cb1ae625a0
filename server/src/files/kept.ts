import { createHash } from 'node:crypto';
import { QueryTypes, type Transaction } from 'sequelize';
import { noFile, type FileBody, type FileView } from '@back-again/contract';
import { CoreError, MOST_FILES, isShown, mediaType, type Instant } from '@back-again/core';
import type { Database } from '../db/database.ts';
import { HttpError } from '../http/errors.ts';
import { isWhatItIsSaid } from './signs.ts';

/** Files in the database, each in pieces. */

/** So many bytes a piece has, but the last of a file. */
export const PIECE = 512 * 1024;

interface FileRow {
  id: string;
  name: string;
  type: string;
  size: number;
  sum: string | null;
  isDone: boolean | number;
  /** What is in it begins as its type does. */
  isAsSaid: boolean | number;
}

interface Asked {
  db: Database;
  userId: string;
  transaction?: Transaction;
}

async function rowsOf<T extends object>(
  { db, transaction }: Pick<Asked, 'db' | 'transaction'>,
  sql: string,
  replacements: Record<string, unknown>,
): Promise<T[]> {
  return db.sequelize.query<T>(sql, {
    type: QueryTypes.SELECT,
    replacements,
    ...(transaction ? { transaction } : {}),
  });
}

async function rowOf(it: Asked, id: string, isHeld = false): Promise<FileRow | null> {
  const { userId } = it;
  const held = isHeld ? ' FOR UPDATE' : '';
  const sql = `SELECT id, name, type, size, sum, isDone, isAsSaid FROM files
    WHERE userId = :userId AND id = :id${held}`;
  return (await rowsOf<FileRow>(it, sql, { userId, id }))[0] ?? null;
}

const piecesOf = (size: number) => Math.ceil(size / PIECE);

async function viewOf(it: Asked, { id, size, isDone }: FileRow): Promise<FileView> {
  const sql = 'SELECT n FROM filePieces WHERE userId = :userId AND fileId = :id ORDER BY n';
  const there = isDone ? [] : await rowsOf<{ n: number }>(it, sql, { userId: it.userId, id });
  return view(
    { id, size, isDone },
    there.map(({ n }) => n),
  );
}

const view = (
  { id, size, isDone }: Pick<FileRow, 'id' | 'size' | 'isDone'>,
  there: number[],
): FileView => ({
  id,
  pieces: piecesOf(size),
  pieceBytes: PIECE,
  there,
  done: Boolean(isDone),
});

type Named = Pick<FileRow, 'name' | 'type' | 'size'>;
const isSame = (a: Named, b: Named) => a.name === b.name && a.type === b.type && a.size === b.size;

/**
 * Begins to take a file, or goes on with one; what was let go of makes room where there is none.
 * @throws HttpError 409 `files.full`, `file.other`
 */
export async function beginFile(
  db: Database,
  userId: string,
  now: Instant,
  { id, name, type, size, sum }: FileBody,
): Promise<FileView> {
  return db.transaction(async (transaction) => {
    const it = { db, userId, transaction };
    // One at a time, so that two together do not take the room of one.
    await rowsOf(it, 'SELECT id FROM users WHERE id = :userId FOR UPDATE', { userId });
    const there = await rowOf(it, id);
    if (there) {
      if (!isSame(there, { name, size, type: mediaType(type) }))
        throw new HttpError(409, 'file.other', 'That id was used for another file.', 'id');
      return viewOf(it, there);
    }
    await makeRoom(it, size, now);
    await db.sequelize.query(
      `INSERT INTO files (userId, id, name, type, size, sum, letGoAt, createdAt)
        VALUES (:userId, :id, :name, :type, :size, :sum, :now, :now)`,
      {
        replacements: { userId, id, name, type: mediaType(type), size, sum, now: new Date(now) },
        transaction,
      },
    );
    return view({ id, size, isDone: false }, []);
  });
}

/** It belongs to nothing for so long before its place is taken. */
const WAITS = 3600_000;
/** What was let go of so long ago cannot come back any more. */
const GONE = 60 * 86_400_000;
/** Belonging to a time is as long ago as can be said. */
const HELD = new Date('9999-01-01T00:00:00Z');

async function makeRoom(it: Asked, size: number, now: Instant): Promise<void> {
  const { db, userId, transaction } = it;
  const letGo = `f.userId = :userId AND (f.letGoAt < :before
    OR EXISTS (SELECT 1 FROM series s WHERE s.userId = f.userId AND s.id = f.seriesId AND s.removedAt < :before))`;
  const take = (before: Instant) =>
    db.sequelize.query(`DELETE f FROM files f WHERE ${letGo}`, {
      replacements: { userId, before: new Date(before) },
      ...(transaction ? { transaction } : {}),
    });
  const used = async () => {
    const sql = 'SELECT COALESCE(SUM(size), 0) AS used FROM files WHERE userId = :userId';
    return Number((await rowsOf<{ used: string }>(it, sql, { userId }))[0]!.used);
  };
  await take(now - GONE);
  if ((await used()) + size <= MOST_FILES) return;
  await take(now - WAITS);
  if ((await used()) + size <= MOST_FILES) return;
  throw new HttpError(409, 'files.full', 'Your 200 MB for files are used up.', 'size');
}

/**
 * Takes a piece of a file; with the last of them it is checked.
 * @throws HttpError 404, 400 `piece.size`, `file.sum`
 */
export async function takePiece(
  db: Database,
  userId: string,
  id: string,
  n: number,
  bytes: Buffer,
): Promise<FileView> {
  const kept = await db.transaction(async (transaction) => {
    const it = { db, userId, transaction };
    const row = await rowOf(it, id, true);
    if (!row || !Number.isInteger(n) || n < 0 || n >= piecesOf(row.size)) throw noFile();
    if (row.isDone) return viewOf(it, row);
    const wanted = Math.min(PIECE, row.size - n * PIECE);
    if (bytes.length !== wanted)
      throw new HttpError(400, 'piece.size', `This piece has ${wanted} bytes.`, 'body');
    await db.sequelize.query(
      `INSERT INTO filePieces (userId, fileId, n, bytes) VALUES (:userId, :id, :n, :bytes)
        ON DUPLICATE KEY UPDATE bytes = VALUES(bytes)`,
      { replacements: { userId, id, n, bytes }, transaction },
    );
    const now = await viewOf(it, row);
    if (now.there.length < now.pieces) return now;
    const all = await bytesOf(it, id);
    const sum = sumOf(all);
    if (row.sum !== null && row.sum !== sum) {
      await db.sequelize.query('DELETE FROM files WHERE userId = :userId AND id = :id', {
        replacements: { userId, id },
        transaction,
      });
      return null;
    }
    await db.sequelize.query(
      `UPDATE files SET isDone = TRUE, sum = :sum, isAsSaid = :isAsSaid
        WHERE userId = :userId AND id = :id`,
      {
        replacements: { userId, id, sum, isAsSaid: isWhatItIsSaid(row.type, all) },
        transaction,
      },
    );
    return { ...now, done: true };
  });
  if (kept) return kept;
  throw new HttpError(400, 'file.sum', 'This file did not arrive as it was. Send it again.', 'sum');
}

async function bytesOf(it: Asked, id: string): Promise<Buffer> {
  const sql = 'SELECT bytes FROM filePieces WHERE userId = :userId AND fileId = :id ORDER BY n';
  const pieces = await rowsOf<{ bytes: Buffer }>(it, sql, { userId: it.userId, id });
  return Buffer.concat(pieces.map(({ bytes }) => bytes));
}

const sumOf = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

/** A file as it is given out. */
export interface Given {
  name: string;
  /** Its own type where it may be shown, and null where it is to be kept. */
  type: string | null;
  sum: string;
  bytes: Buffer;
}

/**
 * Reads a file, and checks that it is what was kept.
 * @throws CoreError `file.none`; HttpError 500 `file.broken`
 */
export async function readFile(db: Database, userId: string, id: string): Promise<Given> {
  const it = { db, userId };
  const row = await rowOf(it, id);
  if (!row?.isDone) throw noFile();
  const bytes = await bytesOf(it, id);
  if (sumOf(bytes) !== row.sum)
    throw new HttpError(500, 'file.broken', 'This file is not as it was kept.', 'file');
  const { name, type } = row;
  return { name, type: isShown(type) && row.isAsSaid ? type : null, sum: row.sum, bytes };
}

/** A file comes to belong to a time of a to-do, or is let go of. */
export async function holdFile(
  { db, userId, transaction }: Required<Asked>,
  seriesId: string,
  it: { file: string; isHeld: boolean; now: Instant },
): Promise<void> {
  const { file, isHeld, now } = it;
  await db.sequelize.query(
    'UPDATE files SET seriesId = :seriesId, letGoAt = :letGoAt WHERE userId = :userId AND id = :file',
    {
      replacements: { userId, file, seriesId, letGoAt: isHeld ? HELD : new Date(now) },
      transaction,
    },
  );
}

/**
 * Refuses a file that is not there, or not as it is said to be.
 * @throws CoreError `file.none`, `file.other`
 */
export async function needFile(it: Required<Asked>, said: Named & { id: string }): Promise<void> {
  const row = await rowOf(it, said.id, true);
  if (!row?.isDone) throw noFile();
  if (!isSame(row, said))
    throw new CoreError('file.other', 'file', 'That file is another than was said.');
}

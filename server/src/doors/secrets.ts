import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { CoreError, formatInstant, type Instant } from '@back-again/core';
import { noTodo } from '@back-again/contract';
import type { DoorBody, DoorKind, DoorView, MadeDoor } from '@back-again/contract/doors';
import type { Database } from '../db/database.ts';
import type { DoorRow } from '../db/models.ts';

/**
 * Secrets that open something without a session: each is shown once and kept as its hash. They have 192 bits
 * from the system’s source of chance, so that a fast hash guards them as well as a slow one would.
 */

const BYTES = 24;
/** So many of each kind at most. */
const MOST = 200;
/** Says at a glance what it is, to who finds one lying about. */
const PREFIX: Record<DoorKind, string> = { key: 'bak_', feed: 'baf_', way: 'baw_' };
const FORM = /^ba[kfw]_[A-Za-z0-9_-]{32}$/u;

const hashOf = (secret: string) => createHash('sha256').update(secret).digest('hex');

export const doorView = (row: DoorRow): DoorView => ({
  id: row.id,
  kind: row.kind,
  name: row.name,
  reach: row.reach,
  place: row.placeId,
  todo: row.seriesId,
  createdAt: formatInstant(row.createdAt.getTime()),
  usedAt: row.usedAt && formatInstant(row.usedAt.getTime()),
  uses: row.uses,
});

/** Those of a person, the newest first. */
export async function doorsOf(db: Database, userId: string): Promise<DoorView[]> {
  const rows = await db.doors.findAll({
    where: { userId },
    order: [
      ['createdAt', 'DESC'],
      ['id', 'ASC'],
    ],
  });
  return rows.map(doorView);
}

/**
 * Makes one.
 * @throws CoreError `door.many`, `todo.none`, `place.none`
 */
export async function makeDoor(
  db: Database,
  userId: string,
  now: Instant,
  { kind, name = '', reach, place, todo }: DoorBody,
): Promise<MadeDoor> {
  return db.transaction(async (transaction) => {
    await db.users.findByPk(userId, { transaction, lock: true, attributes: ['id'] });
    if ((await db.doors.count({ where: { userId, kind }, transaction })) >= MOST)
      throw new CoreError(
        'door.many',
        'kind',
        `There are ${MOST} of them already: withdraw one first.`,
      );
    const seriesId = kind === 'way' ? (todo ?? null) : null;
    if (seriesId !== null) {
      const there = await db.series.count({
        where: { userId, id: seriesId, removedAt: null },
        transaction,
      });
      if (!there) throw noTodo();
    }
    const placeId = kind === 'feed' ? (place ?? null) : null;
    if (placeId !== null) {
      const row = await db.places.findOne({ where: { userId, id: placeId }, transaction });
      if (row?.parts.kind !== 'sphere')
        throw new CoreError('place.none', 'place', 'A feed is of a sphere, or of everything.');
    }
    const secret = PREFIX[kind] + randomBytes(BYTES).toString('base64url');
    const row: DoorRow = {
      hash: hashOf(secret),
      id: randomUUID(),
      userId,
      kind,
      name: name.trim(),
      reach: kind === 'key' ? (reach ?? null) : null,
      placeId,
      seriesId,
      createdAt: new Date(now),
      usedAt: null,
      uses: 0,
    };
    await db.doors.create(row, { transaction });
    return { door: doorView(row), secret };
  });
}

/** Withdraws one: from that moment on it opens nothing. @throws CoreError `door.none` */
export async function withdraw(db: Database, userId: string, id: string): Promise<void> {
  const gone = await db.doors.destroy({ where: { userId, id } });
  if (!gone) throw new CoreError('door.none', 'id', 'It was withdrawn already.');
}

/** What a secret opens; null for none. What is looked up is its hash, so that no time tells how much of it was right. */
export async function opened(
  db: Database,
  kind: DoorKind,
  secret: string,
): Promise<DoorRow | null> {
  if (!FORM.test(secret)) return null;
  const row = await db.doors.findOne({ where: { hash: hashOf(secret), kind } });
  return row?.get() ?? null;
}

const MINUTE = 60_000;

/** Notes that one was used: at most once a minute where it is only looked at. */
export async function used(
  db: Database,
  { hash, usedAt }: DoorRow,
  now: Instant,
  { counts }: { counts: boolean },
): Promise<void> {
  if (!counts && usedAt !== null && now - usedAt.getTime() < MINUTE) return;
  const { sequelize } = db;
  await db.doors.update(
    { usedAt: new Date(now), ...(counts ? { uses: sequelize.literal('uses + 1') as never } : {}) },
    { where: { hash } },
  );
}

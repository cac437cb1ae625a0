import { createHash, randomUUID } from 'node:crypto';
import { CoreError, formatInstant, type Instant } from '@back-again/core';
import type { DeviceBody, DeviceView } from '@back-again/contract/devices';
import type { Database } from '../db/database.ts';
import { checkEndpoint } from './reachable.ts';

/** So many devices of a person at most. */
const MOST = 20;

const sumOf = (endpoint: string) => createHash('sha256').update(endpoint).digest('hex');

/** Those of a person, the newest first. */
export async function devicesOf(db: Database, userId: string): Promise<DeviceView[]> {
  const rows = await db.devices.findAll({
    where: { userId },
    order: [['createdAt', 'DESC'], 'id'],
  });
  return rows.map(({ id, name, sum, createdAt, usedAt }) => ({
    id,
    name,
    sum,
    createdAt: formatInstant(createdAt.getTime()),
    usedAt: usedAt && formatInstant(usedAt.getTime()),
  }));
}

/**
 * Keeps a browser as one that is told with no window open. The same browser again is the same device, with its
 * newest name and keys; where somebody else had subscribed with it, it is theirs no more.
 * @param session in which it subscribes: it ends with that
 * @throws CoreError `device.address`, `device.many`
 */
export async function addDevice(
  db: Database,
  { userId, session }: { userId: string; session: string },
  { name, endpoint, keys: { p256dh, auth } }: DeviceBody,
  now: Instant,
  anywhere: boolean,
): Promise<void> {
  checkEndpoint(endpoint, anywhere);
  const sum = sumOf(endpoint);
  await db.transaction(async (transaction) => {
    await db.users.findByPk(userId, { transaction, lock: true, attributes: ['id'] });
    const there = await db.devices.findByPk(sum, { transaction });
    if (there?.userId === userId) {
      await db.devices.update({ name, p256dh, auth, session }, { where: { sum }, transaction });
      return;
    }
    if ((await db.devices.count({ where: { userId }, transaction })) >= MOST)
      throw new CoreError(
        'device.many',
        'name',
        `There are ${MOST} devices already: withdraw one first.`,
      );
    await db.devices.destroy({ where: { sum }, transaction });
    await db.devices.create(
      {
        ...{ sum, id: randomUUID(), userId, session, name, endpoint, p256dh, auth },
        ...{ createdAt: new Date(now), usedAt: null },
      },
      { transaction },
    );
  });
}

/** Withdraws one; nothing goes there any more, of what waits too. */
export async function withdrawDevice(db: Database, userId: string, id: string): Promise<void> {
  if (!(await dropDevice(db, userId, id)))
    throw new CoreError('device.none', 'device', 'That device was withdrawn already.');
}

/** Something was handed over for one just now. */
export async function deviceUsed(db: Database, id: string, now: Instant): Promise<void> {
  await db.devices.update({ usedAt: new Date(now) }, { where: { id } });
}

/** Lets go of one that its push service knows no more; gives whether it was there. */
export async function dropDevice(db: Database, userId: string, id: string): Promise<boolean> {
  return (await db.devices.destroy({ where: { userId, id } })) > 0;
}

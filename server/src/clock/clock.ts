import { Op, type Transaction } from 'sequelize';
import type { Instant, Settings } from '@back-again/core';
import type { Log } from '../log.ts';
import type { Database } from '../db/database.ts';
import { earliest } from '../db/earliest.ts';
import { readyFor } from '../compute/compute.ts';
import { catchUpHeld, takingBatches } from '../machine/catchUp.ts';
import { rest } from '../machine/write.ts';
import { todoOf } from '../machine/todo.ts';
import { makeLoop, type Loop } from './loop.ts';
import type { Now } from './now.ts';
import { sayOverviews } from './overviews.ts';

/** What is said by itself. A tick gives how many to-dos it looked at; one without reminders costs nothing. */
export type Clock = Loop;

/**
 * The clock of one server. It takes those of which there is something to say, by `speaksAt`, in batches that skip the rows another
 * server holds, so several can run on one database, and after an outage it simply catches up.
 */
export function makeClock(db: Database, now: Now, log: Log): Clock {
  /** What is due, the first of it first, without what another server holds. */
  const due = (at: Instant, limit: number, transaction: Transaction) =>
    db.series.findAll({
      where: { speaksAt: { [Op.lte]: new Date(at) }, removedAt: null },
      order: [['speaksAt', 'ASC']],
      limit,
      transaction,
      lock: transaction.LOCK.UPDATE,
      skipLocked: true,
    });

  async function advanceSome(
    at: Instant,
    limit: number,
  ): Promise<{ more: boolean; advanced: number }> {
    return db.transaction(async (transaction) => {
      const rows = await due(at, limit, transaction);
      const settings = await settingsOf(
        rows.map((row) => row.userId),
        transaction,
      );
      const todos = rows.map((row) => todoOf(row, settings.get(row.userId)!));
      const { done, left } = await catchUpHeld(db, todos, at, transaction);
      return { more: rows.length === limit || left > 0, advanced: done };
    });
  }

  async function settingsOf(
    ids: string[],
    transaction: Transaction,
  ): Promise<Map<string, Settings>> {
    const users = await db.users.findAll({
      attributes: ['id', 'settings'],
      where: { id: [...new Set(ids)] },
      transaction,
    });
    for (const { id, settings } of users)
      try {
        await readyFor(settings);
      } catch (error) {
        // That person’s to-dos cannot be worked out: each rests, and holds up nobody else’s.
        log.error({ user: id, err: error }, 'the holidays of a person are not known');
      }
    return new Map(users.map((user) => [user.id, user.settings]));
  }

  const some = takingBatches(
    (limit) => advanceSome(now(), limit),
    () =>
      db.transaction(async (transaction) => {
        const rows = await due(now(), 1, transaction);
        for (const { id } of rows) db.report(id, new Error('The database refuses it.'));
        await rest(db, rows, now(), transaction);
      }),
  );
  return makeLoop(log, now, {
    name: 'the clock',
    async batch() {
      const taken = await some();
      if (!taken) return { done: 0, more: true };
      const { more, advanced } = taken;
      return { done: advanced, more };
    },
    after: () => sayOverviews(db, log, now()),
    async nextAt() {
      const next = await Promise.all([
        earliest(db.series, 'speaksAt', { removedAt: null }),
        earliest(db.users, 'overviewAt'),
      ]);
      const times = next.flatMap((at) => (at ? [at.getTime()] : []));
      return times.length ? new Date(Math.min(...times)) : null;
    },
  });
}

import { Op, type Transaction } from 'sequelize';
import type { Instant, Settings } from '@back-again/core';
import type { Log } from '../log.ts';
import type { Database } from '../store/database.ts';
import { earliest } from '../store/earliest.ts';
import { readyFor } from '../machine/machine.ts';
import { catchUpMany, takingBatches } from '../store/catchUp.ts';
import { rest } from '../store/following.ts';
import { todoOf } from '../store/todos.ts';
import { makeLoop, type Loop } from './loop.ts';
import type { Now } from './now.ts';
import { sayOverviews } from './overviews.ts';

/** What happens by itself: opening, rolling over, ending as missed, speaking up. A tick gives how many to-dos it advanced. */
export type Clock = Loop;

/**
 * The clock of one server. It takes what is due by `wakeAt` in batches that skip the rows another
 * server holds, so several can run on one database, and after an outage it simply catches up.
 */
export function makeClock(
  db: Database,
  now: Now,
  log: Log,
  /** Whose to-dos changed. */
  tell: (userId: string) => void = () => undefined,
): Clock {
  /** What is due, the first of it first, without what another server holds. */
  const due = (at: Instant, limit: number, transaction: Transaction) =>
    db.series.findAll({
      where: { wakeAt: { [Op.lte]: new Date(at) }, removedAt: null },
      order: [['wakeAt', 'ASC']],
      limit,
      transaction,
      lock: transaction.LOCK.UPDATE,
      skipLocked: true,
    });

  async function advanceSome(
    at: Instant,
    limit: number,
  ): Promise<{ more: boolean; advanced: number; users: Set<string> }> {
    return db.transaction(async (transaction) => {
      const rows = await due(at, limit, transaction);
      const settings = await settingsOf(
        rows.map((row) => row.userId),
        transaction,
      );
      const todos = rows.map((row) => todoOf(row, settings.get(row.userId)!));
      const { done, failed, left } = await catchUpMany(db, todos, at, transaction);
      await rest(
        db,
        failed.map(({ row }) => row),
        at,
        transaction,
      );
      const users = new Set(rows.map((row) => row.userId));
      return { more: rows.length === limit || left > 0, advanced: done, users };
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
      const { more, advanced, users } = taken;
      for (const user of users) tell(user);
      return { done: advanced, more };
    },
    after: () => sayOverviews(db, log, now()),
    async nextAt() {
      const next = await Promise.all([
        earliest(db.series, 'wakeAt', { removedAt: null }),
        earliest(db.users, 'overviewAt'),
      ]);
      const times = next.flatMap((at) => (at ? [at.getTime()] : []));
      return times.length ? new Date(Math.min(...times)) : null;
    },
  });
}

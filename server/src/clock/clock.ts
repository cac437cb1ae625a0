import { Op, type Transaction } from 'sequelize';
import type { Instant, Settings } from '@back-again/core';
import type { Log } from '../log.ts';
import type { Database } from '../store/database.ts';
import { catchUpMany, todoOf, type Todo } from '../store/todos.ts';
import type { Now } from './now.ts';

const BATCH = 50;
/** How long a to-do that could not be advanced is left alone before it is tried again. */
const REST = 3600_000;
const LONGEST_SLEEP = 15_000;

/** What happens by itself: opening, rolling over, ending as missed. */
export interface Clock {
  /** Does everything that is due; gives how many to-dos it advanced. */
  tick(): Promise<number>;
  /** Begins to tick whenever something may be due. */
  start(): void;
  /** Ends after the batch that is being worked on. */
  stop(): Promise<void>;
}

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
  let timer: NodeJS.Timeout | null = null;
  let stopped = false;
  let running: Promise<unknown> = Promise.resolve();

  async function batch(
    at: Instant,
  ): Promise<{ taken: number; advanced: number; users: Set<string> }> {
    return db.transaction(async (transaction) => {
      const rows = await db.series.findAll({
        where: { wakeAt: { [Op.lte]: new Date(at) }, removedAt: null },
        order: [['wakeAt', 'ASC']],
        limit: BATCH,
        transaction,
        lock: transaction.LOCK.UPDATE,
        skipLocked: true,
      });
      const settings = await settingsOf(
        rows.map((row) => row.userId),
        transaction,
      );
      const todos = rows.map((row) => todoOf(row, settings.get(row.userId)!));
      const failed: Todo[] = [];
      const advanced = await catchUpMany(db, todos, at, transaction, (todo, error) => {
        log.error({ todo: todo.row.id, err: error }, 'a to-do could not be advanced');
        failed.push(todo);
      });
      for (const { row } of failed)
        await db.series.update(
          { wakeAt: new Date(at + REST) },
          { where: { userId: row.userId, id: row.id }, transaction },
        );
      const users = new Set(rows.map((row) => row.userId));
      return { taken: rows.length, advanced, users };
    });
  }

  async function settingsOf(
    ids: string[],
    transaction: Transaction,
  ): Promise<Map<string, Settings>> {
    const users = await db.users.findAll({ where: { id: [...new Set(ids)] }, transaction });
    return new Map(users.map((user) => [user.id, user.settings]));
  }

  async function tick(): Promise<number> {
    let done = 0;
    for (;;) {
      const { taken, advanced, users } = await batch(now());
      for (const user of users) tell(user);
      done += advanced;
      if (taken < BATCH || stopped) return done;
    }
  }

  /** How long until something is due, at most a quarter of a minute: another server may add to it. */
  async function sleepFor(): Promise<number> {
    const next = await db.series.findOne({
      attributes: ['wakeAt'],
      where: { wakeAt: { [Op.ne]: null }, removedAt: null },
      order: [['wakeAt', 'ASC']],
    });
    if (!next?.wakeAt) return LONGEST_SLEEP;
    return Math.min(Math.max(next.wakeAt.getTime() - now(), 50), LONGEST_SLEEP);
  }

  function schedule(ms: number): void {
    if (stopped) return;
    timer = setTimeout(() => {
      running = tick()
        .then((n) => {
          if (n) log.info({ advanced: n }, 'the clock advanced to-dos');
          return sleepFor();
        })
        .catch((error: unknown) => {
          log.error({ err: error }, 'the clock failed and will try again');
          return LONGEST_SLEEP;
        })
        .then(schedule);
    }, ms);
  }

  return {
    tick,
    start: () => schedule(0),
    async stop() {
      stopped = true;
      if (timer) clearTimeout(timer);
      await running;
    },
  };
}

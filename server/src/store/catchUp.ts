import { Op, type Transaction } from 'sequelize';
import { CoreError, type Instant, type Settings } from '@back-again/core';
import { compute } from '../machine/machine.ts';
import { isRefusal, type Database } from './database.ts';
import type { Beside } from '../machine/tasks.ts';
import {
  besideOf,
  follow,
  rest,
  writeFollowing,
  writeStanding,
  type Following,
} from './following.ts';
import { remindersOf, writeDrafts, type Draft } from './notices.ts';
import { findSeries, keptOf, todoOf, type Todo } from './todos.ts';

/** So much of an absence is worked out at a time; what lies further back is worked out before. */
const PIECE = 400 * 86_400_000;
/** A person waits so long for what happened meanwhile; what is left is worked out without them. */
const WAIT = 2000;
export const BROKEN = () =>
  new CoreError(
    'todo.broken',
    'todo',
    'This to-do cannot be worked out: change how it comes back, end it or remove it.',
  );
const BEHIND = () =>
  new CoreError(
    'machine.behind',
    '',
    'Much has happened meanwhile, and is still being worked out. Try again in a moment.',
  );

/** What came of letting to-dos catch up. */
export interface CaughtUp {
  /** How many stand at `now`. */
  done: number;
  /** How many are still behind. */
  left: number;
  /** Those that could not be worked out; they stay as they are. */
  failed: Todo[];
}

/**
 * Lets locked to-dos catch up to now, a piece of a long absence at a time, and writes what happened
 * at one go.
 */
export async function catchUpMany(
  db: Database,
  todos: readonly Todo[],
  now: Instant,
  transaction: Transaction,
): Promise<CaughtUp> {
  const following: Following[] = [];
  const drafts: Draft[] = [];
  const failed: Todo[] = [];
  const waking: { todo: Todo; beside: Beside }[] = [];
  let done = 0;
  let left = 0;
  for (const todo of todos) {
    const { through } = todo.progress;
    if (through !== null && now <= through) {
      // It stands there already, and is woken when there is something to do again.
      const { wakeAt } = todo.row;
      if (wakeAt !== null && wakeAt.getTime() <= now) waking.push(await wakingAfter(todo, now));
      continue;
    }
    const to = through === null ? now : Math.min(now, through + PIECE);
    // What there is to say is said once it stands at now.
    const from = to === now ? (through ?? todo.row.createdAt.getTime()) : null;
    try {
      const { said, ...followed } = await compute('pass', { todo: keptOf(todo), to, from });
      following.push(follow(todo, followed));
      if (todo.row.removedAt === null) drafts.push(...remindersOf(todo, said, now));
      if (to === now) done++;
      else left++;
    } catch (error) {
      db.report(todo.row.id, error);
      failed.push(todo);
    }
  }
  await writeFollowing(db, following, transaction);
  await writeStanding(db, waking, transaction);
  await writeDrafts(db, drafts, transaction);
  return { done, left, failed };
}

async function wakingAfter(todo: Todo, now: Instant): Promise<{ todo: Todo; beside: Beside }> {
  const beside = await besideOf(todo, now);
  const wakeAt = beside.wakeAt === null ? null : Math.max(beside.wakeAt, now + 1);
  return { todo, beside: { ...beside, wakeAt } };
}

/**
 * Lets locked to-dos catch up to now.
 * @throws CoreError `todo.broken` where one of them cannot be worked out
 */
export async function catchUp(
  db: Database,
  todos: readonly Todo[],
  now: Instant,
  transaction: Transaction,
): Promise<void> {
  const { failed } = await catchUpMany(db, todos, now, transaction);
  if (failed.length) throw BROKEN();
}

/**
 * Brings every to-do of a person that is behind up to now, so that no one ever sees yesterday. It
 * reads an index and, as a rule, finds nothing: the clock has been there already. One that cannot be
 * worked out rests, and holds up nothing else.
 * @throws CoreError `machine.behind` where that takes too long; what was worked out is kept
 */
export async function catchUpAll(
  db: Database,
  userId: string,
  settings: Settings,
  now: Instant,
  ids?: readonly string[],
): Promise<void> {
  const behind = {
    wakeAt: { [Op.lte]: new Date(now) },
    removedAt: null,
    ...(ids ? { id: [...ids] } : {}),
  };
  const found = (limit: number, transaction: Transaction) =>
    db.series.findAll({
      where: { userId, ...behind },
      order: [['id', 'ASC']],
      limit,
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
  const some = takingBatches(
    (limit) =>
      db.transaction(async (transaction) => {
        const rows = await found(limit, transaction);
        const todos = rows.map((row) => todoOf(row, settings));
        const { failed } = await catchUpMany(db, todos, now, transaction);
        await rest(
          db,
          failed.map(({ row }) => row),
          now,
          transaction,
        );
      }),
    () =>
      db.transaction(async (transaction) =>
        rest(db, await found(1, transaction), now, transaction),
      ),
  );
  const until = performance.now() + WAIT;
  while (await db.series.findOne({ attributes: ['id'], where: { userId, ...behind } })) {
    if (performance.now() > until) throw BEHIND();
    await some();
  }
}

/** How many to-dos are taken at a time. */
export const BATCH = 50;

/**
 * Takes to-dos in batches; where the database refuses one, one after another until it is found, which
 * then rests: it holds up no other.
 */
export function takingBatches<T>(
  take: (limit: number) => Promise<T>,
  restFirst: () => Promise<void>,
): () => Promise<T | null> {
  let limit = BATCH;
  return async () => {
    try {
      return await take(limit);
    } catch (error) {
      if (!isRefusal(error)) throw error;
      if (limit === 1) await restFirst();
      limit = limit === 1 ? BATCH : 1;
      return null;
    }
  };
}

/** The to-dos of a person by their ids, locked in one order for all. */
export async function lockTodos(
  db: Database,
  { userId, settings }: { userId: string; settings: Settings },
  ids: readonly string[],
  transaction: Transaction,
  removed = false,
): Promise<Todo[]> {
  const where = { id: [...new Set(ids)], ...(removed ? {} : { removedAt: null }) };
  const rows = await findSeries(db, userId, where, transaction);
  if (rows.length !== where.id.length)
    throw new CoreError('todo.none', 'todo', 'There is no such to-do.');
  return rows.map((row) => todoOf(row, settings));
}

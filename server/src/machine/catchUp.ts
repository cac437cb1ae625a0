import { Op, type Transaction } from 'sequelize';
import { CoreError, type Instant, type Settings } from '@back-again/core';
import { compute } from '../compute/compute.ts';
import type { Beside } from '../compute/tasks.ts';
import { isRefusal, type Database } from '../db/database.ts';
import { remindersOf } from '../said/notices.ts';
import { keptOf, todoOf, type Todo } from './todo.ts';
import type { Work } from './work.ts';
import { Writing, besideOf, rest } from './write.ts';

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

/** Lets locked to-dos catch up to now, a piece of a long absence at a time; what happened is written with `writing`. */
export async function catchUpMany(
  { db, writing }: Pick<Work, 'db' | 'writing'>,
  todos: readonly Todo[],
  now: Instant,
): Promise<CaughtUp> {
  const failed: Todo[] = [];
  let done = 0;
  let left = 0;
  for (const todo of todos) {
    const { through } = todo.progress;
    if (through !== null && now <= through) {
      // It stands there already, and is woken when there is something to do again.
      if (isDue(todo, now)) writing.stand(todo, await wakingAfter(todo, now));
      continue;
    }
    const to = through === null ? now : Math.min(now, through + PIECE);
    // What there is to say is said once it stands at now.
    const from = to === now ? (through ?? todo.row.createdAt.getTime()) : null;
    try {
      const { said, ...followed } = await compute('pass', { todo: keptOf(todo), to, from });
      writing.follow(todo, followed);
      if (todo.row.removedAt === null) writing.say(remindersOf(todo, said, now));
      if (to === now) done++;
      else left++;
    } catch (error) {
      db.report(todo.row.id, error);
      failed.push(todo);
    }
  }
  return { done, left, failed };
}

/**
 * Lets locked to-dos catch up to now as time goes on, and writes that: it is no change of a person's. Those
 * that could not be worked out rest.
 */
export async function catchUpHeld(
  db: Database,
  todos: readonly Todo[],
  now: Instant,
  transaction: Transaction,
): Promise<CaughtUp> {
  const writing = new Writing(db, transaction, null);
  const caughtUp = await catchUpMany({ db, writing }, todos, now);
  await writing.finish();
  const failed = caughtUp.failed.map(({ row }) => row);
  await rest(db, failed, now, transaction);
  return caughtUp;
}

const isDue = ({ row }: Todo, now: Instant) =>
  [row.speaksAt, row.changesAt].some((at) => at !== null && at.getTime() <= now);

async function wakingAfter(todo: Todo, now: Instant): Promise<Beside> {
  const { speaksAt, changesAt, ...rest } = await besideOf(todo, now);
  const later = (at: Instant | null) => at && Math.max(at, now + 1);
  return { ...rest, speaksAt: later(speaksAt), changesAt: later(changesAt) };
}

/**
 * Lets locked to-dos catch up to now.
 * @throws CoreError `todo.broken` where one of them cannot be worked out
 */
export async function catchUp(
  work: Pick<Work, 'db' | 'writing'>,
  todos: readonly Todo[],
  now: Instant,
): Promise<void> {
  const { failed } = await catchUpMany(work, todos, now);
  if (failed.length) throw BROKEN();
}

/** Whether a to-do is so far behind that it is worked out before, in transactions of its own. */
export const isFarBehind = ({ progress: { through } }: Todo, now: Instant) =>
  through !== null && now > through + PIECE;

/**
 * Brings every to-do of a person that is behind up to now, for who reads the record. One that cannot be
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
  const upTo = { [Op.lte]: new Date(now) };
  const behind = {
    [Op.or]: [{ changesAt: upTo }, { speaksAt: upTo }],
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
        await catchUpHeld(db, todos, now, transaction);
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

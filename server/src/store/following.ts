import { Op, type Transaction } from 'sequelize';
import type { Instant } from '@back-again/core';
import { compute, turn } from '../machine/machine.ts';
import type { Beside, Followed } from '../machine/tasks.ts';
import type { Database } from './database.ts';
import type { OccurrenceRow, SeriesRow, StepRow } from './models.ts';
import { keptOf, rowOf, type Todo } from './todos.ts';

/** Writing what followed for to-dos: their progress, their times, and what finds them. */

/** So many rows go into one statement. */
const BATCH = 200;

export async function inBatches<T>(
  rows: readonly T[],
  write: (some: T[]) => Promise<unknown>,
): Promise<void> {
  for (let i = 0; i < rows.length; i += BATCH) {
    await write(rows.slice(i, i + BATCH));
    await turn();
  }
}

const TIME_COLUMNS = [
  'slot',
  'due',
  'plan',
  'planBy',
  'moved',
  'status',
  'openedAt',
  'closedAt',
  'rolled',
  'part',
  'tally',
  'note',
] as const;

/** What followed for one to-do. */
export interface Following {
  todo: Todo;
  followed: Followed;
  /** The number that its next time had before. */
  number: number;
}

/** What followed for a to-do, which from here on stands as it came out. */
export function follow(todo: Todo, followed: Followed): Following {
  const { number } = todo.progress;
  todo.progress = followed.outcome.progress;
  return { todo, followed, number };
}

/** Writes what followed for to-dos of one person or several, in that order, at one go. */
export async function writeFollowing(
  db: Database,
  all: readonly Following[],
  transaction: Transaction,
): Promise<void> {
  const times: OccurrenceRow[] = [];
  const last = new Map<Todo, Beside>();
  for (const it of all) {
    await takeOut(db, it, transaction);
    for (const time of it.followed.outcome.times) times.push(rowOf(it.todo, time));
    last.set(it.todo, it.followed.beside);
  }
  await inBatches(times, (some) =>
    db.occurrences.bulkCreate(some, { updateOnDuplicate: [...TIME_COLUMNS], transaction }),
  );
  const standing = [...last].map(([todo, beside]) => ({ todo, beside }));
  await writeStanding(db, standing, transaction);
}

/** Takes out the times that are no longer. */
async function takeOut(
  db: Database,
  { todo: { row }, followed: { outcome }, number }: Following,
  transaction: Transaction,
): Promise<void> {
  const mine = { userId: row.userId, seriesId: row.id };
  if (outcome.gone.length)
    await db.occurrences.destroy({ where: { ...mine, number: outcome.gone }, transaction });
  if (outcome.from < number) {
    const kept = outcome.times.map((time) => time.number);
    const taken = { [Op.gte]: outcome.from, [Op.notIn]: kept };
    await db.occurrences.destroy({ where: { ...mine, number: taken }, transaction });
  }
}

/** Writes where to-dos stand, and what is kept beside that for finding them. */
export async function writeStanding(
  db: Database,
  all: readonly { todo: Todo; beside: Beside }[],
  transaction: Transaction,
): Promise<void> {
  const rows = all.map(({ todo, beside }): SeriesRow => {
    const wakes = todo.row.removedAt === null && beside.wakeAt !== null;
    Object.assign(todo.row, {
      progress: todo.progress,
      wakeAt: wakes ? new Date(beside.wakeAt!) : null,
      nextDue: beside.nextDue,
      ended: beside.ended,
    });
    return plainRow(todo.row);
  });
  await inBatches(rows, (some) =>
    db.series.bulkCreate(some, {
      updateOnDuplicate: ['progress', 'wakeAt', 'nextDue', 'ended', 'removedAt', 'steps'],
      transaction,
    }),
  );
}

function plainRow(row: SeriesRow): SeriesRow {
  const { id, userId, definition, progress, createdAt, removedAt } = row;
  const { wakeAt, nextDue, ended, steps } = row;
  return { id, userId, definition, progress, createdAt, removedAt, wakeAt, nextDue, ended, steps };
}

/** How long one that could not be worked out is left alone before it is tried again. */
const REST = 3600_000;

/**
 * What is kept beside a to-do as it stands; one that cannot be worked out is looked at again in an
 * hour, and found by nothing else.
 */
export async function besideOf(todo: Todo, now: Instant): Promise<Beside> {
  try {
    return await compute('beside', { todo: keptOf(todo) });
  } catch {
    return { wakeAt: now + REST, nextDue: null, ended: false };
  }
}

/** Lets to-dos rest that could not be worked out. */
export async function rest(
  db: Database,
  rows: readonly Pick<SeriesRow, 'userId' | 'id'>[],
  now: Instant,
  transaction: Transaction,
): Promise<void> {
  for (const { userId, id } of rows)
    await db.series.update(
      { wakeAt: new Date(now + REST) },
      { where: { userId, id }, transaction },
    );
}

/** Writes steps at one go. */
export async function writeSteps(
  db: Database,
  steps: readonly Omit<StepRow, 'seq'>[],
  transaction: Transaction,
): Promise<void> {
  await inBatches(steps, (some) => db.steps.bulkCreate(some, { transaction }));
}

import type { Instant, Settings } from '@back-again/core';
import { catchUpMany } from './catchUp.ts';
import type { Database } from './database.ts';
import { besideOf, inBatches, writeStanding } from './following.ts';
import type { UserRow } from './models.ts';
import { findSeries, todoOf, type Todo } from './todos.ts';
import { overviewAfter } from './users.ts';

/**
 * Changes how a person's days run: up to now by the old settings, from now on by the new ones. A to-do
 * that cannot be worked out stays as it is.
 */
export async function changeSettings(
  db: Database,
  user: UserRow,
  settings: Settings,
  now: Instant,
): Promise<void> {
  await db.transaction(async (transaction) => {
    const overviewAt = overviewAfter(settings, now);
    await db.users.update({ settings, overviewAt }, { where: { id: user.id }, transaction });
    const rows = await findSeries(db, user.id, { removedAt: null }, transaction);
    await inBatches(rows, async (some) => {
      const todos = some.map((row) => todoOf(row, user.settings));
      await catchUpMany(db, todos, now, transaction);
      const changed: Todo[] = todos.map((todo) => ({ ...todo, settings }));
      const standing = [];
      for (const todo of changed) standing.push({ todo, beside: await besideOf(todo, now) });
      await writeStanding(db, standing, transaction);
    });
  });
}

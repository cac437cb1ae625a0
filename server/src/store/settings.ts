import type { Instant, Settings } from '@back-again/core';
import { overviewAfter } from './users.ts';
import { plannerFor } from './plans.ts';
import type { Database } from './database.ts';
import type { UserRow } from './models.ts';
import { catchUp, findSeries, todoOf, writeProgress } from './todos.ts';

/** Changes how a person's days run: up to now by the old settings, from now on by the new ones. */
export async function changeSettings(
  db: Database,
  user: UserRow,
  settings: Settings,
  now: Instant,
): Promise<void> {
  const planner = plannerFor(settings);
  await db.transaction(async (transaction) => {
    const overviewAt = overviewAfter(settings, now);
    await db.users.update({ settings, overviewAt }, { where: { id: user.id }, transaction });
    for (const row of await findSeries(db, user.id, { removedAt: null }, transaction)) {
      const before = todoOf(row, user.settings);
      await catchUp(db, before, now, transaction);
      await writeProgress(db, { ...before, planner, settings }, transaction);
    }
  });
}

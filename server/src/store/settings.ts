import { resettle, type Instant, type Settings } from '@back-again/core';
import { planFor } from './plans.ts';
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
  await db.transaction(async (transaction) => {
    await db.users.update({ settings }, { where: { id: user.id }, transaction });
    for (const row of await findSeries(db, user.id, { removedAt: null }, transaction)) {
      const before = todoOf(row, user.settings);
      await catchUp(db, before, now, transaction);
      const plan = planFor(row.definition, settings);
      const progress = resettle(before.plan, plan, before.progress);
      await writeProgress(db, { row, plan, progress }, transaction);
    }
  });
}

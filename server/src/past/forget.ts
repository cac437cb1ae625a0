import { CoreError } from '@back-again/core';
import type { Database } from '../db/database.ts';
import { lock } from '../machine/lock.ts';
import type { Person } from '../machine/work.ts';

/**
 * Removes a to-do that was taken away for good, with its record and its files: nothing brings it back.
 * @throws CoreError `todo.none`; `todo.here` where it was not taken away
 */
export async function removeForGood(db: Database, { userId }: Person, id: string): Promise<void> {
  await db.transaction(async (transaction) => {
    const { todos } = await lock(db, userId, [id], transaction, { withRemoved: true });
    if (todos[0]!.row.removedAt === null)
      throw new CoreError('todo.here', 'todo', 'It is still there: take it away first.');
    const mine = { replacements: { userId, id }, transaction };
    await db.sequelize.query('DELETE FROM files WHERE userId = :userId AND seriesId = :id', mine);
    await db.sequelize.query('DELETE FROM doors WHERE userId = :userId AND seriesId = :id', mine);
    // Its times, steps and notices go with it.
    await db.sequelize.query('DELETE FROM series WHERE userId = :userId AND id = :id', mine);
  });
}

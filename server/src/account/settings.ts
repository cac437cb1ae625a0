import type { Instant, Settings } from '@back-again/core';
import { catchUpMany } from '../machine/catchUp.ts';
import type { Database } from '../db/database.ts';
import type { UserRow } from '../db/models.ts';
import { todoOf } from '../machine/todo.ts';
import { Writing, besideOf } from '../machine/write.ts';
import { overviewAfter } from './users.ts';

/** So many to-dos are worked on at a time. */
const SOME = 200;

/**
 * Changes how a person's days run: up to now by the old settings, from now on by the new ones. A to-do
 * that cannot be worked out stays as it is. Gives the settings that are kept.
 */
export async function changeSettings(
  db: Database,
  user: UserRow,
  settings: Settings,
  now: Instant,
): Promise<Settings> {
  return db.transaction(async (transaction) => {
    const held = await db.users.findByPk(user.id, { transaction, lock: transaction.LOCK.UPDATE });
    if (!held) return settings;
    const version = held.version + 1;
    const rows = await db.series.findAll({
      where: { userId: user.id, removedAt: null },
      order: [['id', 'ASC']],
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    for (let i = 0; i < rows.length; i += SOME) {
      const todos = rows.slice(i, i + SOME).map((row) => todoOf(row, user.settings));
      const writing = new Writing(db, transaction, version);
      await catchUpMany({ db, writing }, todos, now);
      for (const todo of todos) writing.stand(todo, await besideOf({ ...todo, settings }, now));
      await writing.finish();
    }
    const overviewAt = overviewAfter(settings, now);
    const kept = withNoMail(settings, held.settings);
    await db.users.update(
      {
        settings: kept,
        overviewAt,
        version,
        settingsVersion: version,
      },
      { where: { id: user.id }, transaction },
    );
    return kept;
  });
}

/** Who wants no e-mail any more gets it again once they choose it, and not with any other setting. */
function withNoMail({ noMail, ...given }: Settings, before: Settings): Settings {
  const isStopped = (noMail ?? before.noMail) && !given.channels?.includes('email');
  return isStopped ? { ...given, noMail: true } : given;
}

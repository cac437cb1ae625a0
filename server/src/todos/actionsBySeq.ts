import type { Database } from '../db/database.ts';
import type { ActionRow } from '../db/models.ts';

/** What is told of actions: by these an Undo finds them. */
export type Told = Pick<ActionRow, 'seq' | 'id' | 'do' | 'via' | 'undone'>;

/** Actions of a person by their running numbers. */
export async function actionsBySeq(
  db: Database,
  userId: string,
  seqs: Iterable<number>,
): Promise<ReadonlyMap<number, Told>> {
  const wanted = [...new Set(seqs)];
  if (!wanted.length) return new Map();
  const actions = await db.actions.findAll({
    attributes: ['seq', 'id', 'do', 'via', 'undone'],
    where: { userId, seq: wanted },
  });
  return new Map(actions.map((action) => [action.seq, action]));
}

import { Op, type Transaction, type WhereOptions } from 'sequelize';
import type { Database } from '../db/database.ts';
import type { StepRow } from '../db/models.ts';

const ENDS = ['done', 'tally', 'skip'];

/** One time of one to-do, as a key. */
export const keyOf = (of: { seriesId: string | null; number: number | null }) =>
  `${of.seriesId} ${of.number}`;

/** The last step that ended each time, among those of `where`: by the key of the time. */
export async function endings(
  db: Database,
  where: WhereOptions<StepRow>,
  transaction?: Transaction,
): Promise<Map<string, Pick<StepRow, 'number' | 'actionSeq'>>> {
  const steps = await db.steps.findAll({
    attributes: ['seriesId', 'number', 'deed', 'actionSeq'],
    where: { [Op.and]: [{ kind: 'deed', undone: false }, where] },
    order: [
      ['seriesId', 'ASC'],
      ['place', 'ASC'],
    ],
    ...(transaction ? { transaction } : {}),
  });
  const ends = steps.filter(({ deed }) => ENDS.includes(deed?.do ?? ''));
  return new Map(ends.map((step) => [keyOf(step), step]));
}

import { Op } from 'sequelize';
import type { RemovedView } from '@back-again/contract';
import { formatInstant } from '@back-again/core';
import type { Database } from '../db/database.ts';
import type { Actor } from '../machine/work.ts';
import { actionsBySeq } from './actionsBySeq.ts';

/** So long what was taken away lies ready to be brought back, in ms: 30 days. */
const KEPT = 30 * 86_400_000;
const MOST = 500;

/** What a person took away in the last 30 days, the latest first, each with the action that did it. */
export async function removedView(db: Database, { userId, now }: Actor): Promise<RemovedView> {
  const rows = await db.series.findAll({
    attributes: ['id', 'title', 'removedAt'],
    where: { userId, removedAt: { [Op.gte]: new Date(now - KEPT) } },
    order: [['removedAt', 'DESC']],
    limit: MOST,
  });
  const steps = await db.steps.findAll({
    attributes: ['seriesId', 'actionSeq'],
    where: { userId, seriesId: rows.map(({ id }) => id), kind: 'remove', undone: false },
    order: [['seq', 'ASC']],
  });
  const seqOf = new Map(steps.map(({ seriesId, actionSeq }) => [seriesId!, actionSeq]));
  const actions = await actionsBySeq(db, userId, seqOf.values());
  const others = (seq: number) => [...seqOf.values()].filter((it) => it === seq).length - 1;
  return {
    removed: rows.flatMap(({ id, title, removedAt }) => {
      const seq = seqOf.get(id);
      const action = seq === undefined ? undefined : actions.get(seq);
      // What is gone because its making was undone was never asked to go.
      if (!action || action.undone) return [];
      const at = formatInstant(removedAt!.getTime());
      return [{ todo: id, title, at, action: action.id, others: others(action.seq) }];
    }),
  };
}

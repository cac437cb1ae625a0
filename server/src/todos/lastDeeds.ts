import type { LastDeedView } from '@back-again/contract';
import { formatInstant, type Deed } from '@back-again/core';
import type { Database } from '../db/database.ts';
import type { StepRow } from '../db/models.ts';
import { actionsBySeq } from './actionsBySeq.ts';

const MOST = 8;

/**
 * What was done last to a to-do and can be taken back, the latest first: by whichever device it was done.
 * Each is one action, which may have changed others as well.
 */
export async function lastDeedsOf(
  db: Database,
  userId: string,
  seriesId: string,
): Promise<LastDeedView[]> {
  const steps = await db.steps.findAll({
    attributes: ['seq', 'actionSeq', 'kind', 'at', 'deed', 'was'],
    where: { userId, seriesId, kind: ['deed', 'describe'], undone: false },
    order: [['seq', 'DESC']],
    limit: MOST,
  });
  const seqs = steps.map(({ actionSeq }) => actionSeq);
  const actions = await actionsBySeq(db, userId, seqs);
  return steps.flatMap((step, i) => {
    const action = actions.get(step.actionSeq);
    if (!action || action.undone || seqs.indexOf(step.actionSeq) < i) return [];
    return [
      { action: action.id, at: formatInstant(step.at.getTime()), ...whatOf(step, action.do) },
    ];
  });
}

function whatOf({ kind, deed, was }: StepRow, by: string): Omit<LastDeedView, 'action' | 'at'> {
  if (kind === 'describe') return { do: 'describe', by, parts: Object.keys(was ?? {}) };
  const it = deed as Deed;
  const slot = 'slot' in it && it.slot !== undefined ? { slot: it.slot } : {};
  const to = it.do === 'move' ? (it.plan ?? it.due ?? it.days?.at(-1)) : undefined;
  return {
    do: it.do,
    by,
    ...slot,
    ...(to === undefined ? {} : { to }),
    ...(it.do === 'part' ? { part: it.part } : {}),
    ...(it.do === 'pause' && it.to ? { to: it.to } : {}),
  };
}

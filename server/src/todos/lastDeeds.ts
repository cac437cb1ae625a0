import type { LastDeedView } from '@back-again/contract';
import { formatInstant, type Deed } from '@back-again/core';
import type { Database } from '../db/database.ts';
import type { StepRow } from '../db/models.ts';

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
  const seqs = [...new Set(steps.map(({ actionSeq }) => actionSeq))];
  if (!seqs.length) return [];
  const where = { userId, seq: seqs, undone: false };
  const actions = await db.actions.findAll({ attributes: ['seq', 'id', 'do'], where });
  const byId = new Map(actions.map((action) => [action.seq, action]));
  const seen = new Set<number>();
  return steps.flatMap((step) => {
    const action = byId.get(step.actionSeq);
    if (!action || seen.has(step.actionSeq)) return [];
    seen.add(step.actionSeq);
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

import { describe, undescribe, type Describing, type Instant } from '@back-again/core';
import type { StepRow } from '../db/models.ts';
import type { Work } from './work.ts';

/** What is said of a to-do, of a place, or for the person: part by part, what was said last holds. */

/** Of what something is said, as the columns of its steps. */
export type About = Pick<StepRow, 'kind'> & Partial<Pick<StepRow, 'seriesId' | 'placeId'>>;

/** What was said, in the order of its moments. */
export const BY_MOMENT: [keyof StepRow, 'ASC'][] = [
  ['at', 'ASC'],
  ['place', 'ASC'],
  ['seq', 'ASC'],
];

/** All that was said of it, in the order of its moments. */
export async function logOf({ db, userId, transaction }: Work, about: About): Promise<StepRow[]> {
  const rows = await db.steps.findAll({
    where: { userId, ...about, undone: false },
    order: BY_MOMENT,
    transaction,
  });
  return rows.map((row) => row.get() as StepRow);
}

export const describingOf = <P extends object>({ seq, at, deed, was }: StepRow): Describing<P> => ({
  step: {
    key: String(seq),
    at: at.getTime(),
    details: (deed as unknown as { details: Partial<P> }).details,
  },
  was: (was ?? {}) as Partial<P>,
});

/** Writes what was before the descriptions that were gone through, where that is other than before. */
async function rewriteWas<P>(
  { db, userId, transaction }: Work,
  rows: readonly StepRow[],
  log: readonly Describing<P>[],
): Promise<void> {
  for (const { step, was } of log) {
    const row = rows.find(({ seq }) => String(seq) === step.key);
    if (row && JSON.stringify(row.was) !== JSON.stringify(was))
      await db.steps.update(
        { was: was as StepRow['was'] },
        { where: { userId, seq: row.seq }, transaction },
      );
  }
}

/** Enters what is said at a moment; gives how it is now, and the parts as they were before. */
export async function say<P extends object>(
  work: Work,
  about: About,
  it: { parts: P; describedAt: Instant; details: Partial<P>; at: Instant },
): Promise<{ parts: P; was: Partial<P> }> {
  const { at, details, describedAt } = it;
  // What has been said in this action already is among it.
  await (describedAt > at ? work.writing.flush() : null);
  const all = describedAt > at ? await logOf(work, about) : [];
  const rows = all.filter((row) => row.at.getTime() > at);
  const log = rows.map((row) => describingOf<P>(row));
  const now = describe<P>(it.parts, log, { key: work.id, at, details });
  await rewriteWas(work, rows, now.log);
  return { parts: now.details, was: now.log[0]!.was };
}

/** Takes back what was said in a step; gives how it is now. */
export async function unsay<P extends object>(
  work: Work,
  about: About,
  parts: P,
  step: StepRow,
): Promise<P> {
  const rows = await logOf(work, about);
  const log = rows.slice(rows.findIndex(({ seq }) => seq === step.seq));
  const now = undescribe<P>(
    parts,
    log.map((row) => describingOf<P>(row)),
  );
  await rewriteWas(work, log, now.log);
  return now.details;
}

import {
  describe,
  undescribe,
  type Describing,
  type DescribedNow,
  type Details,
} from '@back-again/core';
import type { StepRow } from '../db/models.ts';
import { stepRow } from './steps.ts';
import type { Todo } from './todo.ts';
import { doneAt, type Work } from './work.ts';
import { besideOf } from './write.ts';

/** What to-dos are: said at a moment, and taken back. The machine is not asked about it. */

/** The descriptions of a to-do in the order of their moments. */
async function logOf({ db, userId, transaction }: Work, todo: Todo): Promise<StepRow[]> {
  const rows = await db.steps.findAll({
    where: { userId, seriesId: todo.row.id, kind: 'describe', undone: false },
    order: [
      ['at', 'ASC'],
      ['place', 'ASC'],
      ['seq', 'ASC'],
    ],
    transaction,
  });
  return rows.map((row) => row.get() as StepRow);
}

const describingOf = ({ seq, at, deed, was }: StepRow): Describing => ({
  step: { key: String(seq), at: at.getTime(), details: (deed as Said).details },
  was: was ?? {},
});

type Said = { do: 'describe'; details: Partial<Details> };

/** Writes what was before the descriptions that were gone through. */
async function settle(work: Work, todo: Todo, before: readonly StepRow[], now: DescribedNow) {
  const { db, userId, transaction } = work;
  todo.details = now.details;
  for (const { step, was } of now.log) {
    const row = before.find(({ seq }) => String(seq) === step.key);
    if (row && JSON.stringify(row.was) !== JSON.stringify(was))
      await db.steps.update({ was }, { where: { userId, seq: row.seq }, transaction });
  }
}

/** Says what a held to-do is; what was said of it later holds. */
export async function describeOne(
  work: Work,
  todo: Todo,
  details: Partial<Details>,
): Promise<void> {
  const at = doneAt(work, todo);
  const last = todo.row.describedAt?.getTime() ?? -Infinity;
  const rows = last > at ? (await logOf(work, todo)).filter((row) => row.at.getTime() > at) : [];
  const now = describe(todo.details, rows.map(describingOf), { key: work.id, at, details });
  const deed: Said = { do: 'describe', details };
  const { was } = now.log[0]!;
  work.writing.step(stepRow(work, todo, { kind: 'describe', at, deed, was }));
  await settle(work, todo, rows, now);
  todo.row.describedAt = new Date(Math.max(last, at));
  if (!work.writing.stands(todo)) work.writing.stand(todo, await besideOf(todo, work.now()));
}

/** Takes back what was said of a held to-do in a step. */
export async function undescribeOne(work: Work, todo: Todo, step: StepRow): Promise<void> {
  const rows = await logOf(work, todo);
  const log = rows.slice(rows.findIndex(({ seq }) => seq === step.seq));
  await settle(work, todo, log, undescribe(todo.details, log.map(describingOf)));
  if (!work.writing.stands(todo)) work.writing.stand(todo, await besideOf(todo, work.now()));
}

import { noTime } from '@back-again/contract';
import {
  CoreError,
  numberOf,
  type Born,
  type Deed,
  type Instant,
  type WrittenDown,
} from '@back-again/core';
import { compute } from '../compute/compute.ts';
import type { Followed } from '../compute/tasks.ts';
import { catchUp } from './catchUp.ts';
import { logBefore, placed, stepRow, tailFrom, type Placed } from './steps.ts';
import { endedLately } from './lately.ts';
import { keptOf, type Todo } from './todo.ts';
import { momentOf, type Work } from './work.ts';
import type { StepRow } from '../db/models.ts';

/** How a to-do came to be, with its record where it came in with one. */
export const bornOf = ({ row }: Todo): Born => ({
  series: row.definition,
  at: row.createdAt.getTime(),
  ...(row.begun ? { begun: row.begun } : {}),
});

/**
 * Enters a deed at a moment that has passed; gives whether it found something to be done to.
 * @param may whether finding nothing is no error
 * @param isSaid whether the person said that moment: then the time that was open at it is meant (R7),
 * and the one that was pointed at, where none was
 * @param letsGo whether what was moved later comes to nothing where it no longer fits
 * @throws CoreError `when.moved` and `when.conflict`, with the action that stands in the way as `where`
 */
export async function doEarlier(
  work: Work,
  todo: Todo,
  deed: Deed,
  at: Instant,
  { may = false, isSaid = false, letsGo = false } = {},
): Promise<boolean> {
  // What there is to say up to now is said as it stands.
  await catchUp(work, [todo], work.now());
  // What was done to it just now is in the log, too.
  await work.writing.flush();
  const now = momentOf(work, todo);
  const log = await logBefore(work, todo, at);
  const step = { key: work.id, at, deed };
  // What was written down with it goes along.
  const { answers, spent } = deed as WrittenDown;
  const written = { ...(answers ? { answers } : {}), ...(spent === undefined ? {} : { spent }) };
  const thenOpen = { ...step, deed: { do: 'done' as const, ...written } };
  const steps = isSaid ? [thenOpen, step] : [step];
  const tail = await tailFrom(work, todo, log, steps);
  const born = bornOf(todo);
  const task = { todo: keptOf(todo), born, tail, steps, now, letsGo };
  const followed = await compute('takeEarlier', task).catch(async (error: unknown) => {
    throw await naming(work, log, error);
  });
  const lost = followed.outcome.lost.includes(step.key);
  if (lost && may) return false;
  if (lost) throw noTime();
  await rewrite(work, todo, log, followed);
  return true;
}

/** What stands in the way, by the action that did it: by it a person can take it back. */
async function naming({ db, userId, transaction }: Work, { rows }: Placed, error: unknown) {
  if (!(error instanceof CoreError)) return error;
  const row = rows.get(error.where);
  if (!row) return error;
  const where = { userId, seq: row.actionSeq };
  const action = await db.actions.findOne({ attributes: ['id'], where, transaction });
  return new CoreError(error.code, action?.id ?? 'when', error.message);
}

/** Writes what followed from going through a log again: each step has its new state and place. */
export async function rewrite(
  work: Work,
  todo: Todo,
  log: Placed,
  followed: Followed,
): Promise<void> {
  const { db, transaction, writing } = work;
  let { place } = log;
  const rows: StepRow[] = [];
  for (const entry of followed.outcome.entries) {
    const { step, before, touched } = entry;
    const now = { before, touched, number: numberOf(entry), place: place++ };
    const row = log.rows.get(step.key);
    if (row) rows.push({ ...row, ...now });
    else
      writing.step({
        ...stepRow(work, todo, { kind: 'deed', at: step.at, deed: step.deed }),
        ...now,
      });
  }
  todo.row.steps = Math.max(todo.row.steps, place - 1);
  writing.follow(todo, followed);
  await placed(db, rows, transaction);
  await writing.flush();
  await endedLately(work, [todo]);
}
